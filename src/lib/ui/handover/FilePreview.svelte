<script lang="ts">
	import type { FilePreview } from '$lib/worker/filePreview.ts';

	interface Props {
		preview: FilePreview;
		label: string;
	}
	let { preview, label }: Props = $props();

	/** Rows and lines that are shown. */
	const MOST = 200;
	let address = $state<string>();
	// The browser keeps the picture until it is told that nobody wants it any more.
	$effect(() => {
		if (preview.kind !== 'picture') return;
		const made = URL.createObjectURL(new Blob([preview.svg], { type: 'image/svg+xml' }));
		address = made;
		return () => URL.revokeObjectURL(made);
	});
</script>

{#if preview.kind === 'nothing'}
	<p class="p-4 text-soft" role="status">{preview.reason}</p>
{:else if preview.kind === 'picture'}
	<div class="flex h-full flex-col gap-2 p-4">
		{#if preview.note}<p class="text-small text-soft" role="status">{preview.note}</p>{/if}
		{#if address}<img src={address} alt={label} class="min-h-0 w-full flex-1 bg-white object-contain shadow-md" />{/if}
	</div>
{:else if preview.kind === 'text'}
	<pre class="figure p-4 text-small whitespace-pre" data-testid="file-preview">{preview.text
			.split('\n')
			.slice(0, MOST)
			.join('\n')}</pre>
{:else}
	{@const [head, ...rows] = preview.rows}
	<table class="text-small whitespace-nowrap" data-testid="file-preview">
		<thead>
			<tr>
				{#each head ?? [] as cell, k (k)}
					<th class="sticky top-0 border-b border-rule bg-paper px-2 py-1 text-left font-semibold">{cell}</th>
				{/each}
			</tr>
		</thead>
		<tbody>
			{#each rows.slice(0, MOST) as row, r (r)}
				<tr>
					{#each row as cell, k (k)}
						<td class="figure border-b border-rule/50 px-2 py-0.5 {Number.isNaN(Number(cell)) ? '' : 'text-right'}"
							>{cell}</td
						>
					{/each}
				</tr>
			{/each}
		</tbody>
	</table>
	{#if preview.more || rows.length > MOST}
		<p class="p-2 text-small text-soft">The first {Math.min(MOST, rows.length)} rows; the file has all.</p>
	{/if}
{/if}

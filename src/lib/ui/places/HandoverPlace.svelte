<script lang="ts">
	import Download from '@lucide/svelte/icons/download';
	import { FileOrder } from '$lib/editor/handover.svelte.ts';
	import { useWorkspace } from '$lib/editor/workspace.svelte.ts';

	const work = useWorkspace();
	const FILES = [
		{
			format: 'csv',
			label: 'Panel schedule',
			help: 'CSV: one row a panel, metric figures, for any spreadsheet'
		},
		{
			format: 'glb',
			label: 'Model',
			help: 'GLB (glTF 2.0): one mesh a material, every panel named by its mark'
		},
		{ format: 'json', label: 'Project', help: 'JSON: the whole project, to keep or to bring in elsewhere' }
	].map((file) => ({ ...file, order: new FileOrder() }));

	async function make({ format, order }: (typeof FILES)[number]) {
		await order.order(work.editor.id, format);
		if (order.state.kind === 'done') window.location.assign(order.state.address);
	}

	const pending = $derived(work.editor.saveState.kind !== 'saved');
</script>

{#if pending}
	<p class="mb-2 text-small text-ochre-ink" role="status">
		Files are made from what is saved; some edits are not saved yet.
	</p>
{/if}
{#each FILES as file (file.format)}
	{@const state = file.order.state}
	<section class="mb-3 rounded border border-rule px-2.5 py-2" aria-label={file.label}>
		<h3 class="font-semibold">{file.label}</h3>
		<p class="mb-2 text-small text-soft">{file.help}</p>
		{#if state.kind === 'working'}
			<div class="flex items-center gap-2" role="status">
				<progress class="h-1.5 w-full" value={state.progress}></progress>
				<button class="button" onclick={() => file.order.cancel()}>Stop</button>
			</div>
		{:else}
			<button class="button" onclick={() => make(file)}>
				<Download size={14} />{state.kind === 'done' ? 'Make again' : 'Make and download'}
			</button>
			{#if state.kind === 'done'}
				<p class="mt-1.5 text-small">
					<a class="text-patina underline" href={state.address}>Download again</a>
					<span class="text-soft">· as of revision {state.revision}</span>
				</p>
			{:else if state.kind === 'failed'}
				<p class="mt-1.5 text-small text-rust" role="alert">{state.message}</p>
			{/if}
		{/if}
	</section>
{/each}

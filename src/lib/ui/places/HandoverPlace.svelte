<script lang="ts">
	import Download from '@lucide/svelte/icons/download';
	import { CSV_UNITS, type CsvUnit } from '$core/formats/csv/writeTable.ts';
	import { WRITERS, type Format } from '$core/formats/writers.ts';
	import { FileOrder } from '$lib/editor/handover.svelte.ts';
	import { useEditing } from '$lib/editor/context.ts';
	import TextField from '../TextField.svelte';

	const work = useEditing();
	/** Schedules first, then what others draw on. */
	const ORDER: readonly Format[] = [
		'xlsx',
		'csv',
		'edges',
		'paths',
		'parts',
		'cutlist',
		'nodes',
		'corners',
		'glb',
		'json'
	];
	const FILES = ORDER.map((format) => ({ format, ...WRITERS[format], order: new FileOrder() }));
	/** The project's own unit, as far as files have it. */
	let units = $state<CsvUnit>(({ mm: 'mm', m: 'm', 'ft-in': 'ft' } as const)[work.project.units]);

	/** Lengths that bars are delivered in, mm. */
	let stock = $state.raw<readonly number[]>([6000]);
	function setStock(text: string): string | undefined {
		const lengths = text.split(/[\s,;]+/).filter(Boolean);
		const found = lengths.map(Number);
		if (!found.length || found.some((l) => !(l > 0 && l <= 100_000)))
			return 'Lengths in mm up to 100 000, such as 6000, 4500.';
		stock = found;
		return undefined;
	}

	async function make({ format, extension, order }: (typeof FILES)[number]) {
		const options = extension === 'csv' || extension === 'xlsx' ? { units } : {};
		await order.order(work.editor.id, format, format === 'cutlist' ? { ...options, lengths: [...stock] } : options);
		if (order.state.kind === 'done') window.location.assign(order.state.address);
	}

	const pending = $derived(work.editor.saveState.kind !== 'saved');
</script>

{#if pending}
	<p class="mb-2 text-small text-ochre-ink" role="status">
		Files are made from what is saved; some edits are not saved yet.
	</p>
{/if}
<label class="mb-2 grid grid-cols-[1fr_auto] items-center gap-2 text-small">
	<span class="text-soft">Lengths of the schedules in</span>
	<select class="button" bind:value={units}>
		{#each CSV_UNITS as unit (unit)}<option value={unit}>{unit}</option>{/each}
	</select>
</label>
<ul>
	{#each FILES as file (file.format)}
		{@const state = file.order.state}
		<li>
			<section class="border-t border-rule py-1.5" aria-label={file.label}>
				<div class="flex items-center gap-2">
					<div class="min-w-0 flex-1">
						<h3 class="font-semibold">{file.label}</h3>
						<p class="text-small text-soft">{file.help}</p>
					</div>
					{#if state.kind !== 'working'}
						<button
							class="button shrink-0"
							aria-label={state.kind === 'done' ? 'Make again' : 'Make and download'}
							title={state.kind === 'done' ? 'Make again' : 'Make and download'}
							onclick={() => make(file)}><Download size={14} />{file.extension.toUpperCase()}</button
						>
					{/if}
				</div>
				{#if file.format === 'cutlist'}
					<TextField
						label="Delivered mm"
						help="Lengths that bars are delivered in; 4 mm are lost at a cut and 20 mm at the ends"
						value={stock.join(', ')}
						oncommit={setStock}
					/>
				{/if}
				{#if state.kind === 'working'}
					<div class="mt-1 flex items-center gap-2" role="status">
						<progress class="h-1.5 w-full" value={state.progress}></progress>
						<button class="button" onclick={() => file.order.cancel()}>Stop</button>
					</div>
				{:else if state.kind === 'done'}
					<p class="mt-1 text-small">
						<a class="text-patina underline" href={state.address}>Download again</a>
						<span class="text-soft">· as of revision {state.revision}</span>
					</p>
				{:else if state.kind === 'failed'}
					<p class="mt-1 text-small text-rust" role="alert">{state.message}</p>
				{/if}
			</section>
		</li>
	{/each}
</ul>

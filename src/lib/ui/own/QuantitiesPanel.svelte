<script lang="ts">
	import { TAKEN_BY, TAKEN_WORDS, type QuantityTable, type TakenBy } from '$core/schedule/cost/quantities.ts';
	import { LENGTHS } from '$core/units/tableUnits.ts';
	import { group } from '$core/units/print.ts';
	import { raisedUnit } from '$lib/editor/ownTableState.svelte.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import { TABLE_UNIT_OF } from '$lib/worker/ownTables.ts';

	const work = useWorkspace();
	const view = $derived(work.runner.view);
	let found = $state.raw<QuantityTable>();
	let by = $state<TakenBy>('material');

	// They live in the worker: asked again when the model or the rates change.
	$effect(() => {
		void work.project.costs;
		if (!view) return;
		let wanted = true;
		void work.runner.ask((api) => api.quantities()).then((table) => wanted && table && (found = table));
		return () => (wanted = false);
	});

	const area = $derived(LENGTHS[TABLE_UNIT_OF[work.project.units]].area);
	const total = $derived(found?.rows.find((r) => r.by === 'total'));
	const rows = $derived((found?.rows ?? []).filter((r) => r.by === by));
	const joints = $derived(by === 'joint' || by === 'border');
	const openings = $derived(by === 'opening');
	const sheets = $derived(by === 'sheet');
	/** Metres, or feet: sums are long. */
	const long = $derived(work.project.units === 'ft-in' ? LENGTHS.ft.length : LENGTHS.m.length);
	const money = (cost: number) => `${group(cost, 0)} ${work.project.costs.currency}`;
	const heads = $derived([
		TAKEN_WORDS[by],
		joints ? 'Edges' : openings ? 'Number' : 'Pieces',
		...(sheets ? [] : [`${openings ? 'Around' : 'Length'}${long.unit}`]),
		...(joints
			? ['Sealant l']
			: openings
				? [`Area${raisedUnit(area.unit)}`]
				: sheets
					? [`Area${raisedUnit(area.unit)}`, `Rectangles${raisedUnit(area.unit)}`, 'Cut off %', 'Sheets at least']
					: [
							`Area${raisedUnit(area.unit)}`,
							`Coated${raisedUnit(area.unit)}`,
							'Volume m³',
							'Weight t',
							...(by === 'rate' ? ['Paid for'] : []),
							`Cost ${work.project.costs.currency}`
						])
	]);
	const cells = $derived(
		rows.map((r) => [
			r.name,
			group(r.pieces, 0),
			...(sheets ? [] : [group(r.length / long.per, 1)]),
			...(joints
				? [r.volume ? group(r.volume / 1e6, 1) : '–']
				: openings
					? [group(r.area / area.per, 2)]
					: sheets
						? [
								group(r.area / area.per, 1),
								group((r.rectangles ?? 0) / area.per, 1),
								group(100 * (1 - r.area / (r.rectangles ?? 1)), 1),
								group(r.amount ?? 0, 0)
							]
						: [
								group(r.area / area.per, 1),
								group(r.coated / area.per, 1),
								group(r.volume / 1e9, 3),
								group(r.weight / 1000, 2),
								...(by === 'rate' ? [`${group(r.amount ?? 0, 1)} ${raisedUnit(r.unit ?? '')}`] : []),
								group(r.cost ?? 0, 2)
							])
		])
	);
</script>

<div class="flex min-h-0 grow flex-col text-small" data-testid="quantities">
	<div class="flex h-8 shrink-0 items-center gap-3 border-b border-rule px-3.5">
		<div role="tablist" aria-label="Added up by" class="flex gap-2.5">
			{#each TAKEN_BY.filter((t) => t !== 'total') as name (name)}
				<button
					role="tab"
					aria-selected={by === name}
					class={by === name ? 'font-semibold text-patina' : 'text-soft hover:text-patina'}
					onclick={() => (by = name)}>{TAKEN_WORDS[name]}</button
				>
			{/each}
		</div>
		<p class="figure ml-auto" data-testid="quantities-total">
			{total ? `${group(total.pieces, 0)} pieces · ${group(total.weight / 1000, 1)} t · ${money(total.cost ?? 0)}` : ''}
		</p>
		<button class="text-patina hover:underline" onclick={() => (work.place = 'schedule')}>Rates</button>
	</div>
	{#each (by === 'rate' ? found?.warnings : sheets ? found?.larger : []) ?? [] as warning (warning)}
		<p class="shrink-0 px-3.5 py-0.5 text-ochre-ink">{warning}</p>
	{/each}
	{#if !found}
		<p class="p-4 text-soft">Adding up …</p>
	{:else if rows.length === 0}
		<p class="p-4 text-soft">
			{by === 'rate'
				? 'No rate yet: add prices under Schedule, and what everything costs is told here.'
				: joints
					? 'No two clad cells lie side by side.'
					: 'No pieces yet: quantities appear as soon as a kit is placed.'}
		</p>
	{:else}
		<div class="min-h-0 overflow-auto">
			<table class="w-full border-collapse">
				<thead>
					<tr class="sticky top-0 bg-sheet text-left text-soft">
						{#each heads as head, k (head)}<th
								class="border-b border-rule px-3.5 py-1 font-semibold {k > 0 ? 'text-right' : ''}"
								title={head.startsWith('Coated')
									? 'Materials with a finish: sheets and plates on both sides, all else all around'
									: undefined}>{head}</th
							>{/each}
					</tr>
				</thead>
				<tbody>
					{#each cells as line, k (k)}
						<tr class="border-b border-rule/60">
							{#each line as text, c (c)}<td class="px-3.5 py-0.5 {c > 0 ? 'figure text-right' : ''}">{text}</td>{/each}
						</tr>
					{/each}
				</tbody>
			</table>
		</div>
	{/if}
</div>

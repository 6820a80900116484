<script lang="ts">
	import X from '@lucide/svelte/icons/x';
	import { useWorkspace } from '$lib/editor/context.ts';
	import { cellSet } from '$lib/editor/placementState.svelte.ts';
	import type { CellAddress } from '$lib/stage/spaceView.ts';
	import type { ModelView } from '$core/view/modelView.ts';
	import { CELL_READINGS, type CellReading } from '$core/readings/cellReadings.ts';
	import { NO_ROW } from '$core/schedule/faceTable.ts';
	import { cellMark } from '$core/tiling/marks.ts';
	import { printFull } from '$core/units/print.ts';

	let { view, at, more }: { view: ModelView; at: CellAddress; more: number } = $props();

	const EDGES: CellReading[] = ['edge1', 'edge2', 'edge3', 'edge4'];
	/** Cells of many corners show their extreme edges instead of all. */
	const shownOf = (corners: number): CellReading[] => [
		'width',
		'height',
		...(corners > 4 ? (['corners', 'leastEdge', 'greatestEdge'] as const) : EDGES.slice(0, corners)),
		'area',
		'share',
		'warp',
		'tilt',
		'bearing',
		'elevation'
	];

	const work = useWorkspace();
	const unit = $derived(work.project.units);
	const face = $derived(view.faces[at.face]!);
	const row = $derived(face.row[at.cell]!);
	const column = $derived(face.column[at.cell]!);
	const kit = $derived.by(() => {
		const { rowOf, words } = face.schedule.tables.panels;
		const row = rowOf[at.cell]!;
		return row === NO_ROW ? undefined : words.kit!.words[words.kit!.index[row]!];
	});
	/** How it came to be open, or to what is set by hand. */
	const state = $derived.by(() => {
		const assigned = cellSet(face, work.placement.set);
		if (!assigned) return undefined;
		if (assigned.byHand?.[at.cell]) return assigned.open[at.cell] ? 'left open by hand' : 'set by hand';
		return assigned.open[at.cell]
			? 'left open by a rule'
			: assigned.ruleOf[at.cell]! < 0
				? 'taken by no rule'
				: undefined;
	});
	const fault = $derived(view.warnings.find((w) => w.face === face.key && w.cells.includes(at.cell))?.message);
	const readings = $derived(work.runner.ask((api) => api.readings(face.hash, at.cell)));
</script>

<aside
	class="absolute right-3 bottom-3 max-h-[calc(100%-56px)] w-60 overflow-auto rounded-md border border-rule bg-sheet px-3 py-2 shadow-md"
	aria-label="Chosen cell"
	data-testid="cell-card"
>
	<header class="flex items-baseline gap-2">
		<strong class="figure">{cellMark(face, at.cell)}</strong>
		<span class="truncate"
			>{kit ?? (state ? '' : 'no kit')}
			{#if state}<span class="text-small text-ochre">{state}</span>{/if}</span
		>
		<button
			class="ml-auto self-center text-soft hover:text-patina"
			aria-label="Let go of the selection"
			onclick={() => work.selection.clear()}
		>
			<X size={14} />
		</button>
	</header>
	{#if fault}<p class="mt-1 text-small text-rust">{fault}</p>{/if}
	<dl class="mt-1 grid grid-cols-[1fr_auto] gap-x-2">
		<dt class="text-soft">Row, column</dt>
		<dd class="figure text-right">{row + 1}, {column + 1}</dd>
		{#await readings then values}
			{#if values}
				<dt class="text-soft" title={CELL_READINGS.border.meaning}>State</dt>
				<dd class="text-right">
					{CELL_READINGS.border.kinds[values.border]}{face.trim?.sliver[at.cell] ? ', a sliver' : ''}
				</dd>
				{#if face.roles && face.roles.length > 1}
					<dt class="text-soft" title={CELL_READINGS.role.meaning}>Role</dt>
					<dd class="truncate text-right">{face.roles[face.role![at.cell]!]}</dd>
				{/if}
				{#each shownOf(values.corners) as name (name)}
					{#if !Number.isNaN(values[name])}
						<dt class="text-soft" title={CELL_READINGS[name].meaning}>{CELL_READINGS[name].label}</dt>
						<dd class="figure text-right" data-reading={name}>
							{printFull(values[name], CELL_READINGS[name].quantity, unit)}
						</dd>
					{/if}
				{/each}
			{/if}
		{/await}
	</dl>
	{#if more > 0}<p class="mt-1 border-t border-rule pt-1 text-small text-soft">and {more} more chosen</p>{/if}
</aside>

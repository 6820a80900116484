<script lang="ts">
	import ArrowDown from '@lucide/svelte/icons/arrow-down';
	import ArrowUp from '@lucide/svelte/icons/arrow-up';
	import { createVirtualizer } from '@tanstack/svelte-virtual';
	import { untrack } from 'svelte';
	import { useWorkspace } from '$lib/editor/workspace.svelte.ts';
	import type { ModelView } from '$lib/worker/modelView.ts';
	import { PANEL_COLUMNS, PANEL_COLUMN_NAMES, type PanelColumn } from '$core/schedule/columns.ts';
	import { markOf } from '$core/schedule/panels.ts';
	import type { ScheduleAnswer } from '$core/schedule/query.ts';
	import { headingUnit, printQuantity } from '$core/units/print.ts';
	import RangePopover from './RangePopover.svelte';

	interface Props {
		view: ModelView;
		answer: ScheduleAnswer;
	}

	let { view, answer }: Props = $props();

	const ROW_HEIGHT = 24;
	/** Heights of the heading and the totals, which stay in sight and cover rows. */
	const HEAD = 27;
	const FOOT = 27;
	const work = useWorkspace();
	const table = work.schedule;
	const unit = $derived(work.project.units);
	let scroller = $state<HTMLDivElement>();

	const virtualizer = createVirtualizer<HTMLDivElement, HTMLDivElement>({
		count: 0,
		getScrollElement: () => scroller ?? null,
		estimateSize: () => ROW_HEIGHT,
		scrollMargin: HEAD,
		scrollPaddingStart: HEAD,
		scrollPaddingEnd: FOOT,
		overscan: 8
	});
	$effect(() => {
		const count = answer.order.length;
		if (scroller) untrack(() => $virtualizer.setOptions({ count, getScrollElement: () => scroller! }));
	});

	/** Schedule rows that are chosen. */
	const chosen = $derived(
		new Set(work.selection.addresses(view).map(({ face, cell }) => view.schedule.rowOfCell[face]![cell]!))
	);
	const hoveredRow = $derived.by(() => {
		const at = work.selection.hovered;
		return at ? view.schedule.rowOfCell[at.face]?.[at.cell] : undefined;
	});

	const addressOf = (row: number) => ({
		face: view.schedule.face[row]!,
		cell: view.schedule.cell[row]!
	});

	function choose(row: number, add: boolean) {
		work.selection.choose(view, addressOf(row), add);
		work.space?.reveal(addressOf(row));
	}

	// A cell chosen elsewhere is brought into sight here; other rows than before are read from the top.
	let seen = table.answered;
	$effect(() => {
		const [row] = chosen;
		const at = chosen.size === 1 ? answer.order.indexOf(row!) : -1;
		const asked = table.answered;
		const same = JSON.stringify(asked) === JSON.stringify(seen);
		seen = asked;
		untrack(() => {
			if (at >= 0) $virtualizer.scrollToIndex(at, { align: 'auto' });
			else if (!same) $virtualizer.scrollToOffset(0);
		});
	});

	function onkeydown(event: KeyboardEvent) {
		const step = { ArrowDown: 1, ArrowUp: -1, PageDown: 10, PageUp: -10 }[event.key];
		if (!step) return;
		event.preventDefault();
		const [first] = chosen;
		const at = first === undefined ? -1 : answer.order.indexOf(first);
		const next = Math.max(0, Math.min(answer.order.length - 1, at + step));
		choose(answer.order[next]!, false);
	}

	const print = (name: PanelColumn, row: number) =>
		printQuantity(view.schedule.columns[name][row]!, PANEL_COLUMNS[name].quantity, unit).text;
	const total = (name: PanelColumn) => {
		const { total: kind, quantity } = PANEL_COLUMNS[name];
		const text = printQuantity(answer.totals[name], quantity, unit).text;
		return kind === 'none' ? '' : kind === 'greatest' ? `up to ${text}` : text;
	};
	// Row and column are narrow.
	const COLUMNS = `grid-template-columns: 108px minmax(96px, 1fr) 60px 74px repeat(${PANEL_COLUMN_NAMES.length - 2}, minmax(82px, 1fr))`;
	const sortWord = (by: string) =>
		table.sort?.by !== by ? 'none' : table.sort.descending ? 'descending' : 'ascending';
</script>

{#snippet head(by: PanelColumn | 'mark' | 'kit', label: string, help: string, right: boolean)}
	<div
		role="columnheader"
		aria-sort={sortWord(by)}
		class="flex min-w-0 items-center gap-0.5 {right ? 'justify-end' : ''}"
	>
		<button
			class="flex min-w-0 items-center gap-0.5 font-semibold hover:text-patina"
			title="{help}. Click to sort."
			onclick={() => table.toggleSort(by)}
		>
			{#if table.sort?.by === by}
				{#if table.sort.descending}<ArrowDown size={12} />{:else}<ArrowUp size={12} />{/if}
			{/if}
			<span class="truncate">{label}</span>
		</button>
		{#if by !== 'mark' && by !== 'kit'}<RangePopover column={by} />{/if}
	</div>
{/snippet}

<div
	bind:this={scroller}
	class="min-h-0 flex-1 overflow-auto text-small"
	role="grid"
	tabindex="0"
	aria-label="Panels"
	aria-rowcount={answer.order.length + 2}
	{onkeydown}
	onmouseleave={() => (work.selection.hovered = undefined)}
>
	<div
		class="sticky top-0 z-10 grid gap-x-3 border-b border-rule bg-sheet px-3.5 text-soft"
		style="{COLUMNS}; height: {HEAD}px"
		role="row"
	>
		{@render head('mark', 'Mark', 'Face, row, column', false)}
		{@render head('kit', 'Kit', 'What stands on the cell', false)}
		{#each PANEL_COLUMN_NAMES as name (name)}
			{@const { label, meaning, quantity } = PANEL_COLUMNS[name]}
			{@render head(name, `${label} ${headingUnit(quantity, unit)}`.trim(), meaning, true)}
		{/each}
	</div>
	<div style="height: {$virtualizer.getTotalSize()}px; position: relative">
		{#each $virtualizer.getVirtualItems() as item (item.index)}
			{@const row = answer.order[item.index]}
			{#if row !== undefined}
				<!-- svelte-ignore a11y_click_events_have_key_events (the grid takes the arrow keys) -->
				<div
					role="row"
					tabindex="-1"
					aria-selected={chosen.has(row)}
					aria-rowindex={item.index + 2}
					data-row={row}
					class="absolute inset-x-0 grid cursor-pointer items-center gap-x-3 border-b border-rule/60 px-3.5 {chosen.has(
						row
					)
						? 'bg-wash'
						: hoveredRow === row
							? 'bg-wash/50'
							: ''}"
					style="{COLUMNS}; height: {ROW_HEIGHT}px; transform: translateY({item.start - HEAD}px)"
					onclick={(e) => choose(row, e.shiftKey || e.ctrlKey || e.metaKey)}
					onmouseenter={() => (work.selection.hovered = addressOf(row))}
				>
					<span role="gridcell" class="figure">{markOf(view.schedule, row)}</span>
					<span role="gridcell" class="truncate">{view.schedule.kits[view.schedule.kit[row]!]}</span>
					{#each PANEL_COLUMN_NAMES as name (name)}
						<span role="gridcell" class="figure text-right">{print(name, row)}</span>
					{/each}
				</div>
			{/if}
		{:else}
			<p class="px-3.5 py-3 text-soft">No panel passes these filters.</p>
		{/each}
	</div>
	<div
		class="sticky bottom-0 grid gap-x-3 border-t border-ink bg-sheet px-3.5 font-semibold items-center"
		style="{COLUMNS}; height: {FOOT}px"
		role="row"
	>
		<span role="gridcell">Total</span>
		<span role="gridcell"></span>
		{#each PANEL_COLUMN_NAMES as name (name)}
			<span role="gridcell" class="figure text-right" data-total={name}>{total(name)}</span>
		{/each}
	</div>
</div>

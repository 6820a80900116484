<script lang="ts">
	import ArrowDown from '@lucide/svelte/icons/arrow-down';
	import ArrowUp from '@lucide/svelte/icons/arrow-up';
	import { createVirtualizer } from '@tanstack/svelte-virtual';
	import { untrack } from 'svelte';
	import { useWorkspace } from '$lib/editor/context.ts';
	import type { ModelView } from '$core/view/modelView.ts';
	import type { TableRows } from '$lib/editor/tableRows.ts';
	import type { ScheduleAnswer } from '$core/schedule/query.ts';
	import { tableOf } from '$core/schedule/tables.ts';
	import { headingUnit, printQuantity } from '$core/units/print.ts';
	import RangePopover from './RangePopover.svelte';

	interface Props {
		view: ModelView;
		answer: ScheduleAnswer;
		rows: TableRows;
	}

	let { view, answer, rows }: Props = $props();

	const ROW_HEIGHT = 24;
	/** Heights of the heading and the totals, which stay in sight and cover rows. */
	const HEAD = 27;
	const FOOT = 27;
	const work = useWorkspace();
	const table = work.schedule;
	const unit = $derived(work.project.units);
	const definition = $derived(tableOf(rows.name));
	const wordNames = $derived(Object.keys(definition.words).filter((name) => rows.hasWords(name)));
	const columnNames = $derived(Object.keys(definition.columns));
	const ofCells = $derived(rows.name === 'panels');
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

	/** The row that was clicked last, of tables whose rows are not cells. */
	let clicked = $state<number>();
	/** Rows that are chosen. */
	const chosen = $derived(
		ofCells
			? new Set(work.selection.addresses(view).flatMap(({ face, cell }) => rows.rowOf(face, cell) ?? []))
			: new Set(clicked === undefined ? [] : [clicked])
	);
	const hoveredRow = $derived.by(() => {
		const at = work.selection.hovered;
		return ofCells && at ? rows.rowOf(at.face, at.cell) : undefined;
	});

	/** The cell that a row of the panels is about. */
	const addressOf = (row: number) => {
		const { face, at } = rows.place(row);
		return { face, cell: view.faces[face]!.schedule.tables.panels.host[at]! };
	};

	/** Where a range of rows begins: at the row that was chosen last without Shift. */
	let anchor: number | undefined;

	function chooseTo(row: number) {
		const [a, b] = [answer.order.indexOf(anchor ?? row), answer.order.indexOf(row)];
		const range = answer.order.subarray(Math.min(a, b), Math.max(a, b) + 1);
		work.selection.chooseAll(view, Array.from(range, addressOf));
	}

	function choose(row: number, add: boolean) {
		anchor = row;
		if (ofCells) {
			work.selection.choose(view, addressOf(row), add);
			work.space?.reveal(addressOf(row));
		} else void chooseCellsOf(row, add);
	}

	/** Chooses the cells that an edge, a node, a path or a part is at. */
	async function chooseCellsOf(row: number, add: boolean) {
		clicked = row;
		const { face, at } = rows.place(row);
		const { hash } = view.faces[face]!;
		const cells = await work.runner.ask((api) => api.cellsOfRow(hash, rows.name, at));
		if (!cells?.length || work.runner.view !== view) return;
		const addresses = cells.map((cell) => ({ face, cell }));
		work.selection.chooseAll(view, addresses, add);
		work.space?.reveal(addresses[0]!);
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
		if (ofCells && event.key === 'a' && (event.ctrlKey || event.metaKey)) {
			event.preventDefault();
			event.stopPropagation();
			return work.selection.chooseAll(view, Array.from(answer.order, addressOf));
		}
		const step = { ArrowDown: 1, ArrowUp: -1, PageDown: 10, PageUp: -10 }[event.key];
		if (!step) return;
		event.preventDefault();
		const [first] = chosen;
		const at = first === undefined ? -1 : answer.order.indexOf(first);
		const next = Math.max(0, Math.min(answer.order.length - 1, at + step));
		choose(answer.order[next]!, false);
	}

	const print = (name: string, row: number) =>
		printQuantity(rows.value(name, row), definition.columns[name]!.quantity, unit).text;
	const total = (name: string) => {
		const { total: kind, quantity } = definition.columns[name]!;
		const text = printQuantity(answer.totals[name] ?? NaN, quantity, unit).text;
		return kind === 'none' ? '' : kind === 'greatest' ? `up to ${text}` : text;
	};
	/** Counts are narrow; no heading is cut off, with its unit and its funnel. */
	function widthOf(name: string): string {
		const { quantity, total, label } = definition.columns[name]!;
		if (quantity === 'count' && total === 'none') return '66px';
		const heading = `${label} ${headingUnit(quantity, unit)}`.trim().length;
		return `minmax(${Math.max(82, heading * 6.5 + 28)}px, 1fr)`;
	}
	const COLUMNS = $derived(
		`grid-template-columns: 112px ${wordNames.map(() => 'minmax(96px, 1fr)').join(' ')} ${columnNames.map(widthOf).join(' ')}`
	);
	const sortWord = (by: string) =>
		table.sort?.by !== by ? 'none' : table.sort.descending ? 'descending' : 'ascending';
</script>

{#snippet head(by: string, label: string, help: string, right: boolean)}
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
		{#if by in definition.columns}<RangePopover column={by} />{/if}
	</div>
{/snippet}

<div
	bind:this={scroller}
	class="min-h-0 flex-1 overflow-auto text-small"
	role="grid"
	tabindex="0"
	aria-label={definition.label}
	aria-rowcount={answer.order.length + 2}
	{onkeydown}
	onmouseleave={() => (work.selection.hovered = undefined)}
>
	<div
		class="sticky top-0 z-10 grid gap-x-3 border-b border-rule bg-sheet px-3.5 text-soft"
		style="{COLUMNS}; height: {HEAD}px"
		role="row"
	>
		{@render head('mark', 'Mark', definition.mark, false)}
		{#each wordNames as name (name)}
			{@render head(name, definition.words[name]!.label, definition.words[name]!.meaning, false)}
		{/each}
		{#each columnNames as name (name)}
			{@const { label, meaning, quantity } = definition.columns[name]!}
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
					onclick={(e) => (e.shiftKey && ofCells ? chooseTo(row) : choose(row, e.ctrlKey || e.metaKey))}
					onmouseenter={() => ofCells && (work.selection.hovered = addressOf(row))}
				>
					<span role="gridcell" class="figure">{rows.mark(row)}</span>
					{#each wordNames as name (name)}
						<span role="gridcell" class="truncate" title={rows.word(name, row)}>{rows.word(name, row)}</span>
					{/each}
					{#each columnNames as name (name)}
						<span role="gridcell" class="figure text-right">{print(name, row)}</span>
					{/each}
				</div>
			{/if}
		{:else}
			<p class="px-3.5 py-3 text-soft">No {definition.one} passes these filters.</p>
		{/each}
	</div>
	<div
		class="sticky bottom-0 grid gap-x-3 border-t border-ink bg-sheet px-3.5 font-semibold items-center"
		style="{COLUMNS}; height: {FOOT}px"
		role="row"
	>
		<span role="gridcell">Total</span>
		{#each wordNames as name (name)}<span role="gridcell"></span>{/each}
		{#each columnNames as name (name)}
			<span role="gridcell" class="figure text-right" data-total={name}>{total(name)}</span>
		{/each}
	</div>
</div>

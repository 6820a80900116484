<script lang="ts">
	import ChevronDown from '@lucide/svelte/icons/chevron-down';
	import ChevronRight from '@lucide/svelte/icons/chevron-right';
	import { untrack } from 'svelte';
	import { isKitValue, parameterOf } from '$core/schedule/own/kitValues.ts';
	import { faceOfRow } from '$core/schedule/query.ts';
	import { group } from '$core/units/print.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import { virtualRows } from '$lib/editor/virtualRows.svelte.ts';
	import { cellText, headText, totalText, type OwnLine } from '$lib/editor/ownTableState.svelte.ts';
	import { copiedText, gridStyle, isRight, printedTable, showTable } from '$lib/editor/ownTableTexts.ts';
	import { setByHand } from '$lib/editor/byHand.ts';
	import { handKeyOf } from '$lib/editor/handHosts.ts';
	import { setNote, sortBy, tableIn } from '$lib/editor/ownTables.ts';
	import { parseRowValue, setOfRow } from '$lib/editor/rowValues.ts';
	import { MOST_PRINTED, printTable } from '$lib/editor/printTable.ts';
	import OwnTableCell from './OwnTableCell.svelte';

	const ROW_HEIGHT = 24;
	/** Chosen cells whose rows are looked for. */
	const MOST_LINKED = 2000;
	const work = useWorkspace();
	const { own } = work;
	const model = $derived(work.runner.view);
	const table = $derived(own.table);
	const view = $derived(own.view?.id === table?.id ? own.view : undefined);
	const lines = $derived(own.lines);
	let chosen = $state<number>();
	/** The cell that is written into. */
	let writing = $state<{ row: number; column: number }>();
	let said = $state<string>();
	let scroller = $state<HTMLDivElement>();

	// They live in the worker: asked again when the model, the schedule or its notes change.
	$effect(() => {
		if (model && table) void own.refresh();
	});
	// Another schedule; the same one is another object once it is saved, and what is being written in it stays.
	const shownId = $derived(table?.id);
	$effect(() => {
		void shownId;
		untrack(() => ([chosen, writing, said] = [undefined, undefined, undefined]));
	});

	const virtualizer = virtualRows(
		() => scroller,
		() => lines.length,
		ROW_HEIGHT
	);

	/** Rows of the cells that are chosen in the views. */
	let linked = $state.raw<ReadonlySet<number>>(new Set());
	$effect(() => {
		const at = model ? work.selection.addresses(model) : [];
		const id = view && table?.id;
		let wanted = true;
		if (id === undefined || at.length === 0 || at.length > MOST_LINKED) linked = new Set();
		else
			void work.runner
				.ask((api) => api.ownRowsAt(id, at))
				.then((rows) => {
					if (wanted) linked = new Set(rows);
				});
		return () => (wanted = false);
	});
	const isLinked = (line: OwnLine | undefined) => line !== undefined && 'row' in line && linked.has(line.row);
	// Brings them into sight, but where one of them has been clicked.
	$effect(() => {
		const first = lines.findIndex(isLinked);
		untrack(() => {
			if (first >= 0 && !(chosen !== undefined && isLinked(lines[chosen])))
				$virtualizer.scrollToIndex(first, { align: 'center' });
		});
	});

	const shown = $derived(table && view && showTable(table, view));
	const lead = $derived(shown?.lead);
	const grid = $derived(shown && gridStyle(shown));
	const rowCount = $derived(
		view ? `${group(view.order.length, 0)} ${view.order.length === 1 ? 'row' : 'rows'}` : 'Working it out …'
	);

	/** Chooses the cells that a row is at. */
	async function choose(k: number) {
		const line = lines[k];
		if (!line || !view || !model || !table) return;
		chosen = k;
		$virtualizer.scrollToIndex(k, { align: 'auto' });
		if ('group' in line) return;
		const face = faceOfRow(view.starts, line.row);
		const { hash } = model.faces[face]!;
		const cells = await work.runner.ask((api) => api.cellsOfRow(hash, table.of, line.row - view.starts[face]!));
		if (!cells?.length || work.runner.view !== model) return;
		const at = cells.map((cell) => ({ face, cell }));
		work.selection.chooseAll(model, at);
		work.space?.reveal(at[0]!);
	}
	async function write(row: number, column: number, text: string) {
		writing = undefined;
		const own = table?.columns[column];
		if (!table || own?.kind !== 'note' || !view) return;
		const before = cellText(view.columns[column]!, row);
		if (text.trim() === before) return;
		const key = await work.runner.ask((api) => api.rowKey(table.id, row));
		if (key === undefined) return;
		said = work.editor.commit(`Write ${own.label.toLowerCase()}`, (draft) => setNote(draft, own.id, key, text.trim()));
	}
	/** The parameter of a kit that a column shows, where its values can be set by hand from here. */
	const parameterAt = (c: number) => {
		const shown = table?.columns[c];
		return shown?.kind === 'value' && isKitValue(shown.show) && view?.columns[c]?.kind === 'figures'
			? parameterOf(shown.show)
			: undefined;
	};
	const writable = (c: number) => table?.columns[c]?.kind === 'note' || parameterAt(c) !== undefined;
	/** Sets a value of the kit on the host of a row alone. */
	async function setValue(row: number, c: number, text: string) {
		writing = undefined;
		const [name, column] = [parameterAt(c), view?.columns[c]];
		if (!table || !model || !name || column?.kind !== 'figures' || text.trim() === cellText(column, row)) return;
		const { id } = table;
		const placed = await work.runner.ask((api) => api.placementOfRow(id, row, name));
		if (work.runner.view !== model) return;
		const parameter = work.project.kits.find((k) => k.id === placed?.kit)?.parameters.find((p) => p.name === name);
		const key = placed && handKeyOf(model, placed.face, placed.kind, placed.host);
		const set = placed && setOfRow(work.project, placed);
		if (!parameter || !key || !set)
			return void (said = placed
				? 'This cannot be set by hand here: cells, edges and nodes can; of paths and bays change the rule.'
				: 'No kit with this value stands here.');
		const read = parseRowValue(text, parameter, column.written.per, work.project.units);
		if ('error' in read) return void (said = read.error);
		said = work.editor.commit(`Set ${parameter.label.toLowerCase()} by hand`, (draft) =>
			setByHand(draft, set, [key], { values: { [name]: read.value } })
		);
	}
	const accept = (row: number, c: number, text: string) =>
		table?.columns[c]?.kind === 'note' ? write(row, c, text) : setValue(row, c, text);
	async function copy() {
		if (!shown) return;
		try {
			await navigator.clipboard.writeText(copiedText(shown, lines));
			said = `${group(lines.length, 0)} lines are on the clipboard.`;
		} catch {
			said = 'The browser lets nothing onto the clipboard here; take the schedule as a file under Handover.';
		}
	}
	function print() {
		if (!shown) return;
		if (lines.length > MOST_PRINTED)
			return void (said = `${group(lines.length, 0)} lines are too many for paper; take the table as a file, or fold it.`);
		printTable(printedTable(shown, lines, work.project.name));
	}
	function onkeydown(event: KeyboardEvent) {
		if (writing) return;
		const command = event.ctrlKey || event.metaKey;
		if (command && event.key === 'c') return void (event.preventDefault(), void copy());
		const line = chosen === undefined ? undefined : lines[chosen];
		if (line && 'row' in line && (event.key === 'Enter' || event.key === 'F2')) {
			const column = table!.columns.findIndex((_, c) => writable(c));
			if (column >= 0) [writing] = [{ row: line.row, column }];
			return event.preventDefault();
		}
		if (line && 'group' in line && (event.key === 'ArrowLeft' || event.key === 'ArrowRight'))
			return own.toggle(view!.groups[line.group]!.words);
		const step = { ArrowDown: 1, ArrowUp: -1, PageDown: 10, PageUp: -10, Home: -Infinity, End: Infinity }[event.key];
		if (!step || !lines.length) return;
		event.preventDefault();
		void choose(Math.max(0, Math.min(lines.length - 1, (chosen ?? -1) + step)));
	}
	function sortFrom(c: number) {
		const column = table?.columns[c];
		if (!table || column?.kind !== 'value') return;
		const { id } = table;
		work.editor.apply(`Sort by ${column.label ?? column.show}`, (draft) => sortBy(tableIn(draft, id), column.show));
	}
</script>

<div class="flex min-h-0 grow flex-col" data-testid="own-table">
	<div class="flex h-8 shrink-0 items-center gap-2 border-b border-rule px-3.5 text-small">
		{#if work.project.tables.length}
			<select
				class="field max-w-56"
				aria-label="Schedule"
				value={table?.id}
				onchange={(e) => (own.open = e.currentTarget.value)}
			>
				{#each work.project.tables as { id, name } (id)}<option value={id}>{name}</option>{/each}
			</select>
			<span class="figure text-soft" data-testid="own-count">{rowCount}</span>
			<button class="text-patina hover:underline" onclick={() => (work.place = 'schedule')}
				>Change columns and filters</button
			>
			{#if said}<span class="truncate text-ochre-ink" role="status">{said}</span>{/if}
			<span class="ml-auto flex gap-2">
				<button class="text-patina hover:underline" disabled={!view} onclick={() => void copy()}>Copy</button>
				<button class="text-patina hover:underline" disabled={!view} onclick={print}>Print</button>
			</span>
		{/if}
	</div>
	{#each view?.faults ?? [] as fault (fault)}
		<p class="shrink-0 px-3.5 py-1 text-small text-rust" role="alert">{fault}.</p>
	{/each}
	{#if !table}
		<p class="p-4 text-soft">
			No schedule of your own yet. Start one from a ready one, and choose its rows, columns, groups and order.
			<button class="button ml-2" onclick={() => (work.place = 'schedule')}>Make a schedule</button>
		</p>
	{:else if view}
		<div
			bind:this={scroller}
			class="min-h-0 flex-1 overflow-auto text-small"
			role="grid"
			tabindex="0"
			aria-label={table.name}
			aria-rowcount={lines.length + 2}
			{onkeydown}
		>
			<div
				class="sticky top-0 z-10 grid gap-x-3 border-b border-rule bg-sheet px-3.5 py-1 font-semibold text-soft"
				style={grid}
				role="row"
			>
				{#if lead !== undefined}<span role="columnheader" class="truncate">{lead}</span>{/if}
				{#each view.columns as column, c (c)}
					{@const sort = table.sort.findIndex((s) => {
						const shown = table.columns[c];
						return shown?.kind === 'value' && s.by === shown.show;
					})}
					<button
						role="columnheader"
						class="truncate hover:text-patina {isRight(column) ? 'text-right' : 'text-left'}"
						aria-sort={sort < 0 ? 'none' : table.sort[sort]!.descending ? 'descending' : 'ascending'}
						title={column.kind === 'fault' ? column.fault : 'Click to sort; what was sorted by before comes second'}
						onclick={() => sortFrom(c)}
						>{headText(column)}{sort < 0
							? ''
							: ` ${table.sort[sort]!.descending ? '↓' : '↑'}${sort > 0 ? sort + 1 : ''}`}</button
					>
				{/each}
			</div>
			<div class="relative" style="height: {$virtualizer.getTotalSize()}px" role="rowgroup">
				{#each $virtualizer.getVirtualItems() as item (item.index)}
					{@const line = lines[item.index]}
					{#if line}
						<!-- svelte-ignore a11y_click_events_have_key_events -->
						<div
							class="absolute grid w-full cursor-pointer items-center gap-x-3 border-b border-rule/60 px-3.5 {item.index ===
							chosen
								? 'bg-wash'
								: isLinked(line)
									? 'bg-patina-pale'
									: 'hover:bg-paper'} {'group' in line ? 'bg-paper font-semibold' : ''}"
							style="{grid}; height: {ROW_HEIGHT}px; transform: translateY({item.start}px)"
							role="row"
							tabindex="-1"
							aria-selected={item.index === chosen || isLinked(line)}
							onclick={() => choose(item.index)}
						>
							{#if 'group' in line}
								{@const { words, level, totals, from, to } = view.groups[line.group]!}
								{#snippet heading()}
									<button
										class="inline-flex items-center gap-1"
										style="padding-left: {level * 12}px"
										aria-expanded={!own.folded.includes(JSON.stringify(words))}
										onclick={(e) => (e.stopPropagation(), own.toggle(words))}
										>{#if table.folded && level === table.groups.length - 1}{:else if own.folded.includes(JSON.stringify(words))}<ChevronRight
												size={12}
											/>{:else}<ChevronDown size={12} />{/if}{words[level] || '–'}
										<span class="font-normal text-soft">{group(to - from, 0)}</span></button
									>
								{/snippet}
								{#if lead !== undefined}<span role="gridcell" class="whitespace-nowrap">{@render heading()}</span>{/if}
								{#each view.columns as column, c (c)}
									<span role="gridcell" class="whitespace-nowrap {isRight(column) ? 'figure text-right' : ''}">
										{#if c === 0 && lead === undefined}{@render heading()}{:else}{totalText(column, totals[c]!)}{/if}
									</span>
								{/each}
							{:else}
								{#if lead !== undefined}<span role="gridcell"></span>{/if}
								{#each view.columns as column, c (c)}
									<OwnTableCell
										{column}
										row={line.row}
										settable={parameterAt(c) !== undefined}
										writing={writing?.row === line.row && writing.column === c}
										onwrite={() => (writing = { row: line.row, column: c })}
										onaccept={(text) => void accept(line.row, c, text)}
									/>
								{/each}
							{/if}
						</div>
					{/if}
				{:else}
					<p class="px-3.5 py-3 text-soft">No row passes the filters of this schedule.</p>
				{/each}
			</div>
			<div
				class="sticky bottom-0 grid items-center gap-x-3 border-t border-ink bg-sheet px-3.5 py-1 font-semibold"
				style={grid}
				role="row"
			>
				{#if lead !== undefined}<span role="gridcell">Total</span>{/if}
				{#each view.columns as column, c (c)}
					<span role="gridcell" class="whitespace-nowrap {isRight(column) ? 'figure text-right' : ''}" data-total={c}
						>{c === 0 && lead === undefined ? 'Total' : totalText(column, view.totals[c]!)}</span
					>
				{/each}
			</div>
		</div>
	{:else}
		<p class="p-4 text-soft">Working it out …</p>
	{/if}
</div>

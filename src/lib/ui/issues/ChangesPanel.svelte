<script lang="ts">
	import { CHANGES, type Change } from '$core/formats/changes/comparePieces.ts';
	import { quote } from '$core/formats/csv/writeTable.ts';
	import { group } from '$core/units/print.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import { virtualRows } from '$lib/editor/virtualRows.svelte.ts';
	import { CHANGE_LOOKS } from '$lib/editor/issues.svelte.ts';
	import { MOST_PRINTED, printTable } from '$lib/editor/printTable.ts';
	import { saveFile } from '$lib/editor/saveFile.ts';
	import type { ChangeRow } from '$lib/worker/comparison.ts';

	const ROW_HEIGHT = 24;
	const work = useWorkspace();
	const { issues } = work;
	const view = $derived(work.runner.view);
	let kind = $state<Change>();
	let chosen = $state<number>();
	let scroller = $state<HTMLDivElement>();
	$effect(() => {
		if (issues.issues === undefined) void issues.refresh();
	});
	const found = $derived(issues.found);
	const rows = $derived((found?.rows ?? []).filter((r) => kind === undefined || r.kind === kind));
	const label = (id: string | undefined) => {
		const issue = issues.issues?.find((i) => i.id === id);
		return issue ? `${issue.mark} ${issue.name}` : 'now';
	};
	/** The project has moved on since. */
	const old = $derived(
		found !== undefined && issues.after === undefined && view && !view.faces.every((f) => found.faces.includes(f.hash))
	);
	const money = (sum: number, end: 0 | 1) => `${group(sum, 0)} ${found?.currencies[end]}`;
	const kilograms = (kg: number) => `${kg > 0 ? '+' : ''}${group(kg, 1)} kg`;

	const virtualizer = virtualRows(
		() => scroller,
		() => rows.length,
		ROW_HEIGHT
	);

	/** Chooses the cells that a piece is at, where it is in the model that is shown. */
	async function choose(k: number, { place }: ChangeRow) {
		chosen = k;
		$virtualizer.scrollToIndex(k, { align: 'auto' });
		if (!place || !view || !found || issues.after !== undefined || old) return;
		const face = view.faces.findIndex((f) => f.hash === found.faces[place.face]);
		if (face < 0) return;
		const cells = await work.runner.ask((api) => api.cellsOfRow(view.faces[face]!.hash, 'parts', place.row));
		if (!cells?.length || work.runner.view !== view) return;
		const at = cells.map((cell) => ({ face, cell }));
		work.selection.chooseAll(view, at);
		work.space?.reveal(at[0]!);
	}
	function onkeydown(event: KeyboardEvent) {
		const step = { ArrowDown: 1, ArrowUp: -1, PageDown: 10, PageUp: -10 }[event.key];
		if (!step || !rows.length) return;
		event.preventDefault();
		const k = Math.max(0, Math.min(rows.length - 1, (chosen ?? -1) + step));
		void choose(k, rows[k]!);
	}
	const HEADS = ['Change', 'Mark', 'Face', 'Kit', 'Part', 'What', 'Before', 'After'];
	const cellsOf = (r: ChangeRow) => [r.kind, r.mark, r.face, r.kit, r.part, r.what, r.before, r.after];
	const title = $derived(`changes ${label(issues.before)} to ${label(issues.after)}`);
	function save() {
		const text = [HEADS, ...rows.map(cellsOf)].map((line) => line.map(quote).join(',') + '\r\n').join('');
		saveFile(`${title}.csv`, text, 'text/csv');
	}
	const print = () =>
		printTable({
			project: work.project.name,
			title: `C${title.slice(1)}`,
			heads: HEADS.map((text) => ({ text, right: false })),
			rows: rows.slice(0, MOST_PRINTED).map((r) => ({ kind: 'row', cells: cellsOf(r) }))
		});
	const COLUMNS =
		'grid-template-columns: 92px minmax(150px, 1.4fr) minmax(130px, 1.4fr) 84px minmax(90px, 1fr) minmax(90px, 1fr)';
</script>

<div class="grid min-h-0 grow grid-cols-[minmax(0,1fr)_248px]" data-testid="changes">
	{#if found && rows.length}
		<div
			bind:this={scroller}
			class="min-h-0 overflow-auto text-small {old ? 'opacity-60' : ''}"
			role="grid"
			tabindex="0"
			aria-label="What has changed"
			aria-rowcount={rows.length + 1}
			{onkeydown}
		>
			<div
				class="sticky top-0 z-10 grid gap-x-2 border-b border-rule bg-sheet px-3.5 py-1 font-semibold text-soft"
				style={COLUMNS}
				role="row"
			>
				{#each ['Change', 'Mark', 'Kit › part', 'What', 'Before', 'After'] as head (head)}<span role="columnheader"
						>{head}</span
					>{/each}
			</div>
			<div class="relative" style="height: {$virtualizer.getTotalSize()}px" role="rowgroup">
				{#each $virtualizer.getVirtualItems() as item (item.index)}
					{@const row = rows[item.index]}
					{#if row}
						<!-- svelte-ignore a11y_click_events_have_key_events -->
						<div
							class="absolute grid w-full cursor-pointer items-center gap-x-2 px-3.5 {item.index === chosen
								? 'bg-patina-pale'
								: 'hover:bg-paper'}"
							style="{COLUMNS}; height: {ROW_HEIGHT}px; transform: translateY({item.start}px)"
							role="row"
							tabindex="-1"
							aria-selected={item.index === chosen}
							onclick={() => choose(item.index, row)}
						>
							<span role="gridcell" class="flex items-center gap-1.5"
								><span
									class="h-2.5 w-2.5 shrink-0 rounded-sm border border-control"
									style="background: {CHANGE_LOOKS[row.kind].colour}"
								></span>{CHANGE_LOOKS[row.kind].label}</span
							>
							<span role="gridcell" class="figure truncate" title="{row.mark}, {row.face}">{row.mark}</span>
							<span role="gridcell" class="truncate" title="{row.kit} › {row.part}">{row.kit} › {row.part}</span>
							<span role="gridcell" class="truncate">{row.what}</span>
							<span role="gridcell" class="figure truncate" title={row.before}>{row.before}</span>
							<span role="gridcell" class="figure truncate" title={row.after}>{row.after}</span>
						</div>
					{/if}
				{/each}
			</div>
		</div>
	{:else}
		<p class="p-4 text-soft">
			{#if issues.busy}Comparing …
			{:else if found}Nothing has changed{kind ? ` in this way` : ''}.
			{:else if issues.issues?.length}Choose two states at the right and compare them.
			{:else}Nothing has been given out yet: issue the schedules under Schedule, and what changes from then on is told
				here.{/if}
		</p>
	{/if}
	<aside class="flex min-h-0 flex-col gap-1.5 overflow-auto border-l border-rule px-3 py-2 text-small">
		{#each [['before', 'From'], ['after', 'To']] as const as [end, word] (end)}
			<label class="grid grid-cols-[40px_1fr] items-center gap-2"
				><span class="text-soft">{word}</span>
				<select
					class="field min-w-0"
					value={issues[end] ?? ''}
					onchange={(e) => ((issues[end] = e.currentTarget.value || undefined), (issues.found = undefined))}
				>
					{#if end === 'after'}<option value="">the project now</option>{/if}
					{#each issues.issues ?? [] as issue (issue.id)}<option value={issue.id}>{issue.mark} {issue.name}</option
						>{/each}
				</select></label
			>
		{/each}
		<button class="button justify-center" disabled={issues.busy || !issues.before} onclick={() => void issues.compare()}
			>{old ? 'Compare anew: it has changed since' : 'Compare'}</button
		>
		{#if issues.error}<p class="text-rust" role="alert">{issues.error}</p>{/if}
		{#if found}
			{@const { summary, known } = found}
			<div role="group" aria-label="Kinds of changes">
				{#each CHANGES as name (name)}
					<button
						class="flex w-full items-center gap-1.5 rounded px-1 py-px text-left {kind === name
							? 'bg-wash font-semibold'
							: 'hover:bg-wash/60'}"
						aria-pressed={kind === name}
						title="Show these alone"
						onclick={() => (kind = kind === name ? undefined : name)}
					>
						<span class="h-2.5 w-2.5 rounded-sm border border-control" style="background: {CHANGE_LOOKS[name].colour}"
						></span>{CHANGE_LOOKS[name].label}
						<span class="figure ml-auto">{group(summary[name], 0)}</span>
					</button>
				{/each}
				<p class="flex px-1 py-px text-soft">As before<span class="figure ml-auto">{group(summary.same, 0)}</span></p>
				<p
					class="flex px-1 py-px"
					title="{group(summary.weightKg.before, 1)} kg before, {group(summary.weightKg.after, 1)} kg after"
				>
					Weight<span class="figure ml-auto">{kilograms(summary.weightKg.after - summary.weightKg.before)}</span>
				</p>
				{#if summary.cost.before || summary.cost.after}
					<p
						class="flex px-1 py-px"
						title="{money(summary.cost.before, 0)} before, {money(summary.cost.after, 1)} after, each by its own rates"
						data-testid="changes-cost"
					>
						Cost<span class="figure ml-auto"
							>{found.currencies[0] === found.currencies[1]
								? `${summary.cost.after > summary.cost.before ? '+' : ''}${money(summary.cost.after - summary.cost.before, 1)}`
								: `${money(summary.cost.before, 0)}, now ${money(summary.cost.after, 1)}`}</span
						>
					</p>
				{/if}
			</div>
			<p class="text-soft" data-testid="changes-known">
				{`${group(known.kept, 0)} of ${group(known.all, 0)} pieces of ${label(issues.before)} are known by the same place ${issues.after ? `in ${label(issues.after)}` : 'now'}.`}
			</p>
			<label class="flex items-center gap-1.5"
				><input type="checkbox" class="accent-patina" bind:checked={issues.coloured} />Colours in the views</label
			>
			<div class="grid grid-cols-2 gap-1.5">
				<button class="button justify-center" disabled={!rows.length} onclick={save}>Save as CSV</button>
				<button
					class="button justify-center"
					disabled={!rows.length}
					title={rows.length > MOST_PRINTED ? `The first ${group(MOST_PRINTED, 0)} rows` : 'On paper, or as a PDF'}
					onclick={print}>Print</button
				>
			</div>
		{/if}
	</aside>
</div>

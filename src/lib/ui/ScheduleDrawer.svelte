<script lang="ts">
	import ChevronDown from '@lucide/svelte/icons/chevron-down';
	import ChevronUp from '@lucide/svelte/icons/chevron-up';
	import Search from '@lucide/svelte/icons/search';
	import { warningsOf } from '$lib/editor/placeStates.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import { TABLE_NAMES, tableOf, type TableName } from '$core/schedule/tables.ts';
	import { group, printFull } from '$core/units/print.ts';
	import Later from './Later.svelte';
	import { LATER } from './later.ts';
	import ScheduleTable from './ScheduleTable.svelte';

	const work = useWorkspace();
	const state = work.schedule;
	const view = $derived(work.runner.view);
	const unit = $derived(work.project.units);

	const TABS = [...TABLE_NAMES, 'own', 'quantities', 'types', 'changes', 'readings'] as const;
	const LABELS = {
		own: 'Own',
		quantities: 'Quantities',
		types: 'Types',
		changes: 'Changes',
		readings: 'Readings'
	} as const;
	const PANELS = {
		own: LATER.ownTable,
		quantities: LATER.quantities,
		types: LATER.types,
		changes: LATER.changes,
		readings: LATER.readingsPanel
	};
	const isTable = (tab: (typeof TABS)[number]): tab is TableName => !(tab in LABELS);
	const shown = $derived(work.drawer === 'tables' ? state.table : work.drawer);
	const labelOf = (tab: (typeof TABS)[number]) => (isTable(tab) ? tableOf(tab).label : LABELS[tab]);
	/** The readings colour the views from the first time on that they are looked at. */
	function open(tab: (typeof TABS)[number]) {
		if (tab === 'readings' && work.drawer !== 'readings') work.readings.coloured = true;
		if (isTable(tab)) {
			work.drawer = 'tables';
			state.table = tab;
		} else work.drawer = tab;
		work.drawerOpen = true;
	}

	const WHERE: Record<TableName, string> = {
		panels: 'cell that carries a kit',
		edges: 'edge that carries a kit',
		nodes: 'node that carries a kit',
		paths: 'line that a kit runs along',
		bays: 'bay that carries a kit',
		parts: 'piece that a kit makes'
	};
	const filterLabel = $derived.by(() => {
		const words = Object.values(tableOf(state.table).words).map((w) => w.label.toLowerCase());
		return `Filter by mark or ${words.length > 2 ? 'any word' : words.join(' or ')}`;
	});

	const definition = $derived(tableOf(state.table));
	/** The answer to what is asked now; another table's says nothing here. */
	const answer = $derived(state.answered?.table === state.table ? state.answer : undefined);
	const rows = $derived.by(() => {
		const all = state.rows?.count ?? 0;
		const shown = state.filtered ? `${group(answer?.order.length ?? 0, 0)} of ` : '';
		return `${shown}${group(all, 0)} ${all === 1 ? 'row' : 'rows'}`;
	});
	/** What a table says in one line: its rows, and what can be added up. */
	const totals = $derived.by(() => {
		if (!answer) return '';
		const { area, partLength, weight } = answer.totals;
		return [
			rows,
			...(area === undefined ? [] : [printFull(area, 'area', unit)]),
			...(partLength === undefined ? [] : [printFull(partLength, 'length', unit === 'mm' ? 'm' : unit)]),
			`${group((weight ?? 0) / 1000, 1)} t`
		].join(' · ');
	});

	/** Why kits that are placed make nothing here. */
	const reasons = $derived(
		answer && answer.order.length === 0
			? [...new Set(warningsOf('placement', work.warnings).flatMap((w) => (w.once ? [] : [w.message])))].slice(0, 3)
			: []
	);

	// The answer lives in the worker: asked again when the model or the query changes.
	$effect(() => {
		const query = state.query;
		if (view) void state.refresh(query);
	});
</script>

<section class="flex min-h-0 flex-col border-t border-rule bg-sheet" aria-label={labelOf(shown)}>
	<header class="flex h-8 shrink-0 items-center gap-3 border-b border-rule px-3.5">
		<div role="tablist" aria-label="Drawer" class="flex gap-2.5">
			{#each TABS as tab (tab)}
				<button
					role="tab"
					aria-selected={shown === tab}
					class="border-b-2 py-1 {shown === tab
						? 'border-patina font-semibold'
						: 'border-transparent text-soft hover:text-patina'}"
					onclick={() => open(tab)}>{labelOf(tab)}</button
				>
			{/each}
		</div>
		{#if work.drawer === 'tables'}
			<!-- Wide while it is used: the totals need the room. -->
			<label class="flex items-center gap-1.5 rounded border border-control bg-paper px-2" title={filterLabel}>
				<Search size={13} class="shrink-0 text-soft" aria-hidden="true" />
				<span class="sr-only">{filterLabel}</span>
				<input
					class="w-10 bg-transparent py-px text-small outline-none not-placeholder-shown:w-32 focus:w-32"
					placeholder="Filter"
					bind:value={state.text}
				/>
			</label>
			{#if state.filtered}
				<button class="text-small whitespace-nowrap text-patina underline" onclick={() => state.clearFilters()}
					>Clear</button
				>
			{/if}
		{/if}
		{#if work.drawer === 'tables' && answer && view}
			<p
				class="figure ml-auto truncate text-small text-soft {work.runner.behind ? 'italic opacity-60' : ''}"
				title={totals}
				aria-live="polite"
				data-testid="schedule-totals"
			>
				{totals}
			</p>
		{/if}
		<button
			class="rounded p-1 text-soft hover:text-patina {work.drawer === 'tables' && answer && view ? '' : 'ml-auto'}"
			aria-expanded={work.drawerOpen}
			aria-label={work.drawerOpen ? 'Close the schedule' : 'Open the schedule'}
			onclick={() => (work.drawerOpen = !work.drawerOpen)}
		>
			{#if work.drawerOpen}<ChevronDown size={16} />{:else}<ChevronUp size={16} />{/if}
		</button>
	</header>
	{#if work.drawerOpen}
		{#if work.drawer !== 'tables'}
			<Later part={PANELS[work.drawer]} />
		{:else if view && answer && state.rows && state.rows.count > 0}
			{#key state.table}
				<ScheduleTable {view} {answer} rows={state.rows} />
			{/key}
		{:else if view && answer}
			<p class="p-4 text-soft">
				{#if reasons.length}
					No {definition.one}: {reasons.join(' ')}
				{:else}
					No {definition.one} yet. A row appears here for every {WHERE[state.table]}.
				{/if}
				<button class="button ml-2" onclick={() => (work.place = 'placement')}>Place a kit</button>
			</p>
		{/if}
	{/if}
</section>

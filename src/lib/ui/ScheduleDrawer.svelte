<script lang="ts">
	import ChevronDown from '@lucide/svelte/icons/chevron-down';
	import ChevronUp from '@lucide/svelte/icons/chevron-up';
	import Search from '@lucide/svelte/icons/search';
	import { useWorkspace } from '$lib/editor/workspace.svelte.ts';
	import { group, printFull } from '$core/units/print.ts';
	import ReadingsPanel from './readings/ReadingsPanel.svelte';
	import ScheduleTable from './ScheduleTable.svelte';

	const work = useWorkspace();
	const state = work.schedule;
	const view = $derived(work.runner.view);
	const unit = $derived(work.project.units);

	const TABS = [
		['panels', 'Panels'],
		['readings', 'Readings']
	] as const;
	/** The readings colour the views from the first time on that they are looked at. */
	function open(tab: (typeof TABS)[number][0]) {
		if (tab === 'readings' && work.drawer !== 'readings') work.readings.coloured = true;
		work.drawer = tab;
		work.drawerOpen = true;
	}

	const rows = $derived.by(() => {
		const all = view?.schedule.count ?? 0;
		const shown = state.filtered ? `${group(state.answer?.order.length ?? 0, 0)} of ` : '';
		return `${shown}${group(all, 0)} ${all === 1 ? 'row' : 'rows'}`;
	});

	// The answer lives in the worker: asked again when the model or the query changes.
	$effect(() => {
		const query = state.query;
		if (view) void state.refresh(query);
	});
</script>

<section
	class="flex min-h-0 flex-col border-t border-rule bg-sheet"
	aria-label={work.drawer === 'panels' ? 'Panels' : 'Readings'}
>
	<header class="flex h-8 shrink-0 items-center gap-3 border-b border-rule px-3.5">
		<div role="tablist" aria-label="Drawer" class="flex gap-3">
			{#each TABS as [tab, label] (tab)}
				<button
					role="tab"
					aria-selected={work.drawer === tab}
					class="border-b-2 py-1 {work.drawer === tab
						? 'border-patina font-semibold'
						: 'border-transparent text-soft hover:text-patina'}"
					onclick={() => open(tab)}>{label}</button
				>
			{/each}
		</div>
		{#if work.drawer === 'panels'}
			<label class="flex items-center gap-1.5 rounded border border-control bg-paper px-2">
				<Search size={13} class="text-soft" aria-hidden="true" />
				<span class="sr-only">Filter by mark or kit</span>
				<input
					class="w-44 bg-transparent py-px text-small outline-none"
					placeholder="Filter by mark or kit"
					bind:value={state.text}
				/>
			</label>
			{#if state.filtered}
				<button class="text-small text-patina underline" onclick={() => state.clearFilters()}> Clear filters </button>
			{/if}
		{/if}
		{#if work.drawer === 'panels' && state.answer && view}
			<p
				class="figure ml-auto text-small text-soft {work.runner.stale ? 'italic opacity-60' : ''}"
				aria-live="polite"
				data-testid="schedule-totals"
			>
				{rows} · {printFull(state.answer.totals.area, 'area', unit)} ·
				{group(state.answer.totals.weight / 1000, 1)} t
			</p>
		{/if}
		<button
			class="rounded p-1 text-soft hover:text-patina {work.drawer === 'panels' && state.answer && view
				? ''
				: 'ml-auto'}"
			aria-expanded={work.drawerOpen}
			aria-label={work.drawerOpen ? 'Close the schedule' : 'Open the schedule'}
			onclick={() => (work.drawerOpen = !work.drawerOpen)}
		>
			{#if work.drawerOpen}<ChevronDown size={16} />{:else}<ChevronUp size={16} />{/if}
		</button>
	</header>
	{#if work.drawerOpen}
		{#if work.drawer === 'readings'}
			<ReadingsPanel />
		{:else if view && view.schedule.count > 0 && state.answer}
			<ScheduleTable {view} answer={state.answer} />
		{:else if view}
			<p class="p-4 text-soft">
				No panel yet. A row appears here for every cell that carries a kit.
				<button class="button ml-2" onclick={() => (work.place = 'placement')}>Place a kit</button>
			</p>
		{/if}
	{/if}
</section>

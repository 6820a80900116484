<script lang="ts">
	import OwnTablesList from '../own/OwnTablesList.svelte';
	import RatesPanel from '../own/RatesPanel.svelte';
	import IssuePanel from '../issues/IssuePanel.svelte';
	import { useWorkspace } from '$lib/editor/context.ts';
	import { tableOf } from '$core/schedule/tables.ts';
	import { group, printFull } from '$core/units/print.ts';

	const work = useWorkspace();
	const unit = $derived(work.project.units);
	const answer = $derived(work.schedule.answer);
	const table = $derived(work.schedule.answered?.table ?? 'panels');
	const definition = $derived(tableOf(table));
	const view = $derived(work.runner.view);
</script>

<OwnTablesList />
{#if work.drawer === 'quantities'}<RatesPanel />{/if}
{#if answer && view && work.drawer === 'tables'}
	<h3 class="heading">
		{work.schedule.filtered ? `${definition.label} that pass the filters` : `All ${definition.many}`}
	</h3>
	<dl class="mt-1 grid grid-cols-[1fr_auto] gap-x-3 gap-y-1" class:opacity-60={work.runner.behind}>
		<dt class="text-soft">{definition.label}</dt>
		<dd class="figure text-right">{group(answer.order.length, 0)}</dd>
		{#each Object.entries(definition.columns) as [name, { label, total, quantity, meaning }] (name)}
			{#if total !== 'none'}
				<dt class="text-soft" title={meaning}>{total === 'greatest' ? `Greatest ${label.toLowerCase()}` : label}</dt>
				<dd class="figure text-right">{printFull(answer.totals[name] ?? NaN, quantity, unit)}</dd>
			{/if}
		{/each}
	</dl>
	<p class="mt-3 text-small text-soft">
		Click a heading to sort, its funnel to filter. Choose a row and the model shows the cell; shift or control adds to
		the choice.
	</p>
{/if}
<IssuePanel />

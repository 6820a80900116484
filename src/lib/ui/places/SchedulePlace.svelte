<script lang="ts">
	import { useWorkspace } from '$lib/editor/workspace.svelte.ts';
	import { PANEL_COLUMNS, PANEL_COLUMN_NAMES } from '$core/schedule/columns.ts';
	import { group, printFull } from '$core/units/print.ts';

	const work = useWorkspace();
	const unit = $derived(work.project.units);
	const answer = $derived(work.schedule.answer);
	const view = $derived(work.runner.view);
</script>

{#if answer && view}
	<h3 class="heading">{work.schedule.filtered ? 'Panels that pass the filters' : 'All panels'}</h3>
	<dl class="mt-1 grid grid-cols-[1fr_auto] gap-x-3 gap-y-1" class:opacity-60={work.runner.stale}>
		<dt class="text-soft">Panels</dt>
		<dd class="figure text-right">{group(answer.order.length, 0)}</dd>
		{#each PANEL_COLUMN_NAMES as name (name)}
			{@const { label, total, quantity, meaning } = PANEL_COLUMNS[name]}
			{#if total !== 'none'}
				<dt class="text-soft" title={meaning}>{total === 'greatest' ? `Greatest ${label.toLowerCase()}` : label}</dt>
				<dd class="figure text-right">{printFull(answer.totals[name], quantity, unit)}</dd>
			{/if}
		{/each}
	</dl>
	<p class="mt-3 text-small text-soft">
		Click a heading to sort, its funnel to filter. Choose a row and the model shows the cell; shift or control adds to
		the choice.
	</p>
{/if}

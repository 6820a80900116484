<script lang="ts">
	import { useWorkspace } from '$lib/editor/context.ts';
	import type { Spread } from '$core/readings/spread.ts';
	import { group, printFull } from '$core/units/print.ts';

	const work = useWorkspace();
	const readings = work.readings;
	const { quantity, host } = $derived(readings.reading);
	/** Readings whose sum means something. */
	const SUMMED: readonly string[] = ['cell.area', 'cell.perimeter', 'edge.length'];
	const summed = $derived(SUMMED.includes(readings.name));
	/** Of what goes around, mean and deviation would mean nothing. */
	const FIGURES = [
		['least', 'Least'],
		['mean', 'Mean'],
		['greatest', 'Greatest'],
		['deviation', 'Std. deviation']
	] as const;
	const HOSTS = { cell: 'Cells', edge: 'Edges', node: 'Nodes' };
	const rows = $derived([
		['count', HOSTS[host]],
		...(readings.scale.kinds
			? []
			: FIGURES.filter(([name]) => !readings.reading.cyclic || (name !== 'mean' && name !== 'deviation'))),
		...(summed ? ([['sum', 'Sum']] as const) : [])
	] as [keyof Spread, string][]);
	const print = (name: keyof Spread, value: number) =>
		name === 'count' ? group(value, 0) : printFull(value, quantity, work.project.units);
	const differ = (by: number, write: (by: number) => string) =>
		by === 0 || Number.isNaN(by) ? '–' : `${by > 0 ? '+' : '−'}${write(Math.abs(by))}`;
	const change = (name: keyof Spread) => {
		const before = readings.referenceSpread;
		if (!before) return '';
		return differ(readings.spread[name] - before[name], (by) => print(name, by));
	};

	const keep = () =>
		void readings.keepReference(`kept at ${new Date().toLocaleTimeString([], { hour: '2-digit', minute: '2-digit' })}`);
</script>

<table class="figure w-full text-small {work.runner.behind ? 'italic opacity-60' : ''}" data-testid="spread">
	<thead class="text-right font-sans text-soft">
		<tr>
			<th></th>
			{#if readings.referenceSpread}<th class="font-normal">Reference</th>{/if}
			<th class="font-normal">Now</th>
			{#if readings.referenceSpread}<th class="font-normal">Change</th>{/if}
		</tr>
	</thead>
	<tbody>
		{#each rows as [name, label] (name)}
			<tr class="border-t border-rule">
				<th class="text-left font-sans font-normal text-soft">{label}</th>
				{#if readings.referenceSpread}<td class="text-right">{print(name, readings.referenceSpread[name])}</td>{/if}
				<td class="text-right" data-figure={name}>{print(name, readings.spread[name])}</td>
				{#if readings.referenceSpread}<td class="text-right">{change(name)}</td>{/if}
			</tr>
		{/each}
		{#each readings.scale.kinds ?? [] as kind, k (k)}
			<tr class="border-t border-rule">
				<th class="text-left font-sans font-normal text-soft">{kind}</th>
				{#if readings.referenceCounts}<td class="text-right">{group(readings.referenceCounts[k] ?? 0, 0)}</td>{/if}
				<td class="text-right">{group(readings.counts[k]!, 0)}</td>
				{#if readings.referenceCounts}<td class="text-right"
						>{differ(readings.counts[k]! - (readings.referenceCounts[k] ?? 0), (x) => group(x, 0))}</td
					>{/if}
			</tr>
		{/each}
	</tbody>
</table>
{#if readings.spread.none > 0}<p class="text-least text-soft">
		{group(readings.spread.none, 0)} have no such reading.
	</p>{/if}
<div class="mt-1 flex gap-1.5">
	<button
		class="button text-small"
		title="Keep the present state of all readings, to compare later ones with"
		onclick={keep}>{readings.referenceName ? 'Keep anew' : 'Keep as reference'}</button
	>
	{#if readings.referenceName}<button class="button text-small" onclick={() => readings.dropReference()}
			>Forget it</button
		>{/if}
</div>

<script lang="ts">
	import { cellsOfHosts } from '$lib/editor/hosts.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import { READING_NAMES, READINGS, type ReadingName } from '$core/readings/faceReadings.ts';
	import { classOf } from '$core/readings/spread.ts';
	import { group } from '$core/units/print.ts';
	import NumberField from '../NumberField.svelte';
	import Histogram from './Histogram.svelte';
	import SpreadTable from './SpreadTable.svelte';
	import WorstList from './WorstList.svelte';

	/** Cells that are chosen at once. */
	const MOST_CHOSEN = 5000;
	const GROUPS = [
		['cell', 'Cells'],
		['edge', 'Edges'],
		['node', 'Nodes']
	] as const;
	const work = useWorkspace();
	const readings = work.readings;
	const unit = $derived(work.project.units);
	const kinds = $derived(readings.scale.kinds !== undefined);
	let note = $state<string>();

	function chooseBar(bar: number, add: boolean) {
		const view = work.runner.view;
		if (!view) return;
		const { from, to } = readings.scale;
		const cells = readings.faces.flatMap(({ index, face, values }) => {
			const hosts: number[] = [];
			for (let h = 0; h < values.length; h++) if (classOf(values[h]!, from, to, readings.bars) === bar) hosts.push(h);
			return cellsOfHosts(face, readings.reading.host, hosts).map((cell) => ({ face: index, cell }));
		});
		note =
			cells.length > MOST_CHOSEN
				? `${group(MOST_CHOSEN, 0)} of ${group(cells.length, 0)} cells are chosen.`
				: undefined;
		work.selection.chooseAll(view, cells.slice(0, MOST_CHOSEN), add);
	}
	/** Takes a limit of the scale, unless it would turn it over. */
	function limit(side: 'from' | 'to', value: number): string | undefined {
		const other = side === 'from' ? readings.scale.to : readings.scale.from;
		if (side === 'from' ? value >= other : value <= other)
			return `must be ${side === 'from' ? 'below the upper' : 'above the lower'} limit`;
		readings[side] = value;
		return undefined;
	}
	function setSteps(value: number): string | undefined {
		if (!Number.isInteger(value) || value < 0 || value > 32 || value === 1) return 'must be 0 for none, or 2 to 32';
		readings.steps = value;
		return undefined;
	}
</script>

<div class="grid min-h-0 grow grid-cols-[224px_minmax(0,1fr)_300px_216px] gap-x-4 px-3.5 py-2" data-testid="readings">
	<div class="overflow-auto pr-1">
		<label class="block"
			><span class="sr-only">Reading</span>
			<select
				class="field"
				title={readings.reading.meaning}
				value={readings.name}
				onchange={(e) => readings.choose(e.currentTarget.value as ReadingName)}
			>
				{#each GROUPS as [host, label] (host)}
					<optgroup {label}>
						{#each READING_NAMES.filter((n) => READINGS[n].host === host) as name (name)}<option value={name}
								>{READINGS[name].label}</option
							>{/each}
					</optgroup>
				{/each}
			</select>
		</label>
		<div class="my-1.5 grid grid-cols-[96px_1fr] items-center gap-x-2">
			<label class="flex items-center gap-1.5" title="The model and the developed view are coloured by this reading"
				><input type="checkbox" class="accent-patina" bind:checked={readings.coloured} />Colour</label
			>
			<select class="field" aria-label="Faces" bind:value={readings.scope}
				><option value="face">chosen face</option><option value="all">all shown</option></select
			>
		</div>
		{#if !kinds}
			{#if !readings.reading.cyclic}
				<label
					class="my-1 grid grid-cols-[96px_1fr] items-center gap-x-2"
					title="Even from dark to light, or away from a neutral middle"
					><span class="text-soft">Colours</span>
					<select class="field" bind:value={readings.look}
						><option value="even">dark to light</option><option value="diverging">about a middle</option></select
					>
				</label>
			{/if}
			<NumberField
				label="Steps"
				help="So many colours; 0 for a smooth scale"
				quantity="count"
				{unit}
				value={readings.steps}
				onpreview={setSteps}
				oncommit={setSteps}
				onrevert={() => undefined}
			/>
			{#if readings.spread.count}
				{#each [['from', 'From'], ['to', 'To']] as const as [side, label] (side)}
					<NumberField
						{label}
						help="Values beyond have the colour at the end of the scale"
						quantity={readings.reading.quantity}
						{unit}
						value={readings.scale[side]}
						onpreview={(v) => limit(side, v)}
						oncommit={(v) => limit(side, v)}
						onrevert={() => undefined}
					/>
				{/each}
				<button
					class="button w-full justify-center text-small"
					title="From the least to the greatest value"
					disabled={readings.from === undefined && readings.to === undefined}
					onclick={() => (readings.from = readings.to = undefined)}>Whole range</button
				>
			{/if}
		{/if}
	</div>
	<div class="flex min-h-0 min-w-0 flex-col">
		<p class="truncate text-small" title={readings.reading.meaning}>
			<strong>{readings.reading.label}</strong> <span class="text-soft">{readings.reading.meaning}</span>
		</p>
		<Histogram onbar={chooseBar} />
		{#if note}<p class="text-least text-ochre-ink" role="status">{note}</p>{/if}
	</div>
	<div class="overflow-auto"><SpreadTable /></div>
	<div class="flex min-h-0 flex-col"><WorstList /></div>
</div>

<script lang="ts">
	import { useWorkspace } from '$lib/editor/context.ts';
	import { group, printFull } from '$core/units/print.ts';
	import type { Range } from '$core/view/faceView.ts';
	import BordersPanel from '../settingout/BordersPanel.svelte';
	import LayerField from '../settingout/LayerField.svelte';
	import DirectionPanel from '../settingout/DirectionPanel.svelte';
	import PathNumber from '../PathNumber.svelte';
	import PathSwitch from '../PathSwitch.svelte';
	import OpeningsPanel from '../settingout/OpeningsPanel.svelte';

	const work = useWorkspace();
	const view = $derived(work.face.view);
	const unit = $derived(work.project.units);

	const span = (a: Range, b: Range) => {
		const least = printFull(Math.min(a[0], b[0]), 'length', unit);
		const greatest = printFull(Math.max(a[1], b[1]), 'length', unit);
		return least === greatest ? least : `${least} to ${greatest}`;
	};
</script>

{#if work.flat.layout === 'off'}
	<button
		class="button mb-2 w-full justify-center"
		title="The face laid flat beside the model (D)"
		onclick={() => (work.flat.layout = 'beside')}>Open the developed view</button
	>
{/if}
<DirectionPanel name="across" />
<DirectionPanel name="up" />
{#if view}
	<div
		class="mt-3 rounded border border-rule bg-paper px-2.5 py-2 {work.runner.behind ? 'italic opacity-60' : ''}"
		data-testid="setting-out-figures"
	>
		<p class="figure font-semibold">{group(view.cellCount, 0)} cells</p>
		{#if view.trim}
			<p class="figure text-small">
				{group(view.counts.whole, 0)} whole, {group(view.counts.cut, 0)} cut, {group(view.counts.lost, 0)} lost
			</p>
		{/if}
		<dl class="mt-1 grid grid-cols-[auto_1fr] gap-x-3 text-small">
			<dt class="text-soft">Across</dt>
			<dd class="figure">{span(view.ranges.edge1, view.ranges.edge3)}</dd>
			<dt class="text-soft">Up</dt>
			<dd class="figure">{span(view.ranges.edge2, view.ranges.edge4)}</dd>
			<dt class="text-soft">Warp</dt>
			<dd class="figure">up to {printFull(view.ranges.warp[1], 'length', unit)}</dd>
		</dl>
	</div>
{/if}
<details class="mt-2">
	<summary class="text-small text-soft hover:text-patina">Whole grid: turn, fair, layer</summary>
	<PathSwitch
		of="face"
		path={['settingOut', 'swap']}
		label="Swap across and up"
		help="The face is turned by a quarter: what ran up runs across"
	/>
	<PathNumber
		of="face"
		path={['settingOut', 'turn']}
		label="Turn"
		quantity="angle"
		help="Turns the grid about the middle of the flat face; the border cuts it"
	/>
	<PathNumber
		of="face"
		path={['settingOut', 'fair']}
		label="Fair rounds"
		quantity="count"
		help="Evens out lengths and angles on strongly curved faces; borders stay on borders"
	/>
	<LayerField />
</details>
<OpeningsPanel />
<BordersPanel />

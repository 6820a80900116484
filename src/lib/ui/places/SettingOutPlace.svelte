<script lang="ts">
	import { useWorkspace } from '$lib/editor/workspace.svelte.ts';
	import { group, printFull } from '$core/units/print.ts';
	import type { Range } from '$lib/worker/modelView.ts';
	import NumberField from '../NumberField.svelte';

	const work = useWorkspace();
	const face = $derived(work.current!.face);
	const view = $derived(work.currentView);
	const unit = $derived(work.project.units);

	const DIRECTIONS = [
		{ name: 'across', label: 'Across', help: 'Equal divisions by true length along each row' },
		{ name: 'up', label: 'Up', help: 'Equal divisions by true length along each column' }
	] as const;

	const setCount = (name: 'across' | 'up', count: number) =>
		work.onFace((f) => (f.settingOut[name].count = count));
	const span = (a: Range, b: Range) => {
		const least = printFull(Math.min(a[0], b[0]), 'length', unit);
		const greatest = printFull(Math.max(a[1], b[1]), 'length', unit);
		return least === greatest ? least : `${least} to ${greatest}`;
	};
</script>

{#each DIRECTIONS as { name, label, help } (name)}
	<h3 class="heading mt-2">{label}</h3>
	<NumberField
		label="Divisions"
		{help}
		value={face.settingOut[name].count}
		quantity="count"
		{unit}
		onpreview={(v) => work.editor.preview(setCount(name, v))}
		oncommit={(v) => work.editor.commit(`Change divisions ${name}`, setCount(name, v))}
		onrevert={() => work.editor.revert()}
	/>
{/each}
{#if view}
	<div
		class="mt-3 rounded border border-rule bg-paper px-2.5 py-2 {work.runner.stale ? 'italic opacity-60' : ''}"
		data-testid="setting-out-figures"
	>
		<p class="figure font-semibold">{group(view.cellCount, 0)} cells</p>
		<dl class="mt-1 grid grid-cols-[auto_1fr] gap-x-3 text-small">
			<dt class="text-soft">Across</dt>
			<dd class="figure">{span(view.ranges.edge1, view.ranges.edge3)}</dd>
			<dt class="text-soft">Up</dt>
			<dd class="figure">{span(view.ranges.edge2, view.ranges.edge4)}</dd>
			<dt class="text-soft">Warp</dt>
			<dd class="figure">up to {printFull(view.ranges.warp[1], 'length', unit)}</dd>
		</dl>
	</div>
	<p class="mt-2 text-small text-soft">
		Spaced evenly by true length, not by the parameter of the surface: each node divides the row and the
		column through it in the shares asked for.
	</p>
{/if}

<script lang="ts">
	import { useWorkspace } from '$lib/editor/context.ts';
	import { group } from '$core/units/print.ts';
	import { sliversOf } from '$lib/editor/slivers.ts';
	import PathChoice from '../PathChoice.svelte';
	import PathNumber from '../PathNumber.svelte';

	const work = useWorkspace();
	const view = $derived(work.face.view);
	const slivers = $derived(view ? sliversOf(view) : []);

	function show() {
		const model = work.runner.view!;
		const face = model.faces.indexOf(view!);
		work.selection.chooseAll(
			model,
			slivers.map((cell) => ({ face, cell }))
		);
	}
</script>

<section class="mt-3 border-t border-rule pt-2" aria-labelledby="borders-heading">
	<h3 id="borders-heading" class="heading">Cut cells</h3>
	<PathNumber
		of="face"
		path={['borders', 'leastWidth']}
		label="Least width"
		quantity="length"
		help="A cut cell narrower than this is a sliver"
	/>
	<PathNumber
		of="face"
		path={['borders', 'leastArea']}
		label="Least area"
		quantity="area"
		help="A cut cell smaller than this is a sliver"
	/>
	<PathChoice
		of="face"
		path={['borders', 'slivers']}
		label="Slivers"
		help="What becomes of cut cells that are too small"
		options={[
			['mark', 'are marked'],
			['merge', 'join their neighbour'],
			['drop', 'are left out']
		]}
	/>
	<PathNumber
		of="face"
		path={['borders', 'snap']}
		label="Snap nodes"
		quantity="length"
		help="Nodes this near to an outline move onto it; 0 for none"
	/>
	{#if view?.trim}
		<p class="text-small text-soft">
			{#if view.trim.merged}{group(view.trim.merged, 0)} joined a neighbour.{/if}
			{#if view.trim.dropped}{group(view.trim.dropped, 0)} left out.{/if}
			{#if slivers.length}
				<span class="text-ochre-ink">{group(slivers.length, 0)} {slivers.length === 1 ? 'sliver' : 'slivers'}.</span>
				<button class="text-patina underline" onclick={show}>Show them</button>
			{/if}
		</p>
	{/if}
</section>

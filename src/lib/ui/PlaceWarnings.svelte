<script lang="ts">
	import TriangleAlert from '@lucide/svelte/icons/triangle-alert';
	import { useWorkspace } from '$lib/editor/context.ts';
	import { warningsOf } from '$lib/editor/placeStates.ts';

	/** Cells lit up at once. */
	const MOST_SHOWN = 2000;
	const work = useWorkspace();
	const warnings = $derived(warningsOf(work.place, work.warnings));

	/** Chooses the cells that a warning is about, so that they light up. */
	function show(face: string, cells: readonly number[]) {
		const view = work.runner.view!;
		const index = view.faces.findIndex((f) => f.key === face);
		const shown = cells.slice(0, MOST_SHOWN).map((cell) => ({ face: index, cell }));
		work.selection.chooseAll(view, shown);
		work.space?.fit(work.selection.addresses(view));
	}
</script>

{#each warnings as { face, message, cells, multiples, once } (face + message)}
	<div class="mt-3 flex gap-2 rounded border border-ochre bg-paper px-2.5 py-2 text-small" role="status">
		<TriangleAlert size={14} class="mt-0.5 shrink-0 text-ochre" />
		<p>
			<strong>{work.runner.view?.faces.find((f) => f.key === face)?.name ?? face}:</strong>
			{message}
			{#if cells.length}
				<button class="text-patina underline" onclick={() => show(face, cells)}>Show them</button>
			{/if}
			{#if multiples}
				<button
					class="text-patina underline"
					title="Counts go up to the next multiple that fits"
					onclick={() => work.fitCounts(face, multiples)}>Fit the counts</button
				>
			{/if}
			{#if once}
				<button
					class="text-patina underline"
					title="A rule before them leaves to the earlier face what stands beside it"
					onclick={() => work.placeOnce(once)}>Place it once</button
				>
			{/if}
		</p>
	</div>
{/each}

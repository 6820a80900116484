<script lang="ts">
	import { useWorkspace } from '$lib/editor/context.ts';
	import FieldRange from '../FieldRange.svelte';
	import PathChoice from '../PathChoice.svelte';
	import PathNumber from '../PathNumber.svelte';

	const work = useWorkspace();
	const tiling = $derived(work.face.current!.face.tiling);
	const grading = $derived(tiling.kind === 'voronoi' ? tiling.grading : undefined);
	const fields = $derived(work.project.fields);
	const size = $derived(tiling.kind === 'voronoi' ? tiling.size : 0);
	const graded = $derived({ reach: Math.round(size * 6), share: 0.5 });
	/** The middle of the face laid flat is where a point or a line begins. */
	const middle = $derived.by((): [number, number] => {
		const box = work.flat.view?.key === work.face.current?.key ? work.flat.view?.bounds : undefined;
		return box ? [Math.round((box[0] + box[2]) / 2), Math.round((box[1] + box[3]) / 2)] : [0, 0];
	});
	const options = $derived([
		[{ kind: 'even' }, 'everywhere alike'],
		[{ kind: 'point', x: middle[0], y: middle[1], ...graded }, 'smaller near a point'],
		[{ kind: 'line', points: [middle, [middle[0] + size, middle[1]]], ...graded }, 'smaller near a line'],
		...(fields.length ? [[{ kind: 'field', field: fields[0]!.id, from: 0.5, to: 1.5 }, 'by a field'] as const] : [])
	] as const);

	function draw() {
		if (work.flat.layout === 'off') work.flat.layout = 'beside';
		work.flat.lineFor = 'grading';
		work.flat.tool = 'line';
	}
</script>

<PathChoice
	of="face"
	path={['tiling', 'grading']}
	label="Sizes"
	help="Where cells are smaller than elsewhere"
	{options}
/>
{#if grading?.kind === 'field'}
	<FieldRange
		path={['tiling', 'grading']}
		quantity="ratio"
		what="Size of cells, as a share of the mean one,"
		note="; those of readings or painted on cells come too late for this"
	/>
{:else if grading && grading.kind !== 'even'}
	<button class="button my-1 w-full justify-center" onclick={draw}
		>{grading.kind === 'point' ? 'Click the point' : 'Draw the line'} on the developed view</button
	>
	{#if grading.kind === 'point'}
		<PathNumber
			of="face"
			path={['tiling', 'grading', 'x']}
			label="Point across"
			quantity="length"
			help="On the developed view, from its left"
		/>
		<PathNumber
			of="face"
			path={['tiling', 'grading', 'y']}
			label="Point up"
			quantity="length"
			help="On the developed view, from its foot"
		/>
	{/if}
	<PathNumber
		of="face"
		path={['tiling', 'grading', 'reach']}
		label="Reach"
		quantity="length"
		step={100}
		help="How far from there cells are smaller"
	/>
	<PathNumber
		of="face"
		path={['tiling', 'grading', 'share']}
		label="Size there"
		quantity="ratio"
		help="Size of cells there, as a share of the others"
	/>
{/if}

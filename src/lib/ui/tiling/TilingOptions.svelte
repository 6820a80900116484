<script lang="ts">
	import { useEditing } from '$lib/editor/context.ts';
	import PathChoice from '../PathChoice.svelte';
	import PathNumber from '../PathNumber.svelte';
	import GradingFields from './GradingFields.svelte';

	const work = useEditing();
	const tiling = $derived(work.face.current!.face.tiling);
	const BORDERS = [
		['cut', 'cut them'],
		['whole', 'leave them out']
	] as const;
	const border = $derived(
		tiling.kind === 'diamonds'
			? ([
					['cut', 'one triangle'],
					['halves', 'two half triangles'],
					['whole', 'leave them out']
				] as const)
			: BORDERS
	);
</script>

{#snippet seed()}
	<PathNumber
		of="face"
		path={['tiling', 'seed']}
		label="Seed"
		quantity="count"
		help="Another number gives another division; the same number always the same"
	/>
{/snippet}

{#if tiling.kind === 'running-bond'}
	<PathNumber
		of="face"
		path={['tiling', 'offset']}
		label="Offset"
		quantity="ratio"
		help="How far every second row is moved, as a share of a field"
	/>
{:else if tiling.kind === 'rhomb'}
	<PathNumber
		of="face"
		path={['tiling', 'fields']}
		label="Leans by"
		quantity="count"
		help="Fields that the lines move across"
	/>
	<PathNumber of="face" path={['tiling', 'rows']} label="in rows" quantity="count" help="Rows in which they do" />
{:else if tiling.kind === 'part'}
	<PathChoice
		of="face"
		path={['tiling', 'pattern']}
		label="Pattern"
		help="Which fields are meant"
		options={[
			['checker', 'checkerboard'],
			['columns', 'columns'],
			['rows', 'rows']
		]}
	/>
	{#if tiling.pattern !== 'checker'}<PathNumber
			of="face"
			path={['tiling', 'every']}
			label="Every"
			quantity="count"
			help="2 for every second, 3 for every third"
		/>{/if}
	<PathChoice
		of="face"
		path={['tiling', 'filled']}
		label="These are"
		help="Whether the fields meant are left open, or the others"
		options={[
			[false, 'left open'],
			[true, 'filled']
		]}
	/>
{:else if tiling.kind === 'triangles'}
	<PathChoice
		of="face"
		path={['tiling', 'diagonal']}
		label="Diagonal"
		help="Which way each field is parted"
		options={[
			['rising', 'rising'],
			['falling', 'falling'],
			['alternating', 'alternating'],
			['shorter', 'the shorter'],
			['flatter', 'the flatter surface']
		]}
	/>
{:else if tiling.kind === 'octagons'}
	<PathNumber
		of="face"
		path={['tiling', 'corner']}
		label="Square"
		quantity="ratio"
		help="Half the diagonal of the small squares, as a share of a field; all sides are alike at 29.3 %"
	/>
{:else if tiling.kind === 'herringbone' || tiling.kind === 'basket-weave'}
	<PathNumber of="face" path={['tiling', 'length']} label="Length" quantity="count" help="Fields that a cell is long" />
{:else if tiling.kind === 'undulating'}
	<PathNumber
		of="face"
		path={['tiling', 'rise']}
		label="Rise"
		quantity="ratio"
		help="How far the lines rise and fall, as a share of a row"
	/>
{:else if tiling.kind === 'random'}
	<PathNumber
		of="face"
		path={['tiling', 'leastAcross']}
		label="Least across"
		quantity="count"
		help="Fields that a cell has across at least"
	/>
	<PathNumber
		of="face"
		path={['tiling', 'leastUp']}
		label="Least up"
		quantity="count"
		help="Fields that a cell has up at least"
	/>
	<PathNumber
		of="face"
		path={['tiling', 'mostAcross']}
		label="Most across"
		quantity="count"
		help="Fields that a cell has across at most"
	/>
	<PathNumber
		of="face"
		path={['tiling', 'mostUp']}
		label="Most up"
		quantity="count"
		help="Fields that a cell has up at most"
	/>
	{@render seed()}
{:else if tiling.kind === 'voronoi'}
	<PathNumber
		of="face"
		path={['tiling', 'size']}
		label="Cell size"
		quantity="length"
		step={50}
		help="Mean side of a cell"
	/>
	<PathNumber
		of="face"
		path={['tiling', 'rounds']}
		label="Even out"
		quantity="count"
		help="Rounds of moving each point to the middle of its cell"
	/>
	<PathNumber
		of="face"
		path={['tiling', 'rounding']}
		label="Rounding"
		quantity="ratio"
		help="How far corners are rounded, as a share of the way to the middle of a side"
	/>
	<GradingFields />
	{@render seed()}
{:else if tiling.kind === 'icosahedral'}
	<PathNumber
		of="face"
		path={['tiling', 'frequency']}
		label="Frequency"
		quantity="count"
		help="Parts that each side of the icosahedron is divided into"
	/>
{/if}
{#if 'border' in tiling}
	<PathChoice
		of="face"
		path={['tiling', 'border']}
		label="At borders"
		help="What becomes of cells that reach over a border of the face"
		options={border}
	/>
{/if}

import { FRESH_ARRAYS } from '../../src/core/arrays.ts';
import type { Surface } from '../../src/core/geometry/surface.ts';
import { measureCells } from '../../src/core/readings/measureCells.ts';
import { FaceReadings } from '../../src/core/readings/faceReadings.ts';
import { chartFace } from '../../src/core/settingout/chartedFace.ts';
import type { ChartedFace } from '../../src/core/settingout/development.ts';
import { setOut, type NodeTable } from '../../src/core/settingout/nodes.ts';
import { settingOutOf } from '../../src/core/settingout/spacing.ts';
import type { CellTable } from '../../src/core/tiling/cells.ts';
import { tilingSchema, type Tiling, type TilingKind } from '../../src/core/tiling/schema.ts';
import { tileFace, type OwnTiling } from '../../src/core/tiling/tile.ts';
import { count } from './divide.ts';

/** Every kind of tiling but a project's own, as it is when nothing is set. */
export const ALL_TILINGS: readonly Tiling[] = (
	[
		'rectangular',
		'running-bond',
		'rhomb',
		'part',
		'triangles',
		'staggered',
		'fans',
		'diamonds',
		'hexagons',
		'trihexagons',
		'octagons',
		'dodecagons',
		'snub-square',
		'rhombs',
		'pentagons',
		'herringbone',
		'basket-weave',
		'undulating',
		'turned-inside',
		'two-squares',
		'mixed-squares',
		'random',
		'voronoi',
		'icosahedral'
	] satisfies TilingKind[]
).map((kind) => tilingSchema.parse({ kind }));

export type TilingInput = { kind: TilingKind } & Record<string, unknown>;

export interface Tiled {
	readonly nodes: NodeTable;
	readonly cells: CellTable;
	readonly all: FaceReadings;
}

const known = new WeakMap<Surface, ChartedFace>();

/** A surface measured once, however many tests divide it. */
export function charted(surface: Surface): ChartedFace {
	const face = known.get(surface) ?? chartFace(surface);
	known.set(surface, face);
	return face;
}

/** A surface divided evenly and tiled. */
export function tile(
	surface: Surface,
	across: number,
	up: number,
	tiling: TilingInput,
	own: readonly OwnTiling[] = [],
	arrays = FRESH_ARRAYS
): Tiled {
	const face = charted(surface);
	const laid = setOut(face, settingOutOf(count(across), count(up)), [], arrays);
	const { nodes = laid.nodes, cells } = tileFace(face, laid, tilingSchema.parse(tiling), own, arrays);
	const readings = measureCells(nodes, cells, arrays);
	return { nodes, cells, all: new FaceReadings({ surface, nodes, cells, readings }) };
}

/** V - E + F over the nodes that cells have. */
export const eulerNumber = ({ count: cells, corners, edgeCount }: CellTable) =>
	new Set(corners).size - edgeCount + cells;

export const sum = (values: Iterable<number>) => [...values].reduce((a, b) => a + b, 0);

import type { Face } from '../../core/project/schema.ts';
import { tilingSchema, type Tiling, type TilingKind } from '../../core/tiling/schema.ts';

interface TilingWords {
	readonly label: string;
	readonly help: string;
	readonly group: 'Four corners' | 'Three corners' | 'Five corners and more' | 'Two sizes' | 'Irregular' | 'Own';
}

/** Every kind of tiling in the order of the gallery, each with what it does. */
export const TILINGS: Readonly<Record<TilingKind, TilingWords>> = {
	rectangular: { label: 'Rectangular', help: 'One cell a field of the grid', group: 'Four corners' },
	'running-bond': {
		label: 'Running bond',
		help: 'Every second row is moved by part of a field',
		group: 'Four corners'
	},
	rhomb: { label: 'Rhombs', help: 'Cells lean by so many fields in so many rows', group: 'Four corners' },
	part: {
		label: 'Part filling',
		help: 'Every second cell, or every n-th column or row, is left open',
		group: 'Four corners'
	},
	diamonds: { label: 'Diamonds', help: 'Cells stand on a corner, two fields wide and high', group: 'Four corners' },
	herringbone: { label: 'Herringbone', help: 'Long cells lie and stand in turn', group: 'Four corners' },
	'basket-weave': { label: 'Basket weave', help: 'Groups of long cells lie and stand in turn', group: 'Four corners' },
	undulating: { label: 'Undulating rows', help: 'Rows rise and fall from line to line', group: 'Four corners' },
	rhombs: {
		label: 'Three rhombs',
		help: 'Rhombs in three directions, three or six about a node',
		group: 'Four corners'
	},
	triangles: { label: 'Triangles', help: 'A diagonal in every field', group: 'Three corners' },
	staggered: {
		label: 'Staggered triangles',
		help: 'Near-equal sides, every second row moved by half a field',
		group: 'Three corners'
	},
	fans: { label: 'Four about the centre', help: 'Four triangles in every field', group: 'Three corners' },
	icosahedral: {
		label: 'Icosahedral',
		help: 'For balls and domes: the sides of an icosahedron in so many parts',
		group: 'Three corners'
	},
	pentagons: { label: 'Five-cornered', help: 'Pentagons lying in two directions', group: 'Five corners and more' },
	hexagons: { label: 'Hexagons', help: 'Three about each node', group: 'Five corners and more' },
	trihexagons: {
		label: 'Hexagons and triangles',
		help: 'Two of each about a node (3.6.3.6)',
		group: 'Five corners and more'
	},
	octagons: {
		label: 'Octagons and squares',
		help: 'Two octagons and a square about a node (4.8.8)',
		group: 'Five corners and more'
	},
	dodecagons: {
		label: 'Dodecagons and triangles',
		help: 'Two dodecagons and a triangle about a node (3.12.12)',
		group: 'Five corners and more'
	},
	'snub-square': {
		label: 'Squares and triangles',
		help: 'Three triangles and two squares about a node (3.3.4.3.4)',
		group: 'Five corners and more'
	},
	'turned-inside': {
		label: 'Four within one',
		help: 'A large square holds four small turned ones',
		group: 'Two sizes'
	},
	'two-squares': { label: 'Two squares', help: 'A large and a small square in turn', group: 'Two sizes' },
	'mixed-squares': { label: 'Mixed squares', help: 'Squares of two sizes in one unit', group: 'Two sizes' },
	random: { label: 'Random division', help: 'Fields thrown together at random, by a seed', group: 'Irregular' },
	voronoi: { label: 'Voronoi', help: 'Each cell is nearest to its own point; points by a seed', group: 'Irregular' },
	own: { label: 'Own tiling', help: 'A repeating unit of this project', group: 'Own' }
};

export const TILING_GROUPS = [
	'Four corners',
	'Three corners',
	'Five corners and more',
	'Two sizes',
	'Irregular'
] as const;
export const kindsOf = (group: (typeof TILING_GROUPS)[number]) =>
	(Object.keys(TILINGS) as TilingKind[]).filter((k) => TILINGS[k].group === group);

/** A tiling of a kind as it is when nothing is set. */
export const tilingOfKind = (kind: Exclude<TilingKind, 'own'>): Tiling => tilingSchema.parse({ kind });

/** Voronoi cells of a face are small at a point, or along a line, of its developed view. */
export function gradeAt({ tiling }: Face, points: readonly (readonly [number, number])[]): void {
	if (tiling.kind !== 'voronoi') return;
	const { grading } = tiling;
	if (grading.kind === 'point') [grading.x, grading.y] = points[0]!;
	if (grading.kind === 'line') grading.points = points.map(([x, y]) => [x, y]);
}

/** The name of a face's tiling. */
export function tilingName(tiling: Tiling, own: readonly { readonly id: string; readonly name: string }[]): string {
	return tiling.kind === 'own'
		? (own.find((t) => t.id === tiling.tiling)?.name ?? tiling.tiling)
		: TILINGS[tiling.kind].label;
}

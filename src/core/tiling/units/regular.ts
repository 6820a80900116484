import { atan2, cos, hypot, sin } from '../../elementary/index.ts';
import type { TilingUnit, UnitPoint } from './unit.ts';
import { SAME_FIELD } from '../../tolerances.ts';

/**
 * Tilings by regular polygons and their like, on the fields of a grid. Those of triangular order have equal sides and
 * angles where a field is 0.866 (half the root of 3) times as high as wide, the others where fields are square.
 * Source: Grünbaum and Shephard, Tilings and Patterns, 1987 (from memory).
 */

/** Height of a row of a triangular lattice whose points are 1 apart. */
const ROW = Math.sqrt(3) / 2;

/** Corners of a polygon about a centre, given in true lengths, as fields. */
const corners = (cx: number, cy: number, radius: number, degrees: readonly number[]): [number, number][] =>
	degrees.map((d) => [cx + radius * cos((d * Math.PI) / 180), cy + (radius * sin((d * Math.PI) / 180)) / ROW]);

/** Centres of the two rows of a unit of triangular order. */
const CENTRES: readonly UnitPoint[] = [
	[0.5, 0.5],
	[1, 1.5]
];
const HEXAGON = [-90, -30, 30, 90, 150, 210];

/** 6.6.6 */
export const hexagons = (): TilingUnit => ({
	width: 1,
	height: 2,
	open: false,
	cells: CENTRES.map(([x, y]) => ({ role: 'hexagon', corners: corners(x, y, 0.5 / ROW, HEXAGON) }))
});

/** Three rhombs in each hexagon. */
export const rhombs = (): TilingUnit => ({
	width: 1,
	height: 2,
	open: false,
	cells: CENTRES.flatMap(([x, y]) => {
		const around = corners(x, y, 0.5 / ROW, HEXAGON);
		return ['lower end', 'upper', 'lower start'].map((role, k) => {
			const first = [0, 2, 4][k]!;
			return { role, corners: [[x, y], ...[0, 1, 2].map((i) => around[(first + i) % 6]!)] as [number, number][] };
		});
	})
});

/** 3.6.3.6 */
export const trihexagons = (): TilingUnit => ({
	width: 1,
	height: 2,
	open: false,
	cells: CENTRES.flatMap(([x, y]) => [
		{ role: 'hexagon', corners: corners(x, y, 0.5, [0, 60, 120, 180, 240, 300]) },
		{
			role: 'point up',
			corners: [
				[x + 0.5, y],
				[x + 0.75, y + 0.5],
				[x + 0.25, y + 0.5]
			] as [number, number][]
		},
		{
			role: 'point down',
			corners: [
				[x + 0.5, y],
				[x + 0.25, y - 0.5],
				[x + 0.75, y - 0.5]
			] as [number, number][]
		}
	])
});

/** 3.12.12 */
export const dodecagons = (): TilingUnit => {
	const radius = 0.5 / cos(Math.PI / 12);
	return {
		width: 1,
		height: 2,
		open: false,
		cells: CENTRES.flatMap(([x, y]) => {
			const [east] = corners(x + 1, y, radius, [135]);
			const [below] = corners(x + 1, y, radius, [225]);
			return [
				{
					role: 'dodecagon',
					corners: corners(
						x,
						y,
						radius,
						Array.from({ length: 12 }, (_, k) => 15 + 30 * k)
					)
				},
				{ role: 'triangle', corners: [...corners(x, y, radius, [15]), east!, ...corners(x, y, radius, [45])] },
				{ role: 'triangle', corners: [...corners(x, y, radius, [-15]), ...corners(x, y, radius, [-45]), below!] }
			];
		})
	};
};

/** 4.8.8: octagons, and squares of a half diagonal of so many fields on the nodes. */
export const octagons = (corner: number): TilingUnit => ({
	width: 1,
	height: 1,
	open: false,
	cells: [
		{
			role: 'octagon',
			corners: [
				[corner, 0],
				[1 - corner, 0],
				[1, corner],
				[1, 1 - corner],
				[1 - corner, 1],
				[corner, 1],
				[0, 1 - corner],
				[0, corner]
			]
		},
		{
			role: 'square',
			corners: [
				[0, -corner],
				[corner, 0],
				[0, corner],
				[-corner, 0]
			]
		}
	]
});

/** Octagons and squares with equal sides. */
export const EVEN_OCTAGON = 1 / (2 + Math.SQRT2);

/** Vertices of 3.3.4.3.4 in a unit of 1: those of the squares about (0, 0) and (1/2, 1/2) that have equal sides with the triangles between. */
const X = (Math.sqrt(3) - 1) / 4;
const A: UnitPoint = [X, 0.5 + X];
const B: UnitPoint = [-X, 0.5 - X];
const C: UnitPoint = [0.5 - X, X];
const D: UnitPoint = [0.5 + X, -X];
const by = ([x, y]: UnitPoint, dx: number, dy: number): UnitPoint => [x + dx, y + dy];
const SNUB: readonly { role: string; corners: readonly UnitPoint[] }[] = [
	{ role: 'square', corners: [B, C, by(A, 0, -1), by(D, -1, 0)] },
	{ role: 'square', corners: [A, by(D, 0, 1), by(B, 1, 0), C] },
	{ role: 'triangle', corners: [A, B, C] },
	{ role: 'triangle', corners: [A, B, by(D, -1, 1)] },
	{ role: 'triangle', corners: [C, D, by(B, 1, 0)] },
	{ role: 'triangle', corners: [C, D, by(A, 0, -1)] }
];
const doubled = ([x, y]: UnitPoint): [number, number] => [2 * x, 2 * y];

/** 3.3.4.3.4, in units of two by two fields. */
export const snubSquare = (): TilingUnit => ({
	width: 2,
	height: 2,
	open: false,
	cells: SNUB.map(({ role, corners }) => ({ role, corners: corners.map(doubled) }))
});

/** Five-cornered cells about the vertices of 3.3.4.3.4: the corners of each are the middles of the polygons that meet there. */
export const cairo = (): TilingUnit => ({
	width: 2,
	height: 2,
	open: false,
	cells: [A, B, C, D].map((vertex) => {
		const around: { at: UnitPoint; way: number }[] = [];
		for (const { corners } of SNUB)
			for (const dx of [-1, 0, 1])
				for (const dy of [-1, 0, 1]) {
					if (!corners.some(([x, y]) => hypot(x + dx - vertex[0], y + dy - vertex[1]) < SAME_FIELD)) continue;
					const at: UnitPoint = [
						corners.reduce((s, p) => s + p[0], 0) / corners.length + dx,
						corners.reduce((s, p) => s + p[1], 0) / corners.length + dy
					];
					around.push({ at, way: atan2(at[1] - vertex[1], at[0] - vertex[0]) });
				}
		return { role: 'pentagon', corners: around.sort((a, b) => a.way - b.way).map(({ at }) => doubled(at)) };
	})
});

import type { TilingUnit, UnitCell, UnitPoint } from './unit.ts';

/** A box as corners, from its lower left one. */
const box = (role: string, x: number, y: number, w: number, h: number): UnitCell => ({
	role,
	corners: [
		[x, y],
		[x + w, y],
		[x + w, y + h],
		[x, y + h]
	]
});
const cell = (role: string, ...corners: UnitPoint[]): UnitCell => ({ role, corners: corners.map(([x, y]) => [x, y]) });
const unit = (width: number, height: number, cells: UnitCell[], open = false): TilingUnit => ({
	width,
	height,
	open,
	cells
});
const range = (n: number) => Array.from({ length: n }, (_, k) => k);

/** One cell a field, to begin an own tiling with. */
export const square = (): TilingUnit => unit(1, 1, [box('panel', 0, 0, 1, 1)]);

/** Rows of fields, every second one moved on by a share of a field. */
export const runningBond = (offset: number): TilingUnit =>
	unit(1, 2, [box('panel', 0, 0, 1, 1), box('panel', offset, 1, 1, 1)]);

/** Fields that lean by so many fields across in so many rows. */
export function leaning(fields: number, rows: number): TilingUnit {
	const lean = fields / rows;
	return unit(
		1,
		rows,
		range(rows).map((j) =>
			cell('rhomb', [lean * j, j], [lean * j + 1, j], [lean * (j + 1) + 1, j + 1], [lean * (j + 1), j + 1])
		)
	);
}

/** Rectangles of which every second one is left open, or every n-th column or row; `filled` keeps those and opens the others. */
export function partFilling(pattern: 'checker' | 'columns' | 'rows', every: number, filled: boolean): TilingUnit {
	const [w, h] = [pattern === 'rows' ? 1 : every, pattern === 'columns' ? 1 : every];
	const fields = range(w * h).map((k) => [k % w, Math.floor(k / w)] as const);
	const last = ([i, j]: readonly [number, number]) =>
		pattern === 'checker' ? (i + j) % every === every - 1 : pattern === 'columns' ? i === w - 1 : j === h - 1;
	return unit(
		w,
		h,
		fields.filter((f) => last(f) === filled).map(([i, j]) => box('panel', i, j, 1, 1)),
		true
	);
}

const rising = (i: number, j: number) => [
	cell('lower', [i, j], [i + 1, j], [i + 1, j + 1]),
	cell('upper', [i, j], [i + 1, j + 1], [i, j + 1])
];
const falling = (i: number, j: number) => [
	cell('lower', [i, j], [i + 1, j], [i, j + 1]),
	cell('upper', [i + 1, j], [i + 1, j + 1], [i, j + 1])
];

/** Two triangles a field. */
export const triangles = (diagonal: 'rising' | 'falling' | 'alternating'): TilingUnit =>
	diagonal === 'alternating'
		? unit(2, 2, [...rising(0, 0), ...falling(1, 0), ...falling(0, 1), ...rising(1, 1)])
		: unit(1, 1, diagonal === 'rising' ? rising(0, 0) : falling(0, 0));

/** Triangles over nodes that are moved by half a field in every second row. */
export const staggered = (): TilingUnit =>
	unit(1, 2, [
		cell('point up', [0, 0], [1, 0], [0.5, 1]),
		cell('point down', [0.5, 1], [1, 0], [1.5, 1]),
		cell('point up', [0.5, 1], [1.5, 1], [1, 2]),
		cell('point down', [0, 2], [0.5, 1], [1, 2])
	]);

/** Four triangles about the centre of each field. */
export const fans = (): TilingUnit =>
	unit(1, 1, [
		cell('lower', [0, 0], [1, 0], [0.5, 0.5]),
		cell('end', [1, 0], [1, 1], [0.5, 0.5]),
		cell('upper', [1, 1], [0, 1], [0.5, 0.5]),
		cell('start', [0, 1], [0, 0], [0.5, 0.5])
	]);

/** Diamonds two fields wide and high. */
export const diamonds = (): TilingUnit =>
	unit(2, 2, [cell('diamond', [1, -1], [2, 0], [1, 1], [0, 0]), cell('diamond', [2, 0], [3, 1], [2, 2], [1, 1])]);

/** Bricks of 1 by n fields, each meeting the next at a right angle. Source: the lattice (1, 1), (2n, 0). */
export const herringbone = (n: number): TilingUnit =>
	unit(
		2 * n,
		2 * n,
		range(2 * n).flatMap((k) => [box('lying', k, k, n, 1), box('standing', k + n, k - n + 1, 1, n)])
	);

/** Blocks of n bricks, lying and standing in turn. */
export const basketWeave = (n: number): TilingUnit =>
	unit(
		2 * n,
		2 * n,
		[0, 1].flatMap((j) =>
			[0, 1].flatMap((i) =>
				range(n).map((k) =>
					(i + j) % 2 === 0 ? box('lying', i * n, j * n + k, n, 1) : box('standing', i * n + k, j * n, 1, n)
				)
			)
		)
	);

/** Rows whose lines rise and fall by a share of a field. */
export const undulating = (rise: number): TilingUnit =>
	unit(2, 1, [
		cell('rising', [0, -rise], [1, rise], [1, 1 + rise], [0, 1 - rise]),
		cell('falling', [1, rise], [2, -rise], [2, 1 - rise], [1, 1 + rise])
	]);

/** A square of two by two fields that holds four turned ones, a fifth in the middle, and the triangles between. */
export const turnedInside = (): TilingUnit =>
	unit(2, 2, [
		...[
			[0, 0],
			[1, 0],
			[0, 1],
			[1, 1]
		].map(([i, j]) => cell('turned', [i! + 0.5, j!], [i! + 1, j! + 0.5], [i! + 0.5, j! + 1], [i!, j! + 0.5])),
		cell('middle', [1, 0.5], [1.5, 1], [1, 1.5], [0.5, 1]),
		cell('side', [0.5, 0], [1.5, 0], [1, 0.5]),
		cell('side', [2, 0.5], [2, 1.5], [1.5, 1]),
		cell('side', [1.5, 2], [0.5, 2], [1, 1.5]),
		cell('side', [0, 1.5], [0, 0.5], [0.5, 1]),
		cell('corner', [0, 0], [0.5, 0], [0, 0.5]),
		cell('corner', [1.5, 0], [2, 0], [2, 0.5]),
		cell('corner', [2, 1.5], [2, 2], [1.5, 2]),
		cell('corner', [0.5, 2], [0, 2], [0, 1.5])
	]);

/** Squares of two by two fields and of one, about each other. Source: the lattice (2, 1), (-1, 2). */
export const twoSquares = (): TilingUnit =>
	unit(
		5,
		5,
		range(5).flatMap((k) => [box('large', 2 * k, k, 2, 2), box('small', 2 * k + 2, k, 1, 1)])
	);

/** Large squares and blocks of four small ones, like a chessboard. */
export const mixedSquares = (): TilingUnit =>
	unit(
		4,
		4,
		[0, 1].flatMap((j) =>
			[0, 1].flatMap((i) =>
				(i + j) % 2 === 0
					? [box('large', 2 * i, 2 * j, 2, 2)]
					: range(4).map((k) => box('small', 2 * i + (k % 2), 2 * j + (k >> 1), 1, 1))
			)
		)
	);

import Flatbush from 'flatbush';
import { hypot, square } from '../../elementary/index.ts';
import { withinRing, type FlatRing } from '../../settingout/flatBorder.ts';
import { SAME_FLAT_MM } from '../../tolerances.ts';
import { difference, grown, intersection, union, type Path } from './clipping.ts';

/** A closed line laid flat; outer lines run anticlockwise. */
export type Ring = FlatRing;

/** A piece of the plane: its outer line, and holes, which run clockwise. */
export interface Piece {
	readonly outer: Ring;
	readonly holes: readonly Ring[];
}

/** Digits after the point that clipping keeps: 0.0001 mm. */
const DIGITS = 4;

const pathOf = (ring: Ring): Path => ring.map(([x, y]) => ({ x, y }));
const ringOf = (path: readonly { x: number; y: number }[]): Ring => path.map(({ x, y }) => [x, y]);

/** Signed area, mm2; positive when anticlockwise. */
export function ringArea(ring: Ring): number {
	const [ox, oy] = ring[0] ?? [0, 0];
	let twice = 0;
	for (let k = 0; k < ring.length; k++) {
		const [a, b] = [ring[k]!, ring[(k + 1) % ring.length]!];
		twice += (a[0] - ox) * (b[1] - oy) - (b[0] - ox) * (a[1] - oy);
	}
	return twice / 2;
}

/** All around, mm. */
export const ringLength = (ring: Ring): number =>
	ring.reduce((sum, [x, y], k) => {
		const [nx, ny] = ring[(k + 1) % ring.length]!;
		return sum + hypot(nx - x, ny - y);
	}, 0);

export const turnAnticlockwise = (ring: Ring): Ring => (ringArea(ring) < 0 ? [...ring].reverse() : ring);

/**
 * A line with what is of no account for a box left out: of points one after the other that all lie beyond the same side
 * of it only the first and the last count, since everything between them lies beyond that side, too. O(n).
 */
export function ringNear(ring: Ring, x0: number, y0: number, x1: number, y1: number): Ring {
	const beyond = ([x, y]: readonly [number, number]) =>
		(x < x0 ? 1 : 0) | (x > x1 ? 2 : 0) | (y < y0 ? 4 : 0) | (y > y1 ? 8 : 0);
	const near = [ring[0]!];
	for (let k = 1; k < ring.length; k++)
		if ((beyond(near.at(-1)!) & beyond(ring[k]!) & beyond(ring[(k + 1) % ring.length]!)) === 0) near.push(ring[k]!);
	return near.length > 2 ? near : ring;
}

/** Whether a point lies on a line, or so near to it, mm. O(n). */
export const liesOn = (ring: Ring, x: number, y: number, within: number): boolean =>
	ring.some((a, k) => {
		const b = ring[(k + 1) % ring.length]!;
		const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
		const size = square(dx) + square(dy);
		const t = size > 0 ? Math.min(1, Math.max(0, ((x - a[0]) * dx + (y - a[1]) * dy) / size)) : 0;
		return hypot(x - a[0] - t * dx, y - a[1] - t * dy) <= within;
	});

/** Area that lines running anticlockwise take up together, mm2: where they lie on each other it counts once. */
export const unionArea = (rings: readonly Ring[]): number =>
	union(rings.map(pathOf), DIGITS).reduce((sum, path) => sum + ringArea(ringOf(path)), 0);

/** What is left of a cell inside the borders (all of it when there are none) and outside the openings. */
export function cutRing(cell: Ring, openings: readonly Ring[], borders: readonly Ring[]): Piece[] {
	let left = [pathOf(cell)];
	if (borders.length) left = intersection(left, borders.map(pathOf), DIGITS);
	if (openings.length && left.length) left = difference(left, openings.map(pathOf), DIGITS);
	return piecesOf(left.map(ringOf));
}

/** What is left of what some lines cover together without what others do. */
export const withoutRings = (from: readonly Ring[], taken: readonly Ring[]): Piece[] =>
	piecesOf(difference(from.map(pathOf), taken.map(pathOf), DIGITS).map(ringOf));

/** What a line and some pieces have in common. */
export const withinPieces = (ring: Ring, pieces: readonly Piece[]): Piece[] =>
	piecesOf(
		intersection(
			[pathOf(ring)],
			pieces.flatMap((p) => [p.outer, ...p.holes].map(pathOf)),
			DIGITS
		).map(ringOf)
	);

/** A line grown outwards by a distance with sharp corners, mm. */
export function growRing(ring: Ring, by: number): Ring {
	if (by === 0) return ring;
	const rings = grown([pathOf(ring)], by, DIGITS).map(ringOf);
	return rings.reduce((best, r) => (ringArea(r) > ringArea(best) ? r : best), rings[0] ?? ring);
}

function piecesOf(rings: readonly Ring[]): Piece[] {
	const outers = rings.filter((r) => ringArea(r) > 0);
	const holes = rings.filter((r) => ringArea(r) < 0);
	return outers.map((outer) => ({
		outer,
		holes: holes.filter((h) => (outers.length === 1 ? true : withinRing(outer, ...h[0]!)))
	}));
}

/** The least width of a line: the narrowest gap between two parallels that hold it, one along a side. O(n2). */
export function leastWidth(ring: Ring): number {
	let least = Infinity;
	for (let k = 0; k < ring.length; k++) {
		const [a, b] = [ring[k]!, ring[(k + 1) % ring.length]!];
		const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
		const length = hypot(dx, dy);
		if (length === 0) continue;
		let [low, high] = [0, 0];
		for (const p of ring) {
			const off = (dx * (p[1] - a[1]) - dy * (p[0] - a[0])) / length;
			low = Math.min(low, off);
			high = Math.max(high, off);
		}
		least = Math.min(least, high - low);
	}
	return least;
}

/**
 * A closed line as one that goes around once: itself where no sides cross, else the largest piece of what it encloses.
 * Nothing where it encloses next to nothing. O(n2).
 */
export function soundRing(ring: Ring): Ring | undefined {
	const candidates = crossingSides(ring) === undefined ? [ring] : union([pathOf(ring)], DIGITS).map(ringOf);
	const largest = candidates.reduce<Ring | undefined>(
		(best, r) => (best && Math.abs(ringArea(best)) >= Math.abs(ringArea(r)) ? best : r),
		undefined
	);
	return largest && largest.length > 2 && Math.abs(ringArea(largest)) > square(SAME_FLAT_MM)
		? turnAnticlockwise(largest)
		: undefined;
}

/** Lines of fewer sides are gone through side against side. */
const FEW_SIDES = 40;

/** The first two sides that cross, counted from 1; nothing when none do. O(n log n) where few sides are near each other. */
export function crossingSides(ring: Ring): [number, number] | undefined {
	const n = ring.length;
	const near = n < FEW_SIDES ? undefined : sidesNear(ring);
	for (let i = 0; i < n; i++) {
		if (near) {
			const j = near(i)
				.filter((k) => k > i + 1 && cross(ring, i, k))
				.reduce((least, k) => Math.min(least, k), n);
			if (j < n) return [i + 1, j + 1];
		} else for (let j = i + 2; j < n; j++) if (cross(ring, i, j)) return [i + 1, j + 1];
	}
	return undefined;
}

/** Whether two sides that are no neighbours pass through each other. */
function cross(ring: Ring, i: number, j: number): boolean {
	const n = ring.length;
	if (i === 0 && j === n - 1) return false;
	const [a, b, c, d] = [ring[i]!, ring[(i + 1) % n]!, ring[j]!, ring[(j + 1) % n]!];
	if (Math.max(a[0], b[0]) < Math.min(c[0], d[0]) || Math.max(c[0], d[0]) < Math.min(a[0], b[0])) return false;
	return turn(a, b, c) * turn(a, b, d) < 0 && turn(c, d, a) * turn(c, d, b) < 0;
}

type At = Ring[number];
const turn = (a: At, b: At, c: At) => Math.sign((b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]));

/** Finds the sides whose boxes meet that of a side. */
function sidesNear(ring: Ring): (side: number) => number[] {
	const boxOf = (k: number): [number, number, number, number] => {
		const [a, b] = [ring[k]!, ring[(k + 1) % ring.length]!];
		return [Math.min(a[0], b[0]), Math.min(a[1], b[1]), Math.max(a[0], b[0]), Math.max(a[1], b[1])];
	};
	const index = new Flatbush(ring.length);
	for (let k = 0; k < ring.length; k++) index.add(...boxOf(k));
	index.finish();
	return (side) => index.search(...boxOf(side));
}

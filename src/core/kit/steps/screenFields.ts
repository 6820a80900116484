import { cos, hypot, sin, square } from '../../elementary/index.ts';
import { PARALLEL_SINE, SAME_FLAT_MM } from '../../tolerances.ts';
import { voronoiCells } from '../../tiling/irregular/voronoiCells.ts';
import { randomFrom } from '../../tiling/random.ts';
import type { Point2 } from './screenPlane.ts';

/** Fields of one screen at most. */
export const MOST_FIELDS = 5000;

/** Which fields there are, and how far apart, mm. */
export interface FieldValues {
	readonly tiles: 'squares' | 'hexagons' | 'voronoi';
	readonly spacing: number;
	readonly seed: number;
}

/** Ratio. Fields of which the outline leaves less than this have no opening. */
const LEAST_FIELD = 0.6;

/** A field of a screen as its outline leaves it. */
export interface Tile {
	readonly polygon: readonly Point2[];
	readonly whole: boolean;
}

/** The fields within a closed line, clipped to it. */
export function layTiles(inner: readonly Point2[], { tiles, spacing, seed }: FieldValues): Tile[] | undefined {
	const xs = inner.map((p) => p[0]);
	const ys = inner.map((p) => p[1]);
	const [x0, y0] = [Math.min(...xs), Math.min(...ys)];
	const [width, height] = [Math.max(...xs) - x0, Math.max(...ys) - y0];
	if (!((width * height) / square(spacing) < MOST_FIELDS)) return undefined;
	const found =
		tiles === 'squares'
			? squares(width, height, spacing)
			: tiles === 'hexagons'
				? hexagons(width, height, spacing)
				: irregular(width, height, spacing, seed);
	const left: Tile[] = [];
	for (const tile of found) {
		const moved = tile.map(([x, y]): Point2 => [x + x0, y + y0]);
		const polygon = clipTo(inner, moved).filter(([x, y], k, all) => {
			const [nx, ny] = all[k + 1 < all.length ? k + 1 : 0]!;
			return x !== nx || y !== ny;
		});
		const area = Math.abs(areaOf(polygon));
		if (polygon.length >= 3 && area > 0) left.push({ polygon, whole: area >= LEAST_FIELD * Math.abs(areaOf(moved)) });
	}
	return left;
}

/** By side of a closed line: the corners of fields that lie on it between its ends, in its order. O(corners x sides). */
export function cornersAlong(inner: readonly Point2[], tiles: readonly Tile[]): Point2[][] {
	return inner.map(([ax, ay], k) => {
		const [bx, by] = inner[(k + 1) % inner.length]!;
		const length = hypot(bx - ax, by - ay);
		if (length < SAME_FLAT_MM) return [];
		const [ux, uy] = [(bx - ax) / length, (by - ay) / length];
		const found: { readonly point: Point2; readonly along: number }[] = [];
		for (const { polygon } of tiles)
			for (const point of polygon) {
				const [x, y] = [point[0] - ax, point[1] - ay];
				const along = x * ux + y * uy;
				if (along < SAME_FLAT_MM || along > length - SAME_FLAT_MM) continue;
				// Only what the line itself has cut: a corner close to it lies within its field.
				if (Math.abs(x * uy - y * ux) < PARALLEL_SINE * length) found.push({ point, along });
			}
		// Two fields have a corner each where they meet.
		return found
			.sort((a, b) => a.along - b.along)
			.filter((f, i, all) => i === 0 || f.along - all[i - 1]!.along > SAME_FLAT_MM)
			.map((f) => f.point);
	});
}

/** Whole squares in the middle, so that both borders are alike. */
function squares(width: number, height: number, s: number): Point2[][] {
	const [columns, rows] = [Math.ceil(width / s), Math.ceil(height / s)];
	const [x0, y0] = [(width - columns * s) / 2, (height - rows * s) / 2];
	return Array.from({ length: columns * rows }, (_, k) => {
		const [x, y] = [x0 + (k % columns) * s, y0 + Math.floor(k / columns) * s];
		return [
			[x, y],
			[x + s, y],
			[x + s, y + s],
			[x, y + s]
		] as Point2[];
	});
}

function hexagons(width: number, height: number, s: number): Point2[][] {
	const radius = s / Math.sqrt(3);
	const cells: Point2[][] = [];
	const rows = Math.ceil(height / (1.5 * radius)) + 1;
	for (let r = 0; r <= rows; r++)
		for (let c = -1; c <= Math.ceil(width / s) + 1; c++) {
			const [x, y] = [c * s + (r % 2) * (s / 2), r * 1.5 * radius];
			cells.push(
				Array.from(
					{ length: 6 },
					(_, k) => [x + radius * sin((Math.PI / 3) * -k), y + radius * cos((Math.PI / 3) * -k)] as const
				)
			);
		}
	return cells;
}

function irregular(width: number, height: number, s: number, seed: number): Point2[][] {
	const random = randomFrom(seed);
	const [columns, rows] = [Math.max(1, Math.round(width / s)), Math.max(1, Math.round(height / s))];
	// One seed a square, anywhere but near its sides, so that no two come close.
	const seeds = Array.from({ length: columns * rows }, (_, k): Point2 => [
		((k % columns) + 0.15 + 0.7 * random()) * (width / columns),
		(Math.floor(k / columns) + 0.15 + 0.7 * random()) * (height / rows)
	]);
	return seeds.length < 3
		? squares(width, height, s)
		: (voronoiCells(seeds, { width, height, closedAcross: false, closedUp: false }) as Point2[][]);
}

/** What a convex field leaves of a line (Sutherland & Hodgman 1974). */
function clipTo(line: readonly Point2[], field: readonly Point2[]): readonly Point2[] {
	let kept = line;
	for (let k = 0; k < field.length && kept.length; k++) {
		const a = field[k]!;
		const b = field[k + 1 < field.length ? k + 1 : 0]!;
		// Corners that fall together up to rounding have no side between them.
		if (hypot(b[0] - a[0], b[1] - a[1]) >= SAME_FLAT_MM) kept = clipAt(kept, a, b);
	}
	return kept;
}

/** What lies to the left of a line from `a` to `b`. */
function clipAt(line: readonly Point2[], [ax, ay]: Point2, [bx, by]: Point2): readonly Point2[] {
	const kept: Point2[] = [];
	const sideOf = (p: Point2) => (bx - ax) * (p[1] - ay) - (by - ay) * (p[0] - ax);
	const first = sideOf(line[0]!);
	let d = first;
	for (let i = 0; i < line.length; i++) {
		const last = i + 1 === line.length;
		const p = line[i]!;
		const q = line[last ? 0 : i + 1]!;
		const e = last ? first : sideOf(q);
		if (d >= 0) kept.push(p);
		if (d * e < 0) kept.push([p[0] + ((q[0] - p[0]) * d) / (d - e), p[1] + ((q[1] - p[1]) * d) / (d - e)]);
		d = e;
	}
	return kept;
}

export function areaOf(ring: readonly Point2[]): number {
	let twice = 0;
	for (let k = 0; k < ring.length; k++) {
		const p = ring[k]!;
		const q = ring[k + 1 < ring.length ? k + 1 : 0]!;
		twice = twice + p[0] * q[1] - p[1] * q[0];
	}
	return twice / 2;
}

/** The middle of the area of a closed line. */
export function centroidOf(ring: readonly Point2[]): Point2 {
	let x = 0;
	let y = 0;
	let twice = 0;
	for (let k = 0; k < ring.length; k++) {
		const p = ring[k]!;
		const q = ring[k + 1 < ring.length ? k + 1 : 0]!;
		const cross = p[0] * q[1] - q[0] * p[1];
		x += (p[0] + q[0]) * cross;
		y += (p[1] + q[1]) * cross;
		twice += cross;
	}
	return [x / (3 * twice), y / (3 * twice)];
}

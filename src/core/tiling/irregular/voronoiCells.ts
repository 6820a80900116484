import Delaunator from 'delaunator';
import { ZygasterError } from '../../errors.ts';
import { PairTable } from '../../pairTable.ts';
import { BESIDE_SHARE } from '../../tolerances.ts';

/** A rectangle from (0, 0); where it closes, it meets itself. */
export interface SeedField {
	readonly width: number;
	readonly height: number;
	readonly closedAcross: boolean;
	readonly closedUp: boolean;
}

type Point = readonly [number, number];

/**
 * The cell of each seed: its corners anticlockwise, the points that are nearer to it than to any other seed, within the
 * rectangle. Where the rectangle closes, cells go on over the seam. A seed's mirror image beyond a border makes the
 * border one of the cell's sides, so that nothing is left to be clipped. O(n log n). Throws a ZygasterError with code
 * `tiling` where two seeds coincide.
 */
export function voronoiCells(seeds: readonly Point[], field: SeedField): Point[][] {
	checkSeeds(seeds);
	// Copies near the borders are enough as long as all cells are small.
	const near = 8 * Math.sqrt((field.width * field.height) / Math.max(1, seeds.length));
	return cellsWith(seeds, field, near) ?? cellsWith(seeds, field, Infinity)!;
}

function checkSeeds(seeds: readonly Point[]): void {
	const seen = new PairTable();
	seeds.forEach(([x, y], k) => {
		const there = seen.get(x, y);
		if (there >= 0)
			throw new ZygasterError(
				'tiling',
				`Seeds ${there + 1} and ${k + 1} lie on the same point, so that no line lies between them. Right would be another random seed, or one of the two.`
			);
		seen.set(x, y, k);
	});
}

/** Nothing where copies further away would have mattered. */
function cellsWith(seeds: readonly Point[], field: SeedField, near: number): Point[][] | undefined {
	const { width, height, closedAcross, closedUp } = field;
	const copies = (closed: boolean, at: number, length: number) =>
		(closed ? [at - length, at + length] : [-at, 2 * length - at]).filter((p) => p > -near && p < length + near);
	/** Stride 2. */
	const points = seeds.flat();
	for (const [x, y] of seeds) for (const p of copies(closedAcross, x, width)) points.push(p, y);
	const copied = closedUp || closedAcross ? points.length : seeds.length * 2;
	for (let k = 0; k < copied; k += 2)
		for (const q of copies(closedUp, points[k + 1]!, height)) points.push(points[k]!, q);
	const { triangles, halfedges } = new Delaunator(Float64Array.from(points));
	const centres = circumcentres(points, triangles);
	/** A half edge that runs to each seed. */
	const incoming = new Int32Array(seeds.length).fill(-1);
	for (let e = 0; e < triangles.length; e++) {
		const to = triangles[e % 3 === 2 ? e - 2 : e + 1]!;
		if (to < seeds.length) incoming[to] = e;
	}
	const inside = (v: number, closed: boolean, length: number) =>
		closed || near === Infinity || (v > -length * BESIDE_SHARE && v < length * (1 + BESIDE_SHARE));
	const cells: Point[][] = [];
	for (let s = 0; s < seeds.length; s++) {
		const cell: Point[] = [];
		const first = incoming[s]!;
		if (first < 0) return undefined;
		for (let e = first; ;) {
			const t = Math.floor(e / 3) * 2;
			const x = centres[t]!;
			const y = centres[t + 1]!;
			if (!inside(x, closedAcross, width) || !inside(y, closedUp, height)) return undefined;
			cell.push([x, y]);
			const outgoing = e % 3 === 2 ? e - 2 : e + 1;
			e = halfedges[outgoing]!;
			if (e === -1) return undefined;
			if (e === first) break;
		}
		cells.push(isClockwise(cell) ? cell.reverse() : cell);
	}
	return cells;
}

/** Of triangles over points, stride 2 both. */
function circumcentres(points: readonly number[], triangles: ArrayLike<number>): Float64Array {
	const centres = new Float64Array((triangles.length / 3) * 2);
	for (let t = 0; t < triangles.length; t += 3) {
		const a = triangles[t]! * 2;
		const b = triangles[t + 1]! * 2;
		const c = triangles[t + 2]! * 2;
		const ax = points[a]!;
		const ay = points[a + 1]!;
		const dx = points[b]! - ax;
		const dy = points[b + 1]! - ay;
		const ex = points[c]! - ax;
		const ey = points[c + 1]! - ay;
		const d = dx * dx + dy * dy;
		const e = ex * ex + ey * ey;
		const scale = 0.5 / (dx * ey - dy * ex);
		centres[(t / 3) * 2] = ax + (ey * d - dy * e) * scale;
		centres[(t / 3) * 2 + 1] = ay + (dx * e - ex * d) * scale;
	}
	return centres;
}

function isClockwise(ring: readonly Point[]): boolean {
	let twice = 0;
	for (let k = 0; k < ring.length; k++) {
		const p = ring[k]!;
		const q = ring[k + 1 < ring.length ? k + 1 : 0]!;
		twice += p[0] * q[1] - p[1] * q[0];
	}
	return twice < 0;
}

import Delaunator from 'delaunator';
import { ZygasterError } from '../../errors.ts';
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
	const seen = new Map<string, number>();
	seeds.forEach(([x, y], k) => {
		const there = seen.get(`${x} ${y}`);
		if (there !== undefined)
			throw new ZygasterError(
				'tiling',
				`Seeds ${there + 1} and ${k + 1} lie on the same point, so that no line lies between them. Right would be another random seed, or one of the two.`
			);
		seen.set(`${x} ${y}`, k);
	});
}

/** Nothing where copies further away would have mattered. */
function cellsWith(seeds: readonly Point[], field: SeedField, near: number): Point[][] | undefined {
	const { width, height, closedAcross, closedUp } = field;
	const points = seeds.map((s): Point => s);
	const copy = (closed: boolean, at: number, length: number) =>
		closed
			? [at - length, at + length].filter((p) => p > -near && p < length + near)
			: [-at, 2 * length - at].filter((p) => p > -near && p < length + near);
	for (const [x, y] of seeds) for (const p of copy(closedAcross, x, width)) points.push([p, y]);
	const rows = points.length;
	for (let k = 0; k < (closedUp || closedAcross ? rows : seeds.length); k++) {
		const [x, y] = points[k]!;
		for (const q of copy(closedUp, y, height)) points.push([x, q]);
	}
	const { triangles, halfedges } = Delaunator.from(points);
	const centres = Array.from({ length: triangles.length / 3 }, (_, t) =>
		circumcentre(points[triangles[3 * t]!]!, points[triangles[3 * t + 1]!]!, points[triangles[3 * t + 2]!]!)
	);
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
			const centre = centres[Math.floor(e / 3)]!;
			if (!inside(centre[0], closedAcross, width) || !inside(centre[1], closedUp, height)) return undefined;
			cell.push(centre);
			const outgoing = e % 3 === 2 ? e - 2 : e + 1;
			e = halfedges[outgoing]!;
			if (e === -1) return undefined;
			if (e === first) break;
		}
		cells.push(isClockwise(cell) ? cell.reverse() : cell);
	}
	return cells;
}

function circumcentre([ax, ay]: Point, [bx, by]: Point, [cx, cy]: Point): Point {
	const [dx, dy, ex, ey] = [bx - ax, by - ay, cx - ax, cy - ay];
	const [b, c] = [dx * dx + dy * dy, ex * ex + ey * ey];
	const scale = 0.5 / (dx * ey - dy * ex);
	return [ax + (ey * b - dy * c) * scale, ay + (dx * c - ex * b) * scale];
}

const isClockwise = (ring: readonly Point[]) =>
	ring.reduce((twice, [x, y], k) => {
		const [nx, ny] = ring[(k + 1) % ring.length]!;
		return twice + (x * ny - y * nx);
	}, 0) < 0;

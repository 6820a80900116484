import { norm } from '../elementary/index.ts';
import type { Point } from '../geometry/curve.ts';
import { cross, dot, minus, pointAt } from '../geometry/vectors.ts';
import { weldedMesh, type Mesh } from '../kit/mesh.ts';
import { COINCIDENT_MM, ONE_SIDE_SHARE, SAME_FLAT_AREA, SIDEWAYS_SINE } from '../tolerances.ts';

/** Two triangles along a side: which of them, and which of their sides. */
export interface Side {
	readonly triangle: number;
	readonly k: number;
}

/** Triangles over points of which none are equal. */
export interface Welded {
	readonly points: readonly Point[];
	readonly triangles: readonly number[];
}

/** A mesh as such triangles. O(points). */
export function weldedPoints(mesh: Mesh): Welded {
	const { positions, triangles } = weldedMesh(mesh);
	const points = Array.from({ length: positions.length / 3 }, (_, p) => pointAt(positions, p * 3));
	return { points, triangles: Array.from(triangles) };
}

/** The triangles along each side. */
export function sidesOf(triangles: readonly number[]): Side[][] {
	const sides = new Map<string, Side[]>();
	triangles.forEach((a, i) => {
		const k = i % 3;
		const b = triangles[i - k + ((k + 1) % 3)]!;
		const key = a < b ? `${a} ${b}` : `${b} ${a}`;
		const list = sides.get(key) ?? [];
		sides.set(key, list);
		list.push({ triangle: (i - k) / 3, k });
	});
	return [...sides.values()];
}

/**
 * One side of a plate, which is a surface moved straight through its thickness: the side whose area comes nearest to the given one,
 * mm2; no triangles where none comes near. Its walls stand along the way of the move, so that this is a direction of its sides. What
 * is not closed stays as it is. O(sides).
 */
export function oneSideOf({ points, triangles }: Welded, area: number): Welded {
	const sides = sidesOf(triangles);
	if (sides.length === 0 || sides.some((s) => s.length !== 2)) return { points, triangles };
	const { corner, normals, slim } = trianglesOf(points, triangles);
	const beside = normals.map((): number[] => []);
	for (const [one, other] of sides as [Side, Side][]) {
		beside[one.triangle]!.push(other.triangle);
		beside[other.triangle]!.push(one.triangle);
	}
	let [best, least]: [ReadonlySet<number>, number] = [new Set(), ONE_SIDE_SHARE * area];
	const lines = sides.map(([one]) => minus(corner(one!.triangle, one!.k + 1), corner(one!.triangle, one!.k)));
	for (const way of directionsOf(lines)) {
		const leans = normals.map((n, t) => (slim[t] ? 0 : dot(n, way) / norm(n)));
		// The front is the first of a body's triangles.
		const out = Math.sign(leans.find((lean) => Math.abs(lean) > SIDEWAYS_SINE) ?? 0);
		const side = new Set([...leans.keys()].filter((t) => leans[t]! * out > SIDEWAYS_SINE));
		const off = Math.abs([...side].reduce((sum, t) => sum + norm(normals[t]!) / 2, 0) - area);
		if (!(off < least)) continue;
		// Those that look nowhere are of the side that they lie in.
		const inIt = (t: number) =>
			slim[t] && beside[t]!.some((n) => side.has(n)) && !beside[t]!.some((n) => leans[n]! * out < -SIDEWAYS_SINE);
		for (const t of side) for (const next of beside[t]!) if (inIt(next)) side.add(next);
		[best, least] = [side, off];
		if (off < SAME_FLAT_AREA * area) break;
	}
	return { points, triangles: [...best].sort((a, b) => a - b).flatMap((t) => triangles.slice(t * 3, t * 3 + 3)) };
}

/** The corners of triangles, what is square to them, twice as long as their area, and which have their corners on one line. */
export function trianglesOf(points: readonly Point[], triangles: readonly number[]) {
	const corner = (t: number, k: number): Point => points[triangles[t * 3 + (k % 3)]!]!;
	const normals: Point[] = [];
	// Which way such a triangle looks, rounding tells.
	const slim: boolean[] = [];
	for (let t = 0; t * 3 < triangles.length; t++) {
		const [ab, bc, ca] = [0, 1, 2].map((k) => minus(corner(t, k + 1), corner(t, k))) as [Point, Point, Point];
		const normal = cross(ab, bc);
		normals.push(normal);
		slim.push(norm(normal) < COINCIDENT_MM * Math.max(norm(ab), norm(bc), norm(ca)));
	}
	return { corner, normals, slim };
}

/** Ways from front to back are tried, so many of the most frequent lines. */
const MOST_WAYS = 32;

/** The directions of lines, those first that most lines have with the same length, whichever way they run. */
function directionsOf(lines: readonly Point[]): Point[] {
	const found = new Map<string, { readonly line: Point; times: number }>();
	for (const line of lines) {
		const turn = Math.sign(line.find((x) => Math.abs(x) >= COINCIDENT_MM) ?? 1);
		const key = line.map((x) => Math.round((turn * x) / COINCIDENT_MM)).join();
		const same = found.get(key);
		if (same) same.times++;
		else found.set(key, { line, times: 1 });
	}
	return [...found.values()]
		.sort((a, b) => b.times - a.times)
		.slice(0, MOST_WAYS)
		.map(({ line }) => line.map((x) => x / norm(line)) as unknown as Point);
}

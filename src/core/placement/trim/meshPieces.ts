import { hypot, norm } from '../../elementary/index.ts';
import type { Axis } from '../../kit/axes.ts';
import { weldedMesh, type Mesh } from '../../kit/mesh.ts';
import { areaVector, neighboursOf, NO_TRIANGLE, sideOf } from '../../mesh/triangleMesh.ts';
import { leastWidth, type Ring } from '../../tiling/openings/rings.ts';
import { SIDEWAYS_SINE } from '../../tolerances.ts';
import { flatten, type Frame } from './takenOff.ts';

/** Whether every side of a mesh has a triangle on both sides. */
export const isClosed = ({ triangles }: Mesh) => !neighboursOf(triangles).neighbours.includes(NO_TRIANGLE);

/** A mesh as a closed body, also one whose sides do not share their points; nothing for one that is open. O(triangles). */
export function closedOf(mesh: Mesh): Mesh | undefined {
	if (isClosed(mesh)) return mesh;
	const one = weldedMesh(mesh);
	return isClosed(one) ? one : undefined;
}

/** The pieces of a mesh that hang together by their points. O(triangles). */
export function connectedPieces({ positions, triangles }: Mesh): Mesh[] {
	const parent = Int32Array.from({ length: positions.length / 3 }, (_, k) => k);
	const root = (p: number): number => {
		while (parent[p] !== p) p = parent[p] = parent[parent[p]!]!;
		return p;
	};
	for (let t = 0; t < triangles.length; t += 3)
		for (const other of [1, 2]) parent[root(triangles[t + other]!)] = root(triangles[t]!);
	const byRoot = new Map<number, number[]>();
	for (let t = 0; t < triangles.length; t += 3) {
		const key = root(triangles[t]!);
		const list = byRoot.get(key) ?? [];
		byRoot.set(key, list);
		list.push(triangles[t]!, triangles[t + 1]!, triangles[t + 2]!);
	}
	return [...byRoot.values()].map((list) => compactMesh(positions, list));
}

/** Triangles over the points that they use, in the order of the points. */
export function compactMesh(positions: Float64Array, triangles: ArrayLike<number>): Mesh {
	const place = new Int32Array(positions.length / 3).fill(-1);
	for (let t = 0; t < triangles.length; t++) place[triangles[t]!] = 0;
	let count = 0;
	for (let p = 0; p < place.length; p++) if (place[p] === 0) place[p] = count++;
	const out = new Float64Array(count * 3);
	for (let p = 0; p < place.length; p++)
		if (place[p]! >= 0) out.set(positions.subarray(p * 3, p * 3 + 3), place[p]! * 3);
	return { positions: out, triangles: Uint32Array.from(triangles, (p) => place[p]!) };
}

/** The triangles of a mesh that look a way. */
export function lookingAt(mesh: Mesh, [x, y, z]: Axis): Mesh {
	const triangles: number[] = [];
	for (let t = 0; t < mesh.triangles.length / 3; t++) {
		const a = areaVector(mesh, t);
		if (a[0] * x + a[1] * y + a[2] * z > SIDEWAYS_SINE * norm(a))
			triangles.push(...mesh.triangles.subarray(t * 3, t * 3 + 3));
	}
	return { positions: mesh.positions, triangles: Uint32Array.from(triangles) };
}

/** Length of the sides that have a triangle on one side only, mm. */
export function borderLength({ positions, triangles }: Mesh): number {
	const { neighbours } = neighboursOf(triangles);
	let length = 0;
	for (let s = 0; s < triangles.length; s++) {
		if (neighbours[s] !== NO_TRIANGLE) continue;
		const [a, b] = sideOf(triangles, s);
		length += hypot(
			positions[a * 3]! - positions[b * 3]!,
			positions[a * 3 + 1]! - positions[b * 3 + 1]!,
			positions[a * 3 + 2]! - positions[b * 3 + 2]!
		);
	}
	return length;
}

/** The narrowest gap between two parallels that hold a mesh, as it is seen in a frame, mm. O(n2). */
export function widthSeen({ positions }: Mesh, frame: Frame): number {
	const flat = Array.from({ length: positions.length / 3 }, (_, k) => flatten(frame, positions, k * 3));
	return leastWidth(convexHull(flat));
}

/** The convex line around points, anticlockwise (monotone chain, Andrew 1979, from memory). O(n log n). */
export function convexHull(points: readonly Ring[number][]): Ring {
	const sorted = [...points].sort((p, q) => p[0] - q[0] || p[1] - q[1]);
	const half = (list: readonly Ring[number][]) => {
		const chain: Ring[number][] = [];
		for (const p of list) {
			for (let last = chain.at(-1), before = chain.at(-2); last && before; last = chain.at(-1), before = chain.at(-2)) {
				if ((last[0] - before[0]) * (p[1] - before[1]) - (last[1] - before[1]) * (p[0] - before[0]) > 0) break;
				chain.pop();
			}
			chain.push(p);
		}
		return chain.slice(0, -1);
	};
	return [...half(sorted), ...half(sorted.reverse())];
}

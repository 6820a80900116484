import { acos, norm } from '../elementary/index.ts';
import type { BorderLoop } from './borders.ts';
import { loopLength } from './borders.ts';
import type { TriangleMesh } from './triangleMesh.ts';
import { dot, wayAt } from '../geometry/vectors.ts';

/** A border turns a corner where it turns by more than this, radians. */
const LEAST_TURN = Math.PI / 7;
/** Corners are at least this share of the border apart. */
const LEAST_APART = 0.02;

/**
 * Four corners of a face's border, as rising indices into the loop's vertices: where it turns most, and
 * evenly between where it turns less than four times. Anticlockwise, the first is the left end of the
 * lowest side (of the southmost one on a flat roof), seen from outside.
 */
export function pickCorners(mesh: TriangleMesh, loop: BorderLoop): [number, number, number, number] {
	const turns = turnsAlong(mesh, loop);
	const total = loopLength(loop);
	const apart = (a: number, b: number) => {
		const d = Math.abs(loop.running[a]! - loop.running[b]!);
		return Math.min(d, total - d);
	};
	const sharp = turns.map((_, k) => k).filter((k) => turns[k]! > LEAST_TURN);
	const corners: number[] = [];
	for (const k of sharp.sort((a, b) => turns[b]! - turns[a]!))
		if (corners.length < 4 && corners.every((c) => apart(c, k) > LEAST_APART * total)) corners.push(k);
	if (corners.length === 0) corners.push(0);
	while (corners.length < 4) corners.push(middleOfLongest(loop, corners));
	corners.sort((a, b) => a - b);
	return startLowest(mesh, loop, corners) as [number, number, number, number];
}

/** By how much the border turns to the left at each vertex, measured on the surface: 180 degrees less the angles there. */
function turnsAlong({ positions: p, triangles }: TriangleMesh, { vertices }: BorderLoop): Float64Array {
	const place = new Map(vertices.map((v, k) => [v, k]));
	const turns = new Float64Array(vertices.length).fill(Math.PI);
	for (let s = 0; s < triangles.length; s++) {
		const k = place.get(triangles[s]!);
		if (k === undefined) continue;
		const t = s - (s % 3);
		const [a, b, c] = [triangles[s]! * 3, triangles[t + ((s + 1) % 3)]! * 3, triangles[t + ((s + 2) % 3)]! * 3];
		const [u, v] = [wayAt(p, a, b), wayAt(p, a, c)];
		turns[k]! -= acos(Math.max(-1, Math.min(1, dot(u, v) / (norm(u) * norm(v)))));
	}
	return turns;
}

/** The vertex nearest to the middle of the longest stretch between corners. */
function middleOfLongest({ running, vertices }: BorderLoop, corners: readonly number[]): number {
	const sorted = [...corners].sort((a, b) => a - b);
	const total = running.at(-1)!;
	let best = { length: -1, from: 0 };
	sorted.forEach((c, k) => {
		const next = sorted[k + 1] === undefined ? running[sorted[0]!]! + total : running[sorted[k + 1]!]!;
		if (next - running[c]! > best.length) best = { length: next - running[c]!, from: running[c]! };
	});
	const middle = (best.from + best.length / 2) % total;
	return vertices
		.map((_, k) => k)
		.reduce((a, b) => (Math.abs(running[b]! - middle) < Math.abs(running[a]! - middle) ? b : a));
}

/** Turns the list so that the side after its first corner is the lowest one. */
function startLowest({ positions: p }: TriangleMesh, loop: BorderLoop, corners: number[]): number[] {
	const n = loop.vertices.length;
	const side = (k: number) => {
		const count = (corners[(k + 1) % 4]! - corners[k]! + n) % n;
		return Array.from({ length: count + 1 }, (_, i) => loop.vertices[(corners[k]! + i) % n]!);
	};
	const mean = (vertices: readonly number[], axis: number) =>
		vertices.reduce((sum, v) => sum + p[v * 3 + axis]!, 0) / vertices.length;
	const heights = [0, 1, 2, 3].map((k) => mean(side(k), 2));
	const norths = [0, 1, 2, 3].map((k) => mean(side(k), 1));
	const range = (values: readonly number[]) => Math.max(...values) - Math.min(...values);
	const by = range(heights) * 4 > range(norths) ? heights : norths;
	const first = by.indexOf(Math.min(...by));
	return [...corners.slice(first), ...corners.slice(0, first)];
}

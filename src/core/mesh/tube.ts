import TinyQueue from 'tinyqueue';
import { hypot } from '../elementary/index.ts';
import { startLoopAt, type BorderLoop } from './borders.ts';
import { vertexTriangles } from './harmonic.ts';
import { neighboursOf, NO_TRIANGLE, sideOf, type TriangleMesh } from './triangleMesh.ts';

/** A tube with a seam from the first vertex of its lower border to the first of its upper one. */
export interface CutTube {
	readonly bottom: BorderLoop;
	readonly top: BorderLoop;
	/** 1 at those corners of triangles that see the seam from its left side, where the way around ends. */
	readonly jump: Int8Array;
}

/** Finds the shortest seam from the lower border's first vertex. O(n log n). */
export function cutTube(mesh: TriangleMesh, bottom: BorderLoop, top: BorderLoop): CutTube {
	const seam = shortestWay(mesh, bottom.vertices, top.vertices);
	const end = top.vertices.indexOf(seam.at(-1)!);
	return { bottom, top: startLoopAt(mesh, top, end), jump: jumpsLeftOf(mesh, seam) };
}

/** The shortest way along sides from a vertex to any of several, through no other vertex of either border (Dijkstra). */
function shortestWay(mesh: TriangleMesh, bottom: readonly number[], top: readonly number[]): number[] {
	const { positions: p, triangles } = mesh;
	const count = p.length / 3;
	const { start, list } = vertexTriangles(triangles, count);
	const reached = new Float64Array(count).fill(Infinity);
	const from = new Int32Array(count).fill(-1);
	const ends = new Set(top);
	const barred = new Set(bottom);
	const first = bottom[0]!;
	reached[first] = 0;
	const queue = new TinyQueue<[number, number]>([[0, first]], (a, b) => a[0] - b[0]);
	for (let next = queue.pop(); next; next = queue.pop()) {
		const [length, v] = next;
		if (length > reached[v]!) continue;
		if (ends.has(v)) return wayTo(v, from);
		for (let k = start[v]!; k < start[v + 1]!; k++)
			for (let c = 0; c < 3; c++) {
				const w = triangles[list[k]! * 3 + c]!;
				if (w === v || barred.has(w)) continue;
				const far = length + hypot(p[v * 3]! - p[w * 3]!, p[v * 3 + 1]! - p[w * 3 + 1]!, p[v * 3 + 2]! - p[w * 3 + 2]!);
				if (far >= reached[w]!) continue;
				reached[w] = far;
				from[w] = v;
				queue.push([far, w]);
			}
	}
	throw new Error('The borders of a tube do not hang together.');
}

function wayTo(end: number, from: Int32Array): number[] {
	const way = [end];
	while (from[way[0]!]! >= 0) way.unshift(from[way[0]!]!);
	return way;
}

/** Marks the corners at the seam's vertices of all triangles to its left. */
function jumpsLeftOf({ triangles }: TriangleMesh, seam: readonly number[]): Int8Array {
	const { neighbours } = neighboursOf(triangles);
	const jump = new Int8Array(triangles.length);
	const sides = new Map<string, number>();
	const onSeam = new Set(seam);
	for (let s = 0; s < triangles.length; s++) {
		const [a, b] = sideOf(triangles, s);
		if (onSeam.has(a) || onSeam.has(b)) sides.set(`${a}>${b}`, s);
	}
	seam.forEach((vertex, k) => {
		// Around the vertex anticlockwise, from the way onwards to the way back (or to the border).
		const next = seam[k + 1];
		const before = seam[k - 1];
		if (next !== undefined) {
			for (let s = sides.get(`${vertex}>${next}`); s !== undefined;) {
				jump[s] = 1;
				// The side that comes back to the vertex, and the triangle beyond it.
				const back = s % 3 === 0 ? s + 2 : s - 1;
				if (triangles[back] === before || neighbours[back] === NO_TRIANGLE) break;
				s = sides.get(`${vertex}>${triangles[back]!}`);
			}
		} else if (before !== undefined) {
			// The last vertex: from the way back, clockwise to the border.
			for (let s = sides.get(`${before}>${vertex}`); s !== undefined;) {
				const at = s % 3 === 2 ? s - 2 : s + 1;
				jump[at] = 1;
				if (neighbours[at] === NO_TRIANGLE) break;
				const [, beyond] = sideOf(triangles, at);
				s = sides.get(`${beyond}>${vertex}`);
			}
		}
	});
	return jump;
}

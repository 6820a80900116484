import { hypot } from '../elementary/index.ts';
import { neighboursOf, NO_TRIANGLE, sideOf, type TriangleMesh } from './triangleMesh.ts';

/** A closed line of border sides; the mesh lies to the left of the way. */
export interface BorderLoop {
	readonly vertices: readonly number[];
	/** Length from the first vertex to each, mm; one more entry than vertices. */
	readonly running: readonly number[];
}

export const loopLength = (loop: BorderLoop) => loop.running.at(-1)!;

/** Border loops of a mesh, the longest first. At a vertex where two meet, each goes on around its own triangles. */
export function borderLoops(mesh: TriangleMesh, neighbours = neighboursOf(mesh.triangles).neighbours): BorderLoop[] {
	const { triangles } = mesh;
	const done = new Uint8Array(triangles.length);
	const loops: BorderLoop[] = [];
	for (let start = 0; start < triangles.length; start++) {
		if (neighbours[start] !== NO_TRIANGLE || done[start]) continue;
		const vertices: number[] = [];
		for (let s = start; !done[s]; s = nextBorderSide(triangles, neighbours, s)) {
			done[s] = 1;
			vertices.push(triangles[s]!);
		}
		loops.push({ vertices, running: runningLengths(mesh, vertices) });
	}
	return loops.sort((a, b) => loopLength(b) - loopLength(a));
}

/** From a border side's end on around the vertex, through its triangles, to the next border side. */
function nextBorderSide(triangles: Uint32Array, neighbours: Int32Array, side: number): number {
	let s = side % 3 === 2 ? side - 2 : side + 1;
	while (neighbours[s] !== NO_TRIANGLE) {
		const [a, b] = sideOf(triangles, s);
		const t = neighbours[s]!;
		const back = [0, 1, 2].find((k) => {
			const [x, y] = sideOf(triangles, t * 3 + k);
			return x === b && y === a;
		})!;
		const opposite = t * 3 + back;
		s = opposite % 3 === 2 ? opposite - 2 : opposite + 1;
	}
	return s;
}

function runningLengths({ positions: p }: TriangleMesh, vertices: readonly number[]): number[] {
	const running = [0];
	vertices.forEach((v, k) => {
		const w = vertices[(k + 1) % vertices.length]!;
		running.push(
			running[k]! + hypot(p[v * 3]! - p[w * 3]!, p[v * 3 + 1]! - p[w * 3 + 1]!, p[v * 3 + 2]! - p[w * 3 + 2]!)
		);
	});
	return running;
}

/** A loop that begins at another of its vertices. */
export function startLoopAt(mesh: TriangleMesh, loop: BorderLoop, index: number): BorderLoop {
	const vertices = [...loop.vertices.slice(index), ...loop.vertices.slice(0, index)];
	return { vertices, running: runningLengths(mesh, vertices) };
}

/** V - E + F. */
export function eulerNumber(mesh: TriangleMesh, neighbours: Int32Array): number {
	const sides = mesh.triangles.length;
	const borders = neighbours.filter((n) => n === NO_TRIANGLE).length;
	return mesh.positions.length / 3 - (sides + borders) / 2 + sides / 3;
}

/** Covers a loop with a fan about its middle. */
export function coverHole(mesh: TriangleMesh, loop: BorderLoop): TriangleMesh {
	const { positions } = mesh;
	const n = loop.vertices.length;
	const middle = positions.length / 3;
	const centre = [0, 1, 2].map((c) => loop.vertices.reduce((sum, v) => sum + positions[v * 3 + c]!, 0) / n);
	// The fan's triangles run the border sides the other way.
	const fan = loop.vertices.flatMap((v, k) => [loop.vertices[(k + 1) % n]!, v, middle]);
	return {
		positions: Float64Array.from([...positions, ...centre]),
		triangles: Uint32Array.from([...mesh.triangles, ...fan])
	};
}

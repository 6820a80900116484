import { ZygasterError } from '../errors.ts';
import type { Point } from '../geometry/curve.ts';
import { borderLoops, coverHole, eulerNumber, loopLength, startLoopAt, type BorderLoop } from './borders.ts';
import { pickCorners } from './corners.ts';
import { cotangentWeights, placeHarmonic, vertexTriangles } from './harmonic.ts';
import { cutTube } from './tube.ts';
import { neighboursOf, type TriangleMesh } from './triangleMesh.ts';
import { vertexNormals } from './vertexNormals.ts';

/** A face of a mesh laid over the unit square. */
export interface LaidFace {
	readonly mesh: TriangleMesh;
	/** Unit normals at the vertices, stride 3. */
	readonly normals: Float64Array;
	/** Parameters of each vertex. */
	readonly u: Float64Array;
	readonly v: Float64Array;
	/** What a triangle sees at each of its corners is `u` and this: 1 beyond the seam of a tube. */
	readonly jump: Int8Array | undefined;
	readonly closedAcross: boolean;
	/** A ball's lowest and highest point, beyond the first and last row of vertices. */
	readonly poles: { readonly bottom: Pole; readonly top: Pole } | undefined;
	/** Border of an open face, with the indices of its four corners. */
	readonly border: { readonly loop: BorderLoop; readonly corners: readonly number[] } | undefined;
	/** Holes that were covered so that the face could be laid: points around each, mm. */
	readonly holes: readonly (readonly Point[])[];
	/** Triangles that folded over and were laid evenly instead. */
	readonly evened: boolean;
}

/** A vertex that a ball ends in, and the ring of vertices around it. */
export interface Pole {
	readonly position: readonly [number, number, number];
	readonly ring: BorderLoop;
}

/** Two borders make a tube when the shorter has at least this share of the other's length. */
const TUBE_SHARE = 0.35;

/**
 * Lays a face over the unit square without folds: four-sided ones corner to corner, tubes around, balls
 * between their lowest and highest point. `corners` are the loop's vertices to be used instead of those
 * that are picked. Throws a ZygasterError with code `mesh` for a face with a handle through it.
 */
export function layOver(face: TriangleMesh, corners?: readonly number[]): LaidFace {
	const { neighbours } = neighboursOf(face.triangles);
	const loops = borderLoops(face, neighbours);
	const handles = (2 - loops.length - eulerNumber(face, neighbours)) / 2;
	if (handles > 0)
		throw new ZygasterError(
			'mesh',
			`A face has ${handles === 1 ? 'a handle' : `${handles} handles`} through it and cannot be laid flat; a smaller crease angle would part it.`
		);
	if (loops.length === 0) return layBall(face);
	const tube = loops.length > 1 && loopLength(loops[1]!) > TUBE_SHARE * loopLength(loops[0]!);
	const holes = loops.slice(tube ? 2 : 1);
	const whole = holes.reduce((mesh, hole) => coverHole(mesh, hole), face);
	const laid = tube ? layTube(whole, loops[0]!, loops[1]!).laid : layPatch(whole, loops[0]!, corners);
	return {
		...laid,
		holes: holes.map(({ vertices }) =>
			vertices.map((v): Point => [face.positions[v * 3]!, face.positions[v * 3 + 1]!, face.positions[v * 3 + 2]!])
		)
	};
}

function layPatch(mesh: TriangleMesh, loop: BorderLoop, given?: readonly number[]): LaidFace {
	const corners = (given?.length === 4 ? given : pickCorners(mesh, loop)) as [number, number, number, number];
	const count = mesh.positions.length / 3;
	const fixed = new Uint8Array(count);
	const [u, v] = [new Float64Array(count).fill(0.5), new Float64Array(count).fill(0.5)];
	const n = loop.vertices.length;
	const total = loopLength(loop);
	corners.forEach((corner, side) => {
		const next = corners[(side + 1) % 4]!;
		const sideLength = (loop.running[next]! - loop.running[corner]! + total) % total;
		for (let k = corner; k !== next; k = (k + 1) % n) {
			const share = ((loop.running[k]! - loop.running[corner]! + total) % total) / sideLength;
			const at = [
				[share, 0],
				[1, share],
				[1 - share, 1],
				[0, 1 - share]
			][side]!;
			const vertex = loop.vertices[k]!;
			fixed[vertex] = 1;
			[u[vertex], v[vertex]] = [at[0]!, at[1]!];
		}
	});
	const evened = layUnfolded(mesh, fixed, u, v);
	return {
		mesh,
		normals: vertexNormals(mesh),
		u,
		v,
		jump: undefined,
		closedAcross: false,
		poles: undefined,
		border: { loop, corners },
		holes: [],
		evened
	};
}

/** Lays by the shape's own weights, and evenly where those leave a fold (by rounding); tells whether they did. */
function layUnfolded(
	mesh: TriangleMesh,
	fixed: Uint8Array,
	u: Float64Array,
	v: Float64Array,
	jump?: Int8Array
): boolean {
	const weights = cotangentWeights(mesh);
	const lay = (w: Float64Array) => placeHarmonic(mesh, w, fixed, [{ x: u, jump }, { x: v }]);
	lay(weights);
	if (foldsIn(mesh, u, v, jump) === 0) return false;
	lay(new Float64Array(weights.length).fill(1));
	return true;
}

/** Triangles that lie face down in the parameters. */
export function foldsIn({ triangles }: TriangleMesh, u: Float64Array, v: Float64Array, jump?: Int8Array): number {
	let folds = 0;
	for (let s = 0; s < triangles.length; s += 3) {
		const [a, b, c] = [triangles[s]!, triangles[s + 1]!, triangles[s + 2]!];
		const [ua, ub, uc] = [u[a]! + (jump?.[s] ?? 0), u[b]! + (jump?.[s + 1] ?? 0), u[c]! + (jump?.[s + 2] ?? 0)];
		if ((ub - ua) * (v[c]! - v[a]!) - (uc - ua) * (v[b]! - v[a]!) < 0) folds++;
	}
	return folds;
}

/** A tube from its lower border to its upper one, both started at the seam. */
function layTube(
	mesh: TriangleMesh,
	first: BorderLoop,
	second: BorderLoop
): { laid: LaidFace; bottom: BorderLoop; top: BorderLoop } {
	const height = ({ vertices }: BorderLoop) =>
		vertices.reduce((sum, v) => sum + mesh.positions[v * 3 + 2]!, 0) / vertices.length;
	const [lower, upper] = height(first) <= height(second) ? [first, second] : [second, first];
	const { bottom, top, jump } = cutTube(mesh, startLoopAt(mesh, lower, southEast(mesh, lower)), upper);
	const count = mesh.positions.length / 3;
	const fixed = new Uint8Array(count);
	const [u, v] = [new Float64Array(count).fill(0.5), new Float64Array(count).fill(0.5)];
	const fix = (loop: BorderLoop, level: number, way: 1 | -1) =>
		loop.vertices.forEach((vertex, k) => {
			fixed[vertex] = 1;
			const share = loop.running[k]! / loopLength(loop);
			u[vertex] = way === 1 || k === 0 ? share : 1 - share;
			v[vertex] = level;
		});
	fix(bottom, 0, 1);
	// The upper border runs the other way round.
	fix(top, 1, -1);
	const evened = layUnfolded(mesh, fixed, u, v, jump);
	const laid = {
		mesh,
		normals: vertexNormals(mesh),
		u,
		v,
		jump,
		closedAcross: true,
		poles: undefined,
		border: undefined,
		holes: [],
		evened
	};
	return { laid, bottom, top };
}

/** Index of the loop's vertex that lies furthest to the south-east, where our own profiles start too. */
function southEast({ positions: p }: TriangleMesh, { vertices }: BorderLoop): number {
	const reach = vertices.map((v) => p[v * 3]! - p[v * 3 + 1]!);
	return reach.indexOf(Math.max(...reach));
}

/** A ball without its lowest and highest vertex is a tube between the rings around them. */
function layBall(mesh: TriangleMesh): LaidFace {
	const { positions: p, triangles } = mesh;
	let [low, high] = [0, 0];
	for (let v = 0; v < p.length / 3; v++) {
		if (p[v * 3 + 2]! < p[low * 3 + 2]!) low = v;
		if (p[v * 3 + 2]! > p[high * 3 + 2]!) high = v;
	}
	const { start, list } = vertexTriangles(triangles, p.length / 3);
	const dropped = new Set([low, high].flatMap((v) => [...list.subarray(start[v], start[v + 1])]));
	const kept = triangles.filter((_, s) => !dropped.has(Math.floor(s / 3)));
	// The two vertices stay in the list, at no triangle.
	const open = { positions: p, triangles: kept };
	const loops = borderLoops(open);
	if (loops.length !== 2)
		throw new ZygasterError('mesh', 'A closed face is too coarse to be laid around its lowest and highest point.');
	const { laid, bottom, top } = layTube(open, loops[0]!, loops[1]!);
	const pole = (v: number, ring: BorderLoop): Pole => ({ position: [p[v * 3]!, p[v * 3 + 1]!, p[v * 3 + 2]!], ring });
	return { ...laid, poles: { bottom: pole(low, bottom), top: pole(high, top) } };
}

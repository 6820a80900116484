import { hypot, norm, square } from '../elementary/index.ts';
import { ZygasterError } from '../errors.ts';
import { COINCIDENT_MM, WELD_SHARE } from '../tolerances.ts';
import {
	areaVectorOf,
	neighboursOf,
	NO_TRIANGLE,
	PairMap,
	sideOf,
	signedVolume,
	type TriangleMesh
} from './triangleMesh.ts';

/** What was done to a mesh on its way in; numbers of elements. */
export interface Repairs {
	/** Vertices that lay a little beside another one. Those at the very same place are no fault: many formats have one for each triangle. */
	readonly welded: number;
	readonly flat: number;
	readonly doubled: number;
	readonly flipped: number;
	/** Sides shared by more than two triangles, or run alike by two: the surface is parted there. */
	readonly tangled: number;
}

/**
 * Vertices at one place made one, triangles without area or standing twice left out, all turned alike and
 * outwards where they enclose a body. O(triangles). Throws a ZygasterError with code `mesh` for numbers
 * that are none, or when nothing is left.
 */
export function repairMesh(mesh: TriangleMesh): { mesh: TriangleMesh; repairs: Repairs } {
	checkNumbers(mesh);
	const { positions, target, welded } = weld(mesh.positions);
	const triangles: number[] = [];
	const faceOf: number[] = [];
	let [flat, doubled] = [0, 0];
	const pairs = new PairMap(mesh.triangles.length / 3);
	const seen = new PairMap(mesh.triangles.length / 3);
	for (let t = 0; t < mesh.triangles.length / 3; t++) {
		const [a, b, c] = [
			target[mesh.triangles[t * 3]!]!,
			target[mesh.triangles[t * 3 + 1]!]!,
			target[mesh.triangles[t * 3 + 2]!]!
		];
		if (a === b || b === c || c === a || isFlat(positions, a, b, c)) {
			flat++;
			continue;
		}
		const [low, middle, high] = [a, b, c].sort((x, y) => x - y) as [number, number, number];
		const pair = pairs.get(low, middle, t);
		pairs.set(low, middle, pair);
		if (seen.get(pair, high) >= 0) {
			doubled++;
			continue;
		}
		seen.set(pair, high, t);
		triangles.push(a, b, c);
		if (mesh.faceOf) faceOf.push(mesh.faceOf[t]!);
	}
	if (triangles.length === 0)
		throw new ZygasterError('mesh', 'The file holds no triangle with an area; right would be a surface.');
	const turned = Uint32Array.from(triangles);
	const flipped = turnAlike(positions, turned);
	const { tangled } = neighboursOf(turned);
	return {
		mesh: { positions, triangles: turned, ...(mesh.faceOf ? { faceOf: Uint32Array.from(faceOf) } : {}) },
		repairs: { welded, flat, doubled, flipped, tangled }
	};
}

function checkNumbers({ positions, triangles }: TriangleMesh): void {
	const bad = positions.findIndex((x) => !Number.isFinite(x));
	if (bad >= 0)
		throw new ZygasterError(
			'mesh',
			`Vertex ${Math.floor(bad / 3) + 1} has a coordinate that is no number (${positions[bad]}).`
		);
	const count = positions.length / 3;
	const lost = triangles.findIndex((v) => v >= count);
	if (lost >= 0)
		throw new ZygasterError(
			'mesh',
			`Triangle ${Math.floor(lost / 3) + 1} names vertex ${triangles[lost]! + 1} of ${count}.`
		);
}

const isFlat = (positions: Float64Array, a: number, b: number, c: number) =>
	norm(areaVectorOf(positions, a, b, c)) < square(COINCIDENT_MM);

/** Cells of the search for neighbours are this many tolerances wide. */
const CELL = 16;

/** Vertices nearer than the tolerance made one; `target` is the new index of each, `welded` how many were moved for it. O(vertices). */
export function weld(from: Float64Array) {
	const count = from.length / 3;
	const tolerance = Math.max(COINCIDENT_MM, sizeOf(from) * WELD_SHARE);
	const width = tolerance * CELL;
	const target = new Uint32Array(count);
	const kept: number[] = [];
	const next: number[] = [];
	const heads = new PairMap(count);
	const cellOf = (x: number) => Math.floor(x / width);
	const hash = (i: number, j: number, k: number): [number, number] => [
		(Math.imul(i, 73856093) ^ Math.imul(k, 19349663)) & 0x7fffffff,
		(Math.imul(j, 83492791) ^ i) & 0x7fffffff
	];
	const find = (v: number): number => {
		const [x, y, z] = [from[v * 3]!, from[v * 3 + 1]!, from[v * 3 + 2]!];
		for (let i = cellOf(x - tolerance); i <= cellOf(x + tolerance); i++)
			for (let j = cellOf(y - tolerance); j <= cellOf(y + tolerance); j++)
				for (let k = cellOf(z - tolerance); k <= cellOf(z + tolerance); k++)
					for (let w = heads.get(...hash(i, j, k)); w >= 0; w = next[w]!) {
						const o = kept[w]! * 3;
						if (hypot(from[o]! - x, from[o + 1]! - y, from[o + 2]! - z) <= tolerance) return w;
					}
		return -1;
	};
	const apart = (v: number, w: number) => [0, 1, 2].some((a) => from[v * 3 + a] !== from[w * 3 + a]);
	let welded = 0;
	for (let v = 0; v < count; v++) {
		const found = find(v);
		if (found >= 0) {
			target[v] = found;
			if (apart(v, kept[found]!)) welded++;
		} else {
			const cell = hash(cellOf(from[v * 3]!), cellOf(from[v * 3 + 1]!), cellOf(from[v * 3 + 2]!));
			target[v] = kept.length;
			next.push(heads.get(...cell));
			heads.set(...cell, kept.length);
			kept.push(v);
		}
	}
	const positions = new Float64Array(kept.length * 3);
	kept.forEach((v, k) => positions.set(from.subarray(v * 3, v * 3 + 3), k * 3));
	return { positions, target, welded };
}

/** Longest side of the box around points, mm. */
export function sizeOf(positions: Float64Array): number {
	const least = [Infinity, Infinity, Infinity];
	const most = [-Infinity, -Infinity, -Infinity];
	for (let o = 0; o < positions.length; o++) {
		const x = positions[o]!;
		if (x < least[o % 3]!) least[o % 3] = x;
		if (x > most[o % 3]!) most[o % 3] = x;
	}
	return positions.length ? Math.max(...most.map((m, k) => m - least[k]!)) : 0;
}

/** Turns triangles so that neighbours run their common side opposite ways; answers how many were turned. */
function turnAlike(positions: Float64Array, triangles: Uint32Array): number {
	const count = triangles.length / 3;
	const { first, second } = sidesByPair(triangles);
	const state = new Int8Array(count);
	let flipped = 0;
	for (let seed = 0; seed < count; seed++) {
		if (state[seed] !== 0) continue;
		const part = [seed];
		state[seed] = 1;
		for (let head = 0; head < part.length; head++) {
			const t = part[head]!;
			for (let s = t * 3; s < t * 3 + 3; s++) {
				const [a, b] = sideOf(triangles, s);
				const key: [number, number] = a < b ? [a, b] : [b, a];
				const other = [first.get(...key), second.get(...key)].find((o) => o >= 0 && Math.floor(o / 3) !== t);
				if (other === undefined) continue;
				const u = Math.floor(other / 3);
				if (state[u] !== 0) continue;
				// A neighbour runs the common side the other way, once turned.
				const alike = sideOf(triangles, other)[0] === a;
				state[u] = (alike ? -state[t]! : state[t]!) as 1 | -1;
				part.push(u);
			}
		}
		flipped += settlePart(positions, triangles, part, state);
	}
	return flipped;
}

/** Turns the fewer triangles of a part, then all of them where the part is a body turned inside out. */
function settlePart(
	positions: Float64Array,
	triangles: Uint32Array,
	part: readonly number[],
	state: Int8Array
): number {
	const turnedCount = part.filter((t) => state[t] === -1).length;
	const turn = turnedCount * 2 > part.length ? 1 : -1;
	let flipped = 0;
	for (const t of part) if (state[t] === turn) flipped += flip(triangles, t);
	const own = Uint32Array.from(part.flatMap((t) => [...triangles.subarray(t * 3, t * 3 + 3)]));
	const closed = neighboursOf(own).neighbours.every((n) => n !== NO_TRIANGLE);
	if (closed && signedVolume({ positions, triangles: own }) < 0) for (const t of part) flipped += flip(triangles, t);
	return flipped;
}

function flip(triangles: Uint32Array, t: number): number {
	[triangles[t * 3 + 1], triangles[t * 3 + 2]] = [triangles[t * 3 + 2]!, triangles[t * 3 + 1]!];
	return 1;
}

/** The first two sides at each pair of vertices; pairs with more than two join nothing. */
function sidesByPair(triangles: Uint32Array) {
	const first = new PairMap(triangles.length);
	const second = new PairMap(triangles.length);
	const NONE = -2;
	for (let s = 0; s < triangles.length; s++) {
		const [a, b] = sideOf(triangles, s);
		const [low, high] = a < b ? [a, b] : [b, a];
		if (first.get(low, high) === -1) first.set(low, high, s);
		else if (second.get(low, high) === -1) second.set(low, high, s);
		else {
			first.set(low, high, NONE);
			second.set(low, high, NONE);
		}
	}
	return { first, second };
}

import { norm } from '../elementary/index.ts';
import { solveInPlace, solverOf, type SparseMatrix } from './solve.ts';
import { areaVector, PairMap, sideOf, type TriangleMesh } from './triangleMesh.ts';
import { LEAST_HARMONIC_WEIGHT } from '../tolerances.ts';

/** Values at vertices: first guesses, which become the answer. */
export interface HarmonicValues {
	readonly x: Float64Array;
	/** One a triangle corner: added to the value that a triangle sees there, so that a tube's seam runs on. */
	readonly jump?: Int8Array | undefined;
}

/**
 * Places every vertex at the weighted mean of its neighbours while those in `fixed` stay, in each of `all` values: with
 * positive weights and a convex border no triangle folds over. Sources: Tutte, Proc. London Math. Soc. 13, 1963; Floater,
 * CAGD 14, 1997.
 */
export function placeHarmonic(
	mesh: TriangleMesh,
	weights: Float64Array,
	fixed: Uint8Array,
	all: readonly HarmonicValues[]
): void {
	const free = new Int32Array(fixed.length).fill(-1);
	const order = breadthFirst(mesh, fixed);
	order.forEach((v, k) => (free[v] = k));
	const solver = solverOf(assemble(mesh, weights, free, order.length));
	for (const values of all) {
		const { x } = values;
		const unknown = Float64Array.from(order, (v) => x[v]!);
		solveInPlace(solver, rightSide(mesh, weights, free, order.length, values), unknown);
		order.forEach((v, k) => (x[v] = unknown[k]!));
	}
}

/** What the fixed vertices and the seam add. */
function rightSide(
	{ triangles }: TriangleMesh,
	weights: Float64Array,
	free: Int32Array,
	size: number,
	{ x, jump }: HarmonicValues
): Float64Array {
	const right = new Float64Array(size);
	const add = (v: number, neighbour: number, weight: number, shift: number) => {
		const i = free[v]!;
		if (i >= 0) right[i]! += weight * (shift + (free[neighbour]! < 0 ? x[neighbour]! : 0));
	};
	for (let s = 0; s < triangles.length; s++) {
		const end = s % 3 === 2 ? s - 2 : s + 1;
		const shift = jump ? jump[end]! - jump[s]! : 0;
		add(triangles[s]!, triangles[end]!, weights[s]!, shift);
		add(triangles[end]!, triangles[s]!, weights[s]!, -shift);
	}
	return right;
}

/** Weight of each side of each triangle: half the cotangent of the angle opposite, kept positive. */
export function cotangentWeights(mesh: TriangleMesh): Float64Array {
	const { positions: p, triangles } = mesh;
	const weights = new Float64Array(triangles.length);
	let mean = 0;
	for (let t = 0; t < triangles.length / 3; t++) {
		const area = norm(areaVector(mesh, t));
		for (let k = 0; k < 3; k++) {
			const [a, b] = sideOf(triangles, t * 3 + k).map((v) => v * 3) as [number, number];
			const c = triangles[t * 3 + ((k + 2) % 3)]! * 3;
			let dot = 0;
			for (let i = 0; i < 3; i++) dot += (p[a + i]! - p[c + i]!) * (p[b + i]! - p[c + i]!);
			weights[t * 3 + k] = dot / area / 2;
			mean += Math.abs(weights[t * 3 + k]!) / triangles.length;
		}
	}
	// Both triangles at a side count; held one by one, their sum is positive too.
	return weights.map((w) => Math.max(w, LEAST_HARMONIC_WEIGHT * mean));
}

/** Free vertices, neighbours near each other in memory. */
function breadthFirst({ triangles }: TriangleMesh, fixed: Uint8Array): Uint32Array {
	const count = fixed.length;
	const { start, list } = vertexTriangles(triangles, count);
	// Vertices at no triangle have nothing to be placed by.
	const seen = Uint8Array.from(fixed, (f, v) => (f || start[v] === start[v + 1] ? 1 : 0));
	const order = new Uint32Array(seen.reduce((n, s) => n + 1 - s, 0));
	let [head, tail] = [0, 0];
	for (let seed = 0; seed < count; seed++) {
		if (seen[seed]) continue;
		seen[seed] = 1;
		order[tail++] = seed;
		while (head < tail) {
			const v = order[head++]!;
			for (let k = start[v]!; k < start[v + 1]!; k++)
				for (let c = 0; c < 3; c++) {
					const w = triangles[list[k]! * 3 + c]!;
					if (seen[w]) continue;
					seen[w] = 1;
					order[tail++] = w;
				}
		}
	}
	return order;
}

/** Triangles at each vertex: `list` from `start[v]` to `start[v + 1]`. */
export function vertexTriangles(triangles: Uint32Array, count: number) {
	const start = new Uint32Array(count + 1);
	for (const v of triangles) start[v + 1]!++;
	for (let v = 0; v < count; v++) start[v + 1]! += start[v]!;
	const fill = start.slice();
	const list = new Uint32Array(triangles.length);
	triangles.forEach((v, s) => (list[fill[v]!++] = Math.floor(s / 3)));
	return { start, list };
}

/** The Laplacian over the free vertices. */
function assemble({ triangles }: TriangleMesh, weights: Float64Array, free: Int32Array, size: number): SparseMatrix {
	const diagonal = new Float64Array(size);
	const entries = new PairMap(triangles.length * 2);
	const sums: number[] = [];
	const rows: number[] = [];
	const columns: number[] = [];
	const add = (v: number, w: number, weight: number) => {
		const i = free[v]!;
		if (i < 0) return;
		diagonal[i]! += weight;
		const j = free[w]!;
		if (j < 0) return;
		const entry = entries.get(i, j);
		if (entry >= 0) sums[entry]! -= weight;
		else {
			entries.set(i, j, sums.push(-weight) - 1);
			rows.push(i);
			columns.push(j);
		}
	};
	for (let s = 0; s < triangles.length; s++) {
		const end = s % 3 === 2 ? s - 2 : s + 1;
		add(triangles[s]!, triangles[end]!, weights[s]!);
		add(triangles[end]!, triangles[s]!, weights[s]!);
	}
	return compress(size, diagonal, rows, columns, sums);
}

function compress(
	size: number,
	diagonal: Float64Array,
	rows: number[],
	columns: number[],
	values: number[]
): SparseMatrix {
	const rowStart = new Uint32Array(size + 1);
	for (const r of rows) rowStart[r + 1]!++;
	for (let i = 0; i < size; i++) rowStart[i + 1]! += rowStart[i]!;
	const fill = rowStart.slice();
	const order = new Uint32Array(rows.length);
	rows.forEach((r, k) => (order[fill[r]!++] = k));
	const sorted = { columns: new Uint32Array(rows.length), values: new Float64Array(rows.length) };
	for (let i = 0; i < size; i++) {
		const row = order.subarray(rowStart[i], rowStart[i + 1]).sort((a, b) => columns[a]! - columns[b]!);
		row.forEach((k, o) => {
			sorted.columns[rowStart[i]! + o] = columns[k]!;
			sorted.values[rowStart[i]! + o] = values[k]!;
		});
	}
	return { size, diagonal, rowStart, ...sorted };
}

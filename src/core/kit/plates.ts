import { turnedMesh, type Mesh } from './mesh.ts';
import type { PlateSink } from './program.ts';
import type { Indices, PlateGeometry } from './result.ts';
import { Grow } from './grow.ts';

/** The arrays of plates that stand one piece after the other, as `starts` counts them. */
const LISTS = ['places', 'points', 'triangles', 'loops'] as const;
const STRIDE = LISTS.length;

/** Room for plates. */
export const newPlates = (): PlateSink => ({
	places: new Grow(),
	points: new Grow(),
	triangles: new Grow(),
	loops: new Grow(),
	starts: new Grow(),
	back: new Grow(),
	rows: new Grow()
});

/** Begins a plate on a row: what is put into the lists from now on is of its front. */
export function beginPlate(out: PlateSink, row: number, [x, y, z]: readonly [number, number, number]): void {
	out.rows.push(row);
	for (const list of LISTS) out.starts.push(out[list].length);
	out.back.push3(x, y, z);
}

/** Where a piece begins and ends in a list, the places where nothing is said. */
export const rangeOf = (out: PlateSink, piece: number, list = 0): [number, number] => [
	out.starts.values[piece * STRIDE + list]!,
	piece + 1 < out.rows.length ? out.starts.values[(piece + 1) * STRIDE + list]! : out[LISTS[list]!].length
];

/** The plates that are kept, on the rows that these have become; all of them where nothing is said. O(points). */
export function finishPlates(out: PlateSink, rowOf: Uint32Array, keep: Uint8Array | undefined): PlateGeometry {
	const pieces = [...rowOf.keys()].filter((k) => keep?.[k] !== 0);
	const starts = new Uint32Array((pieces.length + 1) * STRIDE);
	const back = new Float64Array(pieces.length * 3);
	pieces.forEach((k, to) => {
		back.set(out.back.values.subarray(k * 3, k * 3 + 3), to * 3);
		for (let list = 0; list < STRIDE; list++) {
			const [from, end] = rangeOf(out, k, list);
			starts[(to + 1) * STRIDE + list] = starts[to * STRIDE + list]! + end - from;
		}
	});
	const lengthOf = (list: number) => starts[pieces.length * STRIDE + list]!;
	const fill = <A extends Float64Array | Indices>(list: number, into: A): A => {
		pieces.forEach((k, to) =>
			into.set(out[LISTS[list]!].values.subarray(...rangeOf(out, k, list)), starts[to * STRIDE + list]!)
		);
		return into;
	};
	// Points are counted within the piece, which has fewer than 65,536 of them nearly always.
	let most = 0;
	for (let k = 0; k < pieces.length; k++)
		most = Math.max(most, starts[(k + 1) * STRIDE + 1]! - starts[k * STRIDE + 1]!);
	const indices = (list: number) =>
		fill(list, most < 65_536 ? new Uint16Array(lengthOf(list)) : new Uint32Array(lengthOf(list)));
	return {
		kind: 'plates',
		places: fill(0, new Float64Array(lengthOf(0))),
		points: indices(1),
		triangles: indices(2),
		loops: indices(3),
		starts,
		back,
		rows: Uint32Array.from(pieces, (k) => rowOf[k]!),
		mirrored: false
	};
}

const hasBack = ({ back }: PlateGeometry, piece: number) =>
	back[piece * 3] !== 0 || back[piece * 3 + 1] !== 0 || back[piece * 3 + 2] !== 0;

/** How many points, and corners of triangles, the body of a piece has. */
export function plateSize(plates: PlateGeometry, piece: number): { readonly points: number; readonly corners: number } {
	const { starts, loops } = plates;
	const at = piece * STRIDE;
	const points = starts[at + STRIDE + 1]! - starts[at + 1]!;
	const corners = starts[at + STRIDE + 2]! - starts[at + 2]!;
	if (!hasBack(plates, piece)) return { points, corners };
	let around = 0;
	for (let k = starts[at + 3]!; k < starts[at + STRIDE + 3]!; k += loops[k]! + 1) around += loops[k]!;
	return { points: points * 2, corners: (corners + around * 3) * 2 };
}

/** Puts a point of the body of a piece, mm, into an array from a place on, as `plateMesh` numbers points. */
export function platePoint(plates: PlateGeometry, piece: number, point: number, into: Float64Array, at: number): void {
	const { places, points, starts, back, mirrored } = plates;
	const [firstPlace, firstPoint] = [starts[piece * STRIDE]!, starts[piece * STRIDE + 1]!];
	const total = starts[(piece + 1) * STRIDE + 1]! - firstPoint;
	const place = firstPlace + points[firstPoint + (point % total)]! * 3;
	for (let c = 0; c < 3; c++) into[at + c] = places[place + c]! - (point < total ? 0 : back[piece * 3 + c]!);
	if (mirrored) into[at] = -into[at]!;
}

/** The body of a piece: its front, its back, and the walls of its outline and openings; the front alone without thickness. O(points). */
export function plateMesh(plates: PlateGeometry, piece: number): Mesh {
	const { places, points, triangles, loops, starts, back, mirrored } = plates;
	const [firstPlace, firstPoint, firstCorner, firstLoop] = starts.subarray(piece * STRIDE);
	const [, endPoint, endCorner, endLoop] = starts.subarray((piece + 1) * STRIDE);
	const size = plateSize(plates, piece);
	const positions = new Float64Array(size.points * 3);
	const corners = new Uint32Array(size.corners);
	const total = endPoint! - firstPoint!;
	let p = 0;
	for (let k = firstPoint!; k < endPoint!; k++)
		for (let c = 0; c < 3; c++) positions[p++] = places[firstPlace! + points[k]! * 3 + c]!;
	let t = 0;
	for (let k = firstCorner!; k < endCorner!; k++) corners[t++] = triangles[k]!;
	if (hasBack(plates, piece)) {
		for (let k = 0; k < total * 3; k++) positions[p++] = positions[k]! - back[piece * 3 + (k % 3)]!;
		for (let k = firstCorner!; k < endCorner!; k += 3) {
			corners[t++] = triangles[k]! + total;
			corners[t++] = triangles[k + 2]! + total;
			corners[t++] = triangles[k + 1]! + total;
		}
		for (let loop = firstLoop!; loop < endLoop!; loop += loops[loop]! + 1)
			for (let k = 0; k < loops[loop]!; k++) {
				const a = loops[loop + 1 + k]!;
				const b = loops[loop + 1 + ((k + 1) % loops[loop]!)]!;
				corners[t++] = a;
				corners[t++] = a + total;
				corners[t++] = b + total;
				corners[t++] = a;
				corners[t++] = b + total;
				corners[t++] = b;
			}
	}
	if (!mirrored) return { positions, triangles: corners };
	for (let k = 0; k < positions.length; k += 3) positions[k] = -positions[k]!;
	return turnedMesh({ positions, triangles: corners });
}

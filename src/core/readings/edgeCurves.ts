import { FRESH_ARRAYS, type ArraySource } from '../arrays.ts';
import { hypot, square } from '../elementary/index.ts';
import { evaluatePoints } from '../geometry/evaluate.ts';
import { domainOf, type Surface } from '../geometry/surface.ts';
import type { NodeTable } from '../settingout/nodes.ts';
import { parameterReaders, periodOf } from '../settingout/places.ts';
import type { CellTable } from '../tiling/cells.ts';
import { nodesThrough } from '../tiling/edges.ts';
import type { EdgeReading } from './lineReadings.ts';
import { wayAt } from '../geometry/vectors.ts';
import { DRAWN_STRAIGHT } from '../tolerances.ts';

/** Stretches by which an edge follows the face; even, so that every second point makes a coarser curve. */
const PARTS = 8;
const POINTS = PARTS + 1;

/** What is needed to find edges on their face. */
export interface FaceEdges {
	readonly surface: Surface;
	readonly nodes: NodeTable;
	readonly cells: CellTable;
}

/** Points along each edge as it lies on the face, straight in the face's parameters: POINTS an edge, mm, stride 3. O(edges). */
function edgeCurves(face: FaceEdges, arrays: ArraySource): Float64Array {
	const { surface, cells } = face;
	const { edgeCount } = cells;
	const ends = edgeEnds(face, arrays);
	const us = arrays.float64(edgeCount * POINTS);
	const vs = arrays.float64(edgeCount * POINTS);
	const u = domainOf(surface.knotsU, surface.degreeU);
	const v = domainOf(surface.knotsV, surface.degreeV);
	const within = (t: number, [from, to]: readonly [number, number]) =>
		t < from ? t + to - from : t > to ? t - to + from : t;
	for (let e = 0; e < edgeCount; e++)
		for (let k = 0; k < POINTS; k++) {
			const share = k / PARTS;
			us[e * POINTS + k] = within(ends[e * 4]! + (ends[e * 4 + 2]! - ends[e * 4]!) * share, u);
			vs[e * POINTS + k] = within(ends[e * 4 + 1]! + (ends[e * 4 + 3]! - ends[e * 4 + 1]!) * share, v);
		}
	const { position, normal } = evaluatePoints(surface, us, vs, arrays);
	arrays.spare(ends, us, vs, normal);
	if (cells.edgeBends) followBends(face, position);
	return position;
}

/** Curved edges run through nodes of their own, which they are taken through evenly. */
function followBends({ nodes, cells }: FaceEdges, points: Float64Array): void {
	for (let e = 0; e < cells.edgeCount; e++) {
		const through = nodesThrough(cells.edgeBends, e);
		if (through.length === 0) continue;
		const line = [cells.edgeNodes[e * 2]!, ...through, cells.edgeNodes[e * 2 + 1]!];
		for (let k = 0; k < POINTS; k++) {
			const at = (k / PARTS) * (line.length - 1);
			const low = Math.min(line.length - 2, Math.floor(at));
			for (let c = 0; c < 3; c++) {
				const [p, q] = [nodes.position[line[low]! * 3 + c]!, nodes.position[line[low + 1]! * 3 + c]!];
				points[(e * POINTS + k) * 3 + c] = p + (q - p) * (at - low);
			}
		}
	}
}

/** Parameters of both ends of each edge, stride 4; beyond a seam they go on. */
function edgeEnds({ surface, nodes, cells }: FaceEdges, arrays: ArraySource): Float64Array {
	const { cornerStart, corners, places = corners, edgeCount, edgeNodes, edgeCells } = cells;
	const read = parameterReaders(nodes, periodOf(surface, nodes.ends));
	const ends = arrays.float64(edgeCount * 4).fill(0);
	for (let e = 0; e < edgeCount; e++) {
		const [a, b] = [edgeNodes[e * 2]!, edgeNodes[e * 2 + 1]!];
		const [from, to] = [cornerStart[edgeCells[e * 2]!]!, cornerStart[edgeCells[e * 2]! + 1]!];
		for (let k = from; k < to; k++) {
			const next = k + 1 < to ? k + 1 : from;
			if (!(corners[k] === a && corners[next] === b) && !(corners[k] === b && corners[next] === a)) continue;
			ends.set([read.u(places[k]!), read.v(places[k]!), read.u(places[next]!), read.v(places[next]!)], e * 4);
			break;
		}
	}
	return ends;
}

/** How long edges are on the face, and how far it rises over their chords. O(edges). */
export function measureEdgeCurves(
	face: FaceEdges,
	arrays = FRESH_ARRAYS
): Record<Extract<EdgeReading, 'onFace' | 'rise'>, Float64Array> {
	const p = edgeCurves(face, arrays);
	const { edgeCount } = face.cells;
	const found = { onFace: arrays.float64(edgeCount), rise: arrays.float64(edgeCount) };
	for (let e = 0; e < edgeCount; e++) {
		const first = e * POINTS;
		let [fine, coarse] = [0, 0];
		for (let k = 0; k < PARTS; k++) {
			fine += spanOf(p, first + k, first + k + 1);
			if (k % 2 === 0) coarse += spanOf(p, first + k, first + k + 2);
		}
		// Chords fall short by the square of their length: Richardson's extrapolation. What runs through nodes of its own is as long as those tell.
		found.onFace[e] = lengthThrough(face, e) ?? fine + (fine - coarse) / 3;
		const chord = spanOf(p, first, first + PARTS);
		const off = Array.from({ length: POINTS }, (_, k) =>
			chord > 0 ? distanceTo(p, first, first + PARTS, first + k, chord) : 0
		);
		found.rise[e] = peakOf(off);
	}
	arrays.spare(p);
	return found;
}

/** Length of a curved edge along its nodes, mm; nothing for a straight one. */
export function lengthThrough(
	{ nodes: { position }, cells }: Pick<FaceEdges, 'cells'> & { readonly nodes: Pick<NodeTable, 'position'> },
	edge: number
): number | undefined {
	const through = nodesThrough(cells.edgeBends, edge);
	if (through.length === 0) return undefined;
	let sum = 0;
	let at = cells.edgeNodes[edge * 2]! * 3;
	for (const node of [...through, cells.edgeNodes[edge * 2 + 1]!]) {
		const next = node * 3;
		sum += hypot(
			position[next]! - position[at]!,
			position[next + 1]! - position[at + 1]!,
			position[next + 2]! - position[at + 2]!
		);
		at = next;
	}
	return sum;
}

/** The greatest of evenly spaced values, between them by the parabola through the greatest and its neighbours. */
function peakOf(values: readonly number[]): number {
	const k = values.reduce((best, v, at) => (v > values[best]! ? at : best), 0);
	const [a, b, c] = [values[k - 1], values[k]!, values[k + 1]];
	if (a === undefined || c === undefined) return b;
	const bend = 2 * b - a - c;
	return bend > 0 ? b + square(a - c) / (8 * bend) : b;
}

/** Distance of a point from the line through two others that are `length` apart. */
function distanceTo(p: Float64Array, a: number, b: number, at: number, length: number): number {
	const [wx, wy, wz] = wayAt(p, a * 3, b * 3);
	const [dx, dy, dz] = [wx / length, wy / length, wz / length];
	const [x, y, z] = wayAt(p, a * 3, at * 3);
	return hypot(y * dz - z * dy, z * dx - x * dz, x * dy - y * dx);
}

/**
 * Edges as they lie on the face as line segments, mm less an origin, stride 6: as few of them as look like the curve, since
 * what lines cost to draw is their number. O(edges).
 */
export function curveSegments(face: FaceEdges, origin: readonly [number, number, number]): Float32Array<ArrayBuffer> {
	const p = edgeCurves(face, FRESH_ARRAYS);
	const { edgeCount } = face.cells;
	const strides = Uint8Array.from({ length: edgeCount }, (_, e) => drawnStride(p, e * POINTS));
	const segments = new Float32Array(strides.reduce((n, stride) => n + PARTS / stride, 0) * 6);
	let o = 0;
	strides.forEach((stride, e) => {
		for (let k = 0; k < PARTS; k += stride)
			for (const at of [e * POINTS + k, e * POINTS + k + stride])
				for (let c = 0; c < 3; c++) segments[o++] = p[at * 3 + c]! - origin[c]!;
	});
	return segments;
}

/** Every how many points of an edge its line may go straight. */
function drawnStride(p: Float64Array, first: number): number {
	const length = spanOf(p, first, first + PARTS);
	let stride = PARTS;
	while (stride > 1 && !isStraight(p, first, stride, length * DRAWN_STRAIGHT)) stride /= 2;
	return stride;
}

/** Whether every so many points of an edge make a line that the others are near. */
function isStraight(p: Float64Array, first: number, stride: number, near: number): boolean {
	for (let from = first; from < first + PARTS; from += stride) {
		const chord = spanOf(p, from, from + stride);
		for (let at = from + 1; at < from + stride; at++)
			if ((chord > 0 ? distanceTo(p, from, from + stride, at, chord) : spanOf(p, from, at)) > near) return false;
	}
	return true;
}

const spanOf = (p: Float64Array, a: number, b: number) =>
	hypot(p[a * 3]! - p[b * 3]!, p[a * 3 + 1]! - p[b * 3 + 1]!, p[a * 3 + 2]! - p[b * 3 + 2]!);

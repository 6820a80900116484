import { evaluatePoints } from '../geometry/evaluate.ts';
import { domainOf, type Surface } from '../geometry/surface.ts';
import type { NodeTable } from '../settingout/nodes.ts';
import { isTensor } from '../settingout/places.ts';
import type { CellTable } from '../tiling/cells.ts';
import type { EdgeReading } from './lineReadings.ts';

/** Stretches by which an edge follows the face; even, so that every second point makes a coarser curve. */
const PARTS = 8;
const POINTS = PARTS + 1;

/** What is needed to find edges on their face. */
export interface FaceEdges {
	readonly surface: Surface;
	readonly nodes: NodeTable;
	readonly cells: CellTable;
}

/**
 * Points along each edge as it lies on the face, straight in the face's parameters: POINTS an edge, mm, stride 3; NaN
 * along a hole within a cell, which is no side of its outline. O(edges).
 */
export function edgeCurves(face: FaceEdges): Float64Array {
	const { surface, cells } = face;
	const { edgeCount } = cells;
	const ends = edgeEnds(face);
	const us = new Float64Array(edgeCount * POINTS);
	const vs = new Float64Array(edgeCount * POINTS);
	const [u, v] = [surface, surface].map((s, k) => domainOf(k === 0 ? s.knotsU : s.knotsV, k === 0 ? s.degreeU : s.degreeV));
	const within = (t: number, [from, to]: readonly [number, number]) => (t < from ? t + to - from : t > to ? t - to + from : t);
	for (let e = 0; e < edgeCount; e++)
		for (let k = 0; k < POINTS; k++) {
			const share = k / PARTS;
			us[e * POINTS + k] = within(ends[e * 4]! + (ends[e * 4 + 2]! - ends[e * 4]!) * share, u!);
			vs[e * POINTS + k] = within(ends[e * 4 + 1]! + (ends[e * 4 + 3]! - ends[e * 4 + 1]!) * share, v!);
		}
	return evaluatePoints(surface, us, vs).position;
}

/** Parameters of both ends of each edge, stride 4; beyond a seam they go on. */
function edgeEnds({ surface, nodes, cells }: FaceEdges): Float64Array {
	const { us, vs, columns, rows, turns, ends: closed } = nodes;
	const { cornerStart, corners, places = corners, edgeCount, edgeNodes, edgeCells } = cells;
	const tensor = isTensor(nodes);
	const grid = columns * rows;
	const length = ([from, to]: readonly [number, number]) => to - from;
	const across = closed.closedAcross ? length(domainOf(surface.knotsU, surface.degreeU)) : 0;
	const up = closed.closedUp ? length(domainOf(surface.knotsV, surface.degreeV)) : 0;
	const ends = new Float64Array(edgeCount * 4);
	for (let e = 0; e < edgeCount; e++) {
		const [a, b] = [edgeNodes[e * 2]!, edgeNodes[e * 2 + 1]!];
		const [from, to] = [cornerStart[edgeCells[e * 2]!]!, cornerStart[edgeCells[e * 2]! + 1]!];
		let k = from;
		const next = (at: number) => (at + 1 < to ? at + 1 : from);
		while (k < to && !((corners[k] === a && corners[next(k)] === b) || (corners[k] === b && corners[next(k)] === a))) k++;
		for (let end = 0; end < 2; end++) {
			const place = k < to ? places[end === 0 ? k : next(k)]! : 0;
			const turned = turns !== undefined && place >= grid;
			ends[e * 4 + end * 2] = k < to ? us[tensor ? place % columns : place]! + (turned ? turns[(place - grid) * 2]! * across : 0) : us[0]!;
			ends[e * 4 + end * 2 + 1] = k < to ? vs[tensor ? Math.floor(place / columns) : place]! + (turned ? turns[(place - grid) * 2 + 1]! * up : 0) : vs[0]!;
		}
	}
	return ends;
}

/** How long edges are on the face, and how far it rises over their chords. O(edges). */
export function measureEdgeCurves(face: FaceEdges): Record<Extract<EdgeReading, 'onFace' | 'rise'>, Float64Array> {
	const p = edgeCurves(face);
	const { edgeCount } = face.cells;
	const found = { onFace: new Float64Array(edgeCount), rise: new Float64Array(edgeCount) };
	const far = (a: number, b: number) => Math.hypot(p[a * 3]! - p[b * 3]!, p[a * 3 + 1]! - p[b * 3 + 1]!, p[a * 3 + 2]! - p[b * 3 + 2]!);
	for (let e = 0; e < edgeCount; e++) {
		const first = e * POINTS;
		let [fine, coarse] = [0, 0];
		for (let k = 0; k < PARTS; k++) {
			fine += far(first + k, first + k + 1);
			if (k % 2 === 0) coarse += far(first + k, first + k + 2);
		}
		// Chords fall short by the square of their length: Richardson's extrapolation.
		found.onFace[e] = fine + (fine - coarse) / 3;
		const chord = far(first, first + PARTS);
		const off = Array.from({ length: POINTS }, (_, k) => (chord > 0 ? distanceTo(p, first, first + PARTS, first + k, chord) : 0));
		found.rise[e] = peakOf(off);
	}
	return found;
}

/** The greatest of evenly spaced values, between them by the parabola through the greatest and its neighbours. */
function peakOf(values: readonly number[]): number {
	const k = values.reduce((best, v, at) => (v > values[best]! ? at : best), 0);
	const [a, b, c] = [values[k - 1], values[k]!, values[k + 1]];
	if (a === undefined || c === undefined) return b;
	const bend = 2 * b - a - c;
	return bend > 0 ? b + (a - c) ** 2 / (8 * bend) : b;
}

/** Distance of a point from the line through two others that are `length` apart. */
function distanceTo(p: Float64Array, a: number, b: number, at: number, length: number): number {
	const [dx, dy, dz] = [0, 1, 2].map((c) => (p[b * 3 + c]! - p[a * 3 + c]!) / length) as [number, number, number];
	const [x, y, z] = [0, 1, 2].map((c) => p[at * 3 + c]! - p[a * 3 + c]!) as [number, number, number];
	return Math.hypot(y * dz - z * dy, z * dx - x * dz, x * dy - y * dx);
}

/** The same curves as line segments, mm less an origin, stride 6. */
export function curveSegments(face: FaceEdges, origin: readonly [number, number, number]): Float32Array<ArrayBuffer> {
	const p = edgeCurves(face);
	const segments = new Float32Array(face.cells.edgeCount * PARTS * 6);
	let o = 0;
	for (let e = 0; e < face.cells.edgeCount; e++)
		for (let k = 0; k < PARTS; k++) for (let c = 0; c < 6; c++) segments[o++] = p[(e * POINTS + k) * 3 + c]! - origin[c % 3]!;
	return segments;
}

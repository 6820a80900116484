import { hypot } from '../../elementary/index.ts';
import { dot } from '../../geometry/vectors.ts';
import { axesSquareTo, type Axis } from '../../kit/axes.ts';
import { meshVolume, type Mesh } from '../../kit/mesh.ts';
import type { SolidPort } from '../../kit/solids.ts';
import { transformed, UNIT_BOX } from '../../kit/unitBodies.ts';
import { LEAST_BAR_MM, LEAST_PIECE_SHARE, SAME_FLAT_MM, SIDEWAYS_SINE } from '../../tolerances.ts';
import { ringArea, withinPieces } from '../../tiling/openings/rings.ts';
import { connectedPieces, convexHull } from './meshPieces.ts';
import { bodiesTaken, flatten, type TakenOff } from './takenOff.ts';

/** How far what is taken off goes beyond a body, mm, so that no two faces of theirs lie in one plane. */
const CLEAR_MM = 10;

/** Nothing where the body is left as it is. Throws an Error where it is no closed body. */
function whatGoes(mesh: Mesh, taken: TakenOff, solids: SolidPort): { bodies: Mesh[]; gone: Mesh } | undefined {
	const seen = hullSeen(mesh, taken);
	if (!withinPieces(seen, taken.pieces).some((p) => ringArea(p.outer) > ringArea(seen) * LEAST_PIECE_SHARE))
		return undefined;
	const heights = extents(mesh, taken.frame.normal, taken.frame.origin);
	const bodies = bodiesTaken(taken, heights[0] - CLEAR_MM, heights[1] + CLEAR_MM);
	if (!bodies.length) return undefined;
	const all = bodies.length > 1 ? solids.combine('union', bodies)! : bodies[0]!;
	const gone = solids.combine('intersection', [mesh, all]);
	return gone && Math.abs(meshVolume(gone)) > Math.abs(meshVolume(mesh)) * LEAST_PIECE_SHARE
		? { bodies, gone }
		: undefined;
}

/** What is left of a body, piece by piece; nothing is told where nothing is taken off it. Throws an Error where it is no closed body. */
export function trimBody(mesh: Mesh, taken: TakenOff, solids: SolidPort): Mesh[] | undefined {
	const goes = whatGoes(mesh, taken, solids);
	if (!goes) return undefined;
	const left = solids.combine('difference', [mesh, ...goes.bodies]);
	return left ? connectedPieces(left).filter((piece) => meshVolume(piece) > meshVolume(mesh) * LEAST_PIECE_SHARE) : [];
}

/** A piece of a bar: along its axis from `from` to `to`, mm, of which the bar runs from 0 to its length. */
export interface BarPiece {
	readonly mesh: Mesh;
	readonly from: number;
	readonly to: number;
	/** Whether it is cut there, not as the bar was. */
	readonly cutFrom: boolean;
	readonly cutTo: boolean;
}

/**
 * A straight bar cut back square to itself wherever something is taken off its section. Its points are rings from its
 * first end to its last, its triangles those of `barTriangles`. Throws an Error where it is no closed body.
 */
export function trimBar(mesh: Mesh, taken: TakenOff, solids: SolidPort): { length: number; pieces: BarPiece[] } {
	// The first triangle goes from two points of the first ring to the second one of the next ring.
	const ring = (mesh.triangles[2]! - mesh.triangles[1]!) * 3;
	const [start, end] = [meanOf(mesh.positions.subarray(0, ring)), meanOf(mesh.positions.subarray(-ring))];
	const length = hypot(end[0] - start[0], end[1] - start[1], end[2] - start[2]);
	const axis: Axis = [(end[0] - start[0]) / length, (end[1] - start[1]) / length, (end[2] - start[2]) / length];
	const [low, high] = extents(mesh, axis, start);
	const lies = Math.abs(dot(axis, taken.frame.normal)) < SIDEWAYS_SINE && mesh.positions.length === 2 * ring;
	const gaps = merged(lies ? gapsSeen(mesh, taken, start, axis) : gapsCut(mesh, taken, solids, start, axis));
	if (!gaps.length) return { length, pieces: [{ mesh, from: 0, to: length, cutFrom: false, cutTo: false }] };
	/** Between the gaps, and before and after them. */
	const spans = [...gaps, [Infinity, Infinity] as const].map(([to], k) => [gaps[k - 1]?.[1] ?? -Infinity, to] as const);
	const pieces = spans.flatMap(([from, to]): BarPiece[] => {
		const [a, b] = [Math.max(from, low), Math.min(to, high)];
		if (!(b - a > LEAST_BAR_MM)) return [];
		const left = lies
			? cutRings(mesh, start, axis, from, to)
			: cutSpan(mesh, start, axis, [from, to], [low, high], solids);
		if (!left) return [];
		return [
			{
				mesh: left,
				from: Math.max(0, Math.min(length, a)),
				to: Math.max(0, Math.min(length, b)),
				cutFrom: from !== -Infinity,
				cutTo: to !== Infinity
			}
		];
	});
	return { length, pieces };
}

/** The convex line around a mesh, seen from outside. */
const hullSeen = ({ positions }: Mesh, { frame }: TakenOff) =>
	convexHull(Array.from({ length: positions.length / 3 }, (_, k) => flatten(frame, positions, k * 3)));

type Span = readonly [number, number];

/** Where something is taken off a bar that lies in the cell's plane: what is taken, seen from outside, where it meets the bar. */
function gapsSeen(mesh: Mesh, taken: TakenOff, start: Axis, axis: Axis): Span[] {
	const { frame, pieces } = taken;
	const hull = hullSeen(mesh, taken);
	const [ox, oy] = flatten(frame, start, 0);
	const [dx, dy] = [dot(axis, frame.right), dot(axis, frame.up)];
	const least = ringArea(hull) * LEAST_PIECE_SHARE;
	return withinPieces(hull, pieces)
		.filter((p) => ringArea(p.outer) > least)
		.map(({ outer }) => {
			const along = outer.map(([x, y]) => (x - ox) * dx + (y - oy) * dy);
			return [Math.min(...along), Math.max(...along)] as const;
		});
}

/** The same for any bar, by cutting it. */
function gapsCut(mesh: Mesh, taken: TakenOff, solids: SolidPort, start: Axis, axis: Axis): Span[] {
	const goes = whatGoes(mesh, taken, solids);
	return goes ? connectedPieces(goes.gone).map((piece) => extents(piece, axis, start)) : [];
}

/** A bar of two rings, either of them moved along it to stand square to it. */
function cutRings({ positions, triangles }: Mesh, start: Axis, axis: Axis, from: number, to: number): Mesh {
	const half = positions.length / 2;
	const out = positions.slice();
	const along = (o: number) =>
		(positions[o]! - start[0]) * axis[0] +
		(positions[o + 1]! - start[1]) * axis[1] +
		(positions[o + 2]! - start[2]) * axis[2];
	for (let o = 0; o < half; o += 3)
		for (const [at, place] of [
			[o, from],
			[o + half, to]
		] as const) {
			if (!Number.isFinite(place)) continue;
			const by = place - along(at);
			for (let c = 0; c < 3; c++) out[at + c] = positions[at + c]! + axis[c]! * by;
		}
	return { positions: out, triangles };
}

/** What of a bar lies between two places along it. */
function cutSpan(
	mesh: Mesh,
	start: Axis,
	axis: Axis,
	[from, to]: Span,
	[low, high]: Span,
	solids: SolidPort
): Mesh | undefined {
	const ends: Span = [from === -Infinity ? low - CLEAR_MM : from, to === Infinity ? high + CLEAR_MM : to];
	return solids.combine('intersection', [mesh, slab(start, axis, ...ends, mesh)]);
}

/** Least and greatest of a mesh along an axis from a point. */
function extents({ positions }: Mesh, axis: Axis, from: Axis): [number, number] {
	let [low, high] = [Infinity, -Infinity];
	for (let o = 0; o < positions.length; o += 3) {
		const along =
			(positions[o]! - from[0]) * axis[0] +
			(positions[o + 1]! - from[1]) * axis[1] +
			(positions[o + 2]! - from[2]) * axis[2];
		low = Math.min(low, along);
		high = Math.max(high, along);
	}
	return [low, high];
}

/** Spans that meet as one, in order. */
function merged(spans: readonly (readonly [number, number])[]): (readonly [number, number])[] {
	const out: [number, number][] = [];
	for (const [from, to] of [...spans].sort((a, b) => a[0] - b[0])) {
		const last = out.at(-1);
		if (last && from <= last[1] + SAME_FLAT_MM) last[1] = Math.max(last[1], to);
		else out.push([from, to]);
	}
	return out;
}

/** A box around all of a mesh between two places along an axis. */
function slab(origin: Axis, axis: Axis, from: number, to: number, mesh: Mesh): Mesh {
	const [right, up] = axesSquareTo(axis);
	const [x, y] = [extents(mesh, right, origin), extents(mesh, up, origin)];
	const low: Axis = [x[0] - CLEAR_MM, y[0] - CLEAR_MM, from];
	const size: Axis = [x[1] - x[0] + 2 * CLEAR_MM, y[1] - y[0] + 2 * CLEAR_MM, to - from];
	const axes = [right, up, axis];
	const matrix = [
		...axes.flatMap((a, k) => a.map((c) => c * size[k]!)),
		...[0, 1, 2].map((c) => origin[c]! + axes.reduce((sum, a, k) => sum + a[c]! * low[k]!, 0))
	];
	return transformed(UNIT_BOX, matrix);
}

function meanOf(points: Float64Array): Axis {
	const sum = [0, 0, 0];
	points.forEach((x, k) => (sum[k % 3]! += x));
	return sum.map((x) => x / (points.length / 3)) as unknown as Axis;
}

import { hypot, square } from '../../elementary/index.ts';
import { axesSquareTo, type Axis } from '../../kit/axes.ts';
import { fillOutline, putFill } from '../../kit/fillOutline.ts';
import { newLoose } from '../../kit/outputs.ts';
import type { Mesh } from '../../kit/mesh.ts';
import { outlinesOf } from '../../tiling/cells.ts';
import { ringArea, withoutRings, type Piece, type Ring } from '../../tiling/openings/rings.ts';
import { LEAST_PIECE_SHARE, SAME_FLAT_MM } from '../../tolerances.ts';
import type { HostFace } from '../faceHosts.ts';

/** What openings have taken off a cell, seen along the whole cell's normal. */
export interface TakenOff {
	/** Seen from outside, mm: right, up and outwards from the cell's first corner. */
	readonly frame: Frame;
	/** Over the cell, and beside it as far as kits reach. */
	readonly pieces: readonly Piece[];
	/** Area of the whole cell, mm2. */
	readonly area: number;
}

/** Unit axes and origin of a plane. */
export interface Frame {
	readonly origin: Axis;
	readonly right: Axis;
	readonly up: Axis;
	readonly normal: Axis;
}

/** How far beyond a cell its kit may reach, in sizes of the cell. */
const REACH = 4;

/**
 * What is gone of a cell: the whole without the piece of it that is left, and beyond the sides that are gone as far as
 * the kit may reach. Beyond sides that are left nothing is taken. O(corners2).
 */
export function takenOff(cut: HostFace, whole: HostFace, cell: number): TakenOff {
	const { position } = whole.nodes;
	const at = (points: ArrayLike<number>, o: number): Axis => [points[o]!, points[o + 1]!, points[o + 2]!];
	const wholeNodes = nodesOf(whole, cell);
	const normal = at(whole.readings.normal, cell * 3);
	const [right, up] = axesSquareTo(normal);
	const frame = { origin: at(position, wholeNodes[0]! * 3), right, up, normal };
	const flat = (nodes: Iterable<number>): Ring => Array.from(nodes, (n) => flatten(frame, position, n * 3));
	const left = [flat(nodesOf(cut, cell)), ...(cut.cells.trim!.holes.get(cell) ?? []).map((hole) => flat(hole))];
	const outline = flat(wholeNodes);
	const area = ringArea(outline);
	// With the cut's own points on the sides of the whole, so that rounding leaves nothing between the two.
	const parted = outline.flatMap((a, k) => [a, ...pointsOn(a, outline[(k + 1) % outline.length]!, left[0]!)]);
	const gone = withoutRings([parted], left).filter((p) => ringArea(p.outer) > area * LEAST_PIECE_SHARE);
	const far = REACH * Math.max(...outline.flatMap((p) => outline.map((q) => hypot(p[0] - q[0], p[1] - q[1]))));
	const beside = gone.flatMap((p) => besideOf(p.outer, outline, far));
	const pieces = beside.length ? withoutRings([...gone.flatMap((p) => [p.outer, ...p.holes]), ...beside], left) : gone;
	return { frame, pieces: pieces.filter((p) => ringArea(p.outer) > area * LEAST_PIECE_SHARE), area };
}

function nodesOf({ cells }: HostFace, cell: number): Uint32Array {
	const { cornerStart, corners } = outlinesOf(cells);
	return corners.subarray(cornerStart[cell], cornerStart[cell + 1]);
}

/** Where a point in space is in a frame's plane. */
export function flatten({ origin, right, up }: Frame, points: ArrayLike<number>, o: number): [number, number] {
	const [x, y, z] = [points[o]! - origin[0], points[o + 1]! - origin[1], points[o + 2]! - origin[2]];
	return [x * right[0] + y * right[1] + z * right[2], x * up[0] + y * up[1] + z * up[2]];
}

/** How far along a side a point is, mm, where it is on it. */
function alongSide(a: Ring[number], b: Ring[number], [x, y]: Ring[number]): number | undefined {
	const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
	const length = hypot(dx, dy);
	const along = ((x - a[0]) * dx + (y - a[1]) * dy) / length;
	const off = ((y - a[1]) * dx - (x - a[0]) * dy) / length;
	return Math.abs(off) < SAME_FLAT_MM && along > -SAME_FLAT_MM && along < length + SAME_FLAT_MM ? along : undefined;
}

const near = (a: Ring[number], b: Ring[number]) => square(a[0] - b[0]) + square(a[1] - b[1]) < square(SAME_FLAT_MM);

/** Points of a line on a side between its ends, in order. */
const pointsOn = (a: Ring[number], b: Ring[number], line: Ring): Ring =>
	line
		.flatMap((p) => {
			const along = alongSide(a, b, p);
			return along === undefined || near(p, a) || near(p, b) ? [] : [{ p, along }];
		})
		.sort((p, q) => p.along - q.along)
		.map(({ p }) => p);

/** What lies beyond those sides of a cell that a piece runs along, and beyond the corners between them. */
function besideOf(piece: Ring, outline: Ring, far: number): Ring[] {
	/** Outwards of each side of the piece that is one of the cell's, or part of one. */
	const ways = piece.map((a, k) => {
		const b = piece[(k + 1) % piece.length]!;
		const on = outline.some((c, s) => {
			const d = outline[(s + 1) % outline.length]!;
			return alongSide(c, d, a) !== undefined && alongSide(c, d, b) !== undefined;
		});
		const length = hypot(b[0] - a[0], b[1] - a[1]);
		return on ? ([((b[1] - a[1]) / length) * far, ((a[0] - b[0]) / length) * far] as const) : undefined;
	});
	return piece.flatMap((a, k): Ring[] => {
		const b = piece[(k + 1) % piece.length]!;
		const [before, way] = [ways[(k + piece.length - 1) % piece.length], ways[k]];
		if (!way) return [];
		const moved = (p: Ring[number], ...by: (readonly [number, number])[]): Ring[number] =>
			by.reduce<Ring[number]>((q, w) => [q[0] + w[0], q[1] + w[1]], p);
		const strip: Ring = [a, moved(a, way), moved(b, way), b];
		const turns = before && before[0] * way[1] - before[1] * way[0] > 0;
		return turns ? [strip, [a, moved(a, before), moved(a, before, way), moved(a, way)]] : [strip];
	});
}

/** What is taken off as bodies between two heights over the cell's plane, mm. */
export function bodiesTaken({ frame, pieces }: TakenOff, low: number, high: number): Mesh[] {
	const { origin, right, up, normal } = frame;
	return pieces.flatMap(({ outer, holes }) => {
		const rings = [outer, ...holes].map((ring) =>
			Float64Array.from(
				ring.flatMap(([x, y]) => [0, 1, 2].map((c) => origin[c]! + x * right[c]! + y * up[c]! + low * normal[c]!))
			)
		);
		const filled = fillOutline(rings, normal);
		if (!filled) return [];
		const out = newLoose();
		putFill(out, 0, rings, filled.triangles, normal, high - low, 'outside');
		return [{ positions: out.positions.float64(), triangles: out.triangles.uint32() }];
	});
}

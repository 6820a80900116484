import { atan2, norm } from '../elementary/index.ts';
import { closestPointFinder } from '../geometry/closestPoint.ts';
import type { Point } from '../geometry/curve.ts';
import { borderOf, runsAlong, type FaceBorder } from '../geometry/faceBorder.ts';
import type { Surface } from '../geometry/surface.ts';
import { cross, dot, minus, plus, pointAt, scaled } from '../geometry/vectors.ts';
import type { BESIDE_READINGS } from '../kit/hostReadings.ts';
import { NO_CELL } from '../tiling/cells.ts';
import { edgeLines } from './edgeLines.ts';
import type { HostFace } from './faceHosts.ts';

/** A face whose border meets that of another. */
export interface MeetingFace {
	readonly border: FaceBorder;
	/** Unit normal outwards of the point of the face nearest to another. */
	readonly normalAt: (point: Point) => Point;
	/** Whether it stands earlier in the list of masses and faces. */
	readonly earlier: boolean;
}

/** A face as one beside it sees it. */
export function meetingFace(surface: Surface, insideOut: boolean, earlier: boolean): MeetingFace {
	let nearest: ReturnType<typeof closestPointFinder> | undefined;
	return {
		earlier,
		border: borderOf(surface),
		normalAt(point) {
			nearest ??= closestPointFinder(surface);
			return scaled(nearest(point).normal, insideOut ? -1 : 1);
		}
	};
}

type BesideReadings = Readonly<Record<keyof typeof BESIDE_READINGS, Float64Array>>;

/**
 * By edge, what it has of the first other face whose border it lies along: the angle between both faces, measured inside, and
 * the turn about the edge from its own cell's outside to that of the other face. O(border edges x faces).
 */
export function besideReadings(
	face: Pick<HostFace, 'nodes' | 'cells' | 'readings'>,
	neighbours: readonly MeetingFace[]
): BesideReadings {
	const { nodes, cells, readings } = face;
	const [faceAngle, faceTurn] = [new Float64Array(cells.edgeCount).fill(Math.PI), new Float64Array(cells.edgeCount)];
	if (!neighbours.length) return { faceAngle, faceTurn };
	const { cornerStart, corners } = edgeLines({ ...face, layer: 0 }, 'face');
	const at = (n: number) => pointAt(nodes.position, n * 3);
	const middleOf = (cell: number) => {
		const nodes = cells.corners.subarray(cells.cornerStart[cell], cells.cornerStart[cell + 1]);
		return scaled(
			nodes.reduce<Point>((sum, n) => plus(sum, at(n)), [0, 0, 0]),
			1 / nodes.length
		);
	};
	for (let e = 0; e < cells.edgeCount; e++) {
		if (cells.edgeCells[e * 2 + 1] !== NO_CELL) continue;
		const [a, b] = [at(corners[cornerStart[e]!]!), at(corners[cornerStart[e + 1]! - 1]!)];
		const other = neighbours.find(({ border }) => border.holds(a) && border.holds(b) && runsAlong(border, a, b));
		if (!other) continue;
		const cell = cells.edgeCells[e * 2]!;
		const middle = scaled(plus(a, b), 0.5);
		const way = unit(minus(b, a));
		const square = (p: Point) => minus(p, scaled(way, dot(p, way)));
		const [own, beyond] = [square(pointAt(readings.normal, cell * 3)), square(other.normalAt(middle))];
		const turn = atan2(dot(cross(own, beyond), way), dot(own, beyond));
		// Outside of a ridge the other face looks away from this one's cells.
		const isRidge = dot(beyond, minus(middleOf(cell), middle)) < 0;
		faceTurn[e] = turn;
		faceAngle[e] = Math.PI + (isRidge ? -1 : 1) * Math.abs(turn);
	}
	return { faceAngle, faceTurn };
}

const unit = (p: Point) => scaled(p, 1 / (norm(p) || 1));

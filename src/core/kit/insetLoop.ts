import { hypot } from '../elementary/index.ts';
import { crossingSides } from '../tiling/openings/rings.ts';
import { COINCIDENT_MM, PARALLEL_SINE } from '../tolerances.ts';

type Point2 = readonly [number, number];

/** A side's line moved inwards: a point on it and its way, of unit length. */
interface Side {
	readonly x: number;
	readonly y: number;
	readonly dx: number;
	readonly dy: number;
}

/**
 * A closed line, anticlockwise, moved inwards by a distance, with a point for each of its own: where a side
 * shrinks to nothing on the way, its two neighbours meet and both its ends are where they do. Nothing when
 * less than three sides are left or the line would cross itself. Source: the edge events of the straight
 * skeleton (Aichholzer et al., 1995). O(n2).
 */
export function insetLoop(loop: readonly Point2[], distance: number): Point2[] | undefined {
	const n = loop.length;
	const sides = loop.map(([x, y], k): Side => {
		const [bx, by] = loop[(k + 1) % n]!;
		const length = hypot(bx - x, by - y);
		return { x, y, dx: (bx - x) / length, dy: (by - y) / length };
	});
	const active = sides.map((_, k) => k);
	for (let done = 0; ;) {
		const next = firstToGo(sides, active, done, distance);
		if (!next) break;
		done = next.at;
		active.splice(next.index, 1);
		if (active.length < 3) return undefined;
	}
	const corners = active.map((k, a) =>
		meet(sides[active[(a + active.length - 1) % active.length]!]!, sides[k]!, distance)
	);
	if (corners.some((p) => !p || !within(loop, p)) || crossingSides(corners as Point2[])) return undefined;
	// Point k begins side k: it is the corner before the next side that is left.
	return loop.map((_, k) => corners[active.findIndex((a) => a >= k) < 0 ? 0 : active.findIndex((a) => a >= k)]!);
}

/** Whether a point lies within the box of a line: what is moved inwards cannot leave it, but sides that hardly turn may meet far away. */
function within(loop: readonly Point2[], [x, y]: Point2): boolean {
	const side = (axis: 0 | 1, of: (...values: number[]) => number) => of(...loop.map((p) => p[axis]));
	const slack = COINCIDENT_MM;
	return (
		x >= side(0, Math.min) - slack &&
		x <= side(0, Math.max) + slack &&
		y >= side(1, Math.min) - slack &&
		y <= side(1, Math.max) + slack
	);
}

/** The side that shrinks to nothing first after the distance `from`, if one does before `to`. */
function firstToGo(
	sides: readonly Side[],
	active: readonly number[],
	from: number,
	to: number
): { index: number; at: number } | undefined {
	let best: { index: number; at: number } | undefined;
	const m = active.length;
	for (let index = 0; index < m; index++) {
		const [a, b, c] = [active[(index + m - 1) % m]!, active[index]!, active[(index + 1) % m]!].map(
			(k) => sides[k]!
		) as [Side, Side, Side];
		const length = (d: number) => {
			const [p, q] = [meet(a, b, d), meet(b, c, d)];
			return p && q ? (q[0] - p[0]) * b.dx + (q[1] - p[1]) * b.dy : Infinity;
		};
		const [now, then] = [length(from), length(to)];
		if (!(then <= 0)) continue;
		// Lengths change evenly with the distance.
		const at = now <= 0 ? from : from + ((to - from) * now) / (now - then);
		if (!best || at < best.at) best = { index, at };
	}
	return best;
}

/** Where two sides moved inwards meet; for sides that run on, the end of the first. */
function meet(a: Side, b: Side, by: number): Point2 | undefined {
	const turn = a.dx * b.dy - a.dy * b.dx;
	const [ax, ay] = [a.x - a.dy * by, a.y + a.dx * by];
	const [bx, by2] = [b.x - b.dy * by, b.y + b.dx * by];
	if (Math.abs(turn) < PARALLEL_SINE) return a.dx * b.dx + a.dy * b.dy > 0 ? [bx, by2] : undefined;
	const t = ((bx - ax) * b.dy - (by2 - ay) * b.dx) / turn;
	return [ax + a.dx * t, ay + a.dy * t];
}

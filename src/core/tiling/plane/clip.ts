import { SAME_FIELD } from '../../tolerances.ts';
import type { PlaneCorner, PlaneExtent } from './planeCells.ts';

/** A half plane: x (axis 0) or y (axis 1) not less (or, `below`, not more) than a value. */
export interface HalfPlane {
	readonly axis: 0 | 1;
	readonly at: number;
	readonly below: boolean;
}

/** The borders of a face that does not close there. */
export function openBorders({ across, up, closedAcross, closedUp }: PlaneExtent): HalfPlane[] {
	const both = (axis: 0 | 1, to: number): HalfPlane[] => [
		{ axis, at: 0, below: false },
		{ axis, at: to, below: true }
	];
	return [...(closedAcross ? [] : both(0, across)), ...(closedUp ? [] : both(1, up))];
}

type Ring = readonly PlaneCorner[];

/** What is left of a polygon within all half planes: one or more pieces, or none. */
export const clipRing = (ring: Ring, halves: readonly HalfPlane[]): Ring[] =>
	halves.reduce<Ring[]>((left, half) => left.flatMap((r) => clipHalf(r, half)), [ring]);

/** Both parts of a polygon along a line. */
export const splitRing = (ring: Ring, axis: 0 | 1, at: number): Ring[] =>
	[true, false].flatMap((below) => clipHalf(ring, { axis, at, below }));

/**
 * Runs of corners on the right side, each with the points where its line crosses; those points, in their order along
 * the line, are joined by twos. O(n log n).
 */
function clipHalf(ring: Ring, { axis, at, below }: HalfPlane): Ring[] {
	const off = (p: PlaneCorner) => (below ? at - (axis === 0 ? p.x : p.y) : (axis === 0 ? p.x : p.y) - at);
	const inside = ring.map((p) => off(p) > -SAME_FIELD);
	if (inside.every(Boolean)) return [ring];
	const n = ring.length;
	const first = inside.findIndex((now, k) => now && !inside[(k + n - 1) % n]);
	if (first < 0) return [];
	const runs: PlaneCorner[][] = [];
	for (let step = 0; step < n; step++) {
		const k = (first + step) % n;
		if (!inside[k]) continue;
		const [before, after] = [(k + n - 1) % n, (k + 1) % n];
		if (!inside[before])
			runs.push(Math.abs(off(ring[k]!)) < SAME_FIELD ? [] : [crossing(ring[before]!, ring[k]!, axis, at)]);
		const onLine = Math.abs(off(ring[k]!)) < SAME_FIELD;
		runs.at(-1)!.push(onLine && (!inside[before] || !inside[after]) ? { ...ring[k]!, straight: false } : ring[k]!);
		if (!inside[after] && !onLine) runs.at(-1)!.push(crossing(ring[k]!, ring[after]!, axis, at));
	}
	return joinRuns(
		runs.filter((run) => run.length > 1),
		axis
	);
}

/** Where a side crosses the line; from the same end whichever way the side runs, so that neighbours have the same bits. */
function crossing(a: PlaneCorner, b: PlaneCorner, axis: 0 | 1, at: number): PlaneCorner {
	const [p, q] = a.x < b.x || (a.x === b.x && a.y < b.y) ? [a, b] : [b, a];
	if (axis === 0) return { x: at, y: p.y + ((at - p.x) / (q.x - p.x)) * (q.y - p.y), straight: false };
	return { x: p.x + ((at - p.y) / (q.y - p.y)) * (q.x - p.x), y: at, straight: false };
}

/** Runs that begin and end on the line, joined along it into closed lines. */
function joinRuns(runs: PlaneCorner[][], axis: 0 | 1): Ring[] {
	if (runs.length < 2) return runs;
	const along = (p: PlaneCorner) => (axis === 0 ? p.y : p.x);
	const ends = runs
		.flatMap((run, r) => [
			{ r, start: true, way: along(run[0]!) },
			{ r, start: false, way: along(run.at(-1)!) }
		])
		.sort((a, b) => a.way - b.way);
	const next = new Map<number, number>();
	for (let k = 0; k + 1 < ends.length; k += 2) {
		const pair = [ends[k]!, ends[k + 1]!];
		const from = pair.find((e) => !e.start);
		const to = pair.find((e) => e.start);
		if (from && to) next.set(from.r, to.r);
	}
	const done = new Set<number>();
	return runs.flatMap((_, r) => {
		const loop: PlaneCorner[] = [];
		for (let at: number | undefined = r; at !== undefined && !done.has(at); at = next.get(at)) {
			done.add(at);
			loop.push(...runs[at]!);
		}
		return loop.length > 2 ? [loop] : [];
	});
}

import { hypot, norm } from '../elementary/index.ts';
import type { Point } from './curve.ts';
import { endsOf } from './borders.ts';
import { denser } from './closestPoint.ts';
import { evaluateGrid } from './evaluate.ts';
import { pointOn } from './pointOn.ts';
import { spanBorders } from './quadrature.ts';
import { domainOf, type Surface } from './surface.ts';
import { dot, minus, plus, scaled } from './vectors.ts';
import { COINCIDENT_MM, MEETING_MM } from '../tolerances.ts';

/** Samples of a border between two knots, from which the nearest point is looked for. */
const SAMPLES = 8;
const MOST_STEPS = 30;

/** The borders of a face but for its seams, for asking what lies on them. */
export interface FaceBorder {
	/** Points along them, mm, stride 3; the corners are among them. */
	readonly samples: Float64Array;
	/** They lie between these, mm. */
	readonly low: Float64Array;
	readonly high: Float64Array;
	/** Whether a point lies no further off than so much, mm. */
	readonly holds: (point: Point, within?: number) => boolean;
}

/** One of the four, at a parameter that stays. */
interface Side {
	readonly at: (t: number) => { readonly position: Point; readonly first: Point; readonly second: Point };
	readonly ts: Float64Array;
	readonly points: Float64Array;
	/** The longest way from sample to sample, mm. */
	readonly step: number;
}

const known = new WeakMap<Surface, FaceBorder>();

/** The borders of a face, found once. */
export function borderOf(surface: Surface): FaceBorder {
	const there = known.get(surface);
	if (there) return there;
	const sides = sidesOf(surface);
	const samples = Float64Array.from(sides.flatMap(({ points }) => [...points]));
	const [low, high] = [new Float64Array(3).fill(Infinity), new Float64Array(3).fill(-Infinity)];
	for (let k = 0; k < samples.length; k++) {
		low[k % 3] = Math.min(low[k % 3]!, samples[k]!);
		high[k % 3] = Math.max(high[k % 3]!, samples[k]!);
	}
	const step = Math.max(0, ...sides.map((side) => side.step));
	for (let c = 0; c < 3; c++) {
		low[c]! -= step;
		high[c]! += step;
	}
	const border = {
		samples,
		low,
		high,
		holds: (point: Point, within = MEETING_MM) =>
			point.every((x, c) => x >= low[c]! - within && x <= high[c]! + within) &&
			sides.some((side) => isNear(side, point, within))
	};
	known.set(surface, border);
	return border;
}

/** How far the middle of a chord may lie off the line that it is a chord of, as a share of its length: a third of a circle has 0.29. */
const MOST_SAGITTA = 0.3;

/** Whether a chord between two places of a border runs along it; it may leave it between them. */
export const runsAlong = ({ holds }: FaceBorder, a: Point, b: Point): boolean =>
	holds(scaled(plus(a, b), 0.5), MOST_SAGITTA * norm(minus(a, b)));

const pairs = new WeakMap<Surface, WeakMap<Surface, boolean>>();

/** Whether borders of two faces have a stretch in common, or a corner that lies on the other; found once. */
export function bordersMeet(a: Surface, b: Surface): boolean {
	const [one, other] = [borderOf(a), borderOf(b)];
	if (one.low.some((x, c) => x - MEETING_MM > other.high[c]! || other.low[c]! - MEETING_MM > one.high[c]!))
		return false;
	const ofOne = pairs.get(a) ?? new WeakMap<Surface, boolean>();
	pairs.set(a, ofOne);
	const meet = ofOne.get(b) ?? (holdsSome(other, one.samples) || holdsSome(one, other.samples));
	ofOne.set(b, meet);
	return meet;
}

function holdsSome({ holds }: FaceBorder, points: Float64Array): boolean {
	for (let k = 0; k < points.length; k += 3) if (holds([points[k]!, points[k + 1]!, points[k + 2]!])) return true;
	return false;
}

function sidesOf(surface: Surface): Side[] {
	const { closedAcross, closedUp } = endsOf(surface);
	const us = denser(spanBorders(surface.knotsU, surface.degreeU), SAMPLES);
	const vs = denser(spanBorders(surface.knotsV, surface.degreeV), SAMPLES);
	const along = (ts: Float64Array, points: Float64Array, at: Side['at']): Side => {
		let step = 0;
		for (let k = 3; k < points.length; k += 3)
			step = Math.max(
				step,
				hypot(points[k]! - points[k - 3]!, points[k + 1]! - points[k - 2]!, points[k + 2]! - points[k - 1]!)
			);
		return { ts, points, at, step };
	};
	return [
		...(closedUp ? [] : domainOf(surface.knotsV, surface.degreeV)).map((v) =>
			along(us, evaluateGrid(surface, us, Float64Array.of(v)).position, (t) => {
				const { position, du, duu } = pointOn(surface, t, v);
				return { position, first: du, second: duu };
			})
		),
		...(closedAcross ? [] : domainOf(surface.knotsU, surface.degreeU)).map((u) =>
			along(vs, evaluateGrid(surface, Float64Array.of(u), vs).position, (t) => {
				const { position, dv, dvv } = pointOn(surface, u, t);
				return { position, first: dv, second: dvv };
			})
		)
	];
}

/** Newton's method on the distance, from the nearest sample. A side is no nearer than that less what lies between two samples. */
function isNear({ ts, points, step, at }: Side, point: Point, within: number): boolean {
	let [best, nearest] = [Infinity, 0];
	for (let k = 0; k < ts.length; k++) {
		const d = hypot(points[k * 3]! - point[0], points[k * 3 + 1]! - point[1], points[k * 3 + 2]! - point[2]);
		if (d < best) [best, nearest] = [d, k];
	}
	if (best <= within || best > step + within) return best <= within;
	const [from, to] = [ts[Math.max(0, nearest - 1)]!, ts[Math.min(ts.length - 1, nearest + 1)]!];
	let t = ts[nearest]!;
	for (let k = 0; k < MOST_STEPS; k++) {
		const { position, first, second } = at(t);
		const r = minus(position, point);
		if (norm(r) <= within) return true;
		const bend = dot(first, first) + dot(r, second);
		const next = Math.max(from, Math.min(to, t - dot(r, first) / (bend > 0 ? bend : dot(first, first) || 1)));
		const move = Math.abs(next - t) * norm(first);
		t = next;
		if (move < COINCIDENT_MM) return norm(minus(at(t).position, point)) <= within;
	}
	return false;
}

import { ZygasterError } from '../errors.ts';
import { coonsSurface } from '../geometry/coons.ts';
import {
	mapCurve,
	partOf,
	reverseCurve,
	segmentsOf,
	splitAt,
	startAt,
	withBreaks,
	type Curve
} from '../geometry/curve.ts';
import { evaluateGrid } from '../geometry/evaluate.ts';
import { spanBorders } from '../geometry/quadrature.ts';
import type { Surface } from '../geometry/surface.ts';
import type { ProfileCurve } from './profile.ts';

/** Shares of a span at which a face is tried for folds. */
const TRIALS = [0.0001, 0.25, 0.5, 0.75, 0.9999];
/** Where quarters may begin, as shares of the line; the first that makes a face is taken. */
const STARTS = Array.from({ length: 8 }, (_, k) => k / 32);

/**
 * What a closed line in plan encloses at a height, as one four-sided face: from corner to corner where there are four, else
 * by quarters of its length from its first point, or from one a little further on. Its borders are the line, exactly. Throws
 * a ZygasterError with code `profile` where that would fold over.
 */
export function flatFace({ curve, corners }: ProfileCurve, height: number): Surface {
	const line = mapCurve(curve, ([x, y]) => [x, y, height]);
	for (const sides of corners.length === 4
		? [partsOf(line, corners)]
		: STARTS.map((start) => quartersOf(line, start))) {
		const [low, right, high, left] = sides as [Curve, Curve, Curve, Curve];
		const surface = coonsSurface(low, right, reverseCurve(high), reverseCurve(left));
		if (isUnfolded(surface)) return surface;
	}
	throw new ZygasterError(
		'profile',
		'a flat roof over this footprint cannot be laid as one four-sided face; leave the roof open, or draw the body as two blocks'
	);
}

/** By quarters of a closed line's domain [0, 1]. */
function quartersOf(line: Curve, start: number): Curve[] {
	const shares = [0, 0.25, 0.5, 0.75].map((share) => share + start);
	const cut = splitAt(line, shares);
	const [first, ...others] = shares.map((share) => nearestBreak(cut, share)) as [number, ...number[]];
	return partsOf(startAt(cut, first), [0, ...others.map((b) => b - first)]);
}

/** From each of some segments to the next, each with the domain [0, 1]. */
const partsOf = (line: Curve, starts: readonly number[]): Curve[] =>
	starts.map((start, k) => {
		const part = partOf(line, start, starts[k + 1] ?? segmentsOf(line));
		const [from, to] = [part.breaks[0]!, part.breaks.at(-1)!];
		return withBreaks(
			part,
			part.breaks.map((b) => (b - from) / (to - from))
		);
	});

const nearestBreak = ({ breaks }: Curve, at: number) =>
	breaks.reduce((best, b, k) => (Math.abs(b - at) < Math.abs(breaks[best]! - at) ? k : best), 0);

/** Whether it turns the same way everywhere within. */
function isUnfolded(surface: Surface): boolean {
	const us = within(surface.knotsU, surface.degreeU);
	const vs = within(surface.knotsV, surface.degreeV);
	const { du, dv } = evaluateGrid(surface, us, vs);
	for (let o = 0; o < du.length; o += 3) if (!(du[o]! * dv[o + 1]! - du[o + 1]! * dv[o]! > 0)) return false;
	return true;
}

/** Parameters within each span: at its borders it may have two slopes, or none. */
function within(knots: Float64Array, degree: number): Float64Array {
	const borders = spanBorders(knots, degree);
	return Float64Array.from(
		[...borders.slice(1)].flatMap((to, k) => TRIALS.map((share) => borders[k]! + (to - borders[k]!) * share))
	);
}

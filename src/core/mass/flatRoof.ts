import { z } from 'zod';
import { ZygasterError } from '../errors.ts';
import { coonsSurface } from '../geometry/coons.ts';
import {
	partOf,
	polyline,
	reverseCurve,
	segmentsOf,
	splitAt,
	startAt,
	unit,
	type Curve,
	type Point
} from '../geometry/curve.ts';
import { byLength } from '../geometry/curveLength.ts';
import { evaluateGrid } from '../geometry/evaluate.ts';
import { spanBorders } from '../geometry/quadrature.ts';
import type { Surface } from '../geometry/surface.ts';
import { polygonSurface } from './polygonSurface.ts';
import { isClosed, profileCurve, type Profile, type ProfileCurve } from './profile.ts';
import type { ReportFault, ShapeFace } from './shapeKind.ts';

/** Shares of a span at which a face is tried for folds. */
const TRIALS = [0.0001, 0.25, 0.5, 0.75, 0.9999];
/** Where quarters may begin, as shares of the line; the first that makes a face is taken. */
const STARTS = Array.from({ length: 8 }, (_, k) => k / 32);

/** Whether a body is closed above. */
export const roofSchema = z.enum(['open', 'flat']).default('open');

interface Roofed {
	readonly roof: 'open' | 'flat';
}

export const roofFaces = ({ roof }: Roofed): ShapeFace[] => (roof === 'flat' ? [{ id: 'roof', name: 'Roof' }] : []);

const NOT_CLOSED = 'a flat roof needs a closed line in plan; close the line, or leave the roof open';

/** Reports a roof that nothing encloses. */
export function checkRoof(roof: Roofed['roof'], profile: Profile, report: ReportFault): void {
	if (roof === 'flat' && !isClosed(profile)) report(['roof'], NOT_CLOSED);
}

/** The roof of a body whose uppermost line is a profile that is put in its place, level; none where it is open. */
export function flatRoof({ roof }: Roofed, profile: Profile, place: (curve: Curve) => Curve): Surface[] {
	if (roof !== 'flat') return [];
	if (!isClosed(profile)) throw new ZygasterError('profile', NOT_CLOSED);
	const whole = profileCurve(profile);
	return [roofOver({ ...whole, curve: place(whole.curve) })];
}

/**
 * What a closed line in a plane encloses, as one four-sided face, whose borders are the line exactly. Of straight walls it begins
 * with the first one; else, and where that would fold, it goes from corner to corner where there are four, or by quarters of
 * the line from its first point, or from one a little further on. Throws a ZygasterError with code `profile` where all of
 * them would fold over.
 */
export function roofOver(line: ProfileCurve): Surface {
	const { curve, corners } = line;
	if (hasSharpCorners(line)) {
		const surface = polygonSurface(cornersOf(curve));
		if (surface) return surface;
	}
	const tries = corners.length === 4 ? [partsOf(curve, corners)] : STARTS.map((start) => quartersOf(curve, start));
	for (const [low, right, high, left] of tries) {
		const surface = coonsSurface(low!, right!, reverseCurve(high!), reverseCurve(left!));
		if (isUnfolded(surface)) return surface;
	}
	throw new ZygasterError(
		'profile',
		'the roof over this footprint cannot be laid as one four-sided face; leave the roof open, or draw the body as two blocks'
	);
}

/** Whether all walls over a line are straight and part at its corners. */
export const hasSharpCorners = ({ curve, corners }: ProfileCurve) =>
	curve.degree === 1 && corners.length === segmentsOf(curve);

/** The line from corner to corner and back. */
export const outlineOf = (corners: readonly Point[]): ProfileCurve => ({
	curve: byLength(polyline([...corners, corners[0]!])),
	closed: true,
	corners: [...corners.keys()]
});

/** The points of a closed chain of straight lines, each once. */
export const cornersOf = ({ control, breaks }: Curve) =>
	Array.from({ length: breaks.length - 1 }, (_, k): Point => [
		control[k * 4]!,
		control[k * 4 + 1]!,
		control[k * 4 + 2]!
	]);

/** By quarters of a closed line's domain [0, 1]. */
function quartersOf(line: Curve, start: number): Curve[] {
	const shares = [0, 0.25, 0.5, 0.75].map((share) => share + start);
	const cut = splitAt(line, shares);
	const [first, ...others] = shares.map((share) => nearestBreak(cut, share)) as [number, ...number[]];
	return partsOf(startAt(cut, first), [0, ...others.map((b) => b - first)]);
}

/** From each of some segments to the next, each with the domain [0, 1]. */
const partsOf = (line: Curve, starts: readonly number[]): Curve[] =>
	starts.map((start, k) => unit(partOf(line, start, starts[k + 1] ?? segmentsOf(line))));

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

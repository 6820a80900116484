import { makeCompatible } from './compatible.ts';
import { circularArc, mapCurve, segmentsOf, withBreaks, type Curve, type Point } from './curve.ts';
import { averagedKnots, interpolateValues } from './interpolate.ts';
import type { Surface } from './surface.ts';

/** Knots of a chain of Bezier segments: each inner break as often as the degree. */
export function chainKnots({ breaks, degree }: Pick<Curve, 'breaks' | 'degree'>): Float64Array {
	const last = breaks.length - 1;
	return Float64Array.from(
		[...breaks].flatMap((b, k) => new Array<number>(k === 0 || k === last ? degree + 1 : degree).fill(b))
	);
}

/**
 * The face through curves that lie one above the other, at rising parameters: straight from each to the
 * next, or a spline of degree 3 (2 or 1 with fewer curves). Across runs along the curves. Exact where
 * the curves are. Source: skinning, The NURBS Book, section 10.3.
 */
export function skinCurves(
	curves: readonly Curve[],
	parameters: readonly number[],
	along: 'smooth' | 'straight'
): Surface {
	const same = makeCompatible(curves);
	const first = same[0]!;
	const countU = first.control.length / 4;
	const degreeV = along === 'straight' ? 1 : Math.min(3, curves.length - 1);
	const knotsV = averagedKnots(parameters, degreeV);
	const rows = interpolateValues(
		parameters,
		same.map((c) => [...c.control]),
		degreeV,
		knotsV
	);
	return pack(
		first,
		countU,
		rows.flatMap((r) => [...r]),
		degreeV,
		Float64Array.from(knotsV),
		curves.length
	);
}

/** The straight-lined face between two curves. */
export const ruledSurface = (lower: Curve, upper: Curve) => skinCurves([lower, upper], [0, 1], 'straight');

/** A curve carried along another, whose first point stays where it is: every point is a sum. Exact. */
export function translateCurve(across: Curve, along: Curve): Surface {
	const start = [0, 1, 2].map((c) => along.control[c]! / along.control[3]!);
	const control: number[] = [];
	for (let v = 0; v < along.control.length; v += 4)
		for (let u = 0; u < across.control.length; u += 4) {
			const [wu, wv] = [across.control[u + 3]!, along.control[v + 3]!];
			for (let c = 0; c < 3; c++)
				control.push(across.control[u + c]! * wv + (along.control[v + c]! - start[c]! * wv) * wu);
			control.push(wu * wv);
		}
	return packChains(across, along, control);
}

/**
 * A profile turned about the z axis; its x is the radius, its y the height. Across runs around, up along
 * the profile. `stretch` is the ratio of the y radius to the x radius. Exact. Source: The NURBS Book,
 * section 8.5.
 */
export function revolveCurve(profile: Curve, start: number, sweep: number, stretch = 1): Surface {
	const circle = circularArc([0, 0], 1, start, sweep);
	const around = withBreaks(
		circle,
		circle.breaks.map((b) => b / segmentsOf(circle))
	);
	const control: number[] = [];
	for (let v = 0; v < profile.control.length; v += 4) {
		const [rw, zw, , w] = profile.control.subarray(v, v + 4) as unknown as [number, number, number, number];
		for (let u = 0; u < around.control.length; u += 4) {
			const c = around.control;
			control.push(c[u]! * rw, c[u + 1]! * rw * stretch, c[u + 3]! * zw, c[u + 3]! * w);
		}
	}
	return packChains(around, profile, control);
}

/** A curve moved straight by a vector. Exact. */
export const extrudeCurve = (curve: Curve, by: Point) =>
	ruledSurface(
		curve,
		mapCurve(curve, (p) => [p[0] + by[0], p[1] + by[1], p[2] + by[2]])
	);

const packChains = (across: Curve, up: Curve, control: readonly number[]) =>
	pack(across, across.control.length / 4, control, up.degree, chainKnots(up), up.control.length / 4);

function pack(
	across: Curve,
	countU: number,
	control: readonly number[],
	degreeV: number,
	knotsV: Float64Array,
	countV: number
): Surface {
	const packed = Float64Array.from(control);
	return {
		degreeU: across.degree,
		degreeV,
		countU,
		countV,
		knotsU: chainKnots(across),
		knotsV,
		control: packed,
		rational: packed.some((x, k) => k % 4 === 3 && x !== 1)
	};
}

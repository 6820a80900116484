import { makeCompatible } from './compatible.ts';
import type { Curve } from './curve.ts';
import { chainKnots } from './skin.ts';
import type { Surface } from './surface.ts';

/**
 * The face between four curves, each with the domain [0, 1], that meet end to end: `low` and `high` run across, `left` and
 * `right` up. Its borders are those curves, exactly; their weights must agree at the corners. Source: Coons, bilinearly
 * blended, in homogeneous coordinates on control points at their Greville abscissae (Farin, Curves and Surfaces for CAGD,
 * chapter on Coons patches; from memory).
 */
export function coonsSurface(low: Curve, right: Curve, high: Curve, left: Curve): Surface {
	const [a, b] = makeCompatible([low, high]) as [Curve, Curve];
	const [c, d] = makeCompatible([left, right]) as [Curve, Curve];
	const [us, vs] = [grevilles(a), grevilles(c)];
	const [countU, countV] = [us.length, vs.length];
	const control = new Float64Array(countU * countV * 4);
	vs.forEach((v, j) =>
		us.forEach((u, i) => {
			for (let k = 0; k < 4; k++) {
				const at = (curve: Curve, n: number) => curve.control[n * 4 + k]!;
				const [first, last] = [0, countU - 1];
				control[(j * countU + i) * 4 + k] =
					(1 - v) * at(a, i) +
					v * at(b, i) +
					(1 - u) * at(c, j) +
					u * at(d, j) -
					((1 - v) * ((1 - u) * at(a, first) + u * at(a, last)) + v * ((1 - u) * at(b, first) + u * at(b, last)));
			}
		})
	);
	return {
		degreeU: a.degree,
		degreeV: c.degree,
		countU,
		countV,
		knotsU: chainKnots(a),
		knotsV: chainKnots(c),
		control,
		rational: control.some((x, k) => k % 4 === 3 && x !== 1)
	};
}

/** Where control points of a chain stand for a straight line: evenly within each of its segments. */
function grevilles({ breaks, degree, control }: Curve): number[] {
	return Array.from({ length: control.length / 4 }, (_, i) => {
		const s = Math.min(breaks.length - 2, Math.floor(i / degree));
		return breaks[s]! + ((breaks[s + 1]! - breaks[s]!) * (i - s * degree)) / degree;
	});
}

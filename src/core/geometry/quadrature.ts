import { domainOf } from './surface.ts';

/**
 * Panels of a direction: about `PANELS` in all, but no more than `MOST_EACH` and no fewer than
 * `LEAST_EACH` between two knots. Errors fall with the fourth power; a full circle of 10 m in four
 * spans is then spaced to within the model's tolerance.
 */
const PANELS = 48;
const MOST_EACH = 24;
const LEAST_EACH = 3;

/** Four-point Gauss-Legendre rule on [0, 1]. Source: any handbook of numerical analysis. */
export const GAUSS_POINTS = [0.0694318442029737, 0.3300094782075719, 0.6699905217924281, 0.9305681557970263];
export const GAUSS_WEIGHTS = [0.1739274225687269, 0.3260725774312731, 0.3260725774312731, 0.1739274225687269];

/** The distinct knots of the domain: a B-spline is a polynomial between each and the next. */
export function spanBorders(knots: Float64Array, degree: number): Float64Array {
	const [start, end] = domainOf(knots, degree);
	return Float64Array.from(new Set(knots.filter((k) => k >= start && k <= end)));
}

/**
 * Every distinct knot and even divisions between, so that no panel runs over a knot. A face of many
 * short spans has enough panels without.
 */
export function panelBorders(knots: Float64Array, degree: number): Float64Array {
	const spans = spanBorders(knots, degree);
	const even = Math.ceil(PANELS / (spans.length - 1));
	const least = spans.length > PANELS ? 1 : LEAST_EACH;
	const each = Math.max(least, Math.min(MOST_EACH, even));
	const borders: number[] = [];
	for (let s = 0; s + 1 < spans.length; s++)
		for (let k = 0; k < each; k++)
			borders.push(spans[s]! + ((spans[s + 1]! - spans[s]!) * k) / each);
	borders.push(spans[spans.length - 1]!);
	return Float64Array.from(borders);
}

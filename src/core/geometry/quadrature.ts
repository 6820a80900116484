import { domainOf } from './surface.ts';

/**
 * Panels of a direction: about `PANELS` in all, but no more than `MOST_EACH` and no fewer than
 * `LEAST_EACH` between two knots. Errors fall with the fourth power. Even numbers, so that every second
 * border makes a coarser division to compare with.
 */
const PANELS = 48;
const MOST_EACH = 24;
const LEAST_EACH = 4;

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
	const even = 2 * Math.ceil(PANELS / (spans.length - 1) / 2);
	const least = spans.length > PANELS ? 1 : LEAST_EACH;
	const each = Math.max(least, Math.min(MOST_EACH, even));
	const borders: number[] = [];
	for (let s = 0; s + 1 < spans.length; s++)
		for (let k = 0; k < each; k++) borders.push(spans[s]! + ((spans[s + 1]! - spans[s]!) * k) / each);
	borders.push(spans[spans.length - 1]!);
	return Float64Array.from(borders);
}

/** Borders of panels half as wide. */
export function halvedPanels(borders: Float64Array): Float64Array {
	return Float64Array.from({ length: borders.length * 2 - 1 }, (_, k) =>
		k % 2 ? (borders[k >> 1]! + borders[(k >> 1) + 1]!) / 2 : borders[k >> 1]!
	);
}

/** The knots within the domain at which a B-spline may have a crease: as many fall together as its degree. */
export function creasesOf(knots: Float64Array, degree: number): number[] {
	const [start, end] = domainOf(knots, degree);
	const creases: number[] = [];
	for (let k = 0; k < knots.length; k++) {
		let same = 1;
		while (k + same < knots.length && knots[k + same] === knots[k]) same++;
		if (same >= degree && knots[k]! > start && knots[k]! < end) creases.push(knots[k]!);
		k += same - 1;
	}
	return creases;
}

/** Borders in which each of some stands twice: with what lies below it, and with what lies above. */
export const withCreases = (borders: Float64Array, creases: readonly number[]): Float64Array =>
	Float64Array.from([...borders].flatMap((b) => (creases.includes(b) ? [b, b] : [b])));

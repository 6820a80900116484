/** How one direction of a face is divided. */
export interface CountSpacing {
	readonly kind: 'count';
	/** Number of equal divisions by true length, a whole number from 1. */
	readonly count: number;
}

export type Spacing = CountSpacing;

/**
 * Shares of true length, rising from 0, at which a direction is divided: up to 1, or short of it where the
 * direction closes on itself, since 1 is 0 again.
 */
export function sharesOf(spacing: Spacing, closed = false): Float64Array {
	const { count } = spacing;
	return Float64Array.from({ length: closed ? count : count + 1 }, (_, k) => k / count);
}

/** How one direction of a face is divided. */
export interface CountSpacing {
	readonly kind: 'count';
	/** Number of equal divisions by true length, a whole number from 1. */
	readonly count: number;
}

export type Spacing = CountSpacing;

/** Shares of true length, rising from 0 to 1, at which a direction is divided. */
export function sharesOf(spacing: Spacing): Float64Array {
	const { count } = spacing;
	return Float64Array.from({ length: count + 1 }, (_, k) => k / count);
}

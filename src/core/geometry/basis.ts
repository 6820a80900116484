/**
 * Index of the knot span that holds `t`: the greatest `k` with `knots[k] <= t < knots[k + 1]`,
 * and the last non-empty span for the end of the domain. Bisection, O(log n).
 * Source: Piegl & Tiller, The NURBS Book, 2nd ed., algorithm A2.1.
 */
export function findSpan(knots: Float64Array, degree: number, t: number): number {
	let low = degree;
	let high = knots.length - degree - 1;
	if (t >= knots[high]!) {
		// The end of the domain belongs to the last span that is not empty.
		while (knots[high - 1]! === knots[high]!) high--;
		return high - 1;
	}
	while (high - low > 1) {
		const middle = (low + high) >> 1;
		if (t < knots[middle]!) high = middle;
		else low = middle;
	}
	return low;
}

/** Index of the last span that ends at `t` or holds it, for slopes from below. */
function spanBelow(knots: Float64Array, degree: number, t: number): number {
	let k = findSpan(knots, degree, t);
	while (k > degree && knots[k]! === t) k--;
	return k;
}

/** Knots of one direction with the reciprocals that the recurrence divides by. */
export interface PreparedKnots {
	readonly knots: Float64Array;
	readonly degree: number;
	/** `1 / (knots[i + d] - knots[i])` at `(d - 1) * knots.length + i`; 0 for an empty span. */
	readonly reciprocals: Float64Array;
}

/** What evaluating at a parameter needs of knots: found once for all points of a row. */
export function prepareKnots(knots: Float64Array, degree: number): PreparedKnots {
	const reciprocals = new Float64Array(degree * knots.length);
	for (let d = 1; d <= degree; d++)
		for (let i = 0; i + d < knots.length; i++) {
			const width = knots[i + d]! - knots[i]!;
			reciprocals[(d - 1) * knots.length + i] = width > 0 ? 1 / width : 0;
		}
	return { knots, degree, reciprocals };
}

/**
 * The `degree + 1` basis functions that are not zero in a span, and their first derivatives.
 * Written to `values` and `slopes` from `offset` on; entry `r` belongs to control point
 * `span - degree + r`. Source: the Cox-de Boor recurrence, NURBS Book eq. 2.5 and 2.7.
 */
export function basisInPlace(
	{ knots, degree, reciprocals }: PreparedKnots,
	span: number,
	t: number,
	values: Float64Array,
	slopes: Float64Array,
	offset: number
): void {
	values[offset] = 1;
	slopes[offset] = 0;
	for (let d = 1; d <= degree; d++) {
		const line = (d - 1) * knots.length + span - d;
		// From the top down, so that each round overwrites what it has used. `above` and `below` are the
		// shares of the neighbours one degree lower, over the widths of their supports.
		let above = 0;
		for (let r = d; r >= 0; r--) {
			const i = span - d + r;
			const below = r > 0 ? values[offset + r - 1]! * reciprocals[line + r]! : 0;
			values[offset + r] = (t - knots[i]!) * below + (knots[i + d + 1]! - t) * above;
			// Only the slopes of the last round are kept.
			slopes[offset + r] = d * (below - above);
			above = below;
		}
	}
}

/** Basis functions for a whole row of parameters at once, shared by every row or column of a grid. */
export interface BasisTable {
	readonly degree: number;
	readonly count: number;
	/** First control point of each parameter's span; one entry a parameter. */
	readonly first: Int32Array;
	/** Stride `degree + 1`, one group a parameter. */
	readonly values: Float64Array;
	/** Derivatives by the parameter; laid out like `values`. */
	readonly slopes: Float64Array;
}

/**
 * Evaluates the basis at each parameter. `parameters` must lie within the knots' domain. One that stands twice, as at a
 * crease, is seen from below first and from above then: slopes may differ.
 */
export function tabulateBasis(knots: Float64Array, degree: number, parameters: Float64Array): BasisTable {
	const count = parameters.length;
	const stride = degree + 1;
	const prepared = prepareKnots(knots, degree);
	const table = {
		degree,
		count,
		first: new Int32Array(count),
		values: new Float64Array(count * stride),
		slopes: new Float64Array(count * stride)
	};
	for (let k = 0; k < count; k++) {
		const t = parameters[k]!;
		const span = parameters[k + 1] === t ? spanBelow(knots, degree, t) : findSpan(knots, degree, t);
		table.first[k] = span - degree;
		basisInPlace(prepared, span, t, table.values, table.slopes, k * stride);
	}
	return table;
}

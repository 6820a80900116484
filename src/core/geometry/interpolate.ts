import { basisInPlace, findSpan, prepareKnots } from './basis.ts';

/** Knots for interpolation at `parameters` by averaging. Source: NURBS Book eq. 9.8. */
export function averagedKnots(parameters: readonly number[], degree: number): number[] {
	const last = parameters.length - 1;
	const knots: number[] = new Array(degree + 1).fill(parameters[0]);
	for (let j = 1; j <= last - degree; j++) {
		let sum = 0;
		for (let i = j; i < j + degree; i++) sum += parameters[i]!;
		knots.push(sum / degree);
	}
	return knots.concat(new Array(degree + 1).fill(parameters[last]));
}

/**
 * Control values of the B-spline that takes `values[k]` at `parameters[k]`; each value is a tuple of
 * equal length, solved together. The matrix is banded and totally positive, so that elimination needs no
 * pivots: O(n * degree * tuple). Source: NURBS Book, algorithm A9.1; de Boor, A Practical Guide to
 * Splines, ch. XIII.
 */
export function interpolateValues(
	parameters: readonly number[],
	values: readonly ArrayLike<number>[],
	degree: number,
	knots: readonly number[]
): Float64Array[] {
	const n = parameters.length;
	const knotArray = Float64Array.from(knots);
	const prepared = prepareKnots(knotArray, degree);
	const basis = new Float64Array(degree + 1);
	const slopes = new Float64Array(degree + 1);
	// Entry (k, c) of the matrix stands at k * width + c - k + degree.
	const width = 2 * degree + 1;
	const band = new Float64Array(n * width);
	parameters.forEach((t, k) => {
		const span = findSpan(knotArray, degree, t);
		basisInPlace(prepared, span, t, basis, slopes, 0);
		for (let r = 0; r <= degree; r++) {
			const column = span - degree + r;
			if (Math.abs(column - k) <= degree) band[k * width + column - k + degree] = basis[r]!;
		}
	});
	return solveBanded(
		band,
		degree,
		values.map((v) => Float64Array.from(v))
	);
}

/** Elimination below, then above the diagonal; the right sides become the answer. */
function solveBanded(band: Float64Array, degree: number, right: Float64Array[]): Float64Array[] {
	const n = right.length;
	const at = (row: number, column: number) => row * (2 * degree + 1) + column - row + degree;
	const subtract = (from: Float64Array, row: Float64Array, factor: number) => {
		if (factor !== 0) for (let c = 0; c < from.length; c++) from[c]! -= factor * row[c]!;
	};
	for (let k = 0; k < n; k++) {
		const last = Math.min(n - 1, k + degree);
		const scale = 1 / band[at(k, k)]!;
		for (let c = k; c <= last; c++) band[at(k, c)]! *= scale;
		for (let c = 0; c < right[k]!.length; c++) right[k]![c]! *= scale;
		for (let r = k + 1; r <= last; r++) {
			const factor = band[at(r, k)]!;
			for (let c = k; c <= last; c++) band[at(r, c)]! -= factor * band[at(k, c)]!;
			subtract(right[r]!, right[k]!, factor);
		}
	}
	for (let k = n - 1; k > 0; k--)
		for (let r = Math.max(0, k - degree); r < k; r++) subtract(right[r]!, right[k]!, band[at(r, k)]!);
	return right;
}

/**
 * Control values of the closed cubic B-spline with even knots that takes `values[k]` at `k / n`; the last
 * three repeat the first, so that it can be evaluated as an open one with knots from -3/n on. At least 3
 * values. The system (1/6, 4/6, 1/6) wraps around; its inverse falls off by 2 - sqrt(3) a step, so that
 * sweeps forth and back from a start `REACH` steps away are exact to rounding. Source: Unser,
 * IEEE Signal Processing Magazine 16(6), 1999.
 */
export function interpolateCyclic(values: readonly Float64Array[]): Float64Array[] {
	const n = values.length;
	const at = (k: number) => ((k % n) + n) % n;
	const pole = Math.sqrt(3) - 2;
	const size = values[0]!.length;
	const sweep = (input: readonly Float64Array[], step: 1 | -1, gain: number) => {
		const output: Float64Array[] = new Array(n);
		const running = new Float64Array(size);
		for (let k = -REACH; k < n; k++) {
			const from = input[at(step * k)]!;
			for (let c = 0; c < size; c++) running[c] = gain * from[c]! + pole * running[c]!;
			if (k >= 0) output[at(step * k)] = running.slice();
		}
		return output;
	};
	// 6 / (z + 4 + 1/z) as a forward and a backward filter.
	const forth = sweep(values, 1, 1);
	const both = sweep(forth, -1, -6 * pole);
	return Array.from({ length: n + 3 }, (_, i) => both[at(i - 1)]!);
}

/** Steps after which what a sweep started with has died away: (2 - sqrt(3))^32 is 5e-19. */
const REACH = 32;

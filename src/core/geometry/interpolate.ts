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
 * equal length, solved together. Dense elimination with pivoting, O(n^3): meant for tens of sections.
 * Source: NURBS Book, algorithm A9.1.
 */
export function interpolateValues(
	parameters: readonly number[],
	values: readonly (readonly number[])[],
	degree: number,
	knots: readonly number[]
): number[][] {
	const n = parameters.length;
	const knotArray = Float64Array.from(knots);
	const prepared = prepareKnots(knotArray, degree);
	const basis = new Float64Array(degree + 1);
	const slopes = new Float64Array(degree + 1);
	const system = parameters.map((t, k) => {
		const row: number[] = new Array(n).fill(0);
		const span = findSpan(knotArray, degree, t);
		basisInPlace(prepared, span, t, basis, slopes, 0);
		for (let r = 0; r <= degree; r++) row[span - degree + r] = basis[r]!;
		return [...row, ...values[k]!];
	});
	return solveDense(system, n);
}

/** Gauss-Jordan with partial pivoting on rows of `[matrix | right sides]`; answers the right sides. */
function solveDense(system: number[][], n: number): number[][] {
	for (let c = 0; c < n; c++) {
		let pivot = c;
		for (let r = c + 1; r < n; r++)
			if (Math.abs(system[r]![c]!) > Math.abs(system[pivot]![c]!)) pivot = r;
		[system[c], system[pivot]] = [system[pivot]!, system[c]!];
		const lead = system[c]!;
		const scale = 1 / lead[c]!;
		for (let k = c; k < lead.length; k++) lead[k]! *= scale;
		for (let r = 0; r < n; r++) {
			const factor = system[r]![c]!;
			if (r === c || factor === 0) continue;
			for (let k = c; k < lead.length; k++) system[r]![k]! -= factor * lead[k]!;
		}
	}
	return system.map((row) => row.slice(n));
}

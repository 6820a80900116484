import { findSpan, prepareKnots, type PreparedKnots } from './basis.ts';
import type { PatchGrid } from './patches.ts';
import { spanBorders } from './quadrature.ts';
import type { Surface } from './surface.ts';

/** Surfaces never change, so that their polynomials are worked out once. */
const known = new WeakMap<Surface, PatchGrid>();

/** A surface as polynomials between its knots; components are the homogeneous x, y, z and w. */
export function surfacePatches(surface: Surface): PatchGrid {
	const patches = known.get(surface) ?? computePatches(surface);
	known.set(surface, patches);
	return patches;
}

function computePatches(surface: Surface): PatchGrid {
	const { degreeU, degreeV, control, countU } = surface;
	const us = spanBorders(surface.knotsU, degreeU);
	const vs = spanBorders(surface.knotsV, degreeV);
	const across = spanPolynomials(surface.knotsU, degreeU, us);
	const up = spanPolynomials(surface.knotsV, degreeV, vs);
	const [strideU, strideV] = [degreeU + 1, degreeV + 1];
	const size = strideU * strideV;
	const factors = new Float64Array(across.length * up.length * 4 * size);
	up.forEach((q, pv) =>
		across.forEach((p, pu) => {
			const base = (pv * across.length + pu) * 4 * size;
			for (let s = 0; s < strideV; s++)
				for (let r = 0; r < strideU; r++) {
					const from = ((q.first + s) * countU + p.first + r) * 4;
					for (let c = 0; c < 4; c++)
						for (let m = 0; m < strideU; m++)
							for (let n = 0; n < strideV; n++)
								factors[base + c * size + m * strideV + n]! += p.powers[r]![m]! * q.powers[s]![n]! * control[from + c]!;
				}
		})
	);
	return { us, vs, degreeU, degreeV, components: 4, factors };
}

/** For each span the first control point and the basis functions in powers of the local parameter. */
function spanPolynomials(knots: Float64Array, degree: number, borders: Float64Array) {
	const prepared = prepareKnots(knots, degree);
	return Array.from({ length: borders.length - 1 }, (_, k) => {
		const span = findSpan(knots, degree, borders[k]!);
		return {
			first: span - degree,
			powers: basisPowers(prepared, span, borders[k]!, borders[k + 1]! - borders[k]!)
		};
	});
}

/** The Cox-de Boor recurrence with polynomials in `a` instead of numbers, where t = start + width * a. */
function basisPowers(
	{ knots, degree, reciprocals }: PreparedKnots,
	span: number,
	start: number,
	width: number
): number[][] {
	let rows: number[][] = [[1]];
	for (let d = 1; d <= degree; d++) {
		rows = Array.from({ length: d + 1 }, (_, r) => {
			const i = span - d + r;
			const line = (d - 1) * knots.length + i;
			const sum: number[] = new Array(d + 1).fill(0);
			// (t - knot) * below + (knot' - t) * above, each a linear factor in a.
			if (r > 0) addProduct(sum, rows[r - 1]!, start - knots[i]!, width, reciprocals[line]!);
			if (r < d) addProduct(sum, rows[r]!, knots[i + d + 1]! - start, -width, reciprocals[line + 1]!);
			return sum;
		});
	}
	return rows;
}

function addProduct(
	sum: number[],
	polynomial: readonly number[],
	constant: number,
	linear: number,
	scale: number
): void {
	polynomial.forEach((factor, k) => {
		sum[k]! += factor * constant * scale;
		sum[k + 1]! += factor * linear * scale;
	});
}

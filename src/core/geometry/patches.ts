/**
 * Tensor-product polynomials over a grid of parameter panels, in powers of the local parameters: what a
 * B-spline is between its knots, in the form that is quickest to evaluate at single points.
 */
export interface PatchGrid {
	/** Panel borders, rising. */
	readonly us: Float64Array;
	readonly vs: Float64Array;
	readonly degreeU: number;
	readonly degreeV: number;
	/** Numbers at each point: 4 for homogeneous points, 2 for a pair of shares. */
	readonly components: number;
	/**
	 * Factor of `a^m b^n` at `((panel * components + c) * (degreeU + 1) + m) * (degreeV + 1) + n`, where
	 * `a` and `b` run from 0 to 1 over the panel `pv * (us.length - 1) + pu`.
	 */
	readonly factors: Float64Array;
}

/** Evaluates a patch grid at points near each other: it starts looking where the last point was. */
export class PatchCursor {
	/** Values, then derivatives by u, then by v; `components` numbers each. */
	readonly out: Float64Array;
	private panelU = 0;
	private panelV = 0;
	private readonly grid: PatchGrid;

	constructor(grid: PatchGrid) {
		this.grid = grid;
		this.out = new Float64Array(grid.components * 3);
	}

	/** Horner's rule along v, then along u; fills `out`. */
	evaluate(u: number, v: number): void {
		const { us, vs, degreeU, degreeV, components, factors } = this.grid;
		const pu = (this.panelU = locate(us, u, this.panelU));
		const pv = (this.panelV = locate(vs, v, this.panelV));
		const perU = 1 / (us[pu + 1]! - us[pu]!);
		const perV = 1 / (vs[pv + 1]! - vs[pv]!);
		const a = (u - us[pu]!) * perU;
		const b = (v - vs[pv]!) * perV;
		const panel = pv * (us.length - 1) + pu;
		if (degreeU === 3 && degreeV === 3)
			evaluateBicubic(factors, panel * components * 16, components, a, b, perU, perV, this.out);
		else this.evaluateAny(panel, a, b, perU, perV);
	}

	private evaluateAny(panel: number, a: number, b: number, perU: number, perV: number): void {
		const { degreeU, degreeV, components, factors } = this.grid;
		const stride = degreeV + 1;
		const size = (degreeU + 1) * stride;
		let end = panel * components * size;
		for (let c = 0; c < components; c++) {
			end += size;
			let k = end;
			let value = 0;
			let byA = 0;
			let byB = 0;
			for (let m = 0; m <= degreeU; m++) {
				let f = 0;
				let slope = 0;
				for (let n = 0; n < stride; n++) {
					slope = slope * b + f;
					f = f * b + factors[--k]!;
				}
				byA = byA * a + value;
				value = value * a + f;
				byB = byB * a + slope;
			}
			this.out[c] = value;
			this.out[components + c] = byA * perU;
			this.out[2 * components + c] = byB * perV;
		}
	}
}

/** The same written out for bicubic patches, which nearly all are: loops over four take longer than what they do. Sums begin at 0, so that none is -0. */
function evaluateBicubic(
	factors: Float64Array,
	from: number,
	components: number,
	a: number,
	b: number,
	perU: number,
	perV: number,
	out: Float64Array
): void {
	for (let c = 0, k = from; c < components; c++, k += 16) {
		const p3 = factors[k + 15]! + 0;
		const p2 = p3 * b + factors[k + 14]!;
		const p1 = p2 * b + factors[k + 13]!;
		const q3 = factors[k + 11]! + 0;
		const q2 = q3 * b + factors[k + 10]!;
		const q1 = q2 * b + factors[k + 9]!;
		const r3 = factors[k + 7]! + 0;
		const r2 = r3 * b + factors[k + 6]!;
		const r1 = r2 * b + factors[k + 5]!;
		const s3 = factors[k + 3]! + 0;
		const s2 = s3 * b + factors[k + 2]!;
		const s1 = s2 * b + factors[k + 1]!;
		const value3 = p1 * b + factors[k + 12]!;
		const value2 = value3 * a + (q1 * b + factors[k + 8]!);
		const value1 = value2 * a + (r1 * b + factors[k + 4]!);
		out[c] = value1 * a + (s1 * b + factors[k]!);
		out[components + c] = ((value3 * a + value2) * a + value1) * perU;
		const byB3 = (p3 * b + p2) * b + p1;
		const byB2 = byB3 * a + ((q3 * b + q2) * b + q1);
		const byB1 = byB2 * a + ((r3 * b + r2) * b + r1);
		out[2 * components + c] = (byB1 * a + ((s3 * b + s2) * b + s1)) * perV;
	}
}

/** Panel that holds `x`, walking from the one held last. */
export function locate(borders: Float64Array, x: number, from: number): number {
	let k = from;
	while (k > 0 && x < borders[k]!) k--;
	while (k < borders.length - 2 && x > borders[k + 1]!) k++;
	return k;
}

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
		const out = this.out;
		const pu = (this.panelU = locate(us, u, this.panelU));
		const pv = (this.panelV = locate(vs, v, this.panelV));
		const perU = 1 / (us[pu + 1]! - us[pu]!);
		const perV = 1 / (vs[pv + 1]! - vs[pv]!);
		const a = (u - us[pu]!) * perU;
		const b = (v - vs[pv]!) * perV;
		const stride = degreeV + 1;
		const size = (degreeU + 1) * stride;
		let end = (pv * (us.length - 1) + pu) * components * size;
		for (let c = 0; c < components; c++) {
			end += size;
			let k = end;
			let value = 0;
			let byA = 0;
			let byB = 0;
			for (let m = 0; m <= degreeU; m++) {
				let f = 0;
				let slope = 0;
				if (stride === 4) {
					// Written out for cubics, which nearly all are: the loop takes longer than what it does.
					k -= 4;
					f = f * b + factors[k + 3]!;
					slope = f;
					f = f * b + factors[k + 2]!;
					slope = slope * b + f;
					f = f * b + factors[k + 1]!;
					slope = slope * b + f;
					f = f * b + factors[k]!;
				} else
					for (let n = 0; n < stride; n++) {
						slope = slope * b + f;
						f = f * b + factors[--k]!;
					}
				byA = byA * a + value;
				value = value * a + f;
				byB = byB * a + slope;
			}
			out[c] = value;
			out[components + c] = byA * perU;
			out[2 * components + c] = byB * perV;
		}
	}
}

/**
 * The first `parts` of four components at a point with their derivatives up to the second, by the polynomials of one panel,
 * which may be asked beyond its borders, too: values, by u, by v, twice by u, by both, twice by v, four numbers each.
 * Horner's rule along v, then along u.
 */
export function evaluateTwice(
	{ us, vs, degreeU, degreeV, factors }: PatchGrid,
	parts: number,
	pu: number,
	pv: number,
	u: number,
	v: number,
	out: Float64Array
): void {
	const perU = 1 / (us[pu + 1]! - us[pu]!);
	const perV = 1 / (vs[pv + 1]! - vs[pv]!);
	const a = (u - us[pu]!) * perU;
	const b = (v - vs[pv]!) * perV;
	const stride = degreeV + 1;
	const size = (degreeU + 1) * stride;
	let end = (pv * (us.length - 1) + pu) * 4 * size;
	for (let c = 0; c < parts; c++) {
		end += size;
		let k = end;
		let value = 0;
		let byA = 0;
		let byAA = 0;
		let byB = 0;
		let byAB = 0;
		let byBB = 0;
		for (let m = 0; m <= degreeU; m++) {
			let f = 0;
			let slope = 0;
			let bend = 0;
			if (stride === 4) {
				// Written out for cubics, which nearly all are: the loop takes longer than what it does.
				k -= 4;
				const f3 = factors[k + 3]! + 0;
				const f2 = f3 * b + factors[k + 2]!;
				const f1 = f2 * b + factors[k + 1]!;
				f = f1 * b + factors[k]!;
				const first = f3 * b + f2;
				slope = first * b + f1;
				bend = f3 * b + first;
			} else
				for (let n = 0; n < stride; n++) {
					bend = bend * b + slope;
					slope = slope * b + f;
					f = f * b + factors[--k]!;
				}
			byAA = byAA * a + byA;
			byA = byA * a + value;
			value = value * a + f;
			byAB = byAB * a + byB;
			byB = byB * a + slope;
			byBB = byBB * a + bend;
		}
		out[c] = value;
		out[4 + c] = byA * perU;
		out[8 + c] = byB * perV;
		out[12 + c] = 2 * byAA * perU * perU;
		out[16 + c] = byAB * perU * perV;
		out[20 + c] = 2 * byBB * perV * perV;
	}
}

/** Panel that holds `x`, walking from the one held last. */
export function locate(borders: Float64Array, x: number, from: number): number {
	let k = from;
	while (k > 0 && x < borders[k]!) k--;
	while (k < borders.length - 2 && x > borders[k + 1]!) k++;
	return k;
}

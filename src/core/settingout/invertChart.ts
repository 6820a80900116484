import { CHART_LAST_STEP, CHART_RESIDUAL } from '../tolerances.ts';
import type { LengthChart, ShareTable } from './lengthChart.ts';

/** Newton steps before the sure way is taken. */
const MOST_STEPS = 12;
/** Steps of a bracketed search; each at least halves what the one before the last left. */
const MOST_HALVINGS = 120;

/** Parameters of the points at every pair of shares; index `j * across.length + i`. */
export interface ChartPoints {
	readonly us: Float64Array;
	readonly vs: Float64Array;
}

/**
 * Finds the parameters where the row through a point is divided by true length in the share `across[i]`
 * and the column through it in the share `up[j]`. Both lists rise from 0 to 1. Newton's method on the
 * chart, started from the neighbours before, one or two steps a point; where it does not settle, as on
 * wildly sheared faces, a bracketed search that always does.
 */
export function invertChart(
	chart: LengthChart,
	across: Float64Array,
	up: Float64Array
): ChartPoints {
	const n = across.length;
	const us = new Float64Array(n * up.length);
	const vs = new Float64Array(n * up.length);
	const search = new ChartSearch(chart);
	for (let j = 0; j < up.length; j++) {
		for (let i = 0; i < n; i++) {
			const k = j * n + i;
			search.startNear(us, vs, i, j, n);
			search.find(across[i]!, up[j]!);
			us[k] = search.u;
			vs[k] = search.v;
		}
	}
	return { us, vs };
}

/** One running search: a point, the panel that it lies in, and the two shares there with derivatives. */
class ChartSearch {
	u: number;
	v: number;
	private panelU = 0;
	private panelV = 0;
	/** share, by u, by v for across; then the same for up. */
	private readonly local = new Float64Array(6);
	/** Hermite weights: value and slope ends along u (8, with derivatives), then along v (8). */
	private readonly weights = new Float64Array(16);
	private readonly chart: LengthChart;

	constructor(chart: LengthChart) {
		this.chart = chart;
		this.u = chart.us[0]!;
		this.v = chart.vs[0]!;
	}

	/** Starts from the neighbours before on the row (or below, for its first node), continued. */
	startNear(us: Float64Array, vs: Float64Array, i: number, j: number, n: number): void {
		const k = j * n + i;
		const step = i > 0 ? 1 : n;
		const known = i > 0 ? i : j;
		if (known === 0) return;
		const a = k - step;
		const b = known > 1 ? a - step : a;
		const c = known > 2 ? b - step : b;
		// A parabola through three neighbours, a line through two, else the neighbour itself.
		this.u = known > 2 ? 3 * (us[a]! - us[b]!) + us[c]! : 2 * us[a]! - us[b]!;
		this.v = known > 2 ? 3 * (vs[a]! - vs[b]!) + vs[c]! : 2 * vs[a]! - vs[b]!;
	}

	/** Brings `u` and `v` to the point with these shares. */
	find(across: number, up: number): void {
		const { us, vs } = this.chart;
		const endU = us.length - 1;
		const endV = vs.length - 1;
		// Borders are exact, not merely close: there the range to search is a single parameter.
		const leastU = across === 1 ? us[endU]! : us[0]!;
		const greatestU = across === 0 ? us[0]! : us[endU]!;
		const leastV = up === 1 ? vs[endV]! : vs[0]!;
		const greatestV = up === 0 ? vs[0]! : vs[endV]!;
		this.u = clamp(this.u, leastU, greatestU);
		this.v = clamp(this.v, leastV, greatestV);
		// A step stays within two panels.
		const mostU = (2 * (us[endU]! - us[0]!)) / endU;
		const mostV = (2 * (vs[endV]! - vs[0]!)) / endV;
		const local = this.local;
		for (let step = 0; step < MOST_STEPS; step++) {
			this.measure();
			const ds = leastU === greatestU ? 0 : across - local[0]!;
			const dt = leastV === greatestV ? 0 : up - local[3]!;
			const off = Math.max(Math.abs(ds), Math.abs(dt));
			if (off < CHART_RESIDUAL) return;
			const scale = 1 / (local[1]! * local[5]! - local[2]! * local[4]!);
			const du = clamp((ds * local[5]! - dt * local[2]!) * scale, -mostU, mostU);
			const dv = clamp((dt * local[1]! - ds * local[4]!) * scale, -mostV, mostV);
			this.u = clamp(this.u + du, leastU, greatestU);
			this.v = clamp(this.v + dv, leastV, greatestV);
			// Newton's method squares what it is off by, so the step from here is the last one.
			if (off < CHART_LAST_STEP) return;
		}
		this.findBracketed(across, up, leastU, greatestU, leastV, greatestV);
	}

	/**
	 * On each row the share across runs from 0 to 1, so that it takes the value asked for somewhere; along
	 * the line of those places the share up runs from 0 to 1 too.
	 */
	private findBracketed(
		across: number,
		up: number,
		leastU: number,
		greatestU: number,
		leastV: number,
		greatestV: number
	): void {
		const offAcross = (u: number) => {
			this.u = u;
			this.measure();
			return this.local[0]! - across;
		};
		const offUp = (v: number) => {
			this.v = v;
			findRoot(offAcross, leastU, greatestU);
			return this.local[3]! - up;
		};
		findRoot(offUp, leastV, greatestV);
	}

	private measure(): void {
		const { us, vs, across, up } = this.chart;
		this.panelU = locate(us, this.u, this.panelU);
		this.panelV = locate(vs, this.v, this.panelV);
		const widthU = us[this.panelU + 1]! - us[this.panelU]!;
		const widthV = vs[this.panelV + 1]! - vs[this.panelV]!;
		hermiteWeights(this.weights, 0, (this.u - us[this.panelU]!) / widthU, widthU);
		hermiteWeights(this.weights, 8, (this.v - vs[this.panelV]!) / widthV, widthV);
		const corner = this.panelV * us.length + this.panelU;
		blend(across, corner, us.length, this.weights, this.local, 0);
		blend(up, corner, us.length, this.weights, this.local, 3);
	}
}

const clamp = (x: number, least: number, greatest: number) =>
	x < least ? least : x > greatest ? greatest : x;

/**
 * Calls `f` ever nearer to a root between `low`, where it is not above 0, and `high`, where it is not
 * below; the last call is the nearest. False position with the Illinois change and halving by turns.
 */
function findRoot(f: (x: number) => number, low: number, high: number): void {
	let below = f(low);
	if (Math.abs(below) < CHART_RESIDUAL || low === high) return;
	let above = f(high);
	for (let step = 0; step < MOST_HALVINGS; step++) {
		const share = step % 3 === 2 ? 0.5 : below / (below - above);
		const x = low + (high - low) * share;
		const value = f(x);
		if (Math.abs(value) < CHART_RESIDUAL || x === low || x === high) return;
		if (value < 0) {
			[low, below] = [x, value];
			above /= 2;
		} else {
			[high, above] = [x, value];
			below /= 2;
		}
	}
}

/** Panel that holds `x`, walking from the one held last: neighbours are near. */
function locate(borders: Float64Array, x: number, from: number): number {
	let k = from;
	while (k > 0 && x < borders[k]!) k--;
	while (k < borders.length - 2 && x > borders[k + 1]!) k++;
	return k;
}

/** Weights of value and slope at both ends of a panel (4), then their derivatives (4), at share `a`. */
function hermiteWeights(w: Float64Array, o: number, a: number, width: number): void {
	const b = 1 - a;
	w[o] = (1 + 2 * a) * b * b;
	w[o + 1] = (1 + 2 * b) * a * a;
	w[o + 2] = a * b * b * width;
	w[o + 3] = -b * a * a * width;
	w[o + 5] = (6 * a * b) / width;
	w[o + 4] = -w[o + 5]!;
	w[o + 6] = b * (b - 2 * a);
	w[o + 7] = a * (a - 2 * b);
}

/** Bicubic Hermite blend of one share: value, by u and by v to `out[o..o+2]`. */
function blend(
	table: ShareTable,
	corner: number,
	stride: number,
	w: Float64Array,
	out: Float64Array,
	o: number
): void {
	const { value, byU, byV, byUV } = table;
	let f = 0;
	let fu = 0;
	let fv = 0;
	for (let q = 0; q < 2; q++) {
		const k = corner + q * stride;
		const along = w[0]! * value[k]! + w[1]! * value[k + 1]! + w[2]! * byU[k]! + w[3]! * byU[k + 1]!;
		const alongU = w[4]! * value[k]! + w[5]! * value[k + 1]! + w[6]! * byU[k]! + w[7]! * byU[k + 1]!;
		const rise = w[0]! * byV[k]! + w[1]! * byV[k + 1]! + w[2]! * byUV[k]! + w[3]! * byUV[k + 1]!;
		const riseU = w[4]! * byV[k]! + w[5]! * byV[k + 1]! + w[6]! * byUV[k]! + w[7]! * byUV[k + 1]!;
		f += w[8 + q]! * along + w[10 + q]! * rise;
		fu += w[8 + q]! * alongU + w[10 + q]! * riseU;
		fv += w[12 + q]! * along + w[14 + q]! * rise;
	}
	out[o] = f;
	out[o + 1] = fu;
	out[o + 2] = fv;
}

import { FRESH_ARRAYS } from '../arrays.ts';
import { PatchCursor } from '../geometry/patches.ts';
import { CHART_LAST_STEP, CHART_RESIDUAL } from '../tolerances.ts';
import type { LengthChart } from './lengthChart.ts';

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
 * and the column through it in the share `up[j]` (or where the chart's other measures have these values).
 * Both lists rise; 0 and less stand for the start border, 1 and more for the end border. A value that a row
 * or column does not reach is found at its nearer end. Newton's method on the
 * chart, started from the neighbours before, one or two steps a point; where it does not settle, as on
 * wildly sheared faces, a bracketed search that always does.
 */
export function invertChart(
	chart: LengthChart,
	across: Float64Array,
	up: Float64Array,
	arrays = FRESH_ARRAYS
): ChartPoints {
	const n = across.length;
	const us = arrays.float64(n * up.length);
	const vs = arrays.float64(n * up.length);
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

/** One running search: a point, and the shares there with their derivatives. */
export class ChartSearch {
	u: number;
	v: number;
	private readonly us: Float64Array;
	private readonly vs: Float64Array;
	private readonly cursor: PatchCursor;

	constructor({ shares }: LengthChart) {
		this.us = shares.us;
		this.vs = shares.vs;
		this.u = shares.us[0]!;
		this.v = shares.vs[0]!;
		this.cursor = new PatchCursor(shares);
	}

	/** Starts from the neighbours before on the row (or below, for its first node), continued. */
	startNear(us: Float64Array, vs: Float64Array, i: number, j: number, n: number): void {
		const step = i > 0 ? 1 : n;
		const known = i > 0 ? i : j;
		const k = j * n + i;
		const a = k - step;
		const b = a - step;
		// A line through two neighbours or a cubic through four, else the neighbour itself.
		if (known > 3) {
			const c = b - step;
			const d = c - step;
			this.u = 4 * (us[a]! + us[c]!) - 6 * us[b]! - us[d]!;
			this.v = 4 * (vs[a]! + vs[c]!) - 6 * vs[b]! - vs[d]!;
		} else if (known > 1) {
			this.u = 2 * us[a]! - us[b]!;
			this.v = 2 * vs[a]! - vs[b]!;
		} else if (known === 1) {
			this.u = us[a]!;
			this.v = vs[a]!;
		}
	}

	/** Brings `u` and `v` to the point with these shares. */
	find(across: number, up: number): void {
		const { us, vs } = this;
		const endU = us.length - 1;
		const endV = vs.length - 1;
		// Borders are exact, not merely close: there the range to search is a single parameter.
		const leastU = across >= 1 ? us[endU]! : us[0]!;
		const greatestU = across <= 0 ? us[0]! : us[endU]!;
		const leastV = up >= 1 ? vs[endV]! : vs[0]!;
		const greatestV = up <= 0 ? vs[0]! : vs[endV]!;
		this.u = clamp(this.u, leastU, greatestU);
		this.v = clamp(this.v, leastV, greatestV);
		// A step stays within two panels.
		const mostU = (2 * (us[endU]! - us[0]!)) / endU;
		const mostV = (2 * (vs[endV]! - vs[0]!)) / endV;
		// across, up; both by u; both by v.
		const local = this.cursor.out;
		for (let step = 0; step < MOST_STEPS; step++) {
			this.cursor.evaluate(this.u, this.v);
			const ds = leastU === greatestU ? 0 : across - local[0]!;
			const dt = leastV === greatestV ? 0 : up - local[1]!;
			const off = Math.max(Math.abs(ds), Math.abs(dt));
			if (off < CHART_RESIDUAL) return;
			const scale = 1 / (local[2]! * local[5]! - local[4]! * local[3]!);
			const du = clamp((ds * local[5]! - dt * local[4]!) * scale, -mostU, mostU);
			const dv = clamp((dt * local[2]! - ds * local[3]!) * scale, -mostV, mostV);
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
			this.cursor.evaluate(u, this.v);
			return this.cursor.out[0]! - across;
		};
		const offUp = (v: number) => {
			this.v = v;
			findRoot(offAcross, leastU, greatestU);
			return this.cursor.out[1]! - up;
		};
		findRoot(offUp, leastV, greatestV);
	}
}

const clamp = (x: number, least: number, greatest: number) => (x < least ? least : x > greatest ? greatest : x);

/**
 * Calls `f`, which rises, ever nearer to its root between `low` and `high`; the last call is the nearest: an
 * end, where there is no root between. False position with the Illinois change and halving by turns.
 */
function findRoot(f: (x: number) => number, low: number, high: number): void {
	let below = f(low);
	if (below > -CHART_RESIDUAL || low === high) return;
	let above = f(high);
	if (above < CHART_RESIDUAL) return;
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

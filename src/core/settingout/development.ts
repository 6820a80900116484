import { atan2, cos, hypot, norm, sin, square } from '../elementary/index.ts';
import type { Ends } from '../geometry/borders.ts';
import { PatchCursor, type PatchGrid } from '../geometry/patches.ts';
import { evaluateGrid } from '../geometry/evaluate.ts';
import { pointOn } from '../geometry/pointOn.ts';
import { cross } from '../geometry/vectors.ts';
import type { Surface } from '../geometry/surface.ts';
import { SAME_FLAT_MM, UNROLLS } from '../tolerances.ts';
import { hermitePatches, hermitePowers, type LengthChart, type ShareTable } from './lengthChart.ts';
import type { NodeTable } from './nodes.ts';
import { isTensor } from './places.ts';
import { unroll } from './unroll.ts';

/** A rigid motion of the plane: turn, then move. */
export interface Motion {
	readonly cosine: number;
	readonly sine: number;
	readonly dx: number;
	readonly dy: number;
}

/**
 * A face laid flat, mm: x across, y up, the origin where its start border meets its lower one. A face that
 * unrolls keeps all lengths; of others the rows keep theirs along x and the columns theirs along y.
 */
export interface Development {
	/** Component 0 is x, component 1 is y, over the face's parameters. */
	readonly patches: PatchGrid;
	readonly unrolls: boolean;
	/** Least and greatest ratio of a length laid flat to the true one. */
	readonly stretch: readonly [number, number];
	/** Least x and y, greatest x and y. */
	readonly bounds: readonly [number, number, number, number];
	/** Flat places of the panel corners `patches.us` x `patches.vs`, stride 2. */
	readonly corners: Float64Array;
	/** Where the face goes on over its seam across, laid flat once more. */
	readonly overSeam?: Motion | RowShift;
}

/** Rows go on by their own lengths: at the height `y` by that of the row which begins there. */
export interface RowShift {
	readonly heights: Float64Array;
	readonly lengths: Float64Array;
	/** How fast the lengths change with the height. */
	readonly slopes: Float64Array;
}

/** A face with its true lengths. */
export interface ChartedFace {
	readonly surface: Surface;
	readonly chart: LengthChart;
	readonly ends: Ends;
}

/** Surfaces never change, so that each is laid flat once, and only when somebody asks. */
const known = new WeakMap<Surface, Development>();

/** A face laid flat. Cost, the first time: some thousand surface points. */
export function developmentOf({ surface, chart, ends }: ChartedFace): Development {
	const development = known.get(surface) ?? develop(surface, chart, ends);
	known.set(surface, development);
	return development;
}

/** Total curvature of a face, in steradians, above which nobody need try whether it unrolls. */
const CURVED = 0.05;

/** Total curvature of a face, roughly, by a few points. */
function roughCurvature(surface: Surface, { shares: { us, vs } }: LengthChart): number {
	const at = (borders: Float64Array, share: number) => borders[0]! + (borders.at(-1)! - borders[0]!) * share;
	let sum = 0;
	for (const s of [0.17, 0.5, 0.83])
		for (const t of [0.17, 0.5, 0.83]) {
			const { du, dv, gaussian } = pointOn(surface, at(us, s), at(vs, t));
			const area = norm(cross(du, dv)) * (at(us, 1) - at(us, 0)) * (at(vs, 1) - at(vs, 0));
			if (Number.isFinite(gaussian)) sum += (Math.abs(gaussian) * area) / 9;
		}
	return sum;
}

/** Lays a face flat. Cost: some thousand surface points. */
export function develop(surface: Surface, chart: LengthChart, ends: Ends): Development {
	if (roughCurvature(surface, chart) < CURVED) {
		const exact = laid(surface, chart, unroll(surface, chart.shares.us, chart.shares.vs));
		if (exact.stretch[0] > 1 - UNROLLS && exact.stretch[1] < 1 + UNROLLS)
			return { ...exact, unrolls: true, ...(ends.closedAcross ? { overSeam: seamMotion(exact, chart) } : {}) };
	}
	const own = laid(surface, chart, byLengths(chart, true));
	// Where columns of very different lengths would fold over, all take the mean.
	const rows = own.stretch[0] > 0 ? own : laid(surface, chart, byLengths(chart, false));
	return { ...rows, unrolls: false, ...(ends.closedAcross ? { overSeam: rowShift(rows, chart) } : {}) };
}

type Tables = readonly [ShareTable, ShareTable];

function laid(surface: Surface, chart: LengthChart, tables: Tables): Omit<Development, 'unrolls'> {
	const { us, vs } = chart.shares;
	const [x0, y0] = [tables[0].value[0]!, tables[1].value[0]!];
	tables[0].value.forEach((x, k) => (tables[0].value[k] = x - x0));
	tables[1].value.forEach((y, k) => (tables[1].value[k] = y - y0));
	const corners = new Float64Array(tables[0].value.length * 2);
	const bounds: [number, number, number, number] = [Infinity, Infinity, -Infinity, -Infinity];
	for (let k = 0; k < tables[0].value.length; k++) {
		const [x, y] = [tables[0].value[k]!, tables[1].value[k]!];
		corners[k * 2] = x;
		corners[k * 2 + 1] = y;
		bounds[0] = Math.min(bounds[0], x);
		bounds[1] = Math.min(bounds[1], y);
		bounds[2] = Math.max(bounds[2], x);
		bounds[3] = Math.max(bounds[3], y);
	}
	const patches = hermitePatches(us, vs, tables);
	return { patches, corners, bounds, stretch: stretchOf(surface, patches) };
}

/** Rows straight and centred, by their true lengths; heights by those of the columns, or by their mean. */
function byLengths(chart: LengthChart, own: boolean): Tables {
	const { us } = chart.shares;
	const mean = chart.columnLengths.reduce((a, b) => a + b, 0) / chart.columnLengths.length;
	const [across, up] = chart.tables;
	const empty = (): ShareTable => {
		const n = across.value.length;
		return {
			value: new Float64Array(n),
			byU: new Float64Array(n),
			byV: new Float64Array(n),
			byUV: new Float64Array(n)
		};
	};
	const [x, y] = [empty(), empty()];
	for (let k = 0; k < across.value.length; k++) {
		const [i, j] = [k % us.length, Math.floor(k / us.length)];
		const [row, rowBy] = [chart.rowLengths[j]!, chart.rowSlopes[j]!];
		const [column, columnBy] = own ? [chart.columnLengths[i]!, chart.columnSlopes[i]!] : [mean, 0];
		const s = across.value[k]! - 0.5;
		const t = up.value[k]!;
		x.value[k] = s * row;
		x.byU[k] = across.byU[k]! * row;
		x.byV[k] = across.byV[k]! * row + s * rowBy;
		x.byUV[k] = across.byUV[k]! * row + across.byU[k]! * rowBy;
		y.value[k] = t * column;
		y.byU[k] = up.byU[k]! * column + t * columnBy;
		y.byV[k] = up.byV[k]! * column;
		y.byUV[k] = up.byUV[k]! * column + up.byV[k]! * columnBy;
	}
	return [x, y];
}

/**
 * Least and greatest ratio of flat to true lengths at the middles of the panels, by the singular values of
 * the map between the tangent planes; the least is 0 or below where the flat face folds over.
 */
function stretchOf(surface: Surface, patches: PatchGrid): [number, number] {
	const middles = (borders: Float64Array) => borders.slice(1).map((b, k) => (b + borders[k]!) / 2);
	const [us, vs] = [middles(patches.us), middles(patches.vs)];
	const { du, dv } = evaluateGrid(surface, us, vs);
	const cursor = new PatchCursor(patches);
	let [least, greatest] = [Infinity, -Infinity];
	for (let j = 0, k = 0; j < vs.length; j++)
		for (let i = 0; i < us.length; i++, k += 3) {
			cursor.evaluate(us[i]!, vs[j]!);
			const f = cursor.out;
			const [e, m, g] = [product(du, du, k), product(du, dv, k), product(dv, dv, k)];
			const area = Math.sqrt(e * g - m * m);
			if (!(area > 0)) continue;
			// An orthonormal frame of the tangent plane: e1 along du, e2 square to it.
			const [p, q] = [Math.sqrt(e), m / Math.sqrt(e)];
			const h = area / p;
			const a = f[2]! / p;
			const c = f[3]! / p;
			const b = (f[4]! - q * a) / h;
			const d = (f[5]! - q * c) / h;
			const [sum, det] = [a * a + b * b + c * c + d * d, a * d - b * c];
			const root = Math.sqrt(Math.max(0, sum * sum - 4 * det * det));
			const most = Math.sqrt((sum + root) / 2);
			least = Math.min(least, det / most);
			greatest = Math.max(greatest, most);
		}
	return [least, greatest];
}

const product = (a: Float64Array, b: Float64Array, k: number) =>
	a[k]! * b[k]! + a[k + 1]! * b[k + 1]! + a[k + 2]! * b[k + 2]!;

/** The motion that carries the start border onto the end border. */
function seamMotion({ corners }: Pick<Development, 'corners'>, chart: LengthChart): Motion {
	const { us, vs } = chart.shares;
	const at = (i: number, j: number) =>
		[corners[(j * us.length + i) * 2]!, corners[(j * us.length + i) * 2 + 1]!] as const;
	const [i, j] = [us.length - 1, vs.length - 1];
	const [a, b, c, d] = [at(0, 0), at(0, j), at(i, 0), at(i, j)];
	const angle = atan2(d[1] - c[1], d[0] - c[0]) - atan2(b[1] - a[1], b[0] - a[0]);
	const [cosine, sine] = [cos(angle), sin(angle)];
	return { cosine, sine, dx: c[0] - (cosine * a[0] - sine * a[1]), dy: c[1] - (sine * a[0] + cosine * a[1]) };
}

function rowShift({ corners, patches }: Pick<Development, 'corners' | 'patches'>, chart: LengthChart): RowShift {
	const { us, vs } = chart.shares;
	const cursor = new PatchCursor(patches);
	const slopes = vs.map((v, j) => {
		cursor.evaluate(us[0]!, v);
		return chart.rowSlopes[j]! / cursor.out[5]!;
	});
	return {
		heights: Float64Array.from(vs, (_, j) => corners[j * us.length * 2 + 1]!),
		lengths: chart.rowLengths,
		slopes
	};
}

/** A flat place moved over the seam, forwards or backwards. */
export function moveOverSeam(development: Development, x: number, y: number, way: 1 | -1): [number, number] {
	const over = development.overSeam;
	if (!over) return [x, y];
	if ('lengths' in over) return [x + way * lengthAt(over, y), y];
	const { cosine, sine, dx, dy } = over;
	if (way > 0) return [cosine * x - sine * y + dx, sine * x + cosine * y + dy];
	return [cosine * (x - dx) + sine * (y - dy), cosine * (y - dy) - sine * (x - dx)];
}

/** Cubic between the rows at the panel borders. */
function lengthAt({ heights, lengths, slopes }: RowShift, y: number): number {
	let k = 0;
	while (k < heights.length - 2 && y > heights[k + 1]!) k++;
	const step = heights[k + 1]! - heights[k]!;
	const t = Math.max(0, Math.min(1, (y - heights[k]!) / step));
	const [a, b, c, d] = hermitePowers(lengths[k]!, lengths[k + 1]!, slopes[k]! * step, slopes[k + 1]! * step) as [
		number,
		number,
		number,
		number
	];
	return a + t * (b + t * (c + t * d));
}

/** Steps of Newton's method from the nearest panel corner. */
const MOST_STEPS = 30;

/** Finds the parameters of flat places; quickest where each is near the one before. */
export class FlatFinder {
	private readonly cursor: PatchCursor;
	private last: { u: number; v: number } | undefined;

	private readonly development: Development;

	constructor(development: Development) {
		this.development = development;
		this.cursor = new PatchCursor(development.patches);
	}

	/** Parameters of a flat place; nothing where it is off the face. */
	find(x: number, y: number): { u: number; v: number } | undefined {
		const near = this.last && this.search(this.last.u, this.last.v, x, y);
		this.last = near ?? this.search(...this.nearestCorner(x, y), x, y);
		return this.last;
	}

	/** The nearest parameters for a flat place that may lie a hair beyond the border, as on its chords. */
	nearest(x: number, y: number): { u: number; v: number } {
		const found = this.find(x, y);
		if (found) return found;
		const [u, v] = this.nearestCorner(x, y);
		return this.search(u, v, x, y, Infinity)!;
	}

	private search(
		u: number,
		v: number,
		x: number,
		y: number,
		within = SAME_FLAT_MM
	): { u: number; v: number } | undefined {
		const { us, vs } = this.development.patches;
		const f = this.cursor.out;
		for (let step = 0; step < MOST_STEPS; step++) {
			this.cursor.evaluate(u, v);
			const [r, q] = [x - f[0]!, y - f[1]!];
			if (Math.abs(r) + Math.abs(q) < SAME_FLAT_MM / 100) return { u, v };
			const scale = 1 / (f[2]! * f[5]! - f[4]! * f[3]!);
			const [du, dv] = [(r * f[5]! - q * f[4]!) * scale, (q * f[2]! - r * f[3]!) * scale];
			const nextU = Math.max(us[0]!, Math.min(us.at(-1)!, u + du));
			const nextV = Math.max(vs[0]!, Math.min(vs.at(-1)!, v + dv));
			if (!Number.isFinite(nextU + nextV)) break;
			if (nextU === u && nextV === v) break;
			[u, v] = [nextU, nextV];
		}
		this.cursor.evaluate(u, v);
		return hypot(x - f[0]!, y - f[1]!) <= within ? { u, v } : undefined;
	}

	/** A hair inside the face, since at a point of the face the map has no inverse. */
	private nearestCorner(x: number, y: number): [number, number] {
		const { corners, patches } = this.development;
		let best = 0;
		let least = Infinity;
		for (let k = 0; k < corners.length; k += 2) {
			const far = square(corners[k]! - x) + square(corners[k + 1]! - y);
			if (far < least) [least, best] = [far, k / 2];
		}
		const { us, vs } = patches;
		const inside = (borders: Float64Array, k: number) =>
			k === 0
				? (borders[0]! + borders[1]!) / 2
				: k === borders.length - 1
					? (borders[k]! + borders[k - 1]!) / 2
					: borders[k]!;
		return [inside(us, best % us.length), inside(vs, Math.floor(best / us.length))];
	}
}

/** Parameters of one flat place; nothing where it is off the face. */
export const findFlat = (development: Development, x: number, y: number) => new FlatFinder(development).find(x, y);

/** Where every place of a setting-out lies flat, mm, stride 2. O(places). */
export function flattenPlaces(
	development: Development,
	nodes: Pick<NodeTable, 'columns' | 'rows' | 'us' | 'vs' | 'flat' | 'turns'>
): Float64Array {
	if (nodes.flat) return nodes.flat;
	const { columns, rows, us, vs, turns } = nodes;
	const cursor = new PatchCursor(development.patches);
	const tensor = isTensor(nodes);
	const grid = columns * rows;
	const flat = new Float64Array((tensor ? grid : us.length) * 2);
	for (let k = 0; k < flat.length / 2; k++) {
		const [u, v] = tensor ? [us[k % columns]!, vs[Math.floor(k / columns)]!] : [us[k]!, vs[k]!];
		cursor.evaluate(u, v);
		flat[k * 2] = cursor.out[0]!;
		flat[k * 2 + 1] = cursor.out[1]!;
		if (k < grid || !turns) continue;
		const [across, up] = [turns[(k - grid) * 2]!, turns[(k - grid) * 2 + 1]!];
		if (across !== 0) flat.set(moveOverSeam(development, flat[k * 2]!, flat[k * 2 + 1]!, across > 0 ? 1 : -1), k * 2);
		if (up === 0) continue;
		// Over the seam up, columns go on by their own way from end to end.
		const ends = [development.patches.vs[0]!, development.patches.vs.at(-1)!].map((end) => {
			cursor.evaluate(u, end);
			return [cursor.out[0]!, cursor.out[1]!] as const;
		}) as [readonly [number, number], readonly [number, number]];
		for (const c of [0, 1] as const) flat[k * 2 + c]! += up * (ends[1][c] - ends[0][c]);
	}
	return flat;
}

import { NO_NORMAL } from '../tolerances.ts';
import { FRESH_ARRAYS, type ArraySource } from '../arrays.ts';
import { tabulateBasis, type BasisTable } from './basis.ts';
import type { Point } from './curve.ts';
import { normalOnFolds } from './folds.ts';
import { PatchCursor } from './patches.ts';
import { surfacePatches } from './surfacePatches.ts';
import type { Surface } from './surface.ts';

/** Points of a surface with derivatives; each array has stride 3, in mm (and mm per unit of parameter). */
export interface SurfaceSamples {
	readonly count: number;
	readonly position: Float64Array;
	/** Derivative by u. */
	readonly du: Float64Array;
	/** Derivative by v. */
	readonly dv: Float64Array;
	/** Mixed second derivative. */
	readonly duv: Float64Array;
}

type Speeds = Pick<SurfaceSamples, 'du' | 'duv'>;

/** Points of a surface with unit outward normals, both with stride 3; (0, 0, 0) where there is no normal. */
export interface SurfacePoints {
	readonly count: number;
	readonly position: Float64Array;
	readonly normal: Float64Array;
}

/** Takes the homogeneous sums S, S_u, S_v, S_uv (four numbers each) of samples from `k` on, as many as there are in `sums`. */
type Sink = (k: number, sums: Float64Array) => void;

/** Evaluates every pair of `us` x `vs` with derivatives; index `j * us.length + i`. */
export function evaluateGrid(surface: Surface, us: Float64Array, vs: Float64Array): SurfaceSamples {
	const count = us.length * vs.length;
	const samples = {
		count,
		position: new Float64Array(count * 3),
		du: new Float64Array(count * 3),
		dv: new Float64Array(count * 3),
		duv: new Float64Array(count * 3)
	};
	sweepGrid(surface, us, vs, (k, sums) => storeDerivatives(samples, k, sums));
	return samples;
}

/** How fast rows run along u, and how that changes by v: of `evaluateGrid`, what lengths are made of, with its index and strides. */
export function evaluateGridSpeeds(surface: Surface, us: Float64Array, vs: Float64Array): Speeds {
	const size = us.length * vs.length * 3;
	const speeds = { du: new Float64Array(size), duv: new Float64Array(size) };
	sweepGrid(surface, us, vs, (k, sums) => storeDerivatives(speeds, k, sums));
	return speeds;
}

/** Points and normals at every pair of `us` x `vs`; index `j * us.length + i`. */
export function evaluateGridPoints(
	surface: Surface,
	us: Float64Array,
	vs: Float64Array,
	arrays = FRESH_ARRAYS
): SurfacePoints {
	const points = allocatePoints(us.length * vs.length, arrays);
	sweepGrid(surface, us, vs, (k, sums) => {
		for (let i = 0; i < us.length; i++) storePoint(points, k + i, sums, i * 16);
	});
	const folded = normalOnFolds(surface);
	if (folded)
		for (let k = 0; k < points.count; k++)
			turnTo(points.normal, k, folded(us[k % us.length]!, vs[Math.floor(k / us.length)]!));
	return points;
}

/** Points and normals at (`us[k]`, `vs[k]`), quickest where each point is near the one before. */
export function evaluatePoints(
	surface: Surface,
	us: Float64Array,
	vs: Float64Array,
	arrays = FRESH_ARRAYS
): SurfacePoints {
	const points = allocatePoints(us.length, arrays);
	evaluateInto(surface, us, vs, points, 0);
	return points;
}

/** The same from place `first` on, into points that there is room for. */
export function evaluateInto(
	surface: Surface,
	us: Float64Array,
	vs: Float64Array,
	points: Pick<SurfacePoints, 'position' | 'normal'>,
	first: number
): void {
	const cursor = new PatchCursor(surfacePatches(surface));
	const folded = normalOnFolds(surface);
	for (let k = first; k < us.length; k++) {
		cursor.evaluate(us[k]!, vs[k]!);
		storePoint(points, k, cursor.out, 0);
		if (folded) turnTo(points.normal, k, folded(us[k]!, vs[k]!));
	}
}

/**
 * The basis functions are shared by row and column, and for each row the control net is first reduced
 * to one line, so that a point costs `degreeU + 1` products: O(rows * (controls + columns)).
 * Source: NURBS Book, algorithms A3.5 and A4.4.
 */
function sweepGrid(surface: Surface, us: Float64Array, vs: Float64Array, sink: Sink): void {
	const across = tabulateBasis(surface.knotsU, surface.degreeU, us);
	const up = tabulateBasis(surface.knotsV, surface.degreeV, vs);
	const width = surface.countU * 4;
	const row = new Float64Array(width);
	const rowSlope = new Float64Array(width);
	const sums = new Float64Array(us.length * 16);
	const strideV = surface.degreeV + 1;
	for (let j = 0; j < vs.length; j++) {
		const from = up.first[j]! * width;
		reduceRows(surface.control, from, width, up.values, up.slopes, j * strideV, strideV, row, rowSlope);
		if (surface.degreeU === 3) sumCubic(row, rowSlope, across, sums);
		else sumAlong(row, rowSlope, across, sums);
		sink(j * us.length, sums);
	}
}

/** Blends `terms` rows of the control net, from `from` on, into one row and its derivative by v. */
function reduceRows(
	control: Float64Array,
	from: number,
	width: number,
	values: Float64Array,
	slopes: Float64Array,
	basis: number,
	terms: number,
	row: Float64Array,
	rowSlope: Float64Array
): void {
	for (let k = 0; k < row.length; k++) {
		let sum = 0;
		let slope = 0;
		for (let r = 0; r < terms; r++) {
			const c = control[from + r * width + k]!;
			sum += values[basis + r]! * c;
			slope += slopes[basis + r]! * c;
		}
		row[k] = sum;
		rowSlope[k] = slope;
	}
}

/** Blends points of a row into the sums S, S_u, S_v, S_uv of every parameter. */
function sumAlong(row: Float64Array, rowSlope: Float64Array, across: BasisTable, sums: Float64Array): void {
	const { degree, count, first, values, slopes } = across;
	for (let i = 0, basis = 0, o = 0; i < count; i++, basis += degree + 1, o += 12)
		for (let c = 0; c < 4; c++, o++) {
			let s = 0;
			let su = 0;
			let sv = 0;
			let suv = 0;
			for (let r = 0, k = first[i]! * 4 + c; r <= degree; r++, k += 4) {
				const value = values[basis + r]!;
				const slope = slopes[basis + r]!;
				s += value * row[k]!;
				su += slope * row[k]!;
				sv += value * rowSlope[k]!;
				suv += slope * rowSlope[k]!;
			}
			sums[o] = s;
			sums[o + 4] = su;
			sums[o + 8] = sv;
			sums[o + 12] = suv;
		}
}

/** The same for cubics, which nearly all are: the loop over four terms takes longer than what it does. Sums begin at 0, so that none is -0. */
function sumCubic(
	row: Float64Array,
	rowSlope: Float64Array,
	{ count, first, values, slopes }: BasisTable,
	sums: Float64Array
): void {
	for (let i = 0, basis = 0, o = 0; i < count; i++, basis += 4, o += 12) {
		const v0 = values[basis]!;
		const v1 = values[basis + 1]!;
		const v2 = values[basis + 2]!;
		const v3 = values[basis + 3]!;
		const s0 = slopes[basis]!;
		const s1 = slopes[basis + 1]!;
		const s2 = slopes[basis + 2]!;
		const s3 = slopes[basis + 3]!;
		for (let c = 0, k = first[i]! * 4; c < 4; c++, k++, o++) {
			const a = row[k]!;
			const b = row[k + 4]!;
			const d = row[k + 8]!;
			const e = row[k + 12]!;
			sums[o] = 0 + v0 * a + v1 * b + v2 * d + v3 * e;
			sums[o + 4] = 0 + s0 * a + s1 * b + s2 * d + s3 * e;
			const p = rowSlope[k]!;
			const q = rowSlope[k + 4]!;
			const r = rowSlope[k + 8]!;
			const t = rowSlope[k + 12]!;
			sums[o + 8] = 0 + v0 * p + v1 * q + v2 * r + v3 * t;
			sums[o + 12] = 0 + s0 * p + s1 * q + s2 * r + s3 * t;
		}
	}
}

/** Projects the homogeneous sums. Source: NURBS Book eq. 4.20; with all weights 1 it changes nothing. */
function storeDerivatives(
	{ du, duv, position, dv }: Speeds & Partial<SurfaceSamples>,
	start: number,
	sums: Float64Array
): void {
	for (let i = 0, k = start * 3; i < sums.length; i += 16) {
		const w = 1 / sums[i + 3]!;
		const wu = sums[i + 7]!;
		const wv = sums[i + 11]!;
		const wuv = sums[i + 15]!;
		for (let o = i; o < i + 3; o++, k++) {
			const p = sums[o]! * w;
			const pu = (sums[o + 4]! - wu * p) * w;
			const pv = (sums[o + 8]! - wv * p) * w;
			du[k] = pu;
			if (position) position[k] = p;
			if (dv) dv[k] = pv;
			duv[k] = (sums[o + 12]! - wu * pv - wv * pu - wuv * p) * w;
		}
	}
}

/** The point `k` from the sums S, S_u, S_v from `i` on. */
function storePoint(
	{ position, normal }: Pick<SurfacePoints, 'position' | 'normal'>,
	k: number,
	sums: Float64Array,
	i: number
): void {
	const w = 1 / sums[i + 3]!;
	const wu = sums[i + 7]!;
	const wv = sums[i + 11]!;
	const x = sums[i]! * w;
	const y = sums[i + 1]! * w;
	const z = sums[i + 2]! * w;
	const ux = sums[i + 4]! - wu * x;
	const uy = sums[i + 5]! - wu * y;
	const uz = sums[i + 6]! - wu * z;
	const vx = sums[i + 8]! - wv * x;
	const vy = sums[i + 9]! - wv * y;
	const vz = sums[i + 10]! - wv * z;
	const nx = uy * vz - uz * vy;
	const ny = uz * vx - ux * vz;
	const nz = ux * vy - uy * vx;
	const length = Math.sqrt(nx * nx + ny * ny + nz * nz);
	// At a point of the face one way has no length but what rounding leaves.
	const scale = length > NO_NORMAL * (ux * ux + uy * uy + uz * uz + vx * vx + vy * vy + vz * vz) ? 1 / length : 0;
	const o = k * 3;
	position[o] = x;
	position[o + 1] = y;
	position[o + 2] = z;
	normal[o] = nx * scale;
	normal[o + 1] = ny * scale;
	normal[o + 2] = nz * scale;
}

/** Gives a point that has a normal another one, if there is one. */
function turnTo(normal: Float64Array, k: number, other: Point | undefined): void {
	if (other && (normal[k * 3] !== 0 || normal[k * 3 + 1] !== 0 || normal[k * 3 + 2] !== 0)) normal.set(other, k * 3);
}

function allocatePoints(count: number, arrays: ArraySource): SurfacePoints {
	return { count, position: arrays.float64(count * 3), normal: arrays.float64(count * 3) };
}

import { NO_NORMAL } from '../tolerances.ts';
import { FRESH_ARRAYS, type ArraySource } from '../arrays.ts';
import { tabulateBasis } from './basis.ts';
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

/** Points of a surface with unit outward normals, both with stride 3; (0, 0, 0) where there is no normal. */
export interface SurfacePoints {
	readonly count: number;
	readonly position: Float64Array;
	readonly normal: Float64Array;
}

/** Takes the homogeneous sums S, S_u, S_v, S_uv (four numbers each) of sample `k`. */
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

/** Points and normals at every pair of `us` x `vs`; index `j * us.length + i`. */
export function evaluateGridPoints(
	surface: Surface,
	us: Float64Array,
	vs: Float64Array,
	arrays = FRESH_ARRAYS
): SurfacePoints {
	const points = allocatePoints(us.length * vs.length, arrays);
	sweepGrid(surface, us, vs, (k, sums) => storePoint(points, k, sums));
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
	const cursor = new PatchCursor(surfacePatches(surface));
	for (let k = 0; k < us.length; k++) {
		cursor.evaluate(us[k]!, vs[k]!);
		storePoint(points, k, cursor.out);
	}
	return points;
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
	const sums = new Float64Array(16);
	const strideU = surface.degreeU + 1;
	const strideV = surface.degreeV + 1;
	for (let j = 0; j < vs.length; j++) {
		const from = up.first[j]! * width;
		reduceRows(surface.control, from, width, up.values, up.slopes, j * strideV, strideV, row, rowSlope);
		for (let i = 0; i < us.length; i++) {
			sumAlong(row, rowSlope, across.first[i]! * 4, across.values, across.slopes, i * strideU, strideU, sums);
			sink(j * us.length + i, sums);
		}
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

/** Blends `terms` points of a row into the sums S, S_u, S_v, S_uv. */
function sumAlong(
	row: Float64Array,
	rowSlope: Float64Array,
	from: number,
	values: Float64Array,
	slopes: Float64Array,
	basis: number,
	terms: number,
	sums: Float64Array
): void {
	for (let c = 0; c < 4; c++) {
		let s = 0;
		let su = 0;
		let sv = 0;
		let suv = 0;
		for (let r = 0, k = from + c; r < terms; r++, k += 4) {
			const value = values[basis + r]!;
			const slope = slopes[basis + r]!;
			s += value * row[k]!;
			su += slope * row[k]!;
			sv += value * rowSlope[k]!;
			suv += slope * rowSlope[k]!;
		}
		sums[c] = s;
		sums[4 + c] = su;
		sums[8 + c] = sv;
		sums[12 + c] = suv;
	}
}

/** Projects the homogeneous sums. Source: NURBS Book eq. 4.20; with all weights 1 it changes nothing. */
function storeDerivatives(samples: SurfaceSamples, k: number, sums: Float64Array): void {
	const { position, du, dv, duv } = samples;
	const w = 1 / sums[3]!;
	const wu = sums[7]!;
	const wv = sums[11]!;
	const wuv = sums[15]!;
	for (let c = 0, o = k * 3; c < 3; c++, o++) {
		const p = sums[c]! * w;
		const pu = (sums[4 + c]! - wu * p) * w;
		const pv = (sums[8 + c]! - wv * p) * w;
		position[o] = p;
		du[o] = pu;
		dv[o] = pv;
		duv[o] = (sums[12 + c]! - wu * pv - wv * pu - wuv * p) * w;
	}
}

function storePoint({ position, normal }: SurfacePoints, k: number, sums: Float64Array): void {
	const w = 1 / sums[3]!;
	const wu = sums[7]!;
	const wv = sums[11]!;
	const x = sums[0]! * w;
	const y = sums[1]! * w;
	const z = sums[2]! * w;
	const ux = sums[4]! - wu * x;
	const uy = sums[5]! - wu * y;
	const uz = sums[6]! - wu * z;
	const vx = sums[8]! - wv * x;
	const vy = sums[9]! - wv * y;
	const vz = sums[10]! - wv * z;
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

function allocatePoints(count: number, arrays: ArraySource): SurfacePoints {
	return { count, position: arrays.float64(count * 3), normal: arrays.float64(count * 3) };
}

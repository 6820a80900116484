import { FRESH_ARRAYS } from '../arrays.ts';
import { evaluateTwice, locate } from './patches.ts';
import { surfacePatches } from './surfacePatches.ts';
import type { Surface } from './surface.ts';

export interface Curvatures {
	/** 1/mm2; NaN where the face has no tangent plane. */
	readonly gaussian: Float64Array;
	/** 1/mm, above 0 where the face bulges outside. */
	readonly mean: Float64Array;
}

/**
 * Curvatures at (`us[k]`, `vs[k]`), as `pointOn` has them, for many points, quickest where each is near the one before.
 * Source: do Carmo, section 3.3. O(points).
 */
export function curvaturesAt(surface: Surface, us: Float64Array, vs: Float64Array, arrays = FRESH_ARRAYS): Curvatures {
	const patches = surfacePatches(surface);
	const found = { gaussian: arrays.float64(us.length), mean: arrays.float64(us.length) };
	/** Value, by u, by v, twice by u, by both, twice by v; of x, y, z and w. */
	const d = new Float64Array(24);
	// A face without weights has 1 everywhere for the fourth.
	const parts = surface.rational ? 4 : 3;
	d[3] = 1;
	let pu = 0;
	let pv = 0;
	for (let p = 0; p < us.length; p++) {
		pu = locate(patches.us, us[p]!, pu);
		pv = locate(patches.vs, vs[p]!, pv);
		evaluateTwice(patches, parts, pu, pv, us[p]!, vs[p]!, d);
		store(d, found, p);
	}
	return found;
}

/** Rational derivatives (The NURBS Book, eq. 4.20), and the two fundamental forms. */
function store(d: Float64Array, found: Curvatures, p: number): void {
	const w = 1 / d[3]!;
	const wu = d[7]!;
	const wv = d[11]!;
	// First derivatives take the places of the homogeneous ones, then the second ones do.
	for (let c = 0; c < 3; c++) {
		const x = d[c]! * w;
		const u = (d[4 + c]! - wu * x) * w;
		const v = (d[8 + c]! - wv * x) * w;
		d[12 + c] = (d[12 + c]! - 2 * wu * u - d[15]! * x) * w;
		d[16 + c] = (d[16 + c]! - wu * v - wv * u - d[19]! * x) * w;
		d[20 + c] = (d[20 + c]! - 2 * wv * v - d[23]! * x) * w;
		d[4 + c] = u;
		d[8 + c] = v;
	}
	const nx = d[5]! * d[10]! - d[6]! * d[9]!;
	const ny = d[6]! * d[8]! - d[4]! * d[10]!;
	const nz = d[4]! * d[9]! - d[5]! * d[8]!;
	const E = dot(d, 4, 4);
	const F = dot(d, 4, 8);
	const G = dot(d, 8, 8);
	const area = E * G - F * F;
	const size = 1 / Math.sqrt(nx * nx + ny * ny + nz * nz);
	const L = (d[12]! * nx + d[13]! * ny + d[14]! * nz) * size;
	const M = (d[16]! * nx + d[17]! * ny + d[18]! * nz) * size;
	const N = (d[20]! * nx + d[21]! * ny + d[22]! * nz) * size;
	found.gaussian[p] = area > 0 ? (L * N - M * M) / area : NaN;
	found.mean[p] = area > 0 ? -(E * N - 2 * F * M + G * L) / (2 * area) : NaN;
}

const dot = (d: Float64Array, i: number, j: number) => d[i]! * d[j]! + d[i + 1]! * d[j + 1]! + d[i + 2]! * d[j + 2]!;

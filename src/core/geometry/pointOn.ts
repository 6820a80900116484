import { norm, square, wholePower } from '../elementary/index.ts';
import { PARALLEL_SINE, SAME_BREAK } from '../tolerances.ts';
import { surfacePatches } from './surfacePatches.ts';
import { domainOf, type Surface } from './surface.ts';
import type { Point } from './curve.ts';
import { cross, dot, scaled } from './vectors.ts';

/** Everything about one point of a face. Lengths mm, curvatures 1/mm, positive where the face bends away outside. */
export interface FacePoint {
	readonly u: number;
	readonly v: number;
	readonly position: Point;
	readonly du: Point;
	readonly dv: Point;
	readonly duu: Point;
	readonly duv: Point;
	readonly dvv: Point;
	/** Unit outward normal; where the face runs to a point, the limit from inside. */
	readonly normal: Point;
	readonly gaussian: number;
	readonly mean: number;
}

/**
 * Position, first and second derivatives, normal and curvatures at one parameter. Second derivatives come
 * from the polynomial pieces. Source: do Carmo, Differential Geometry of Curves and Surfaces, section 3.3.
 */
export function pointOn(surface: Surface, u: number, v: number): FacePoint {
	const d = derivativesAt(surface, u, v);
	const normal = normalOf(surface, u, v, d);
	const [E, F, G] = [dot(d.du, d.du), dot(d.du, d.dv), dot(d.dv, d.dv)];
	const [L, M, N] = [dot(d.duu, normal), dot(d.duv, normal), dot(d.dvv, normal)];
	const area = E * G - F * F;
	return {
		u,
		v,
		...d,
		normal,
		gaussian: area > 0 ? (L * N - M * M) / area : NaN,
		// The outward normal of a ball gives a negative second form; outward bulges count as positive.
		mean: area > 0 ? -(E * N - 2 * F * M + G * L) / (2 * area) : NaN
	};
}

function normalOf(surface: Surface, u: number, v: number, d: Derivatives): Point {
	const plain = cross(d.du, d.dv);
	const size = norm(plain);
	if (size > PARALLEL_SINE * (dot(d.du, d.du) + dot(d.dv, d.dv))) return scaled(plain, 1 / size);
	// At a pole one derivative is nothing: a hair towards the middle of the face it is not.
	const [u0, u1] = domainOf(surface.knotsU, surface.degreeU);
	const [v0, v1] = domainOf(surface.knotsV, surface.degreeV);
	const inward = (t: number, a: number, b: number) => t + ((a + b) / 2 - t) * SAME_BREAK;
	const near = derivativesAt(surface, inward(u, u0, u1), inward(v, v0, v1));
	const limit = cross(near.du, near.dv);
	return scaled(limit, 1 / (norm(limit) || 1));
}

type Derivatives = Pick<FacePoint, 'position' | 'du' | 'dv' | 'duu' | 'duv' | 'dvv'>;

/** Rational derivatives up to the second order. Source: The NURBS Book, eq. 4.20. */
function derivativesAt(surface: Surface, u: number, v: number): Derivatives {
	const h = homogeneousAt(surface, u, v);
	const at = (a: number, b: number, c: number) => h[(a * 3 + b) * 4 + c]!;
	const w = at(0, 0, 3);
	const each = (f: (c: number) => number): Point => [f(0), f(1), f(2)];
	const position = each((c) => at(0, 0, c) / w);
	const du = each((c) => (at(1, 0, c) - at(1, 0, 3) * position[c]!) / w);
	const dv = each((c) => (at(0, 1, c) - at(0, 1, 3) * position[c]!) / w);
	return {
		position,
		du,
		dv,
		duu: each((c) => (at(2, 0, c) - 2 * at(1, 0, 3) * du[c]! - at(2, 0, 3) * position[c]!) / w),
		duv: each((c) => (at(1, 1, c) - at(1, 0, 3) * dv[c]! - at(0, 1, 3) * du[c]! - at(1, 1, 3) * position[c]!) / w),
		dvv: each((c) => (at(0, 2, c) - 2 * at(0, 1, 3) * dv[c]! - at(0, 2, 3) * position[c]!) / w)
	};
}

/** Homogeneous sums with derivatives: entry `(a * 3 + b) * 4 + c` is the a-th by u and b-th by v of component c. */
function homogeneousAt(surface: Surface, u: number, v: number): Float64Array {
	const { us, vs, degreeU, degreeV, factors } = surfacePatches(surface);
	const panel = (borders: Float64Array, t: number) => {
		let k = 0;
		while (k < borders.length - 2 && t >= borders[k + 1]!) k++;
		return k;
	};
	const [pu, pv] = [panel(us, u), panel(vs, v)];
	const [wu, wv] = [us[pu + 1]! - us[pu]!, vs[pv + 1]! - vs[pv]!];
	const [a, b] = [(u - us[pu]!) / wu, (v - vs[pv]!) / wv];
	const [strideU, strideV] = [degreeU + 1, degreeV + 1];
	const powersU = powers(a, degreeU, wu);
	const powersV = powers(b, degreeV, wv);
	const size = strideU * strideV;
	const base = (pv * (us.length - 1) + pu) * 4 * size;
	const out = new Float64Array(36);
	for (let i = 0; i < 3; i++)
		for (let j = 0; j < 3; j++)
			for (let c = 0; c < 4; c++) {
				let sum = 0;
				let k = base + c * size;
				for (let m = i * strideU; m < (i + 1) * strideU; m++) {
					const power = powersU[m]!;
					for (let n = j * strideV; n < (j + 1) * strideV; n++) sum += factors[k++]! * power * powersV[n]!;
				}
				out[(i * 3 + j) * 4 + c] = sum;
			}
	return out;
}

/** The powers of `t`, then their first and their second derivatives by the parameter. */
function powers(t: number, degree: number, width: number): Float64Array {
	const stride = degree + 1;
	const all = new Float64Array(3 * stride);
	for (let k = 0; k <= degree; k++) {
		all[k] = wholePower(t, k);
		if (k > 0) all[stride + k] = (k * wholePower(t, k - 1)) / width;
		if (k > 1) all[2 * stride + k] = (k * (k - 1) * wholePower(t, k - 2)) / square(width);
	}
	return all;
}

import { norm } from '../elementary/index.ts';
import { PARALLEL_SINE, SAME_BREAK } from '../tolerances.ts';
import { evaluateTwice } from './patches.ts';
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

export type Derivatives = Pick<FacePoint, 'position' | 'du' | 'dv' | 'duu' | 'duv' | 'dvv'>;

function derivativesAt(surface: Surface, u: number, v: number): Derivatives {
	const { us, vs } = surfacePatches(surface);
	return derivativesIn(surface, panelAt(us, u), panelAt(vs, v), u, v);
}

/** The panel that a parameter is in; on a border the one after it. */
export function panelAt(borders: Float64Array, t: number): number {
	let k = 0;
	while (k < borders.length - 2 && t >= borders[k + 1]!) k++;
	return k;
}

/**
 * Rational derivatives up to the second order by the polynomials of one panel, which may be asked beyond its borders, too.
 * Source: The NURBS Book, eq. 4.20.
 */
export function derivativesIn(surface: Surface, pu: number, pv: number, u: number, v: number): Derivatives {
	evaluateTwice(surfacePatches(surface), 4, pu, pv, u, v, sums);
	const h = sums;
	const w = h[3]!;
	const [wu, wv, wuu, wuv, wvv] = [h[7]!, h[11]!, h[15]!, h[19]!, h[23]!];
	const position: Point = [h[0]! / w, h[1]! / w, h[2]! / w];
	const first = (o: number, by: number): Point => [
		(h[o]! - by * position[0]) / w,
		(h[o + 1]! - by * position[1]) / w,
		(h[o + 2]! - by * position[2]) / w
	];
	const [du, dv] = [first(4, wu), first(8, wv)];
	const second = (o: number, own: number, byU: number, byV: number): Point => [
		(h[o]! - byV * du[0] - byU * dv[0] - own * position[0]) / w,
		(h[o + 1]! - byV * du[1] - byU * dv[1] - own * position[1]) / w,
		(h[o + 2]! - byV * du[2] - byU * dv[2] - own * position[2]) / w
	];
	return {
		position,
		du,
		dv,
		duu: second(12, wuu, 0, 2 * wu),
		duv: second(16, wuv, wu, wv),
		dvv: second(20, wvv, 2 * wv, 0)
	};
}

/** Of the point asked for last: they are read at once. */
const sums = new Float64Array(24);

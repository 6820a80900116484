import { hypot } from '../elementary/index.ts';
import type { Point } from './curve.ts';
import { evaluateGrid } from './evaluate.ts';
import { pointOn, type FacePoint } from './pointOn.ts';
import { spanBorders } from './quadrature.ts';
import { domainOf, type Surface } from './surface.ts';
import { dot, minus } from './vectors.ts';
import { COINCIDENT_MM, SHORTEST_STEP } from '../tolerances.ts';

/** Samples between two knots, at most, from which a closest point is looked for. */
const STARTS = 4;
const MOST_STEPS = 40;

/**
 * The point of a face nearest to `target`: the best of a grid of samples, refined by Newton's method on
 * the distance, kept within the face. Source: The NURBS Book, section 6.1.
 */
export const closestPoint = (surface: Surface, target: Point) => closestPointFinder(surface)(target);

/** Finds closest points of one face, which is sampled once. */
export function closestPointFinder(surface: Surface): (target: Point) => FacePoint & { readonly distance: number } {
	const us = denser(spanBorders(surface.knotsU, surface.degreeU), STARTS);
	const vs = denser(spanBorders(surface.knotsV, surface.degreeV), STARTS);
	const { position } = evaluateGrid(surface, us, vs);
	return (target) => {
		let best = 0;
		let least = Infinity;
		for (let k = 0; k < us.length * vs.length; k++) {
			const d = hypot(position[k * 3]! - target[0], position[k * 3 + 1]! - target[1], position[k * 3 + 2]! - target[2]);
			if (d < least) [least, best] = [d, k];
		}
		const here = refined(pointOn(surface, us[best % us.length]!, vs[Math.floor(best / us.length)]!));
		const beyond = overSeam(surface, here);
		const found = beyond ? refined(beyond) : here;
		return { ...found, distance: far(found, target) };

		function refined(from: FacePoint): FacePoint {
			let at = from;
			for (let step = 0; step < MOST_STEPS; step++) {
				const next = stepTowards(surface, at, target);
				if (!next) break;
				at = next;
			}
			return at;
		}
	};
}

/** The same point at the other border, where a face closes there: what is nearest may lie beyond the seam. */
function overSeam(surface: Surface, { u, v, position }: FacePoint): FacePoint | undefined {
	const other = (t: number, [from, to]: readonly [number, number]) => (t === from ? to : t === to ? from : t);
	const across = other(u, domainOf(surface.knotsU, surface.degreeU));
	const up = other(v, domainOf(surface.knotsV, surface.degreeV));
	for (const [s, t] of [
		[across, v],
		[u, up]
	] as const) {
		if (s === u && t === v) continue;
		const there = pointOn(surface, s, t);
		if (far(there, position) < COINCIDENT_MM) return there;
	}
	return undefined;
}

const far = (p: FacePoint, target: Point) =>
	hypot(p.position[0] - target[0], p.position[1] - target[1], p.position[2] - target[2]);

/** A Newton step that comes nearer, halved until it does; nothing when none does. */
function stepTowards(surface: Surface, at: FacePoint, target: Point): FacePoint | undefined {
	const r = minus(at.position, target);
	const [gu, gv] = [dot(r, at.du), dot(r, at.dv)];
	let [a, b, c] = [
		dot(at.du, at.du) + dot(r, at.duu),
		dot(at.du, at.dv) + dot(r, at.duv),
		dot(at.dv, at.dv) + dot(r, at.dvv)
	];
	// Where the distance is not convex, the plain metric leads downhill all the same.
	if (a * c - b * b <= 0 || a <= 0) [a, b, c] = [dot(at.du, at.du) || 1, 0, dot(at.dv, at.dv) || 1];
	const scale = 1 / (a * c - b * b);
	const [su, sv] = [-(gu * c - gv * b) * scale, -(gv * a - gu * b) * scale];
	const [u0, u1] = domainOf(surface.knotsU, surface.degreeU);
	const [v0, v1] = domainOf(surface.knotsV, surface.degreeV);
	const clamp = (t: number, low: number, high: number) => Math.max(low, Math.min(high, t));
	for (let by = 1; by > SHORTEST_STEP; by /= 2) {
		const u = clamp(at.u + su * by, u0, u1);
		const v = clamp(at.v + sv * by, v0, v1);
		if (u === at.u && v === at.v) return undefined;
		const next = pointOn(surface, u, v);
		if (far(next, target) < far(at, target)) return next;
	}
	return undefined;
}

/** Parameters with so many steps between each two, the given ones among them. */
export const denser = (borders: ArrayLike<number>, steps: number): Float64Array =>
	Float64Array.from(
		Array.from(borders).flatMap((t, k) =>
			k + 1 < borders.length ? Array.from({ length: steps }, (_, i) => t + ((borders[k + 1]! - t) * i) / steps) : [t]
		)
	);

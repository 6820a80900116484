import { hypot, norm } from '../../elementary/index.ts';
import { distance, type Point } from '../../geometry/curve.ts';
import { pointOn, type FacePoint } from '../../geometry/pointOn.ts';
import { GAUSS_POINTS, GAUSS_WEIGHTS, panelBorders } from '../../geometry/quadrature.ts';
import { domainOf, type Surface } from '../../geometry/surface.ts';
import { cross, dot, plus, scaled } from '../../geometry/vectors.ts';
import type { ChartedFace } from '../../settingout/development.ts';
import type { FaceLine } from './faceLine.ts';
import type { Ring } from './rings.ts';

/** Sides of a line are followed on the face at steps of so much, mm. */
const STEP = 250;

/** A flat line with further points on its long sides, so that it follows the face; of what goes around the face its `around` first points. */
export function followed(ring: Ring, around: number): [number, number][] {
	const path = around > 0 ? ring.slice(0, around + 1) : [...ring, ring[0]!];
	return path.slice(0, -1).flatMap(([x, y], k) => {
		const [nx, ny] = path[k + 1]!;
		const parts = Math.max(1, Math.ceil(hypot(nx - x, ny - y) / STEP));
		return Array.from({ length: parts }, (_, p): [number, number] => [
			x + ((nx - x) * p) / parts,
			y + ((ny - y) * p) / parts
		]);
	});
}

/** How long a line on a face is all around, mm. */
export function lengthOnFace({ surface }: ChartedFace, { points, around }: FaceLine): number {
	const [u0, u1] = domainOf(surface.knotsU, surface.degreeU);
	const range = u1 - u0;
	const at = (u: number, v: number) => pointOn(surface, u - Math.floor((u - u0) / range) * range, v).position;
	return points.reduce((sum, { u, v, turns }, k) => {
		const next = points[(k + 1) % points.length]!;
		const over = next.turns - turns + (k + 1 === points.length ? around : 0);
		const [a, b] = [pointOn(surface, u, v).position, pointOn(surface, next.u, next.v).position];
		const middle = at((u + next.u + over * range) / 2, (v + next.v) / 2);
		// Two halves set off against the whole, by which the curve between is known.
		return sum + (4 * (distance(a, middle) + distance(middle, b)) - distance(a, b)) / 3;
	}, 0);
}

/** How wide and how high a line on a face is, mm, seen square to the face and along its rows, both in the mean of its points. */
export function sizeOnFace({ surface }: ChartedFace, { points }: FaceLine): [width: number, height: number] {
	const places = points.map((p) => pointOn(surface, p.u, p.v));
	const mean = (of: (p: FacePoint) => Point) => unit(places.map(of).reduce(plus));
	const normal = mean((p) => p.normal);
	const up = unit(
		cross(
			normal,
			mean((p) => unit(p.du))
		)
	);
	return [cross(up, normal), up].map((axis) => {
		const along = places.map((p) => dot(p.position, axis));
		return Math.max(...along) - Math.min(...along);
	}) as [number, number];
}

const unit = (a: Point): Point => scaled(a, 1 / (norm(a) || 1));

/**
 * Area of the face within a line, mm2; of one that goes around, that of the face to its left. By Green's theorem: what the
 * columns have below the line, added up along it.
 */
export function areaOnFace({ surface, ends }: ChartedFace, { points, around }: FaceLine): number {
	const us = panelBorders(surface.knotsU, surface.degreeU);
	const vs = panelBorders(surface.knotsV, surface.degreeV);
	const range = us.at(-1)! - us[0]!;
	const inside = (borders: Float64Array, t: number) => Math.max(borders[0]!, Math.min(borders.at(-1)!, t));
	const flat = points.map(({ u, v, turns }): [number, number] => [u + turns * range, inside(vs, v)]);
	const base = around > 0 ? vs.at(-1)! : around < 0 ? vs[0]! : flat[0]![1];
	let area = 0;
	flat.forEach(([u0, v0], k) => {
		const last = k === flat.length - 1;
		const [u, v1] = flat[(k + 1) % flat.length]!;
		const u1 = last ? u + around * range : u;
		for (let g = 0; g < GAUSS_POINTS.length; g++) {
			const t = GAUSS_POINTS[g]!;
			const along = u0 + (u1 - u0) * t;
			const own = ends.closedAcross ? along - Math.floor((along - us[0]!) / range) * range : along;
			if (own !== inside(us, own)) continue;
			area -= columnArea(surface, own, base, v0 + (v1 - v0) * t, vs) * (u1 - u0) * GAUSS_WEIGHTS[g]!;
		}
	});
	return area;
}

/** Area that a column has between two of its parameters for each unit of u. */
function columnArea(surface: Surface, u: number, from: number, to: number, vs: Float64Array): number {
	const [low, high] = [Math.min(from, to), Math.max(from, to)];
	const borders = [low, ...vs.filter((v) => v > low && v < high), high];
	let sum = 0;
	for (let k = 0; k + 1 < borders.length; k++) {
		const width = borders[k + 1]! - borders[k]!;
		for (let g = 0; g < GAUSS_POINTS.length; g++) {
			const { du, dv } = pointOn(surface, u, borders[k]! + width * GAUSS_POINTS[g]!);
			sum += norm(cross(du, dv)) * width * GAUSS_WEIGHTS[g]!;
		}
	}
	return to >= from ? sum : -sum;
}

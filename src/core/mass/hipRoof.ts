import { hypot } from '../elementary/index.ts';
import { ZygasterError } from '../errors.ts';
import type { Point } from '../geometry/curve.ts';
import { COINCIDENT_MM } from '../tolerances.ts';

/**
 * The faces of a roof with one pitch from every side of a convex plan: each is where its own side is the
 * nearest one, cut out of the plan by half-planes. Corners anticlockwise, the eaves first; the ridge
 * stands `height` above them. Throws a ZygasterError for a plan that is not convex. O(n2).
 */
export function hipFaces(plan: readonly Point[], height: number): Point[][] {
	const n = plan.length;
	const sides = plan.map((a, k) => {
		const b = plan[(k + 1) % n]!;
		const size = hypot(b[0] - a[0], b[1] - a[1]);
		// Distance to the left of the side.
		const [nx, ny] = [-(b[1] - a[1]) / size, (b[0] - a[0]) / size];
		return (x: number, y: number) => (x - a[0]) * nx + (y - a[1]) * ny;
	});
	sides.forEach((distance, k) => {
		if (plan.some((p) => distance(p[0], p[1]) < -COINCIDENT_MM))
			throw new ZygasterError(
				'profile',
				`a pitched roof needs a footprint without inward corners; wall ${k + 1} has one beside it`
			);
	});
	const regions = sides.map((own, k) =>
		sides.reduce<Region>(
			(region, other) => (other === own ? region : cut(region, ([x, y]) => other(x, y) - own(x, y))),
			startWith(plan, k)
		)
	);
	const ridge = Math.max(...regions.flatMap((region, k) => region.map(([x, y]) => sides[k]!(x, y))));
	return regions.map((region, k) =>
		region.map(([x, y]): Point => [x, y, plan[0]![2] + (sides[k]!(x, y) / ridge) * height])
	);
}

type Region = readonly (readonly [number, number])[];

const startWith = (plan: readonly Point[], k: number): Region =>
	plan.map((_, i) => plan[(k + i) % plan.length]!).map(([x, y]) => [x, y]);

/** The part of a convex region where a linear function is not below 0. Source: Sutherland & Hodgman, 1974. */
function cut(region: Region, f: (p: readonly [number, number]) => number): Region {
	const kept: (readonly [number, number])[] = [];
	region.forEach((a, k) => {
		const b = region[(k + 1) % region.length]!;
		const [fa, fb] = [f(a), f(b)];
		if (fa >= -COINCIDENT_MM) kept.push(a);
		if ((fa > COINCIDENT_MM && fb < -COINCIDENT_MM) || (fa < -COINCIDENT_MM && fb > COINCIDENT_MM)) {
			const t = fa / (fa - fb);
			kept.push([a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t]);
		}
	});
	return kept;
}

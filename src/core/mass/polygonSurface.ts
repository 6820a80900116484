import { evaluateCurve, polyline, type Point } from '../geometry/curve.ts';
import { byLength } from '../geometry/curveLength.ts';
import { createSurface, type Surface } from '../geometry/surface.ts';
import { SAME_BREAK } from '../tolerances.ts';

/**
 * A flat polygon as one four-sided face whose lower border is the first side. Three corners make a face
 * that runs to a point; four are exact; more are laid by blending opposite borders (Coons). Nothing where that would fold over.
 */
export function polygonSurface(corners: readonly Point[]): Surface | undefined {
	const [a, b, c, d = c] = corners;
	if (corners.length <= 4)
		return gridSurface(
			[0, 1],
			[0, 1],
			[
				[a!, b!],
				[d!, c!]
			]
		);
	const sides = fourSides(corners);
	const breaksOf = (k: number) => [...byLength(polyline(sides[k]!)).breaks];
	const us = mergeRising([...breaksOf(0), ...breaksOf(2).map((t) => 1 - t)]);
	const vs = mergeRising([...breaksOf(1), ...breaksOf(3).map((t) => 1 - t)]);
	const on = (k: number, shares: readonly number[]) => pointsAt(sides[k]!, shares);
	const back = (shares: readonly number[]) => shares.map((t) => 1 - t);
	const [low, right, high, left] = [on(0, us), on(1, vs), on(2, back(us)), on(3, back(vs))];
	const points = vs.map((v, j) =>
		us.map((u, i): Point => {
			const at = (k: 0 | 1 | 2) =>
				(1 - v) * low[i]![k] +
				v * high[i]![k] +
				(1 - u) * left[j]![k] +
				u * right[j]![k] -
				((1 - u) * ((1 - v) * low[0]![k] + v * left.at(-1)![k]) + u * ((1 - v) * right[0]![k] + v * right.at(-1)![k]));
			return [at(0), at(1), at(2)];
		})
	);
	return isUnfolded(points) ? gridSurface(us, vs, points) : undefined;
}

/** Chains of corners: the first side, then the others shared out among three borders by number. */
function fourSides(corners: readonly Point[]): Point[][] {
	const rest = corners.length - 1;
	const cuts = [1, 1 + Math.ceil(rest / 3), 1 + Math.ceil((2 * rest) / 3), corners.length];
	const ring = [...corners, corners[0]!];
	return [ring.slice(0, 2), ...[0, 1, 2].map((k) => ring.slice(cuts[k], cuts[k + 1]! + 1))];
}

function pointsAt(chain: readonly Point[], shares: readonly number[]): Point[] {
	const { position } = evaluateCurve(byLength(polyline(chain)), shares);
	return shares.map((_, k): Point => [position[k * 3]!, position[k * 3 + 1]!, position[k * 3 + 2]!]);
}

function mergeRising(values: readonly number[]): number[] {
	const sorted = [...values].sort((x, y) => x - y);
	return sorted.filter((x, k) => k === 0 || x > sorted[k - 1]! + SAME_BREAK);
}

/** Straight from point to point of a grid. */
function gridSurface(us: readonly number[], vs: readonly number[], points: readonly Point[][]): Surface {
	const knots = (ts: readonly number[]) => [ts[0]!, ...ts, ts.at(-1)!];
	return createSurface({ degreeU: 1, degreeV: 1, knotsU: knots(us), knotsV: knots(vs), points });
}

/** Whether every field of the grid turns the same way as the whole. */
function isUnfolded(points: readonly Point[][]): boolean {
	const turn = (p: Point, q: Point, r: Point) => (q[0] - p[0]) * (r[1] - p[1]) - (q[1] - p[1]) * (r[0] - p[0]);
	for (let j = 0; j + 1 < points.length; j++)
		for (let i = 0; i + 1 < points[0]!.length; i++) {
			const [a, b, c, d] = [points[j]![i]!, points[j]![i + 1]!, points[j + 1]![i + 1]!, points[j + 1]![i]!];
			if (Math.min(turn(a, b, c), turn(b, c, d), turn(c, d, a), turn(d, a, b)) < 0) return false;
		}
	return true;
}

import type { Point } from './curve.ts';

/** Twice the area vector of a closed line by Newell's method, which also takes lines that are not flat; `at(k)` is where point k stands in `points`. */
export function newell(points: ArrayLike<number>, count: number, at: (k: number) => number): Point {
	let [x, y, z] = [0, 0, 0];
	for (let k = 0; k < count; k++) {
		const p = at(k);
		const q = at((k + 1) % count);
		x += (points[p + 1]! - points[q + 1]!) * (points[p + 2]! + points[q + 2]!);
		y += (points[p + 2]! - points[q + 2]!) * (points[p]! + points[q]!);
		z += (points[p]! - points[q]!) * (points[p + 1]! + points[q + 1]!);
	}
	return [x, y, z];
}

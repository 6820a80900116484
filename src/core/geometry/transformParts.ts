import { norm } from '../elementary/index.ts';
import type { Point } from './curve.ts';
import { cross, dot, pointAt, scaled } from './vectors.ts';
import { SAME_RATIO } from '../tolerances.ts';

/** Where a body stands: neither sheared nor mirrored. */
export interface Standing {
	/** mm. */
	readonly origin: Point;
	/** Unit vectors that the body's axes lie along. */
	readonly axes: readonly [Point, Point, Point];
	readonly scale: Point;
}

/** Takes a transform (12 numbers: three columns and the origin) apart; nothing of one that shears, mirrors or flattens. */
export function standingOf(transforms: ArrayLike<number>, at: number): Standing | undefined {
	const [x, y, z, origin] = [0, 3, 6, 9].map((o) => pointAt(transforms, at + o)) as [Point, Point, Point, Point];
	const scale = [norm(x), norm(y), norm(z)] as const;
	const [a, b, c] = scale;
	const square = [dot(x, y) / (a * b), dot(y, z) / (b * c), dot(z, x) / (c * a)].every((s) => Math.abs(s) < SAME_RATIO);
	if (!square || !(dot(cross(x, y), z) > 0)) return undefined;
	return { origin, axes: [scaled(x, 1 / a), scaled(y, 1 / b), scaled(z, 1 / c)], scale };
}

/**
 * The unit quaternion (x, y, z, w) that turns the axes on to three that stand square on each other. The largest part is found
 * first, so that nothing is divided by a small number (Shepperd 1978; memory).
 */
export function quaternionOf([x, y, z]: Standing['axes']): readonly [number, number, number, number] {
	const [xx, yy, zz] = [x[0], y[1], z[2]];
	const parts = [1 + xx - yy - zz, 1 - xx + yy - zz, 1 - xx - yy + zz, 1 + xx + yy + zz];
	const largest = parts.indexOf(Math.max(...parts));
	const [a, b, c] = [y[2] - z[1], z[0] - x[2], x[1] - y[0]];
	const [d, e, f] = [x[1] + y[0], x[2] + z[0], y[2] + z[1]];
	const whole = parts[largest]!;
	const rows = [
		[whole, d, e, a],
		[d, whole, f, b],
		[e, f, whole, c],
		[a, b, c, whole]
	] as const;
	const size = 2 * Math.sqrt(whole);
	return rows[largest]!.map((v) => v / size) as [number, number, number, number];
}

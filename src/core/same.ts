import { pow } from './elementary/index.ts';
import { COINCIDENT_MM, SAME_ANGLE, SAME_RATIO } from './tolerances.ts';

/** What a number measures, as powers of length and angle. */
interface Measured {
	readonly length: number;
	readonly angle: number;
}

/**
 * How far two numbers may be apart and still count as the same: what rounding makes of like cells must not part them.
 * Lengths (mm) within the model's tolerance; areas and volumes as far as a square or a cube whose sides are off by
 * that; angles (radians) and all else within tolerances of their own.
 */
export function slackOf({ length, angle }: Measured): (a: number, b: number) => number {
	if (angle === 0 && length === 1) return () => COINCIDENT_MM;
	if (angle === 1 && length === 0) return () => SAME_ANGLE;
	if (angle === 0 && length > 1) {
		const share = length === 2 ? Math.sqrt : (size: number) => pow(size, (length - 1) / length);
		return (a, b) => length * share(Math.max(Math.abs(a), Math.abs(b))) * COINCIDENT_MM;
	}
	// Curvatures are far below 1 and have no size of their own to compare with.
	const least = length === 0 && angle === 0 ? 1 : 0;
	return (a, b) => SAME_RATIO * Math.max(Math.abs(a), Math.abs(b), least);
}

/** The nearest multiple of `step` where a number is that up to its slack, the number itself elsewhere. */
export function snapped(x: number, step: number, slack: number): number {
	const whole = Math.round(x / step) * step;
	return Math.abs(x - whole) <= slack ? whole : x;
}

import type { Field } from './schema.ts';

/**
 * A curve through points that rise along x, which never swings beyond two neighbours. Below the first and above the last
 * it stays. Source: monotone piecewise cubic interpolation, Fritsch and Carlson 1980, with the tangents of Fritsch and
 * Butland 1984 (harmonic means).
 */
export function easeThrough(points: readonly (readonly [number, number])[]): (x: number) => number {
	const n = points.length;
	const slopes = points.slice(1).map(([x, y], k) => (y - points[k]![1]) / (x - points[k]![0]));
	const tangents = points.map((_, k) => {
		const [before, after] = [slopes[k - 1], slopes[k]];
		if (before === undefined || after === undefined) return before ?? after ?? 0;
		return before * after <= 0 ? 0 : (2 * before * after) / (before + after);
	});
	return (x) => {
		if (x <= points[0]![0]) return points[0]![1];
		if (x >= points[n - 1]![0]) return points[n - 1]![1];
		let k = 0;
		while (x > points[k + 1]![0]) k++;
		const [[x0, y0], [x1, y1]] = [points[k]!, points[k + 1]!];
		const h = x1 - x0;
		const t = (x - x0) / h;
		const [t2, t3] = [t * t, t * t * t];
		return (
			(2 * t3 - 3 * t2 + 1) * y0 +
			(t3 - 2 * t2 + t) * h * tangents[k]! +
			(3 * t2 - 2 * t3) * y1 +
			(t3 - t2) * h * tangents[k + 1]!
		);
	};
}

/** What a field's values count as, from 0 to 1. `range` is what counts as 0 and 1. */
export function shareOf(
	{ ease, steps }: Pick<Field, 'ease' | 'steps'>,
	range: readonly [number, number]
): (value: number) => number {
	const curve = ease && easeThrough(ease);
	const [from, to] = range;
	return (value) => {
		const even = to === from ? 0 : Math.min(1, Math.max(0, (value - from) / (to - from)));
		const eased = curve ? curve(even) : even;
		return steps ? stepOf(eased, steps) / (steps - 1) : eased;
	};
}

/** Which of so many equal steps a share from 0 to 1 is in, from 0. */
export const stepOf = (share: number, steps: number): number => Math.min(steps - 1, Math.floor(share * steps));

/** Least and greatest of numbers; 0 and 0 where there is none. */
export function rangeOfValues(values: Float64Array): [number, number] {
	let [least, greatest] = [Infinity, -Infinity];
	for (const v of values) {
		if (v < least) least = v;
		if (v > greatest) greatest = v;
	}
	return least <= greatest ? [least, greatest] : [0, 0];
}

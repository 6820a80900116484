import { PatchCursor } from '../geometry/patches.ts';
import { GAUSS_POINTS, GAUSS_WEIGHTS } from '../geometry/quadrature.ts';
import { surfacePatches } from '../geometry/surfacePatches.ts';
import { CHART_RESIDUAL, EXACT_SHARE } from '../tolerances.ts';
import type { ChartedFace } from './development.ts';
import type { DirectionName, LaidDirection } from './directions.ts';

/** Newton steps at most; two or three do. */
const MOST_STEPS = 12;

/**
 * Parameters at shares of a direction on faces whose rows (or columns) are all divided alike, as those of revolution
 * and translation: found on the longest row by its true length itself, not by the chart's cubic pieces, so that like
 * cells are alike to the last digits. A share costs some ten surface points.
 */
export function exactShares(
	{ surface, chart }: Pick<ChartedFace, 'surface' | 'chart'>,
	name: DirectionName,
	{ table }: Pick<LaidDirection, 'table'>
): (share: number) => number {
	const across = name === 'across';
	const borders = across ? chart.shares.us : chart.shares.vs;
	const others = across ? chart.shares.vs : chart.shares.us;
	const lengths = across ? chart.rowLengths : chart.columnLengths;
	const [first, last] = [borders[0]!, borders.at(-1)!];
	const clamped = (of: (share: number) => number) => (share: number) =>
		share <= 0 ? first : share >= 1 ? last : of(share);
	// Shares of the parameter itself.
	if (table !== chart.tables[across ? 0 : 1]) return clamped((share) => first + (last - first) * share);
	const longest = lengths.reduce((best, length, k) => (length > lengths[best]! ? k : best), 0);
	const [length, other] = [lengths[longest]!, others[longest]!];
	const running = Float64Array.from(
		borders,
		(_, k) => table.value[across ? longest * borders.length + k : k * others.length + longest]! * length
	);
	const cursor = new PatchCursor(surfacePatches(surface));
	const slopes = across ? 4 : 8;
	const speedAt = (t: number) => {
		if (across) cursor.evaluate(t, other);
		else cursor.evaluate(other, t);
		const h = cursor.out;
		const w = 1 / h[3]!;
		let sum = 0;
		for (let c = 0; c < 3; c++) {
			const slope = (h[slopes + c]! - h[slopes + 3]! * h[c]! * w) * w;
			sum += slope * slope;
		}
		return Math.sqrt(sum);
	};
	const lengthFrom = (start: number, end: number) => {
		let sum = 0;
		for (let g = 0; g < GAUSS_POINTS.length; g++)
			sum += GAUSS_WEIGHTS[g]! * speedAt(start + (end - start) * GAUSS_POINTS[g]!);
		return sum * (end - start);
	};
	return clamped((share) => {
		const wanted = share * length;
		let [low, high] = [0, borders.length - 1];
		while (high - low > 1) {
			const middle = (low + high) >> 1;
			if (running[middle]! <= wanted) low = middle;
			else high = middle;
		}
		const [from, to] = [borders[low]!, borders[high]!];
		if (!(to > from)) return from;
		let t = from + ((to - from) * (wanted - running[low]!)) / (running[high]! - running[low]!);
		for (let step = 0; step < MOST_STEPS; step++) {
			const off = wanted - running[low]! - lengthFrom(from, t);
			const speed = speedAt(t);
			if (Math.abs(off) < CHART_RESIDUAL * length * EXACT_SHARE || !(speed > 0)) break;
			t = Math.max(from, Math.min(to, t + off / speed));
		}
		return t;
	});
}

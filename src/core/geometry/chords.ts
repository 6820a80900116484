import { norm } from '../elementary/index.ts';
import { evaluateCurve, segmentsOf, type Curve, type Point } from './curve.ts';

const MOST_CHORDS = 256;

/** Points along a curve whose chords stay within `tolerance`, mm, of it; both ends among them. */
export function chordsOf(curve: Curve, tolerance: number): Point[] {
	const points: Point[] = [];
	for (let s = 0; s < segmentsOf(curve); s++) {
		const [from, to] = [curve.breaks[s]!, curve.breaks[s + 1]!];
		const at = (count: number) => {
			const { position } = evaluateCurve(curve, Float64Array.from({ length: 2 * count + 1 }, (_, k) => from + ((to - from) * k) / (2 * count)));
			return Array.from({ length: 2 * count + 1 }, (_, k): Point => [position[k * 3]!, position[k * 3 + 1]!, position[k * 3 + 2]!]);
		};
		let count = 1;
		let fine = at(count);
		while (count < MOST_CHORDS && offChord(fine) > tolerance) fine = at((count *= 2));
		points.push(...fine.filter((_, k) => k % 2 === 0 && (s === 0 || k > 0)));
	}
	return points;
}

/** How far the points between lie off the chords of their neighbours. */
function offChord(points: readonly Point[]): number {
	let most = 0;
	for (let k = 1; k < points.length; k += 2) {
		const [a, p, b] = [points[k - 1]!, points[k]!, points[k + 1]!];
		most = Math.max(most, norm([0, 1, 2].map((c) => p[c]! - (a[c]! + b[c]!) / 2)));
	}
	return most;
}

import { hypot } from '../elementary/index.ts';
import { evaluateCurve, segmentsOf, type Curve } from './curve.ts';

const MOST_CHORDS = 256;

type Point2 = readonly [number, number];

/** A point on a curve, and the one on it halfway to the next. */
interface Sample {
	readonly at: Point2;
	readonly half: Point2;
}

/**
 * A closed curve in the plane, anticlockwise, as a polygon that stays within `tolerance`, mm, of it and encloses as
 * much: its corners stand as far outside of round stretches as makes up for what the chords cut off (two thirds of
 * their rise, since an arc encloses two thirds of rise times chord).
 */
export function polygonOf(curve: Curve, tolerance: number): [number, number][] {
	const samples = samplesOf(curve, 1.5 * tolerance);
	const n = samples.length;
	/** By chord: its length, its unit normal to the outside, and how far the curve rises over it. */
	const chords = samples.map(({ at: [x, y], half }, k) => {
		const [nx, ny] = samples[(k + 1) % n]!.at;
		const length = hypot(nx - x, ny - y);
		const out: Point2 = length > 0 ? [(ny - y) / length, (x - nx) / length] : [0, 0];
		return { length, out, rise: (half[0] - (x + nx) / 2) * out[0] + (half[1] - (y + ny) / 2) * out[1] };
	});
	return samples.map(({ at }, k) => {
		const [a, b] = [chords[(k + n - 1) % n]!, chords[k]!];
		const by = (2 / 3) * ((a.rise * a.length + b.rise * b.length) / (a.length + b.length || 1));
		const [x, y] = [a.out[0] + b.out[0], a.out[1] + b.out[1]];
		const size = hypot(x, y) || 1;
		return [at[0] + (x / size) * by, at[1] + (y / size) * by];
	});
}

/** Points along a curve between which it rises by no more than `most`, mm, over its chords; the last point, which is the first again, is left out. */
function samplesOf(curve: Curve, most: number): Sample[] {
	const samples: Sample[] = [];
	for (let s = 0; s < segmentsOf(curve); s++) {
		const [from, to] = [curve.breaks[s]!, curve.breaks[s + 1]!];
		const pointsOf = (count: number) => {
			const { position } = evaluateCurve(
				curve,
				Float64Array.from({ length: 2 * count + 1 }, (_, k) => from + ((to - from) * k) / (2 * count))
			);
			return Array.from({ length: 2 * count + 1 }, (_, k): Point2 => [position[k * 3]!, position[k * 3 + 1]!]);
		};
		let count = 1;
		let fine = pointsOf(count);
		while (count < MOST_CHORDS && offChord(fine) > most) fine = pointsOf((count *= 2));
		for (let k = 0; k < 2 * count; k += 2) samples.push({ at: fine[k]!, half: fine[k + 1]! });
	}
	return samples;
}

/** How far the points between lie off the chords of their neighbours. */
function offChord(points: readonly Point2[]): number {
	let most = 0;
	for (let k = 1; k < points.length; k += 2) {
		const [a, p, b] = [points[k - 1]!, points[k]!, points[k + 1]!];
		most = Math.max(most, hypot(p[0] - (a[0] + b[0]) / 2, p[1] - (a[1] + b[1]) / 2));
	}
	return most;
}

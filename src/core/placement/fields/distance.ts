import { hypot } from '../../elementary/index.ts';
import { evaluateCurve, polyline, segmentsOf, smoothCurve, type Point } from '../../geometry/curve.ts';

/** Chords that stand for one piece of a smooth line. */
const CHORDS = 32;

/** Points between which a line runs straight; a single one stands for itself. */
export function tracePoints(kind: 'line' | 'curve', points: readonly Point[], closed: boolean): Point[] {
	const few = points.length < 2;
	if (few || kind === 'line') return closed && !few ? [...points, points[0]!] : [...points];
	const curve = points.length === 2 ? polyline(points) : smoothCurve(points, closed);
	const { breaks } = curve;
	const at: number[] = [];
	for (let s = 0; s < segmentsOf(curve); s++)
		for (let k = 0; k < CHORDS; k++) at.push(breaks[s]! + ((breaks[s + 1]! - breaks[s]!) * k) / CHORDS);
	at.push(breaks.at(-1)!);
	const { position } = evaluateCurve(curve, at);
	return at.map((_, k): Point => [position[k * 3]!, position[k * 3 + 1]!, position[k * 3 + 2]!]);
}

/** A chain of straight lines made ready to be measured from many points. */
export interface MeasuredLine {
	/** By piece, stride 7: where it begins, its way, and its length squared. */
	readonly pieces: Float64Array;
	/** By stretch of `STRETCH` pieces, stride 4: a ball around it. */
	readonly balls: Float64Array;
}

/** Pieces of a line that are passed over together. */
const STRETCH = 8;

/** A chain of straight lines for `distanceTo`; a single point stands for itself. */
export function measureLine(line: readonly Point[]): MeasuredLine {
	const count = Math.max(1, line.length - 1);
	const pieces = new Float64Array(count * 7);
	for (let k = 0; k < count; k++) {
		const a = line[k]!;
		const b = line[k + 1] ?? a;
		const way = [b[0] - a[0], b[1] - a[1], b[2] - a[2]] as const;
		pieces.set([...a, ...way, way[0] * way[0] + way[1] * way[1] + way[2] * way[2]], k * 7);
	}
	const stretches = Math.ceil(count / STRETCH);
	const balls = new Float64Array(stretches * 4);
	for (let s = 0; s < stretches; s++) {
		const own = line.slice(s * STRETCH, Math.min(line.length, (s + 1) * STRETCH + 1));
		const middle = [0, 1, 2].map((c) => {
			const all = own.map((p) => p[c]!);
			return (Math.min(...all) + Math.max(...all)) / 2;
		});
		const radius = Math.max(...own.map((p) => hypot(p[0] - middle[0]!, p[1] - middle[1]!, p[2] - middle[2]!)));
		balls.set([...middle, radius], s * 4);
	}
	return { pieces, balls };
}

/** Measures from points that are near each other: where the last one was nearest it looks first. */
export function distanceTo({ pieces, balls }: MeasuredLine): (x: number, y: number, z: number) => number {
	const count = pieces.length / 7;
	const stretches = balls.length / 4;
	let first = 0;
	return (x, y, z) => {
		let least = Infinity;
		let nearest = Infinity;
		let found = first;
		for (let step = 0; step < stretches; step++) {
			const s = first + step < stretches ? first + step : first + step - stretches;
			const bx = x - balls[s * 4]!;
			const by = y - balls[s * 4 + 1]!;
			const bz = z - balls[s * 4 + 2]!;
			// Farther than what has been found, by the triangle's inequality.
			const reach = nearest + balls[s * 4 + 3]!;
			if (bx * bx + by * by + bz * bz > reach * reach) continue;
			const end = Math.min(count, (s + 1) * STRETCH);
			for (let k = s * STRETCH; k < end; k++) {
				const o = k * 7;
				const dx = pieces[o + 3]!;
				const dy = pieces[o + 4]!;
				const dz = pieces[o + 5]!;
				const px = x - pieces[o]!;
				const py = y - pieces[o + 1]!;
				const pz = z - pieces[o + 2]!;
				const size = pieces[o + 6]!;
				const along = size > 0 ? (px * dx + py * dy + pz * dz) / size : 0;
				const t = along < 0 ? 0 : along > 1 ? 1 : along;
				const ex = px - t * dx;
				const ey = py - t * dy;
				const ez = pz - t * dz;
				const far = ex * ex + ey * ey + ez * ez;
				if (far < least) {
					least = far;
					found = s;
				}
			}
			nearest = Math.sqrt(least);
		}
		first = found;
		return nearest;
	};
}

/**
 * The least of several distances, blended where they differ by less than `blend`, mm; never above the least. Taken from
 * the smallest up, so that their order does not count. Source: polynomial smooth minimum (I. Quilez; from memory).
 */
export function smoothLeast(distances: readonly number[], blend: number): number {
	const [first, ...others] = [...distances].sort((a, b) => a - b);
	let least = first!;
	for (const d of others) {
		const near = Math.max(0, blend - Math.abs(d - least)) / blend;
		least = Math.min(least, d) - (near * near * blend) / 4;
	}
	return Math.max(0, least);
}

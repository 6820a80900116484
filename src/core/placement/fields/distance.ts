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

/** Distance from a point to the nearest of a chain of straight lines, mm. */
export function distanceToLine(x: number, y: number, z: number, line: readonly Point[]): number {
	let least = Infinity;
	for (let k = 0; k < Math.max(1, line.length - 1); k++) {
		const a = line[k]!;
		const b = line[k + 1] ?? a;
		const [dx, dy, dz] = [b[0] - a[0], b[1] - a[1], b[2] - a[2]];
		const size = dx * dx + dy * dy + dz * dz;
		const along = size > 0 ? ((x - a[0]) * dx + (y - a[1]) * dy + (z - a[2]) * dz) / size : 0;
		const t = Math.min(1, Math.max(0, along));
		const [ex, ey, ez] = [x - a[0] - t * dx, y - a[1] - t * dy, z - a[2] - t * dz];
		least = Math.min(least, ex * ex + ey * ey + ez * ez);
	}
	return Math.sqrt(least);
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

import type { DrawnPoint, DrawnProfile } from '../../core/mass/profile.ts';

/** Changes of a drawn line; each answers a new one. */

export const movePoint = (line: DrawnProfile, k: number, x: number, y: number): DrawnProfile =>
	withPoint(line, k, { x: tidy(x), y: tidy(y) });

export const withPoint = (line: DrawnProfile, k: number, change: Partial<DrawnPoint>): DrawnProfile => ({
	...line,
	points: line.points.map((p, i) => (i === k ? { ...p, ...change } : p))
});

/** A new point after point `k`; the stretch is then two straight or smooth ones. */
export function insertPoint(line: DrawnProfile, k: number, x: number, y: number): DrawnProfile {
	const [a, b] = [line.points[k]!, line.points[(k + 1) % line.points.length]!];
	const points = [...line.points];
	points[k] = { ...a, arc: 0 };
	points.splice(k + 1, 0, { x: tidy(x), y: tidy(y), smooth: a.smooth || b.smooth, arc: 0 });
	return { ...line, points };
}

/** Without point `k`; the line itself when no fewer points would do. */
export function removePoint(line: DrawnProfile, k: number): DrawnProfile {
	if (line.points.length <= (line.closed ? 3 : 2)) return line;
	return { ...line, points: line.points.filter((_, i) => i !== k) };
}

/** The line run the other way: its outside changes sides. */
export function reverseLine(line: DrawnProfile): DrawnProfile {
	const { points, closed } = line;
	const n = points.length;
	// An arc belongs to the stretch after its point, which is now the one before.
	const arcAfter = (k: number) => (k === 0 ? (closed ? points[n - 1]!.arc : 0) : points[k - 1]!.arc);
	return { ...line, points: points.map((p, k) => ({ ...p, arc: 0 - arcAfter(k) })).reverse() };
}

/** Left and right changed over about the line's own middle, its outside staying outside. */
export function mirrorLine(line: DrawnProfile): DrawnProfile {
	const xs = line.points.map((p) => p.x);
	const axis = Math.min(...xs) + Math.max(...xs);
	const turned = reverseLine(line);
	return { ...turned, points: turned.points.map((p) => ({ ...p, x: axis - p.x, arc: 0 - p.arc })) };
}

/** The arc of a stretch whose middle is dragged to a point: tangent of a quarter of its angle. */
export function arcThrough(line: DrawnProfile, k: number, x: number, y: number): number {
	const [a, b] = [line.points[k]!, line.points[(k + 1) % line.points.length]!];
	const [dx, dy] = [b.x - a.x, b.y - a.y];
	const chord = Math.hypot(dx, dy);
	if (chord === 0) return 0;
	// How far the middle lies to the right of the way.
	const rise = ((x - (a.x + b.x) / 2) * dy - (y - (a.y + b.y) / 2) * dx) / chord;
	const arc = (2 * rise) / chord;
	return Math.abs(arc) < FLAT ? 0 : Math.max(-5, Math.min(5, Math.round(arc * 1000) / 1000));
}

/** An arc flatter than this is meant to be straight. */
const FLAT = 0.02;

/** Middle of a stretch, on its arc. */
export function middleOf({ points }: DrawnProfile, k: number): { x: number; y: number } {
	const [a, b] = [points[k]!, points[(k + 1) % points.length]!];
	return {
		x: (a.x + b.x) / 2 + ((b.y - a.y) * a.arc) / 2,
		y: (a.y + b.y) / 2 - ((b.x - a.x) * a.arc) / 2
	};
}

const tidy = (x: number) => Math.round(x * 1000) / 1000;

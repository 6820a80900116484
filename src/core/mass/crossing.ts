import { orient2d } from 'robust-predicates';

interface PlanePoint {
	readonly x: number;
	readonly y: number;
}

/**
 * The first two sides of a line of points that cross or touch though they are not neighbours; their
 * indices. Decided exactly. O(n2): meant for drawn lines of some hundred points.
 */
export function crossingOf(points: readonly PlanePoint[], closed: boolean): [number, number] | undefined {
	const n = points.length;
	const sides = closed ? n : n - 1;
	for (let a = 0; a < sides; a++)
		for (let b = a + 2; b < sides; b++) {
			if (closed && a === 0 && b === n - 1) continue;
			if (meet(points[a]!, points[a + 1]!, points[b]!, points[(b + 1) % n]!)) return [a, b];
		}
	return undefined;
}

function meet(a: PlanePoint, b: PlanePoint, c: PlanePoint, d: PlanePoint): boolean {
	const side = (p: PlanePoint, q: PlanePoint, r: PlanePoint) => Math.sign(orient2d(p.x, p.y, q.x, q.y, r.x, r.y));
	const [abc, abd, cda, cdb] = [side(a, b, c), side(a, b, d), side(c, d, a), side(c, d, b)];
	if (abc * abd < 0 && cda * cdb < 0) return true;
	const on = (p: PlanePoint, q: PlanePoint, r: PlanePoint) =>
		Math.min(p.x, q.x) <= r.x && r.x <= Math.max(p.x, q.x) && Math.min(p.y, q.y) <= r.y && r.y <= Math.max(p.y, q.y);
	return (
		(abc === 0 && on(a, b, c)) || (abd === 0 && on(a, b, d)) || (cda === 0 && on(c, d, a)) || (cdb === 0 && on(c, d, b))
	);
}

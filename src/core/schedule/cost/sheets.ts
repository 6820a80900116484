import { hypot, norm } from '../../elementary/index.ts';
import type { Point } from '../../geometry/curve.ts';
import { cross, dot, minus, pointAt, scaled } from '../../geometry/vectors.ts';
import type { Mesh } from '../../kit/mesh.ts';

/** The least rectangle that a piece is cut from, mm, the longer side first. */
export type Rectangle = readonly [length: number, width: number];

/**
 * The least rectangle around a thin piece as it is seen straight on. One of its sides lies along one of the hull's (Freeman
 * and Shapira 1975; memory). Nothing of a piece without area. O(points log points + hull^2).
 */
export function leastRectangle({ positions, triangles }: Mesh): Rectangle | undefined {
	let largest: Point = [0, 0, 0];
	const normals: Point[] = [];
	for (let t = 0; t < triangles.length; t += 3) {
		const [a, b, c] = [0, 1, 2].map((k) => pointAt(positions, triangles[t + k]! * 3)) as [Point, Point, Point];
		const normal = cross(minus(b, a), minus(c, a));
		normals.push(normal);
		if (norm(normal) > norm(largest)) largest = normal;
	}
	if (!(norm(largest) > 0)) return undefined;
	// Both sides of a plate look the same way once those that look back are turned.
	const sum: [number, number, number] = [0, 0, 0];
	for (const n of normals) for (let c = 0; c < 3; c++) sum[c]! += dot(n, largest) < 0 ? -n[c]! : n[c]!;
	const up = scaled(sum, 1 / norm(sum));
	const some: Point = Math.abs(up[2]) < Math.abs(up[0]) ? [0, 0, 1] : [1, 0, 0];
	const across = cross(some, up);
	const x = scaled(across, 1 / norm(across));
	const y = cross(up, x);
	const flat = Array.from({ length: positions.length / 3 }, (_, p) => {
		const at = pointAt(positions, p * 3);
		return [dot(at, x), dot(at, y)] as const;
	});
	const hull = hullOf(flat);
	let best: Rectangle | undefined;
	hull.forEach(([px, py], k) => {
		const [qx, qy] = hull[(k + 1) % hull.length]!;
		const size = hypot(qx - px, qy - py);
		const [dx, dy] = [(qx - px) / size, (qy - py) / size];
		const along = hull.map(([hx, hy]) => hx * dx + hy * dy);
		const aside = hull.map(([hx, hy]) => hy * dx - hx * dy);
		const sides = [along, aside].map((list) => Math.max(...list) - Math.min(...list)).sort((a, b) => b - a);
		const [length, width] = sides as [number, number];
		if (!best || length * width < best[0] * best[1]) best = [length, width];
	});
	return best;
}

type Flat = readonly [number, number];

/** The corners of the convex hull, anticlockwise (Andrew's monotone chain). */
function hullOf(points: readonly Flat[]): Flat[] {
	const sorted = [...points].sort((a, b) => a[0] - b[0] || a[1] - b[1]);
	const half = (list: readonly Flat[]) => {
		const chain: Flat[] = [];
		for (const p of list) {
			while (chain.length > 1) {
				const [a, b] = [chain.at(-2)!, chain.at(-1)!];
				if ((b[0] - a[0]) * (p[1] - a[1]) - (b[1] - a[1]) * (p[0] - a[0]) > 0) break;
				chain.pop();
			}
			chain.push(p);
		}
		return chain.slice(0, -1);
	};
	return [...half(sorted), ...half(sorted.reverse())];
}

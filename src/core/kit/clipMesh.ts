import earcut from 'earcut';
import { axesSquareTo } from './axes.ts';
import type { Point } from '../geometry/curve.ts';
import { COINCIDENT_MM } from '../tolerances.ts';
import type { TriangleMesh } from '../mesh/triangleMesh.ts';

/**
 * What of a closed body lies on the side of a plane that its unit normal points to, closed again by a cap; nothing where
 * nothing does. The plane goes through `at`; what lies within 0.01 mm of it lies in it. Triangles are cut one by one (Sutherland and Hodgman 1974, memory), the cap
 * fills the loops that stay open. O(triangles).
 */
export function clipMesh(mesh: TriangleMesh, at: Point, normal: Point): TriangleMesh | undefined {
	const { positions, triangles } = mesh;
	const count = positions.length / 3;
	const height = new Float64Array(count);
	for (let v = 0; v < count; v++) {
		const h =
			(positions[v * 3]! - at[0]) * normal[0] +
			(positions[v * 3 + 1]! - at[1]) * normal[1] +
			(positions[v * 3 + 2]! - at[2]) * normal[2];
		height[v] = Math.abs(h) < COINCIDENT_MM ? 0 : h;
	}
	if (!height.some((h) => h < 0)) return mesh;
	if (!height.some((h) => h > 0)) return undefined;
	const points: number[] = [];
	const inPlane: boolean[] = [];
	const add = (x: number, y: number, z: number, flat: boolean) => {
		points.push(x, y, z);
		return inPlane.push(flat) - 1;
	};
	/** By vertex: one more than its number here. */
	const kept = new Int32Array(count);
	const keep = (v: number) => {
		if (kept[v] === 0)
			kept[v] = 1 + add(positions[v * 3]!, positions[v * 3 + 1]!, positions[v * 3 + 2]!, height[v] === 0);
		return kept[v]! - 1;
	};
	const crossings = new Map<number, number>();
	/** Where a side crosses the plane, the same point from both of its triangles. */
	const crossing = (a: number, b: number) => {
		const [low, high] = a < b ? [a, b] : [b, a];
		const known = crossings.get(low * count + high);
		if (known !== undefined) return known;
		const t = height[low]! / (height[low]! - height[high]!);
		const [x, y, z] = [0, 1, 2].map((c) => {
			const from = positions[low * 3 + c]!;
			return from + t * (positions[high * 3 + c]! - from);
		}) as [number, number, number];
		const made = add(x, y, z, true);
		crossings.set(low * count + high, made);
		return made;
	};
	const out: number[] = [];
	const ring: number[] = [];
	/** Sides of kept triangles that lie in the plane, as start and end. */
	const open = new Map<number, readonly [number, number]>();
	/** A body has fewer vertices than this, those of cuts among them. */
	const many = count + triangles.length;
	for (let t = 0; t < triangles.length; t += 3) {
		const [p, q, r] = [height[triangles[t]!]!, height[triangles[t + 1]!]!, height[triangles[t + 2]!]!];
		// What lies in the plane is part of the cap.
		if (!(p > 0 || q > 0 || r > 0)) continue;
		ring.length = 0;
		for (let k = 0; k < 3; k++) {
			const [v, next] = [triangles[t + k]!, triangles[t + ((k + 1) % 3)]!];
			if (height[v]! >= 0) ring.push(keep(v));
			if (height[v]! * height[next]! < 0) ring.push(crossing(v, next));
		}
		for (let k = 1; k + 1 < ring.length; k++) out.push(ring[0]!, ring[k]!, ring[k + 1]!);
		for (let k = 0; k < ring.length; k++) {
			const [a, b] = [ring[k]!, ring[(k + 1) % ring.length]!];
			if (!inPlane[a] || !inPlane[b]) continue;
			if (!open.delete(b * many + a)) open.set(a * many + b, [a, b]);
		}
	}
	out.push(...capOver([...open.values()], points, normal));
	return { positions: Float64Array.from(points), triangles: Uint32Array.from(out) };
}

/** Triangles that close open sides lying in one plane, seen from where `normal` comes from. */
function capOver(sides: readonly (readonly [number, number])[], points: readonly number[], normal: Point): number[] {
	// The cap runs the sides the other way.
	const next = new Map<number, number[]>();
	for (const [a, b] of sides) next.set(b, [...(next.get(b) ?? []), a]);
	const loops: number[][] = [];
	for (const start of next.keys())
		while (next.get(start)!.length) {
			const loop = [start];
			for (let v = next.get(start)!.pop()!; v !== start; v = next.get(v)!.pop()!) {
				loop.push(v);
				if (!next.get(v)?.length) return [];
			}
			loops.push(loop);
		}
	const [u, v] = axesSquareTo([-normal[0], -normal[1], -normal[2]]);
	const flat = (loop: readonly number[]) =>
		loop.map((p) => {
			const [x, y, z] = [points[p * 3]!, points[p * 3 + 1]!, points[p * 3 + 2]!];
			return [x * u[0] + y * u[1] + z * u[2], x * v[0] + y * v[1] + z * v[2]] as const;
		});
	const drawn = loops.map((loop) => ({ loop, at: flat(loop) })).map((l) => ({ ...l, area: areaOf(l.at) }));
	const holes = new Set(drawn.filter((l) => l.area < 0));
	const filled = drawn
		.filter((l) => l.area >= 0)
		.flatMap((outer) => {
			const inside = [...holes].filter((hole) => isWithin(hole.at[0]!, outer.at));
			for (const hole of inside) holes.delete(hole);
			const all = [outer, ...inside];
			const starts = inside.map((_, k) => all.slice(0, k + 1).reduce((n, l) => n + l.loop.length, 0));
			const numbers = all.flatMap((l) => l.loop);
			const cut = earcut(
				all.flatMap((l) => l.at.flat()),
				starts
			);
			// Slivers that run back on themselves are left out there: each loop is closed by itself then.
			if (cut.length !== (numbers.length - 2 + 2 * inside.length) * 3) return all.flatMap((l) => fan(l.loop));
			return cut.map((k) => numbers[k]!);
		});
	return [...filled, ...[...holes].flatMap((l) => fan(l.loop))];
}

const fan = (loop: readonly number[]) => loop.slice(2).flatMap((_, k) => [loop[0]!, loop[k + 1]!, loop[k + 2]!]);

type Flat = readonly (readonly [number, number])[];

const areaOf = (ring: Flat) =>
	ring.reduce((sum, [x, y], k) => {
		const [p, q] = ring[(k + 1) % ring.length]!;
		return sum + x * q - p * y;
	}, 0) / 2;

function isWithin([x, y]: readonly [number, number], ring: Flat): boolean {
	let inside = false;
	ring.forEach(([ax, ay], k) => {
		const [bx, by] = ring[(k + 1) % ring.length]!;
		if (ay > y !== by > y && x < ax + ((y - ay) / (by - ay)) * (bx - ax)) inside = !inside;
	});
	return inside;
}

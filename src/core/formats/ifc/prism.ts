import { norm } from '../../elementary/index.ts';
import type { Point } from '../../geometry/curve.ts';
import { cross, dot, minus, pointAt, scaled } from '../../geometry/vectors.ts';
import type { Mesh } from '../../kit/mesh.ts';
import { SAME_RATIO } from '../../tolerances.ts';

/** A body that is an outline moved along a straight line, by the points of its mesh. */
export interface Prism {
	/** Loops of one end, the outer one first: numbers of points. */
	readonly loops: readonly (readonly number[])[];
	/** The point at the other end of the first one of the first loop. */
	readonly top: number;
}

/** Points of a mesh that are looked at, at most. */
const MOST_POINTS = 128;

/** Finds out whether a mesh is a prism, straight or oblique, with holes or without: nothing of others. O(points^2). */
export function prismOf({ positions, triangles }: Mesh): Prism | undefined {
	const count = positions.length / 3;
	if (count < 6 || count > MOST_POINTS || count % 2 === 1) return undefined;
	const points = Array.from({ length: count }, (_, p) => pointAt(positions, p * 3));
	const near = SAME_RATIO * points.reduce((most, p) => Math.max(most, norm(minus(p, points[0]!))), 0);
	const beside = new Set<number>();
	for (let t = 0; t < triangles.length; t += 3) {
		const corners = triangles.subarray(t, t + 3);
		if (corners.includes(0)) for (const p of corners) beside.add(p);
	}
	for (const other of beside) {
		if (other === 0) continue;
		const loops = loopsOf(points, triangles, minus(points[other]!, points[0]!), near);
		if (!loops) continue;
		const along = minus(points[other]!, points[0]!);
		const start = points[loops[0]![0]!]!;
		const top = points.findIndex((p) => norm(minus(minus(p, start), along)) <= near);
		return { loops, top };
	}
	return undefined;
}

/** The loops of the end from which all points go along a line to those of the other end; nothing where they do not. */
function loopsOf(points: readonly Point[], triangles: Uint32Array, along: Point, near: number): number[][] | undefined {
	const [ax, ay, az] = along;
	const has = (x: number, y: number, z: number) => {
		for (const q of points)
			if (Math.abs(q[0] - x) <= near && Math.abs(q[1] - y) <= near && Math.abs(q[2] - z) <= near) return true;
		return false;
	};
	// By point: 1 at the end, 2 at the other one.
	const side: number[] = [];
	for (const [x, y, z] of points) {
		const at = has(x + ax, y + ay, z + az) ? 1 : has(x - ax, y - ay, z - az) ? 2 : 0;
		if (at === 0) return undefined;
		side.push(at);
	}
	const ends = [1, 2].map((s) => side.filter((v) => v === s).length);
	if (ends[0]! !== ends[1]! || ends[0]! * 2 !== points.length) return undefined;
	const next = new Map<number, number>();
	let [caps, tops] = [0, 0];
	const edges = new Set<string>();
	for (let t = 0; t < triangles.length; t += 3) {
		const corners = [...triangles.subarray(t, t + 3)];
		if (corners.every((p) => side[p] === 2)) tops++;
		if (!corners.every((p) => side[p] === 1)) continue;
		caps++;
		corners.forEach((p, k) => edges.add(`${p} ${corners[(k + 1) % 3]}`));
	}
	for (const edge of edges) {
		const [a, b] = edge.split(' ').map(Number) as [number, number];
		if (edges.has(`${b} ${a}`)) continue;
		// Where two loops touch, which way they go on is not told.
		if (next.has(a)) return undefined;
		next.set(a, b);
	}
	// Every border of an end has two triangles to the other end, and there are no more.
	if (caps === 0 || caps !== tops || triangles.length / 3 !== caps + tops + 2 * next.size) return undefined;
	const loops: number[][] = [];
	while (next.size) {
		const loop: number[] = [];
		for (let p = next.keys().next().value; p !== undefined && next.has(p);) {
			loop.push(p);
			const to: number = next.get(p)!;
			next.delete(p);
			p = to;
		}
		loops.push(loop);
	}
	const areas = loops.map((loop) => areaOf(points, loop));
	const order = [...loops.keys()].sort((a, b) => norm(areas[b]!) - norm(areas[a]!) || a - b);
	const normal = areas[order[0]!]!;
	const [first] = loops[order[0]!]!;
	const flat = loops
		.flat()
		.every((p) => Math.abs(dot(minus(points[p]!, points[first!]!), normal)) <= near * norm(normal));
	return flat && norm(normal) > 0 ? order.map((k) => loops[k]!) : undefined;
}

/** Twice the area of a loop, along its normal. */
function areaOf(points: readonly Point[], loop: readonly number[]): Point {
	const o = points[loop[0]!]!;
	return loop.reduce<Point>(
		(sum, p, k) => {
			const c = cross(minus(points[p]!, o), minus(points[loop[(k + 1) % loop.length]!]!, o));
			return [sum[0] + c[0], sum[1] + c[1], sum[2] + c[2]];
		},
		[0, 0, 0]
	);
}

/** A prism as IFC has it: where its outline lies, its loops there (anticlockwise), and which way it goes. */
export interface Swept {
	readonly origin: Point;
	/** Upright on the outline, and along its first side. */
	readonly axis: Point;
	readonly reference: Point;
	/** mm, stride 2. */
	readonly loops: readonly (readonly number[])[];
	/** In the axes of the outline, 1 long. */
	readonly direction: Point;
	readonly depth: number;
}

/** A prism put up, by the points of the very mesh; nothing of one without extent. */
export function sweptOf({ loops, top }: Prism, positions: ArrayLike<number>): Swept | undefined {
	const at = (p: number) => pointAt(positions, p * 3);
	const outer = loops[0]!;
	const origin = at(outer[0]!);
	const along = minus(at(top), origin);
	const points = outer.map(at);
	const area = areaOf(points, [...points.keys()]);
	const depth = norm(along);
	const [size, side] = [norm(area), minus(points[1]!, origin)];
	if (!(depth > 0) || !(size > 0) || !(norm(side) > 0)) return undefined;
	const up = dot(area, along) > 0 ? 1 : -1;
	const axis = scaled(area, up / size);
	const reference = scaled(side, 1 / norm(side));
	const across = cross(axis, reference);
	const flat = (p: Point) => [dot(minus(p, origin), reference), dot(minus(p, origin), across)];
	return {
		origin,
		axis,
		reference,
		loops: loops.map((loop) => (up > 0 ? loop : [loop[0]!, ...loop.slice(1).reverse()]).flatMap((p) => flat(at(p)))),
		direction: scaled([dot(along, reference), dot(along, across), dot(along, axis)], 1 / depth),
		depth
	};
}

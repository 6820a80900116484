import { norm } from '../../elementary/index.ts';
import type { Point } from '../../geometry/curve.ts';
import { cross, dot, minus, pointAt, scaled } from '../../geometry/vectors.ts';
import { meshVolume, type Mesh } from '../../kit/mesh.ts';
import { SAME_EDGE_MM, SLIM_MM, STRAIGHT_FOLD } from '../../tolerances.ts';

/** A bar whose ends are cut, told from its mesh, however that is triangulated. */
export interface CutBar {
	/** Edges of its profile around the outside, and as many around the inside where it is hollow. */
	readonly loops: readonly number[];
	/** Where each of them begins, in order, then where each ends; mm, stride 3. */
	readonly points: Float64Array;
	/** Its volume as a length of its profile, mm: what its ends are like between the edges. */
	readonly mean: number;
}

/** An edge of the profile that runs the whole way: its place across it, and from where to where. */
interface Line {
	readonly place: Point;
	from: number;
	to: number;
}

/**
 * The edges of a bar's profile, found as the folds of a closed mesh that run along its longest one, in the order of the sides
 * between them: anticlockwise about the way of the bar, the inner ones beginning beside the first outer one. Nothing for
 * what is no bar with as many edges inside as outside. O(triangles * lines).
 */
export function cutBar(mesh: Mesh): CutBar | undefined {
	for (const slim of SLIM_MM) {
		const bar = barOf(mesh, slim);
		if (bar) return bar;
	}
	return undefined;
}

/** What lies at the ends between two sides is slim, and rounding turns it: how slim differs. */
function barOf(mesh: Mesh, slimMm: number): CutBar | undefined {
	const { positions } = mesh;
	const folds = foldsOf(mesh, slimMm);
	if (!folds) return undefined;
	const { normals } = folds;
	const at = (p: number) => pointAt(positions, p * 3);
	const wayOf = ({ a, b }: Fold) => minus(at(b), at(a));
	const longest = folds.list.reduce<Fold | undefined>(
		(best, fold) => (!best || norm(wayOf(fold)) > norm(wayOf(best)) ? fold : best),
		undefined
	);
	if (!longest) return undefined;
	const way = scaled(wayOf(longest), 1 / norm(wayOf(longest)));
	const lines: Line[] = [];
	const lineOf = (fold: Fold): number => {
		const [p, q] = [at(fold.a), at(fold.b)];
		const [s, t] = [dot(p, way), dot(q, way)];
		const place = minus(p, scaled(way, s));
		let k = lines.findIndex((l) => norm(minus(l.place, place)) < SAME_EDGE_MM);
		if (k < 0) k = lines.push({ place, from: Infinity, to: -Infinity }) - 1;
		lines[k]!.from = Math.min(lines[k]!.from, s, t);
		lines[k]!.to = Math.max(lines[k]!.to, s, t);
		return k;
	};
	/** By side of the bar: the two lines that it lies between, and its normal. */
	const sides = new Map<number, { readonly lines: Set<number>; readonly normal: Point }>();
	for (const fold of folds.list) {
		const along = wayOf(fold);
		const length = norm(along);
		if (length < SAME_EDGE_MM || norm(cross(along, way)) > STRAIGHT_FOLD * length) continue;
		const line = lineOf(fold);
		for (const t of [fold.left, fold.right]) {
			const side = folds.sideOf(t);
			const there = sides.get(side) ?? { lines: new Set(), normal: normals[t]! };
			sides.set(side, there);
			there.lines.add(line);
		}
	}
	const next = new Map<number, number>();
	for (const { lines: pair, normal } of sides.values()) {
		if (pair.size !== 2) return undefined;
		const [a, b] = [...pair] as [number, number];
		const right = cross(minus(lines[b]!.place, lines[a]!.place), way);
		const [from, to] = dot(right, normal) > 0 ? [a, b] : [b, a];
		if ((next.get(from) ?? to) !== to) return undefined;
		next.set(from, to);
	}
	const loops = loopsOf(next, lines.length);
	if (!loops) return undefined;
	const areas = loops.map((loop) =>
		areaOf(
			loop.map((k) => lines[k]!.place),
			way
		)
	);
	const order = [...loops.keys()].sort((a, b) => areas[b]! - areas[a]!);
	const [outer, inner] = order.map((k) => loops[k]!);
	if (!outer || order.length > 2 || (inner && inner.length !== outer.length)) return undefined;
	const edges = [...outer, ...(inner ? besideFirst(inner, outer, lines) : [])];
	const points = new Float64Array(edges.length * 6);
	edges.forEach((k, n) => {
		const { place, from, to } = lines[k]!;
		points.set(
			place.map((x, c) => x + way[c]! * from),
			n * 3
		);
		points.set(
			place.map((x, c) => x + way[c]! * to),
			(edges.length + n) * 3
		);
	});
	return {
		loops: inner ? [outer.length, inner.length] : [outer.length],
		points,
		mean: meshVolume(mesh) / areas.reduce((sum, area) => sum + area, 0)
	};
}

/** An edge at which a mesh turns: its points, and the triangles beside it. */
interface Fold {
	readonly a: number;
	readonly b: number;
	readonly left: number;
	readonly right: number;
}

/** The folds of a mesh, the normals of its triangles, and which flat side each belongs to; nothing where it is not closed. */
function foldsOf({ positions, triangles }: Mesh, slimMm: number) {
	const across = neighboursOf(triangles, positions.length / 3);
	if (!across) return undefined;
	const normals = normalsOf(positions, triangles, across, slimMm);
	const parent = Int32Array.from(normals, (_, t) => t);
	const sideOf = (t: number): number => {
		while (parent[t] !== t) t = parent[t] = parent[parent[t]!]!;
		return t;
	};
	// Slim triangles at the ends run from one side to another that looks the same way.
	const inPlane = (left: number, right: number) => {
		const heights = [left, right].flatMap((t) =>
			[0, 1, 2].map((k) => dot(normals[left]!, pointAt(positions, triangles[t * 3 + k]! * 3)))
		);
		return Math.max(...heights) - Math.min(...heights) < SAME_EDGE_MM;
	};
	const list: Fold[] = [];
	across.forEach((right, e) => {
		const left = Math.floor(e / 3);
		if (right < left) return;
		const [n, m] = [normals[left]!, normals[right]!];
		if (norm(cross(n, m)) > STRAIGHT_FOLD || dot(n, m) < 0)
			list.push({ a: triangles[e]!, b: triangles[e % 3 === 2 ? e - 2 : e + 1]!, left, right });
		else if (inPlane(left, right)) parent[sideOf(right)] = sideOf(left);
	});
	return { list, normals, sideOf };
}

/** By triangle and side of it: the triangle beyond; nothing where there is none. */
function neighboursOf(triangles: ArrayLike<number>, points: number): Int32Array | undefined {
	const across = new Int32Array(triangles.length).fill(-1);
	const open = new Map<number, number>();
	for (let e = 0; e < triangles.length; e++) {
		const [a, b] = [triangles[e]!, triangles[e % 3 === 2 ? e - 2 : e + 1]!];
		// Where slim triangles meet, a side may be that of four: any two are beside each other then.
		const key = Math.min(a, b) * points + Math.max(a, b);
		const there = open.get(key);
		if (there === undefined) {
			open.set(key, e);
			continue;
		}
		open.delete(key);
		across[e] = Math.floor(there / 3);
		across[there] = Math.floor(e / 3);
	}
	return open.size === 0 ? across : undefined;
}

/** Unit normals of triangles; those so slim that rounding turns them have that of the one along their longest side. */
function normalsOf(positions: Float64Array, triangles: ArrayLike<number>, across: Int32Array, slimMm: number): Point[] {
	const at = (e: number) => pointAt(positions, triangles[e]! * 3);
	const slim = new Map<number, number>();
	const normals = Array.from({ length: triangles.length / 3 }, (_, t) => {
		const [a, b, c] = [at(t * 3), at(t * 3 + 1), at(t * 3 + 2)];
		const normal = cross(minus(b, a), minus(c, a));
		const lengths = [norm(minus(b, a)), norm(minus(c, b)), norm(minus(a, c))];
		const longest = Math.max(...lengths);
		if (!(norm(normal) > slimMm * longest)) slim.set(t, across[t * 3 + lengths.indexOf(longest)]!);
		return scaled(normal, 1 / (norm(normal) || 1));
	});
	for (const [t, beside] of slim) {
		let to = beside;
		for (let steps = 0; slim.has(to) && steps < slim.size; steps++) to = slim.get(to)!;
		normals[t] = normals[to]!;
	}
	return normals;
}

/** Loops through all of so many lines, each by its next one; nothing where some lie on none. */
function loopsOf(next: ReadonlyMap<number, number>, count: number): number[][] | undefined {
	const seen = new Set<number>();
	const loops: number[][] = [];
	for (const start of next.keys()) {
		if (seen.has(start)) continue;
		const loop: number[] = [];
		for (let k: number | undefined = start; k !== undefined && !seen.has(k); k = next.get(k)) {
			seen.add(k);
			loop.push(k);
		}
		if (next.get(loop.at(-1)!) !== start) return undefined;
		loops.push(loop);
	}
	return seen.size === count && count >= 3 ? loops : undefined;
}

/** Area within places across a way, mm2; below 0 where they run clockwise, as those of a hole do. */
function areaOf(places: readonly Point[], way: Point): number {
	return places.reduce(
		(sum, p, k) => sum + dot(cross(minus(p, places[0]!), minus(places[(k + 1) % places.length]!, places[0]!)), way) / 2,
		0
	);
}

/** The inner lines in the turn of the outer ones, begun with that beside the first of them. */
function besideFirst(inner: readonly number[], outer: readonly number[], lines: readonly Line[]): number[] {
	const turned = [...inner].reverse();
	const far = turned.map((k) => norm(minus(lines[k]!.place, lines[outer[0]!]!.place)));
	const first = far.indexOf(Math.min(...far));
	return [...turned.slice(first), ...turned.slice(0, first)];
}

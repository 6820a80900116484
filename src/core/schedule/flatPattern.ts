import { acos, hypot, norm } from '../elementary/index.ts';
import type { Point } from '../geometry/curve.ts';
import { cross, dot, minus } from '../geometry/vectors.ts';
import type { Mesh } from '../kit/mesh.ts';
import { ringArea, unionArea, type Ring } from '../tiling/openings/rings.ts';
import { BEND_COSINE, CLEARLY_MORE, COINCIDENT_MM, SAME_FLAT_AREA } from '../tolerances.ts';
import { arcLines, type ArcLine } from './arcLine.ts';
import { oneSideOf, sidesOf, trianglesOf, weldedPoints, type Side } from './oneSide.ts';

/** A place on the sheet, mm. */
export type Flat = readonly [number, number];

/** A line along which a sheet is bent. */
export interface Bend {
	readonly from: Flat;
	readonly to: Flat;
	/** Between the two sides' normals, radians: above 0 where they turn away from the outside. */
	readonly angle: number;
}

/** A thin piece laid flat as it is cut, seen from outside, its longest side level and below; mm, from 0 to the right and up. */
export interface FlatPattern {
	/** Around it, anticlockwise, and around its holes, clockwise. The largest is the first. */
	readonly cuts: readonly (readonly Flat[])[];
	/** By line of `cuts`: the same with arcs, where its corners stand for them. */
	readonly arcs: readonly (ArcLine | undefined)[];
	readonly bends: readonly Bend[];
	readonly width: number;
	readonly height: number;
	/** mm2. */
	readonly area: number;
}

/**
 * Lays a thin piece flat without stretching it: triangle after triangle over the sides that they share, level ones first, then
 * the longest (a spanning tree; Prim 1957, memory). Where a piece runs back into itself it is cut open. Of a
 * plate with its thickness one side is laid flat, that of the given area, mm2. Nothing for a body that has no such side, for one that
 * falls apart, and where parts would lie on each other. O(triangles log triangles + sides of its outline squared).
 */
export function flatPattern(mesh: Mesh, oneSide: number): FlatPattern | undefined {
	const { points, triangles } = oneSideOf(weldedPoints(mesh), oneSide);
	const count = triangles.length / 3;
	if (count === 0) return undefined;
	const sides = sidesOf(triangles);
	if (sides.every((s) => s.length > 1) || sides.some((s) => s.length > 2)) return undefined;
	const partner = new Map<number, Side>();
	for (const [a, b] of sides)
		if (a && b) {
			partner.set(a.triangle * 3 + a.k, b);
			partner.set(b.triangle * 3 + b.k, a);
		}
	const { corner, normals, slim } = trianglesOf(points, triangles);
	const between = (a: number, b: number) =>
		Math.max(-1, Math.min(1, dot(normals[a]!, normals[b]!) / (norm(normals[a]!) * norm(normals[b]!))));
	const level = (a: number, b: number) => slim[a]! || slim[b]! || between(a, b) > BEND_COSINE;

	/** By triangle: where its corners lie. */
	const flat: (readonly [Flat, Flat, Flat] | undefined)[] = [];
	const joined = new Set<number>();
	const [a, b, c] = [0, 1, 2].map((k) => corner(0, k)) as [Point, Point, Point];
	flat[0] = [[0, 0], [norm(minus(b, a)), 0], third([0, 0], [norm(minus(b, a)), 0], a, b, c)];
	/** Sides that a next triangle may be laid over. */
	const open: { readonly from: Side; readonly level: boolean; readonly length: number }[] = [];
	/** Where it stays sorted, behind its equals: the next one is taken from the end. */
	const placeOf = (side: (typeof open)[number]) => {
		let [low, high] = [0, open.length];
		while (low < high) {
			const middle = (low + high) >> 1;
			const other = open[middle]!;
			const before = Number(other.level) - Number(side.level) || other.length - side.length;
			if (before > 0) high = middle;
			else low = middle + 1;
		}
		return low;
	};
	const reach = (t: number) => {
		for (let k = 0; k < 3; k++) {
			const over = partner.get(t * 3 + k);
			if (!over || flat[over.triangle]) continue;
			const side = {
				from: { triangle: t, k },
				level: level(t, over.triangle),
				length: norm(minus(corner(t, k + 1), corner(t, k)))
			};
			open.splice(placeOf(side), 0, side);
		}
	};
	reach(0);
	for (let next = open.pop(); next; next = open.pop()) {
		const { triangle: t, k } = next.from;
		const over = partner.get(t * 3 + k)!;
		if (flat[over.triangle]) continue;
		const [p, q] = [flat[t]![k]!, flat[t]![(k + 1) % 3]!];
		// The neighbour runs along the shared side the other way.
		const far = corner(over.triangle, over.k + 2);
		const placed: Flat[] = [];
		placed[over.k] = q;
		placed[(over.k + 1) % 3] = p;
		placed[(over.k + 2) % 3] = third(q, p, corner(t, k + 1), corner(t, k), far);
		flat[over.triangle] = placed as unknown as [Flat, Flat, Flat];
		joined.add(t * 3 + k).add(over.triangle * 3 + over.k);
		reach(over.triangle);
	}
	if (Array.from({ length: count }, (_, t) => flat[t]).some((f) => f === undefined)) return undefined;

	// Sides across which the sheet goes on: those that were laid over, and those whose two triangles lie side by side all the same.
	const whole = (t: number, k: number) => {
		if (joined.has(t * 3 + k)) return true;
		const over = partner.get(t * 3 + k);
		if (!over) return false;
		const [here, there] = [flat[t]!, flat[over.triangle]!];
		return near(there[over.k]!, here[(k + 1) % 3]!) && near(there[(over.k + 1) % 3]!, here[k]!);
	};
	const cuts = outlines(count, whole, partner).map((sides) =>
		straightened(sides.map(({ triangle, k }) => flat[triangle]![k]!))
	);
	const area = normals.reduce((sum, n) => sum + norm(n) / 2, 0);
	// Parts that lie on each other take less room than there is of them.
	if (unionArea(flat as Ring[]) < area * (1 - SAME_FLAT_AREA)) return undefined;
	const bends: Bend[] = [];
	for (let t = 0; t < count; t++)
		for (let k = 0; k < 3; k++) {
			const over = partner.get(t * 3 + k);
			if (!over || over.triangle < t || level(t, over.triangle) || !whole(t, k)) continue;
			const away = dot(normals[t]!, minus(corner(over.triangle, over.k + 2), corner(t, k))) < 0;
			bends.push({
				from: flat[t]![k]!,
				to: flat[t]![(k + 1) % 3]!,
				angle: acos(between(t, over.triangle)) * (away ? 1 : -1)
			});
		}
	return levelled(cuts, bends, area, oneSide);
}

const near = (a: Flat, b: Flat) => hypot(a[0] - b[0], a[1] - b[1]) < COINCIDENT_MM;

/** The lines around what lies flat: from each loose side to the next one around the corner between them. */
function outlines(
	count: number,
	whole: (t: number, k: number) => boolean,
	partner: ReadonlyMap<number, Side>
): Side[][] {
	const gone = new Set<number>();
	const lines: Side[][] = [];
	for (let s = 0; s < count * 3; s++) {
		if (gone.has(s) || whole(Math.floor(s / 3), s % 3)) continue;
		const line: Side[] = [];
		let at: Side = { triangle: Math.floor(s / 3), k: s % 3 };
		while (!gone.has(at.triangle * 3 + at.k)) {
			gone.add(at.triangle * 3 + at.k);
			line.push(at);
			at = { triangle: at.triangle, k: (at.k + 1) % 3 };
			while (whole(at.triangle, at.k)) {
				const over = partner.get(at.triangle * 3 + at.k)!;
				at = { triangle: over.triangle, k: (over.k + 1) % 3 };
			}
		}
		lines.push(line);
	}
	return lines;
}

/** A closed line without points that lie on the straight line between their neighbours. */
function straightened(line: readonly Flat[]): Flat[] {
	const kept: Flat[] = [];
	line.forEach((p, k) => {
		const before = kept.at(-1) ?? line.at(-1)!;
		const after = line[(k + 1) % line.length]!;
		const [ux, uy] = [after[0] - before[0], after[1] - before[1]];
		const length = hypot(ux, uy);
		const off = ux * (p[1] - before[1]) - uy * (p[0] - before[0]);
		const forwards = ux * (p[0] - before[0]) + uy * (p[1] - before[1]) > 0;
		if (!(forwards && Math.abs(off) < COINCIDENT_MM * length)) kept.push(p);
	});
	return kept.length > 2 ? kept : [...line];
}

/** Turned so that the longest side lies level and below, and moved to the right of and above 0; the largest line first. */
function levelled(cuts: readonly Flat[][], bends: readonly Bend[], area: number, meant: number): FlatPattern {
	const ordered = [...cuts].sort((a, b) => Math.abs(ringArea(b)) - Math.abs(ringArea(a)));
	const outer = ordered[0]!;
	let longest: Flat = [0, 0];
	outer.forEach((p, k) => {
		const q = outer[(k + 1) % outer.length]!;
		const way: Flat = [q[0] - p[0], q[1] - p[1]];
		if (hypot(...way) > hypot(...longest) * CLEARLY_MORE) longest = way;
	});
	const length = hypot(...longest);
	const [c, s] = [longest[0] / length, longest[1] / length];
	const turned = ([x, y]: Flat): Flat => [x * c + y * s, y * c - x * s];
	const all = outer.map(turned);
	const [left, low] = [0, 1].map((axis) => Math.min(...all.map((p) => p[axis]!))) as [number, number];
	const [right, high] = [0, 1].map((axis) => Math.max(...all.map((p) => p[axis]!))) as [number, number];
	const placed = (p: Flat): Flat => {
		const [x, y] = turned(p);
		return [x - left, y - low];
	};
	const lines = ordered.map((line) => line.map(placed));
	return {
		cuts: lines,
		arcs: arcLines(lines, meant),
		bends: bends.map(({ from, to, angle }) => ({ from: placed(from), to: placed(to), angle })),
		width: right - left,
		height: high - low,
		area
	};
}

/** Where the third corner lies to the left of a side that lies from p to q, by its lengths in space. */
function third(p: Flat, q: Flat, a: Point, b: Point, c: Point): Flat {
	const [ab, ac] = [minus(b, a), minus(c, a)];
	const length = norm(ab);
	const along = dot(ac, ab) / length;
	const aside = norm(cross(ab, ac)) / length;
	const [ux, uy] = [(q[0] - p[0]) / length, (q[1] - p[1]) / length];
	return [p[0] + ux * along - uy * aside, p[1] + uy * along + ux * aside];
}

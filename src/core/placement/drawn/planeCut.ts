import { hypot } from '../../elementary/index.ts';
import { denser } from '../../geometry/closestPoint.ts';
import { distance, type Point } from '../../geometry/curve.ts';
import { evaluateGridPoints } from '../../geometry/evaluate.ts';
import { pointOn } from '../../geometry/pointOn.ts';
import { spanBorders } from '../../geometry/quadrature.ts';
import type { Surface } from '../../geometry/surface.ts';
import { COINCIDENT_MM } from '../../tolerances.ts';

/** Samples between two knots that the cut is looked for by. */
const SAMPLES = 8;
/** Halvings by which a crossing is brought onto the plane: far below a thousandth of a mm. */
const HALVINGS = 40;

/** A line that a plane cuts out of a face. */
export interface CutLine {
	readonly points: readonly Point[];
	readonly closed: boolean;
}

/**
 * Where a plane cuts a face, as chains of points on both, longest first; a chain that meets itself is closed, its first
 * point standing once. Crossings of the sides of a fine net, each brought onto the plane by halving. O(net).
 */
export function planeCut(surface: Surface, point: Point, normal: Point): CutLine[] {
	const us = denser(spanBorders(surface.knotsU, surface.degreeU), SAMPLES);
	const vs = denser(spanBorders(surface.knotsV, surface.degreeV), SAMPLES);
	const { position } = evaluateGridPoints(surface, us, vs);
	const size = hypot(...normal);
	const over = (p: ArrayLike<number>, o = 0) =>
		((p[o]! - point[0]) * normal[0] + (p[o + 1]! - point[1]) * normal[1] + (p[o + 2]! - point[2]) * normal[2]) / size;
	const n = us.length;
	const heights = Float64Array.from({ length: n * vs.length }, (_, k) => over(position, k * 3));
	/** By side of the net: its crossing, worked out once. */
	const crossings = new Map<number, Point>();
	const crossing = (a: number, b: number): { readonly key: number; readonly at: Point } => {
		const key = Math.min(a, b) * 2 + (Math.abs(a - b) === 1 ? 0 : 1);
		const known = crossings.get(key);
		if (known) return { key, at: known };
		const at = (share: number) => {
			const u = us[a % n]! + (us[b % n]! - us[a % n]!) * share;
			const [va, vb] = [vs[Math.floor(a / n)]!, vs[Math.floor(b / n)]!];
			return pointOn(surface, u, va + (vb - va) * share).position;
		};
		let [low, high] = [0, 1];
		const below = heights[a]! < 0;
		for (let k = 0; k < HALVINGS; k++) {
			const middle = (low + high) / 2;
			if (over(at(middle)) < 0 === below) low = middle;
			else high = middle;
		}
		const found = at((low + high) / 2);
		crossings.set(key, found);
		return { key, at: found };
	};
	const pieces: [ReturnType<typeof crossing>, ReturnType<typeof crossing>][] = [];
	for (let j = 0; j + 1 < vs.length; j++)
		for (let i = 0; i + 1 < n; i++) {
			const k = j * n + i;
			const sides = [
				[k, k + 1],
				[k + 1, k + n + 1],
				[k + n, k + n + 1],
				[k, k + n]
			] as const;
			const found = sides.filter(([a, b]) => heights[a]! < 0 !== heights[b]! < 0).map(([a, b]) => crossing(a, b));
			if (found.length === 2) pieces.push([found[0]!, found[1]!]);
			// Of a field that is crossed twice, neighbours on the way around belong together.
			if (found.length === 4) pieces.push([found[0]!, found[1]!], [found[2]!, found[3]!]);
		}
	return chained(pieces).sort((a, b) => lengthOf(b.points) - lengthOf(a.points));
}

/** Pieces joined where they meet, by their keys and, over a seam, by their places. */
function chained(pieces: readonly (readonly { readonly key: number; readonly at: Point }[])[]): CutLine[] {
	const names = new Map<string, number>();
	const placed = new Map<number, number>();
	/** One number for points that are the same, as the two of a seam. */
	const nameOf = ({ key, at }: { readonly key: number; readonly at: Point }) => {
		const known = placed.get(key);
		if (known !== undefined) return known;
		const text = at.map((x) => Math.round(x / COINCIDENT_MM)).join();
		const name = names.get(text) ?? key;
		names.set(text, name);
		placed.set(key, name);
		return name;
	};
	const at = new Map<number, Point>();
	const beside = new Map<number, number[]>();
	for (const [a, b] of pieces) {
		const [p, q] = [nameOf(a!), nameOf(b!)];
		if (p === q) continue;
		at.set(p, a!.at).set(q, b!.at);
		for (const [from, to] of [
			[p, q],
			[q, p]
		] as const)
			beside.set(from, [...(beside.get(from) ?? []), to]);
	}
	const gone = new Set<number>();
	const follow = (start: number): number[] => {
		const chain = [start];
		gone.add(start);
		for (let next = beside.get(start)!.find((k) => !gone.has(k)); next !== undefined;) {
			chain.push(next);
			gone.add(next);
			next = beside.get(next)!.find((k) => !gone.has(k));
		}
		return chain;
	};
	const ends = [...beside.keys()].filter((k) => beside.get(k)!.length === 1);
	return [...ends, ...beside.keys()].flatMap((start) => {
		if (gone.has(start)) return [];
		const chain = follow(start);
		const closed = chain.length > 2 && beside.get(chain[0]!)!.includes(chain.at(-1)!) && beside.get(start)!.length > 1;
		return chain.length > 1 ? [{ points: chain.map((k) => at.get(k)!), closed }] : [];
	});
}

const lengthOf = (points: readonly Point[]) => points.slice(1).reduce((sum, p, k) => sum + distance(p, points[k]!), 0);

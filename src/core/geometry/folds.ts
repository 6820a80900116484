import { norm } from '../elementary/index.ts';
import { AT_DOMAIN_END, CANCELLED, COINCIDENT_MM, SAME_ANGLE } from '../tolerances.ts';
import type { Point } from './curve.ts';
import { pointOn } from './pointOn.ts';
import type { Surface } from './surface.ts';
import { surfacePatches } from './surfacePatches.ts';
import { cross, minus, scaled } from './vectors.ts';

/** A line of one parameter along which a surface is folded, and the parameters on its two sides. */
interface Fold {
	readonly at: number;
	readonly sides: readonly [number, number];
}

interface Folds {
	readonly us: readonly Fold[];
	readonly vs: readonly Fold[];
	/** Parameters this near to a fold are on it. */
	readonly near: readonly [number, number];
}

/** Panels along a line, and shares of each, where it is tried whether the surface is folded: not in their middles alone, where a fold may turn over. */
const PANELS = 6;
const SHARES = [0.15, 0.55, 0.85];

/** Surfaces never change, so that their folds are looked for once. */
const known = new WeakMap<Surface, Folds>();

function foldsOf(surface: Surface): Folds {
	const folds = known.get(surface) ?? findFolds(surface);
	known.set(surface, folds);
	return folds;
}

function findFolds(surface: Surface): Folds {
	const { us, vs } = surfacePatches(surface);
	const [nearU, nearV] = [nearnessOf(us), nearnessOf(vs)];
	return {
		us: foldable(us, surface.knotsU, surface.degreeU, nearU).filter(({ sides: [a, b] }) =>
			triesOf(vs).some((v) => turns(surface, [a, v], [b, v]))
		),
		vs: foldable(vs, surface.knotsV, surface.degreeV, nearV).filter(({ sides: [a, b] }) =>
			triesOf(us).some((u) => turns(surface, [u, a], [u, b]))
		),
		near: [nearU, nearV]
	};
}

const nearnessOf = (borders: Float64Array) => (borders.at(-1)! - borders[0]!) * AT_DOMAIN_END;

/** Where a surface may be folded: at knots that let it, and over its ends, where it may close. */
function foldable(borders: Float64Array, knots: Float64Array, degree: number, near: number): Fold[] {
	const inner = Array.from(borders.subarray(1, -1)).filter((at) => knots.filter((k) => k === at).length >= degree);
	const [start, end] = [borders[0]!, borders.at(-1)!];
	const over = [start, end].map((at): Fold => ({ at, sides: [end - near, start + near] }));
	return [...inner.map((at): Fold => ({ at, sides: [at - near, at + near] })), ...over];
}

/** Between the borders of panels, where nothing else is folded. */
function triesOf(borders: Float64Array): number[] {
	const panels = borders.length - 1;
	const tried = Math.min(PANELS, panels);
	return Array.from({ length: tried }, (_, k) => Math.floor((k * panels) / tried)).flatMap((panel) =>
		SHARES.map((share) => borders[panel]! + (borders[panel + 1]! - borders[panel]!) * share)
	);
}

/** Whether a surface goes on from one place to the next, but turns there. */
function turns(surface: Surface, a: readonly [number, number], b: readonly [number, number]): boolean {
	const [p, q] = [pointOn(surface, ...a), pointOn(surface, ...b)];
	return norm(minus(p.position, q.position)) < COINCIDENT_MM && norm(cross(p.normal, q.normal)) > SAME_ANGLE;
}

/**
 * The normal of a folded surface at places on its folds, which is in the middle of those beside them; otherwise rounding
 * would choose between them. Nothing for a surface without folds.
 */
export function normalOnFolds(surface: Surface): ((u: number, v: number) => Point | undefined) | undefined {
	const { us, vs, near } = foldsOf(surface);
	if (us.length + vs.length === 0) return undefined;
	const sides = (folds: readonly Fold[], x: number, by: number) =>
		folds.find(({ at }) => Math.abs(x - at) <= by)?.sides ?? [x];
	return (u, v) => {
		const [besideU, besideV] = [sides(us, u, near[0]), sides(vs, v, near[1])];
		if (besideU.length + besideV.length === 2) return undefined;
		const sum = [0, 0, 0] as [number, number, number];
		for (const a of besideU)
			for (const b of besideV) pointOn(surface, a, b).normal.forEach((part, c) => (sum[c]! += part));
		const size = norm(sum);
		return size > CANCELLED ? scaled(sum, 1 / size) : undefined;
	};
}

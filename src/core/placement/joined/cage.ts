import incrementalConvexHull from 'incremental-convex-hull';
import { orient3d } from 'robust-predicates';
import { cos, norm, sin } from '../../elementary/index.ts';
import type { Point } from '../../geometry/curve.ts';
import { dot, minus, scaled } from '../../geometry/vectors.ts';
import { axesSquareTo } from '../../kit/axes.ts';
import type { Joint } from './joints.ts';

type P = [number, number, number];

/** Points around a section to begin with. */
export const RING = 8;
/** Where they stand on a circle of 1. */
const AROUND = Array.from({ length: RING }, (_, k) => {
	const angle = (2 * Math.PI * k) / RING;
	return [cos(angle), sin(angle)] as const;
});

/** A coarse closed skin around a joint, open where its arms go on. */
export interface Cage {
	/** mm, stride 3: the ring of each arm, one after the other, then points of a ball about the node. */
	readonly points: number[];
	/** Anticlockwise seen from outside. */
	readonly triangles: number[];
}

/** Corners of the ball are neighbours when nearer than so many sides. */
const BESIDE = 1.2;
/** Corners of an icosahedron on the unit ball, and the middles of its sides. */
const BALL: readonly Point[] = (() => {
	const long = (1 + Math.sqrt(5)) / 2;
	const unit = (p: Point) => scaled(p, 1 / norm(p));
	const corners = [-1, 1].flatMap((a) =>
		[-long, long].flatMap((b): Point[] => [unit([0, a, b]), unit([a, b, 0]), unit([b, 0, a])])
	);
	const side = norm(minus(unit([0, 1, long]), unit([0, -1, long])));
	const middles = corners.flatMap((p, k) =>
		corners
			.slice(k + 1)
			.filter((q) => norm(minus(p, q)) < side * BESIDE)
			.map((q) => unit([p[0] + q[0], p[1] + q[1], p[2] + q[2]]))
	);
	return [...corners, ...middles];
})();

/** The ball within a joint is so much smaller than its thickest arm that it lies within that arm's eight sides. */
const BALL_SHARE = 0.9;
/** It keeps so much of that radius away from the sections. */
const BALL_CLEAR = 0.1;

/**
 * The hull of the sections of a joint's arms and of a ball about its node, without the sections. Nothing where the hull does not
 * have all sections as faces. O(arms log arms).
 */
export function cageOf(joint: Joint, axesOf: (bar: number) => readonly [Point, Point]): Cage | undefined {
	const { at, arms } = joint;
	const points: number[] = [];
	for (const { bar, way, radius, setBack } of arms) {
		const [u, v] = axesOf(bar);
		for (const [cosine, sine] of AROUND) {
			const [c, s] = [radius * cosine, radius * sine];
			for (let x = 0; x < 3; x++) points.push(at[x]! + setBack * way[x]! + c * u[x]! + s * v[x]!);
		}
	}
	if (arms.length === 1) return { points, triangles: lid(arms[0]!.end) };
	const most = arms.reduce((r, { radius }) => Math.max(r, radius), 0);
	const size = BALL_SHARE * most;
	for (const p of BALL)
		if (arms.every(({ way, setBack }) => size * dot(p, way) < setBack - BALL_CLEAR * most))
			points.push(...p.map((x, c) => at[c]! + size * x));
	// About the node, so that no digits are lost.
	const local = Array.from({ length: points.length / 3 }, (_, k): P => [
		points[k * 3]! - at[0],
		points[k * 3 + 1]! - at[1],
		points[k * 3 + 2]! - at[2]
	]);
	const triangles: number[] = [];
	for (const face of hullOf(local)) if (!sectionOf(face, arms.length)) triangles.push(...face);
	return opensAtSections(triangles, arms.length) ? compact(points, triangles, arms.length * RING) : undefined;
}

/** The hull of rings and further points, anticlockwise seen from outside. */
function hullOf(points: readonly P[]): P[] {
	// The first four must span a body: three of a ring, which lies in a plane, and one of the next, which does not.
	const order = [...FIRST];
	for (let p = 0; p < points.length; p++) if (!FIRST.includes(p)) order.push(p);
	const inside: P = [0, 0, 0];
	for (let c = 0; c < 3; c++) {
		for (const p of points) inside[c]! += p[c]!;
		inside[c]! /= points.length;
	}
	return incrementalConvexHull(order.map((p) => points[p]!)).map((face): P => {
		const [a, b, c] = [order[face[0]!]!, order[face[1]!]!, order[face[2]!]!];
		return isOutside(points[a]!, points[b]!, points[c]!, inside) ? [a, b, c] : [a, c, b];
	});
}

const FIRST: readonly number[] = [0, 3, 5, RING];

/** Whether a triangle is seen anticlockwise from the side that a point is not on. */
const isOutside = (a: P, b: P, c: P, p: P) =>
	orient3d(a[0], a[1], a[2], b[0], b[1], b[2], c[0], c[1], c[2], p[0], p[1], p[2]) > 0;

/** Without the points of the ball that lie within the hull. */
function compact(points: readonly number[], triangles: readonly number[], rings: number): Cage {
	const used = [...new Set(triangles)].filter((p) => p >= rings).sort((a, b) => a - b);
	const place = new Map(used.map((p, k) => [p, rings + k]));
	return {
		points: [...points.slice(0, rings * 3), ...used.flatMap((p) => points.slice(p * 3, p * 3 + 3))],
		triangles: triangles.map((p) => place.get(p) ?? p)
	};
}

/** Whether all corners of a face lie on one section. */
function sectionOf([a, b, c]: P, arms: number): boolean {
	const arm = Math.floor(a / RING);
	return arm < arms && Math.floor(b / RING) === arm && Math.floor(c / RING) === arm;
}

/** A free end is cut square: the ring's own triangles, seen from beyond the end. */
const lid = (end: 0 | 1): number[] =>
	Array.from({ length: RING - 2 }, (_, k) => (end === 0 ? [0, k + 2, k + 1] : [0, k + 1, k + 2])).flat();

/** Whether the borders of the triangles are the sections' rings, each side once, and every other edge has two sides. */
function opensAtSections(triangles: readonly number[], arms: number): boolean {
	const ways = new Set<number>();
	const key = (a: number, b: number) => a * 65_536 + b;
	for (let t = 0; t < triangles.length; t += 3)
		for (let k = 0; k < 3; k++) {
			const way = key(triangles[t + k]!, triangles[t + ((k + 1) % 3)]!);
			if (ways.has(way)) return false;
			ways.add(way);
		}
	let open = 0;
	for (const way of ways) {
		const [a, b] = [Math.floor(way / 65_536), way % 65_536];
		if (ways.has(key(b, a))) continue;
		if (Math.floor(a / RING) !== Math.floor(b / RING) || a >= arms * RING) return false;
		if ((b - a + RING) % RING !== 1 && (a - b + RING) % RING !== 1) return false;
		open++;
	}
	return open === arms * RING;
}

/** The two axes that a bar's sections are drawn with, anticlockwise about its way from start to end. */
export const sectionAxes = (way: Point): readonly [Point, Point] => axesSquareTo(way);

import { norm } from '../elementary/index.ts';
import type { Point } from '../geometry/curve.ts';
import { cross, dot, minus, pointAt, scaled } from '../geometry/vectors.ts';
import type { Mesh } from '../kit/mesh.ts';
import { CLEARLY_MORE, COINCIDENT_MM, CREASE_COSINE, SEEN_SINE } from '../tolerances.ts';

/** A piece drawn straight on to its broadest side, its longest line level and below. */
export interface PieceDrawing {
	/** Straight lines, mm: x1, y1, x2, y2 of each; from 0 to the right and up. */
	readonly lines: Float64Array;
	/** mm. */
	readonly width: number;
	readonly height: number;
	readonly depth: number;
}

/** Triangles whose sides are tried as the broadest one. */
const MOST_SIDES = 24;

interface Triangle {
	readonly corners: readonly [number, number, number];
	/** Outwards; as long as the triangle is large. */
	readonly normal: Point;
	readonly area: number;
}

/** Draws a piece: creases and outlines of what can be seen from its broadest side. Nothing of one without area. O(triangles). */
export function drawPiece(mesh: Mesh): PieceDrawing | undefined {
	const { positions } = mesh;
	const triangles = trianglesOf(mesh);
	const towards = broadestSide(triangles);
	if (!towards) return undefined;
	const seen = seenEdges(triangles, towards);
	const flat = (p: Point) => minus(p, scaled(towards, dot(p, towards)));
	let longest: { readonly way: Point; readonly from: number } | undefined;
	for (const [a, b] of seen) {
		const way = flat(minus(pointAt(positions, b * 3), pointAt(positions, a * 3)));
		if (norm(way) > (longest ? norm(longest.way) * CLEARLY_MORE : 0)) longest = { way, from: a };
	}
	if (!longest) return undefined;
	const level = scaled(longest.way, 1 / norm(longest.way));
	const up = cross(towards, level);
	const axes = [level, up, towards] as const;
	const drawn = seen.flatMap(([a, b]) =>
		[a, b].flatMap((p) => [dot(pointAt(positions, p * 3), level), dot(pointAt(positions, p * 3), up)])
	);
	const range = axes.map((axis) => {
		let [least, most] = [Infinity, -Infinity];
		for (const { corners } of triangles)
			for (const p of corners) {
				const at = dot(pointAt(positions, p * 3), axis);
				least = Math.min(least, at);
				most = Math.max(most, at);
			}
		return [least, most] as const;
	});
	const [[left, right], [low, high], [back, front]] = range as [
		(typeof range)[0],
		(typeof range)[0],
		(typeof range)[0]
	];
	// The longest line is to lie below: turned upside down where it does not.
	const over = dot(pointAt(positions, longest.from * 3), up) > (low + high) / 2;
	const lines = Float64Array.from(drawn, (v, k) =>
		k % 2 === 0 ? (over ? right - v : v - left) : over ? high - v : v - low
	);
	return { lines, width: right - left, height: high - low, depth: front - back };
}

/** The triangles of a mesh whose equal points are one. */
function trianglesOf({ positions, triangles }: Mesh): Triangle[] {
	const known = new Map<string, number>();
	const place = Uint32Array.from({ length: positions.length / 3 }, (_, p) => {
		const key = pointAt(positions, p * 3)
			.map((x) => Math.round(x / COINCIDENT_MM))
			.join();
		const there = known.get(key) ?? p;
		known.set(key, there);
		return there;
	});
	const out: Triangle[] = [];
	for (let t = 0; t < triangles.length; t += 3) {
		const corners = [0, 1, 2].map((k) => place[triangles[t + k]!]!) as [number, number, number];
		const [a, b, c] = corners.map((p) => pointAt(positions, p * 3)) as [Point, Point, Point];
		const normal = cross(minus(b, a), minus(c, a));
		const area = norm(normal);
		if (area > 0) out.push({ corners, normal, area });
	}
	return out;
}

/** The way, 1 long, that most of a body's surface looks; nothing of one without any. */
function broadestSide(triangles: readonly Triangle[]): Point | undefined {
	const largest = [...triangles.keys()]
		.sort((a, b) => triangles[b]!.area - triangles[a]!.area || a - b)
		.slice(0, MOST_SIDES);
	let best: Point | undefined;
	let most = 0;
	for (const k of largest) {
		const way = scaled(triangles[k]!.normal, 1 / triangles[k]!.area);
		let area = 0;
		for (const t of triangles) {
			const share = dot(t.normal, way);
			if (share > CREASE_COSINE * t.area) area += share;
		}
		// Of sides as good as alike the first stays.
		if (area > most * CLEARLY_MORE) [best, most] = [way, area];
	}
	return best;
}

type Edge = readonly [number, number];

/** Edges between two triangles of which one is seen, where they meet at an angle or the other is not seen; and loose ones. */
function seenEdges(triangles: readonly Triangle[], towards: Point): Edge[] {
	const sides = new Map<string, { readonly edge: Edge; readonly of: Triangle[] }>();
	for (const triangle of triangles)
		for (let k = 0; k < 3; k++) {
			const [a, b] = [triangle.corners[k]!, triangle.corners[(k + 1) % 3]!];
			const key = `${Math.min(a, b)} ${Math.max(a, b)}`;
			const there = sides.get(key);
			if (there) there.of.push(triangle);
			else sides.set(key, { edge: [a, b], of: [triangle] });
		}
	const faces = ({ normal, area }: Triangle) => dot(normal, towards) > SEEN_SINE * area;
	return [...sides.values()]
		.filter(({ of }) => {
			const seen = of.filter(faces).length;
			if (seen === 0) return of.length === 1;
			const [first, second] = of;
			return (
				of.length !== 2 || seen < 2 || dot(first!.normal, second!.normal) < CREASE_COSINE * first!.area * second!.area
			);
		})
		.map(({ edge }) => edge);
}

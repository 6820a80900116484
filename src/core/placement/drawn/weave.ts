import Flatbush from 'flatbush';
import { cos, hypot } from '../../elementary/index.ts';
import { distance, type Point } from '../../geometry/curve.ts';
import { dot, minus } from '../../geometry/vectors.ts';
import { COINCIDENT_MM, CROSSING_SHARE } from '../../tolerances.ts';

/** A chain of points with unit normals. */
export interface Chain {
	readonly points: readonly Point[];
	readonly normals: readonly Point[];
	readonly closed: boolean;
}

/** Chains that were woven, and at how many crossings they could not go over and under in turn. */
export interface Woven {
	readonly chains: readonly Chain[];
	readonly crossings: number;
	readonly failed: number;
}

/** Two chains meet: how far along each of them, mm. */
interface Crossing {
	readonly chains: readonly [number, number];
	readonly along: readonly [number, number];
}

/** Points between two stations of a woven chain. */
const BETWEEN = 1;

/**
 * Lets chains go over and under each other in turn where they cross: by `offset` outwards or inwards, smoothly (half a
 * wave of a cosine) from crossing to crossing. Which goes over is settled by colouring the crossings in two so that
 * neighbours along every chain differ; where that cannot be, it is counted. O(sides log sides + crossings).
 */
export function weave(chains: readonly Chain[], offset: number): Woven {
	const crossings = crossingsOf(chains);
	const met = metBy(chains.length, crossings);
	const { over, failed } = colour(chains, met, crossings.length);
	const woven = chains.map((chain, c) => {
		const heights = met[c]!.map(({ crossing, at, side }) => ({ at, height: over[crossing]! * side * offset }));
		return heights.length ? raised(chain, heights) : chain;
	});
	return { chains: woven, crossings: crossings.length, failed };
}

/** A crossing as one of its chains meets it: how far along, mm, and 1 for the first of the two chains, else -1. */
interface Met {
	readonly crossing: number;
	readonly at: number;
	readonly side: 1 | -1;
}

/** By chain: the crossings along it, in order. */
function metBy(count: number, crossings: readonly Crossing[]): Met[][] {
	const met: Met[][] = Array.from({ length: count }, () => []);
	crossings.forEach(({ chains: [a, b], along }, crossing) => {
		met[a]!.push({ crossing, at: along[0], side: 1 });
		met[b]!.push({ crossing, at: along[1], side: -1 });
	});
	for (const own of met) own.sort((a, b) => a.at - b.at);
	return met;
}

function crossingsOf(chains: readonly Chain[]): Crossing[] {
	const sides = chains.map(sidesOf);
	const all = sides.flatMap((own, chain) => own.map((side) => ({ ...side, chain })));
	if (!all.length) return [];
	// Seen from above; heights are compared where boxes meet.
	const index = new Flatbush(all.length);
	for (const { box } of all) index.add(box[0][0], box[0][1], box[1][0], box[1][1]);
	index.finish();
	const found = new Map<string, Crossing[]>();
	for (const p of all)
		for (const k of index
			.search(
				p.box[0][0] - COINCIDENT_MM,
				p.box[0][1] - COINCIDENT_MM,
				p.box[1][0] + COINCIDENT_MM,
				p.box[1][1] + COINCIDENT_MM
			)
			.sort((a, b) => a - b)) {
			const q = all[k]!;
			if (q.chain <= p.chain || p.box[0][2] > q.box[1][2] + COINCIDENT_MM || q.box[0][2] > p.box[1][2] + COINCIDENT_MM)
				continue;
			const near = nearest(p.from, p.to, q.from, q.to);
			if (near.far > Math.min(p.length, q.length) * CROSSING_SHARE) continue;
			const along = [p.start + near.s * p.length, q.start + near.t * q.length] as const;
			const pair = `${p.chain} ${q.chain}`;
			const own = found.get(pair) ?? [];
			found.set(pair, own);
			const again = own.some(
				(o) =>
					around(o.along[0], along[0], chains[p.chain]!, p.total) < p.length / 4 &&
					around(o.along[1], along[1], chains[q.chain]!, q.total) < q.length / 4
			);
			if (!again) own.push({ chains: [p.chain, q.chain], along });
		}
	return [...found.values()].flat();
}

/** How far apart two places of a chain are along it; of a closed one the shorter way. */
const around = (a: number, b: number, { closed }: Chain, total: number) =>
	closed ? Math.min(Math.abs(a - b), total - Math.abs(a - b)) : Math.abs(a - b);

type Box = readonly [Point, Point];
interface Side {
	readonly from: Point;
	readonly to: Point;
	readonly start: number;
	readonly length: number;
	readonly total: number;
	readonly box: Box;
}

function sidesOf({ points, closed }: Chain): Side[] {
	const ends = closed ? [...points.slice(1), points[0]!] : points.slice(1);
	const lengths = ends.map((to, k) => distance(points[k]!, to));
	const total = lengths.reduce((a, b) => a + b, 0);
	let start = 0;
	return ends.map((to, k) => {
		const side = { from: points[k]!, to, start, length: lengths[k]!, total, box: boxOf([points[k]!, to]) };
		start += lengths[k]!;
		return side;
	});
}

function boxOf(points: readonly Point[]): Box {
	const of = (pick: (...n: number[]) => number) =>
		[0, 1, 2].map((c) => pick(...points.map((p) => p[c]!))) as unknown as Point;
	return [of(Math.min), of(Math.max)];
}

/** Where two lines from point to point are nearest to each other (Ericson, Real-Time Collision Detection, 5.1.9; from memory). */
function nearest(a: Point, b: Point, c: Point, d: Point): { s: number; t: number; far: number } {
	const [u, v, w] = [minus(b, a), minus(d, c), minus(a, c)];
	const [uu, uv, vv, uw, vw] = [dot(u, u), dot(u, v), dot(v, v), dot(u, w), dot(v, w)];
	const clamp = (x: number) => Math.max(0, Math.min(1, x));
	const scale = uu * vv - uv * uv;
	let s = scale > 0 ? clamp((uv * vw - vv * uw) / scale) : 0;
	const t = clamp((uv * s + vw) / vv);
	s = clamp((uv * t - uw) / uu);
	const at = (p: Point, way: Point, k: number): Point => [p[0] + way[0] * k, p[1] + way[1] * k, p[2] + way[2] * k];
	return { s, t, far: distance(at(a, u, s), at(c, v, t)) };
}

/** By crossing: 1 where the first of its chains goes over, else -1. */
function colour(
	chains: readonly Chain[],
	met: readonly (readonly Met[])[],
	crossings: number
): { over: Int8Array; failed: number } {
	const over = new Int8Array(crossings);
	/** Neighbours along a chain, and whether the first chains of both go the same way over. */
	const links: { readonly to: number; readonly sign: number }[][] = Array.from({ length: crossings }, () => []);
	met.forEach((own, c) =>
		own.forEach((one, k) => {
			const next = own[k + 1] ?? (chains[c]!.closed && own.length > 1 ? own[0] : undefined);
			if (!next || next.crossing === one.crossing) return;
			// The chain changes its side: seen from the first chains of both that is one sign.
			const sign = -one.side * next.side;
			links[one.crossing]!.push({ to: next.crossing, sign });
			links[next.crossing]!.push({ to: one.crossing, sign });
		})
	);
	let failed = 0;
	for (let first = 0; first < crossings; first++) {
		if (over[first] !== 0) continue;
		over[first] = 1;
		const queue = [first];
		for (const k of queue)
			for (const { to, sign } of links[k]!)
				if (over[to] === 0) {
					over[to] = over[k]! * sign;
					queue.push(to);
				}
	}
	links.forEach((list, k) =>
		list.forEach(({ to, sign }) => (failed += k < to && over[to] !== over[k]! * sign ? 1 : 0))
	);
	return { over, failed };
}

/** A chain lifted to heights at places along it, with points between them. */
function raised(chain: Chain, heights: readonly { readonly at: number; readonly height: number }[]): Chain {
	const { points, normals, closed } = chain;
	const sides = sidesOf(chain);
	const total = sides[0]!.total;
	const stations = [
		...new Set([...sides.map((s) => s.start), ...(closed ? [] : [total]), ...heights.map((h) => h.at)])
	].sort((a, b) => a - b);
	const apart = stations.filter((s, k) => k === 0 || s - stations[k - 1]! > COINCIDENT_MM);
	const places = apart.flatMap((s, k) => {
		const next = apart[k + 1] ?? (closed ? total : undefined);
		return next === undefined
			? [s]
			: Array.from({ length: BETWEEN + 1 }, (_, b) => s + ((next - s) * b) / (BETWEEN + 1));
	});
	const heightAt = (at: number) => {
		const after = heights.findIndex((h) => h.at >= at);
		const wraps = closed && heights.length > 1;
		if (!wraps && (after <= 0 || heights.length === 1))
			return heights[Math.max(0, after < 0 ? heights.length - 1 : after)]!.height;
		const next = after < 0 ? { at: heights[0]!.at + total, height: heights[0]!.height } : heights[after]!;
		const last = heights.at(-1)!;
		const before = after < 0 ? last : after === 0 ? { at: last.at - total, height: last.height } : heights[after - 1]!;
		const share = next.at > before.at ? (at - before.at) / (next.at - before.at) : 0;
		return before.height + ((next.height - before.height) * (1 - cos(Math.PI * share))) / 2;
	};
	const made: { at: Point; normal: Point }[] = places.map((at) => {
		const k = Math.max(
			0,
			sides.findLastIndex((s) => s.start <= at)
		);
		const side = sides[k]!;
		const share = side.length > 0 ? (at - side.start) / side.length : 0;
		const mixed = (a: Point, b: Point) => [0, 1, 2].map((c) => a[c]! + (b[c]! - a[c]!) * share);
		const normal = mixed(normals[k]!, normals[(k + 1) % normals.length]!);
		const size = hypot(normal[0]!, normal[1]!, normal[2]!) || 1;
		const unit = normal.map((x) => x / size) as unknown as Point;
		const place = mixed(points[k]!, points[(k + 1) % points.length]!);
		return { at: place.map((x, c) => x + unit[c]! * heightAt(at)) as unknown as Point, normal: unit };
	});
	return { points: made.map((m) => m.at), normals: made.map((m) => m.normal), closed };
}

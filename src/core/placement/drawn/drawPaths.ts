import { cos, sin } from '../../elementary/index.ts';
import { closestPointFinder } from '../../geometry/closestPoint.ts';
import { distance, type Point } from '../../geometry/curve.ts';
import { pointOn } from '../../geometry/pointOn.ts';
import { developmentOf, FlatFinder } from '../../settingout/development.ts';
import { group } from '../../units/print.ts';
import type { RuledFace } from '../rules/ruleHosts.ts';
import { COINCIDENT_MM } from '../../tolerances.ts';
import { tracePoints } from '../fields/distance.ts';
import { geodesic } from './geodesic.ts';
import { NodeKeys } from './nodeKeys.ts';
import { planeCut } from './planeCut.ts';
import type { DrawnPath } from './schema.ts';
import { Grid } from './trace.ts';
import { weave, type Chain } from './weave.ts';

/** The drawn paths of a face, copies each by itself. */
export interface DrawnPaths {
	readonly count: number;
	/** By path: id of what it is drawn by, and its mark. */
	readonly ids: readonly string[];
	readonly marks: readonly string[];
	/** First point of each path; one more entry than paths. */
	readonly start: Uint32Array;
	/** By point, mm, and unit normals, stride 3. */
	readonly position: Float64Array;
	readonly normal: Float64Array;
	readonly closed: Uint8Array;
	/** By path: the nodes that it runs through; none of those that run beside them. */
	readonly nodes: readonly (readonly number[])[];
	/** What of them is not as it was meant. */
	readonly notes: readonly string[];
}

/** One path or copy, on nodes or free. */
interface Line {
	readonly points: readonly Point[];
	readonly closed: boolean;
	/** Outward normals where they are known already. */
	readonly normals?: readonly Point[];
	readonly nodes?: readonly number[];
}

export const NO_PATHS: DrawnPaths = {
	count: 0,
	ids: [],
	marks: [],
	start: new Uint32Array(1),
	position: new Float64Array(),
	normal: new Float64Array(),
	closed: new Uint8Array(),
	nodes: [],
	notes: []
};

/** Draws the paths of a face. What cannot be drawn is left out and told; the rest stands. */
export function drawPaths(paths: readonly DrawnPath[], face: RuledFace): DrawnPaths {
	if (!paths.length) return NO_PATHS;
	const drawer = new PathDrawer(face);
	const notes: string[] = [];
	const all = paths.flatMap((path) => {
		const tell = (message: string) => void notes.push(`Path “${path.name}”: ${message}`);
		const lines = drawer.lines(path, tell).filter((line) => line.points.length > 1);
		const chains = lines.map((line) => drawer.chain(line));
		const lifted = chains.map((chain) => liftChain(chain, path.lift));
		const woven = path.weave > 0 ? weave(lifted, path.weave) : undefined;
		if (woven && woven.crossings === 0)
			tell('it is to be woven, but crosses none of its copies; right would be copies that cross, as mirrored ones do.');
		if (woven && woven.failed > 0)
			tell(
				`over and under do not alternate at ${group(woven.failed, 0)} of ${group(woven.crossings, 0)} crossings; around a closed face right would be an even number of copies.`
			);
		return (woven?.chains ?? lifted).map((chain, k) => ({
			id: path.id,
			nodes: lines[k]!.nodes ?? [],
			mark: lines.length > 1 ? `${path.mark}-${String(k + 1).padStart(2, '0')}` : path.mark,
			chain
		}));
	});
	const start = new Uint32Array(all.length + 1);
	all.forEach(({ chain }, k) => (start[k + 1] = start[k]! + chain.points.length));
	return {
		count: all.length,
		ids: all.map((p) => p.id),
		marks: all.map((p) => p.mark),
		start,
		position: laid(
			all.map(({ chain }) => chain.points),
			start
		),
		normal: laid(
			all.map(({ chain }) => chain.normals),
			start
		),
		closed: Uint8Array.from(all, ({ chain }) => (chain.closed ? 1 : 0)),
		nodes: all.map((p) => p.nodes),
		notes
	};
}

/** Lists of points one after the other, stride 3. */
function laid(lists: readonly (readonly Point[])[], start: Uint32Array): Float64Array {
	const out = new Float64Array(start[lists.length]! * 3);
	let o = 0;
	for (const list of lists)
		for (const p of list) {
			out[o++] = p[0];
			out[o++] = p[1];
			out[o++] = p[2];
		}
	return out;
}

type Tell = (message: string) => void;
const silent: Tell = () => undefined;

type Traced = Extract<DrawnPath['source'], { kind: 'traced' }>;

/** A traced path and its twin, whose steps across go the other way. */
function twinsOf(source: Traced, tell: Tell): Traced[] {
	if (source.across !== 0) return [source, { ...source, across: -source.across }];
	tell('its mirrored twin is itself, since it takes no steps across; right would be some, or no twin.');
	return [source];
}

/** Everything that drawing on one face needs, worked out when it is first asked for. */
class PathDrawer {
	private readonly face: RuledFace;
	private readonly keys: NodeKeys;
	private readonly grid: Grid;
	private near: ReturnType<typeof closestPointFinder> | undefined;

	constructor(face: RuledFace) {
		this.face = face;
		this.keys = new NodeKeys(face);
		this.grid = new Grid(face.nodes, this.keys);
	}

	private get nearest() {
		return (this.near ??= closestPointFinder(this.face.surface));
	}

	/** A path with its twin and its copies. */
	lines(path: DrawnPath, tell: Tell): Line[] {
		const { array, mirrored, source } = path;
		if (array?.kind === 'along') return this.alongGrid(path, array, tell);
		if (mirrored && source.kind === 'traced' && !array)
			return twinsOf(source, tell).flatMap((twin, k) => this.own({ ...path, source: twin }, k ? silent : tell));
		const own = this.own(path, tell);
		if (!array) {
			if (mirrored)
				tell('it is mirrored about the axis of its array, and has none; right would be an array around an axis.');
			return own;
		}
		const angle = array.angle ?? (2 * Math.PI) / array.count;
		const [first] = own[0]?.points ?? [];
		const both = mirrored && first ? own.flatMap((line) => [line, mirrorLine(line, array, first)]) : own;
		return both.flatMap((line) =>
			Array.from({ length: array.count }, (_, k) => (k === 0 ? line : turnLine(line, array, angle * k)))
		);
	}

	/** Copies so many places of the grid further on. */
	private alongGrid(
		path: DrawnPath,
		{ way, every, count }: { way: 'across' | 'up'; every: number; count?: number | undefined },
		tell: Tell
	): Line[] {
		const { source, mirrored } = path;
		if (source.kind !== 'traced' && source.kind !== 'picked') {
			tell('copies along the grid are made of paths through nodes; right would be an array around an axis.');
			return this.own(path, tell);
		}
		const { ends } = this.face.nodes;
		const [size, closes] = way === 'across' ? [this.grid.across, ends.closedAcross] : [this.grid.up, ends.closedUp];
		const most = closes ? Math.ceil(size / every) : Infinity;
		if (closes && size % every !== 0)
			tell(
				`${group(size, 0)} places around are no multiple of ${group(every, 0)}, so that the last copy is nearer to the first.`
			);
		if (mirrored && source.kind === 'picked')
			tell('picked nodes have no mirrored twin along the grid; right would be an array around an axis.');
		const twins = mirrored && source.kind === 'traced' ? twinsOf(source, tell) : [source];
		return twins.flatMap((one, twin) => {
			const made: Line[] = [];
			for (let k = 0; k < Math.min(count ?? most, most); k++) {
				const by: [number, number] = way === 'across' ? [k * every, 0] : [0, k * every];
				const lines = this.onNodes({ ...path, source: one }, by, k + twin === 0 ? tell : silent);
				if (!lines.length) break;
				made.push(...lines);
			}
			if (count !== undefined && made.length < count && twin === 0)
				tell(`${group(made.length, 0)} of ${group(count, 0)} copies have room on the grid.`);
			return made;
		});
	}

	private own(path: DrawnPath, tell: Tell): Line[] {
		const { source, closed, spacing } = path;
		switch (source.kind) {
			case 'picked':
			case 'traced':
				return this.onNodes(path, [0, 0], tell);
			case 'geodesic': {
				const way = geodesic(this.face.charted, source.from, source.to);
				if (!way) tell('one of its ends is not on the face; right would be places within its border.');
				return way ? [this.onFace(way, false, spacing)] : [];
			}
			case 'cut': {
				const cuts = planeCut(this.face.surface, source.point, source.normal);
				if (!cuts.length)
					tell('its plane does not cut the face; right would be a point nearer to it, or another direction.');
				return cuts.map((cut) => this.onFace(cut.points, cut.closed, spacing));
			}
			case 'curve':
				return [this.curve(path, source, tell)];
			case 'free':
				return [{ points: source.points, closed }];
		}
	}

	/** A line drawn on the flat face; each straight piece is parted by itself, so that corners stay. */
	private curve(
		{ closed, spacing }: DrawnPath,
		{ points, smooth }: Extract<DrawnPath['source'], { kind: 'curve' }>,
		tell: Tell
	): Line {
		const finder = new FlatFinder(developmentOf(this.face.charted));
		const flat = points.map(([x, y]): Point => [x, y, 0]);
		const corners = tracePoints('line', flat, closed);
		const spans = smooth
			? [tracePoints('curve', flat, closed)]
			: corners.slice(1).map((p, k) => evenly([corners[k]!, p], spacing));
		let leaves = false;
		const made = spans.flatMap((span) => {
			const found = span.map(([x, y]) => finder.find(x, y));
			leaves ||= found.includes(undefined);
			const on = found.flatMap((p) => (p ? [pointOn(this.face.surface, p.u, p.v).position] : []));
			return smooth && on.length > 1 ? this.onFace(on, false, spacing).points : on;
		});
		if (leaves) tell('it leaves the face, and is drawn where it is on it.');
		// Where two pieces meet, and where the line comes back to its first point, that stands once.
		const apart = made.filter((p, k) => k === 0 || distance(p, made[k - 1]!) > COINCIDENT_MM);
		const closes = closed && !leaves;
		return { points: closes ? apart.slice(0, -1) : apart, closed: closes };
	}

	/** Points as many as the spacing asks for, evenly along a way on the face, each on it. */
	private onFace(way: readonly Point[], closed: boolean, spacing: number): Line {
		const ring = closed ? [...way, way[0]!] : way;
		const even = evenly(ring, spacing).slice(0, closed ? -1 : undefined);
		const found = even.map((p) => this.nearest(p));
		return { points: found.map((f) => f.position), closed };
	}

	/** A chain of nodes, each so many places of the grid further on. */
	private onNodes({ source, closed }: DrawnPath, by: readonly [number, number], tell: Tell): Line[] {
		const moved = (node: number) => {
			if (by[0] === 0 && by[1] === 0) return node;
			const place = this.grid.placeOf(node);
			return place && this.grid.at(place[0] + by[0], place[1] + by[1]);
		};
		if (source.kind === 'picked') {
			const known = source.nodes.map((key) => this.keys.nodeOf(key));
			const lost = known.flatMap((n, k) => (n === undefined ? [k + 1] : []));
			if (lost.length)
				tell(
					`${lost.length === 1 ? 'point' : 'points'} ${lost.slice(0, 5).join(', ')}${lost.length > 5 ? ' and more' : ''} of ${source.nodes.length} ${lost.length === 1 ? 'is' : 'are'} on nodes that are gone; the rest is joined.`
				);
			const nodes = known.flatMap((n) => (n === undefined ? [] : (moved(n) ?? [])));
			if (source.nodes.length < 2) tell('it has fewer than two points; right would be to pick more nodes.');
			return by.some((b) => b !== 0) && nodes.length < known.length - lost.length ? [] : [this.through(nodes, closed)];
		}
		if (source.kind !== 'traced') return [];
		const from = this.keys.nodeOf(source.from);
		if (from === undefined) {
			tell('the node that it begins at is gone; right would be another one.');
			return [];
		}
		const place = this.grid.placeOf(from);
		if (!place) {
			tell('it begins between the places of the grid; right would be a node where two lines of the setting-out cross.');
			return [];
		}
		const { across, up, most, both } = source;
		if (across === 0 && up === 0) {
			tell('its steps are 0 up and 0 across, so that it goes nowhere; right would be one of them.');
			return [];
		}
		const begin = [place[0] + by[0], place[1] + by[1]] as const;
		const ahead = this.grid.trace(begin, across, up, most);
		if (!ahead.nodes.length) return [];
		const back = both && !ahead.closes ? this.grid.trace(begin, -across, -up, most).nodes.slice(1).reverse() : [];
		const nodes = [...back, ...ahead.nodes];
		const asked = most === undefined ? undefined : (both ? 2 : 1) * most + 1;
		if (nodes.length < 2) tell('it ends where it begins, since there is no node a step further on.');
		else if (asked !== undefined && nodes.length < asked && !ahead.closes)
			tell(
				`it ends after ${group(nodes.length - 1, 0)} steps, where no node is further on; ${group(asked - 1, 0)} are asked. Right would be at most ${group(nodes.length - 1, 0)}.`
			);
		return [this.through(nodes, ahead.closes || closed)];
	}

	private through(nodes: readonly number[], closed: boolean): Line {
		const { position, normal } = this.face.nodes;
		const at = (from: Float64Array, n: number): Point => [from[n * 3]!, from[n * 3 + 1]!, from[n * 3 + 2]!];
		return {
			nodes,
			points: nodes.map((n) => at(position, n)),
			normals: nodes.map((n) => at(normal, n)),
			closed: closed && nodes.length > 2
		};
	}

	/** With normals: of points off the nodes those of the nearest point of the face. */
	chain({ points, closed, normals }: Line): Chain {
		return { points, closed, normals: normals ?? points.map((p) => this.nearest(p).normal) };
	}
}

function liftChain(chain: Chain, by: number): Chain {
	if (by === 0) return chain;
	const points = chain.points.map((p, k) => p.map((x, c) => x + chain.normals[k]![c]! * by) as unknown as Point);
	return { ...chain, points };
}

/** Mapped in plan about an axis; normals with it. */
function mapLine(
	{ points, closed, normals }: Line,
	x: number,
	y: number,
	map: (dx: number, dy: number) => readonly [number, number]
): Line {
	const moved = (p: Point, ox: number, oy: number): Point => {
		const [a, b] = map(p[0] - ox, p[1] - oy);
		return [a + ox, b + oy, p[2]];
	};
	return {
		points: points.map((p) => moved(p, x, y)),
		closed,
		...(normals ? { normals: normals.map((n) => moved(n, 0, 0)) } : {})
	};
}

interface Axis {
	readonly x: number;
	readonly y: number;
}

function turnLine(line: Line, { x, y }: Axis, angle: number): Line {
	const [c, s] = [cos(angle), sin(angle)];
	return mapLine(line, x, y, (dx, dy) => [dx * c - dy * s, dx * s + dy * c]);
}

/** In the upright plane through the axis and a point. */
function mirrorLine(line: Line, { x, y }: Axis, through: Point): Line {
	const [a, b] = [through[0] - x, through[1] - y];
	const size = a * a + b * b || 1;
	return mapLine(line, x, y, (dx, dy) => {
		const along = (2 * (dx * a + dy * b)) / size;
		return [along * a - dx, along * b - dy];
	});
}

/** Points evenly along a chain, at most so far apart; its ends are among them. */
function evenly(points: readonly Point[], spacing: number): Point[] {
	const lengths = points.slice(1).map((p, k) => distance(p, points[k]!));
	const total = lengths.reduce((a, b) => a + b, 0);
	const count = Math.max(1, Math.ceil(total / spacing));
	const out: Point[] = [];
	let [k, start] = [0, 0];
	for (let s = 0; s <= count; s++) {
		const at = (total * s) / count;
		while (k < lengths.length - 1 && at > start + lengths[k]!) start += lengths[k++]!;
		const share = lengths[k]! > 0 ? Math.min(1, (at - start) / lengths[k]!) : 0;
		const [a, b] = [points[k]!, points[k + 1] ?? points[k]!];
		out.push([a[0] + (b[0] - a[0]) * share, a[1] + (b[1] - a[1]) * share, a[2] + (b[2] - a[2]) * share]);
	}
	return out;
}

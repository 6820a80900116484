import { hypot, norm } from '../../elementary/index.ts';
import { pointOn } from '../../geometry/pointOn.ts';
import { developmentOf, FlatFinder, type ChartedFace } from '../../settingout/development.ts';
import type { NodeTable } from '../../settingout/nodes.ts';
import { nodeOnGrid, placeParameters } from '../../settingout/places.ts';
import { OVER_SEAM_MM, SAME_FLAT_MM } from '../../tolerances.ts';
import { sideOf } from '../cells.ts';
import { meanValueShares } from './meanValue.ts';
import type { Ring } from './rings.ts';

/** A corner of a cut cell: its node in space, and its place on the flat face. */
export interface TrimVertex {
	readonly node: number;
	readonly place: number;
}

interface OnSide extends TrimVertex {
	/** Share of the way from the side's lower-numbered node. */
	readonly share: number;
}

/**
 * The nodes of a face and those that trimming adds. A node on a side between two cells is made once, for
 * whichever cell comes first, and found again for the other.
 */
export class TrimNodes {
	private readonly position: number[] = [];
	private readonly normal: number[] = [];
	private readonly flat: number[] = [];
	/** By added place: its parameters; by added node: where it is on the grid. */
	private readonly parameters: number[] = [];
	private readonly xy: number[] = [];
	private readonly onSides = new Map<number, OnSide[]>();
	/** Sides that run along openings. */
	readonly alongOpenings = new Set<number>();
	private readonly placeOf = new Map<number, number>();
	/** By node: 1 where a side that ends there has nodes on it. */
	private readonly parted: Uint8Array;
	private readonly nodeCount: number;
	private readonly placeCount: number;
	private readonly finder: FlatFinder;
	private corners: readonly number[] = [];
	private places: readonly number[] = [];
	private ring: Ring = [];
	private own: Ring = [];

	private readonly face: ChartedFace;
	private readonly nodes: NodeTable;
	private readonly known: Float64Array;

	constructor(face: ChartedFace, nodes: NodeTable, known: Float64Array) {
		this.face = face;
		this.nodes = nodes;
		this.known = known;
		this.nodeCount = nodes.position.length / 3;
		this.parted = new Uint8Array(this.nodeCount);
		this.placeCount = known.length / 2;
		this.finder = new FlatFinder(developmentOf(face));
	}

	flatAt(place: number): readonly [number, number] {
		if (place < this.placeCount) return [this.known[place * 2]!, this.known[place * 2 + 1]!];
		const o = (place - this.placeCount) * 2;
		return [this.flat[o]!, this.flat[o + 1]!];
	}

	ringOf = (places: readonly number[]): Ring => places.map((p) => this.flatAt(p));

	/** Least x and y, greatest x and y of places `from` to `to` of a list. */
	boxOf(places: Uint32Array, from: number, to: number): [number, number, number, number] {
		let x0 = Infinity;
		let y0 = Infinity;
		let x1 = -Infinity;
		let y1 = -Infinity;
		for (let k = from; k < to; k++) {
			const p = places[k]!;
			const x = this.known[p * 2]!;
			const y = this.known[p * 2 + 1]!;
			if (x < x0) x0 = x;
			if (x > x1) x1 = x;
			if (y < y0) y0 = y;
			if (y > y1) y1 = y;
		}
		return [x0, y0, x1, y1];
	}

	/** Sets the cell that `vertexAt` works within; `ring` is where it is cut, `own` where it lies. */
	enter(corners: readonly number[], places: readonly number[], ring: Ring, own: Ring): void {
		this.corners = corners;
		this.places = places;
		this.ring = ring;
		this.own = own;
	}

	/** The corner at a flat place of the cell: one of its own, one on a side, or one within. */
	vertexAt(x: number, y: number): TrimVertex {
		const { ring, corners, places } = this;
		const n = ring.length;
		for (let k = 0; k < n; k++)
			if (this.stands(corners[k]!) && hypot(ring[k]![0] - x, ring[k]![1] - y) < SAME_FLAT_MM)
				return { node: corners[k]!, place: places[k]! };
		for (let k = 0; k < n; k++) {
			const next = (k + 1) % n;
			const [a, b] = [ring[k]!, ring[next]!];
			const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
			const length = hypot(dx, dy);
			const along = ((x - a[0]) * dx + (y - a[1]) * dy) / length;
			const off = Math.abs((x - a[0]) * dy - (y - a[1]) * dx) / length;
			if (off < SAME_FLAT_MM && along > 0 && along < length)
				return this.onSide(corners[k]!, corners[next]!, along / length, length, ...this.lying(x, y));
		}
		return { node: this.addNode(this.within(x, y), [NaN, NaN]), place: this.addPlace(...this.lying(x, y)) };
	}

	/** Where a place of the cell lies that is cut elsewhere. */
	private lying(x: number, y: number): readonly [number, number] {
		if (this.own === this.ring) return [x, y];
		const shares = meanValueShares(this.ring, x, y);
		const sum = (c: 0 | 1) => this.own.reduce((total, p, k) => total + p[c] * shares[k]!, 0);
		return [sum(0), sum(1)];
	}

	private onSide(a: number, b: number, share: number, length: number, x: number, y: number): TrimVertex {
		const from = Math.min(a, b);
		const way = a === from ? share : 1 - share;
		const key = sideOf(a, b);
		const list = this.onSides.get(key) ?? [];
		this.onSides.set(key, list);
		const apart = (v: OnSide) => Math.abs(v.share - way) * length;
		// Over a seam the same node lies flat in two places, and lines are laid over it less exactly.
		const isOver = ({ place }: OnSide) => {
			const [px, py] = this.flatAt(place);
			return hypot(px - x, py - y) > OVER_SEAM_MM * 2;
		};
		const there =
			list.find((v) => apart(v) < SAME_FLAT_MM * 2) ?? list.find((v) => isOver(v) && apart(v) < OVER_SEAM_MM);
		if (there) return isOver(there) ? { node: there.node, place: this.addPlace(x, y) } : there;
		const ends = [from, Math.max(a, b)] as const;
		const node = this.addNode(
			ends.every((e) => this.stands(e)) ? this.between(...ends, way) : this.onFace(x, y),
			this.betweenOnGrid(...ends, way)
		);
		const made = { node, place: this.addPlace(x, y), share: way };
		list.push(made);
		this.placeOf.set(node, made.place);
		this.parted[a] = this.parted[b] = 1;
		return made;
	}

	/** Whether a side that ends at a node of the face has nodes on it. */
	isParted = (node: number): boolean => this.parted[node] === 1;

	/** The nodes on a side, in their order from `a`, at shares of the way to `b`. */
	onSideOf(a: number, b: number): readonly { readonly node: number; readonly share: number }[] {
		const list = this.onSides.get(sideOf(a, b));
		if (!list) return [];
		const along = list.map(({ node, share }) => ({ node, share: a < b ? share : 1 - share }));
		return along.sort((p, q) => p.share - q.share);
	}

	/** Where a node on a side lies flat, of which the ends are at two places: the place that it has, unless that is over the seam. */
	placeBetween(node: number, placeA: number, placeB: number, share: number): number {
		const [a, b] = [this.flatAt(placeA), this.flatAt(placeB)];
		const [x, y] = [a[0] + (b[0] - a[0]) * share, a[1] + (b[1] - a[1]) * share];
		const known = this.placeOf.get(node)!;
		const [px, py] = this.flatAt(known);
		return hypot(px - x, py - y) > OVER_SEAM_MM * 2 ? this.addPlace(x, y) : known;
	}

	/** Whether a node stands within one cell, on no line between two. */
	isWithin = (node: number) => node >= this.nodeCount && Number.isNaN(this.xy[(node - this.nodeCount) * 2]!);

	/** Whether a node is on the face. */
	stands = (node: number) => this.nodes.onFace === undefined || this.nodes.onFace[node] === 1;

	private between(a: number, b: number, share: number): Place3 {
		return this.blend([a, b], [1 - share, share]);
	}

	/** Where on the grid a node on a side is; over a seam the shorter way. */
	private betweenOnGrid(a: number, b: number, share: number): readonly [number, number] {
		const [p, q] = [new Float64Array(2), new Float64Array(2)];
		nodeOnGrid(this.nodes, a, p);
		nodeOnGrid(this.nodes, b, q);
		const { columns, ends } = this.nodes;
		const dx = q[0]! - p[0]!;
		const over = ends.closedAcross ? Math.round(dx / (columns - 1)) * (columns - 1) : 0;
		return [p[0]! + (dx - over) * share, p[1]! + (q[1]! - p[1]!) * share];
	}

	private within(x: number, y: number): Place3 {
		if (!this.corners.every(this.stands)) return this.onFace(...this.lying(x, y));
		return this.blend(this.corners, meanValueShares(this.ring, x, y));
	}

	private onFace(x: number, y: number): Place3 {
		const at = this.finder.nearest(x, y);
		const { position, normal } = pointOn(this.face.surface, at.u, at.v);
		return { position, normal };
	}

	private blend(nodes: readonly number[], shares: ArrayLike<number>): Place3 {
		const sum = (values: Float64Array, c: number) => nodes.reduce((s, n, k) => s + values[n * 3 + c]! * shares[k]!, 0);
		const { position, normal } = this.nodes;
		const n = [sum(normal, 0), sum(normal, 1), sum(normal, 2)] as const;
		const size = norm(n) || 1;
		return {
			position: [sum(position, 0), sum(position, 1), sum(position, 2)],
			normal: [n[0] / size, n[1] / size, n[2] / size]
		};
	}

	private addNode({ position, normal }: Place3, xy: readonly [number, number]): number {
		this.xy.push(...xy);
		this.position.push(...position);
		this.normal.push(...normal);
		return this.nodeCount + this.position.length / 3 - 1;
	}

	private addPlace(x: number, y: number): number {
		const { u, v } = this.finder.nearest(x, y);
		this.parameters.push(u, v);
		this.flat.push(x, y);
		return this.placeCount + this.flat.length / 2 - 1;
	}

	/** The nodes with those added, in arrays of their own. */
	table(): NodeTable {
		const joined = (a: Float64Array, b: readonly number[]) => {
			const all = new Float64Array(a.length + b.length);
			all.set(a);
			all.set(b, a.length);
			return all;
		};
		const { nodeOf: _, turns, ...nodes } = this.nodes;
		const { us, vs } = placeParameters(this.nodes, this.placeCount);
		const more = this.flat.length;
		return {
			...nodes,
			us: joined(
				us,
				this.parameters.filter((_, k) => k % 2 === 0)
			),
			vs: joined(
				vs,
				this.parameters.filter((_, k) => k % 2 === 1)
			),
			xy: joined(nodes.xy ?? NONE, this.xy),
			...(turns ? { turns: Int8Array.from([...turns, ...new Array<number>(more).fill(0)]) } : {}),
			position: joined(this.nodes.position, this.position),
			normal: joined(this.nodes.normal, this.normal),
			flat: joined(this.known, this.flat)
		};
	}
}

const NONE = new Float64Array(0);

interface Place3 {
	readonly position: readonly [number, number, number];
	readonly normal: readonly [number, number, number];
}

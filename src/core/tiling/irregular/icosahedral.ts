import { norm } from '../../elementary/index.ts';
import { ZygasterError } from '../../errors.ts';
import { evaluatePoints } from '../../geometry/evaluate.ts';
import { pointOn } from '../../geometry/pointOn.ts';
import { domainOf, type Surface } from '../../geometry/surface.ts';
import type { ChartedFace } from '../../settingout/development.ts';
import type { NodeTable } from '../../settingout/nodes.ts';
import { placeParameters } from '../../settingout/places.ts';
import { edgesOf } from '../edges.ts';
import type { LaidCells } from '../plane/layCells.ts';
import { BallFace } from './ballFace.ts';
import { geodesic, type Direction } from './geodesic.ts';
import { AT_DOMAIN_END } from '../../tolerances.ts';

/** Halvings until the border is found along an edge that runs off the face. */
const HALVINGS = 48;

interface Node {
	readonly u: number;
	readonly v: number;
}

/**
 * The triangles of an icosahedral division seen from the centre of the ball that a face is. Edges that run off the face
 * end at its border; `whole` leaves such triangles out. A cell's column is its triangle's number. Throws a ZygasterError
 * with code `tiling` for faces that no ray meets.
 */
export function tileIcosahedral(
	face: ChartedFace,
	nodes: NodeTable,
	{ frequency, border }: { readonly frequency: number; readonly border: 'cut' | 'whole' }
): LaidCells {
	const { points, triangles } = geodesic(frequency);
	const ball = new BallFace(face.surface, face.ends);
	const onFace = points.map((way) => ball.meet(way));
	const made: Node[] = [];
	const nodeOfPoint = onFace.map((at) => (at ? made.push(at) - 1 : -1));
	const crossings = new Map<string, number>();
	const crossing = (inside: number, outside: number): number => {
		const key = `${inside} ${outside}`;
		const there = crossings.get(key);
		if (there !== undefined) return there;
		const node = made.push(borderBetween(ball, points[inside]!, points[outside]!, onFace[inside]!)) - 1;
		crossings.set(key, node);
		return node;
	};
	const cells: { number: number; ring: number[] }[] = [];
	triangles.forEach((triangle, number) => {
		const ring = triangle.flatMap((p, k): number[] => {
			const next = triangle[(k + 1) % 3]!;
			const [here, there] = [onFace[p] !== undefined, onFace[next] !== undefined];
			return [
				...(here ? [nodeOfPoint[p]!] : []),
				...(here !== there ? [here ? crossing(p, next) : crossing(next, p)] : [])
			];
		});
		const cut = triangle.some((p) => !onFace[p]);
		const corners = ring.filter((n, k) => n !== ring[(k + 1) % ring.length]);
		if (corners.length > 2 && !(cut && border === 'whole')) cells.push({ number, ring: corners });
	});
	if (cells.length === 0)
		throw new ZygasterError(
			'tiling',
			'Nothing of an icosahedral division is left on this face: it is no ball or dome. Right would be another tiling, or a higher frequency.'
		);
	return layGeodesic(face, nodes, made, cells);
}

/** The last point of the face along the great circle from a point on it to one off it. */
function borderBetween(ball: BallFace, from: Direction, to: Direction, start: Node): Node {
	let [low, high] = [0, 1];
	let last = start;
	for (let k = 0; k < HALVINGS; k++) {
		const t = (low + high) / 2;
		const way = [0, 1, 2].map((c) => from[c]! * (1 - t) + to[c]! * t);
		const size = norm(way);
		const at = ball.meet([way[0]! / size, way[1]! / size, way[2]! / size]);
		if (at) [low, last] = [t, at];
		else high = t;
	}
	return last;
}

/** Nodes and cells behind those of the grid; each corner has a place of its own beside its cell's other corners, also over the seam. */
function layGeodesic(
	face: ChartedFace,
	nodes: NodeTable,
	made: readonly Node[],
	cells: readonly { number: number; ring: number[] }[]
): LaidCells {
	const { surface, ends } = face;
	const [u0, u1] = domainOf(surface.knotsU, surface.degreeU);
	const [v0, v1] = domainOf(surface.knotsV, surface.degreeV);
	const base = nodes.columns * nodes.rows;
	const settled = made.map(({ u, v }): Node => ({ u: settle(u, u0, u1), v: settle(v, v0, v1) }));
	const atPoint = ({ v }: Node) => (ends.bottomPoint && v === v0) || (ends.topPoint && v === v1);
	const places: { u: number; v: number; turn: number; node: number }[] = settled.map((n, k) => ({
		...n,
		turn: 0,
		node: k
	}));
	const known = new Map<string, number>();
	/** A place of a node: nearest across to `beside`, over the seam where that is nearer. */
	const placeOf = (node: number, beside: number): number => {
		const at = settled[node]!;
		const period = u1 - u0;
		const [u, turn] = atPoint(at)
			? [Math.max(u0, Math.min(u1, beside)), 0]
			: [at.u, ends.closedAcross ? Math.round((beside - at.u) / period) : 0];
		if (u === at.u && turn === 0) return node;
		const key = `${node} ${u} ${turn}`;
		const place = known.get(key) ?? places.push({ u, v: at.v, turn, node }) - 1;
		known.set(key, place);
		return place;
	};
	const sides = cells.reduce((n, c) => n + c.ring.length, 0);
	const table = {
		count: cells.length,
		cornerStart: new Uint32Array(cells.length + 1),
		corners: new Uint32Array(sides),
		places: new Uint32Array(sides),
		row: new Uint32Array(cells.length),
		column: Uint32Array.from(cells, (c) => c.number),
		role: new Uint8Array(cells.length),
		roles: ['triangle']
	};
	let k = 0;
	cells.forEach(({ ring }, c) => {
		const first = settled[ring.find((n) => !atPoint(settled[n]!))!]!;
		const near = ring
			.filter((n) => !atPoint(settled[n]!))
			.map(
				(n) => settled[n]!.u + (ends.closedAcross ? Math.round((first.u - settled[n]!.u) / (u1 - u0)) * (u1 - u0) : 0)
			);
		const middle = near.reduce((s, u) => s + u, 0) / near.length;
		for (const node of ring) {
			table.corners[k] = base + node;
			table.places[k++] = base + placeOf(node, middle);
		}
		table.cornerStart[c + 1] = k;
	});
	const onGrid = placeParameters(nodes, base);
	const us = joined(
		onGrid.us,
		places.map((p) => p.u)
	);
	const vs = joined(
		onGrid.vs,
		places.map((p) => p.v)
	);
	const nodeOf = Uint32Array.from({ length: base + places.length }, (_, p) =>
		p < base ? (nodes.nodeOf ? nodes.nodeOf[p]! : p) : base + places[p - base]!.node
	);
	const extra = evaluatePoints(surface, us.subarray(base), vs.subarray(base));
	const { flat: _, onFace: __, ...grid } = nodes;
	return {
		nodes: {
			...grid,
			us,
			vs,
			nodeOf,
			turns: Int8Array.from(places.flatMap((p) => [p.turn, 0])),
			position: joined(nodes.position, extra.position),
			normal: joined(nodes.normal, withNormals(surface, us.subarray(base), vs.subarray(base), extra.normal))
		},
		cells: { ...table, ...edgesOf(table) }
	};
}

/** Normals with those of the points of a face, where it has none of its own: what they come to from inside. */
function withNormals(surface: Surface, us: Float64Array, vs: Float64Array, normal: Float64Array): Float64Array {
	for (let k = 0; k < us.length; k++)
		if (normal[k * 3] === 0 && normal[k * 3 + 1] === 0 && normal[k * 3 + 2] === 0)
			normal.set(pointOn(surface, us[k]!, vs[k]!).normal, k * 3);
	return normal;
}

const settle = (t: number, from: number, to: number) =>
	t - from < AT_DOMAIN_END * (to - from) ? from : to - t < AT_DOMAIN_END * (to - from) ? to : t;

function joined(a: Float64Array, b: ArrayLike<number>): Float64Array {
	const all = new Float64Array(a.length + b.length);
	all.set(a);
	all.set(b, a.length);
	return all;
}

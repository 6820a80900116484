import { norm } from '../../elementary/index.ts';
import { pointAt } from '../../geometry/vectors.ts';
import { platePoint, plateSize } from '../../kit/plates.ts';
import type { PatternGeometry } from '../../kit/result.ts';
import type { PlacedPart } from '../../placement/place.ts';
import { barSizes, cutBarSizes } from './barSizes.ts';
import type { Turn } from './cluster.ts';

/** Pieces of one make and the numbers that tell one from another. */
export interface PieceSizes {
	/** Pieces of other makes are never alike: shape of the mesh and what the numbers mean. */
	readonly make: string;
	readonly dims: number;
	readonly turns: readonly Turn[];
	/** Ways to lay a piece's mirror image on another; none where that would be no other piece. */
	readonly mirrors: readonly Turn[];
	/** `dims` a piece, mm. */
	readonly values: Float64Array;
	/** By piece: the row of its placement, and which of the part's pieces there it is, from 0. */
	readonly rows: Uint32Array;
	readonly pieces: Uint32Array;
}

/** Points of a mesh that are compared at most, each with every other. */
const MOST_POINTS = 12;
const IDENTITY = (dims: number): Turn => ({ from: Uint16Array.from({ length: dims }, (_, d) => d) });

/**
 * The sizes of all pieces of a part: of bars the length with how far each edge of the profile ends before it and how wide the
 * profile is; of plates and sheets the distances between their corners, in order; of equal bodies how large they are put up;
 * of others the distances between points of their meshes. O(pieces * points^2).
 */
export function pieceSizes(part: Pick<PlacedPart, 'kind' | 'geometry' | 'pieces'>): PieceSizes[] {
	const { geometry, pieces } = part;
	switch (geometry.kind) {
		case 'pattern':
			return patternSizes(part.kind, geometry, pieces);
		case 'instances': {
			const { mesh, transforms, rows } = geometry;
			const extent = [0, 1, 2].map((c) => extentOf(mesh.positions, c));
			const values = new Float64Array(rows.length * 3);
			for (let k = 0; k < rows.length; k++)
				for (let c = 0; c < 3; c++) values[k * 3 + c] = norm(pointAt(transforms, k * 12 + c * 3)) * extent[c]!;
			return [
				{
					make: `body ${mesh.positions.length} ${mesh.triangles.length}`,
					dims: 3,
					turns: [IDENTITY(3)],
					mirrors: [],
					values,
					rows,
					pieces: counted(rows)
				}
			];
		}
		case 'fitted':
			return geometry.sets.map(({ positions, triangles, rows }) => {
				const size = positions.length / rows.length;
				return meshSizes(`fitted ${size} ${triangles.length}`, rows, size / 3, (k, point, into, at) =>
					copyPoint(positions, k * size + point * 3, into, at)
				);
			});
		case 'loose': {
			const { positions, positionStart, triangleStart, rows } = geometry;
			const numbers = counted(rows);
			const bars = part.kind === 'bar' ? cutBarSizes(geometry) : [];
			const told = new Set(bars.flatMap((b) => [...b.list]));
			return [
				...bars.map(({ list, made }) => ({ ...made, pieces: list.map((k) => numbers[k]!) })),
				...looseSizes(
					rows,
					(k) => [positionStart[k + 1]! - positionStart[k]!, triangleStart[k + 1]! - triangleStart[k]!],
					(k, point, into, at) => copyPoint(positions, positionStart[k]! + point * 3, into, at),
					(k) => !told.has(k)
				)
			];
		}
		case 'plates':
			return looseSizes(
				geometry.rows,
				(k) => {
					const { points, corners } = plateSize(geometry, k);
					return [points * 3, corners];
				},
				(k, point, into, at) => platePoint(geometry, k, point, into, at)
			);
		case 'joined':
			return [];
	}
}

/** Puts a point of a piece, mm, into an array from a place on. */
type ReadPoint = (piece: number, point: number, into: Float64Array, at: number) => void;

function copyPoint(from: Float64Array, o: number, into: Float64Array, at: number): void {
	for (let c = 0; c < 3; c++) into[at + c] = from[o + c]!;
}

/** Sizes of meshes of their own, those with as many numbers of positions and triangles together. */
function looseSizes(
	rows: Uint32Array,
	countsOf: (piece: number) => readonly [positions: number, triangles: number],
	read: ReadPoint,
	wanted: (piece: number) => boolean = () => true
): PieceSizes[] {
	const makes = new Map<string, number[]>();
	rows.forEach((_, k) => {
		if (!wanted(k)) return;
		const make = `loose ${countsOf(k).join(' ')}`;
		const alike = makes.get(make) ?? [];
		makes.set(make, alike);
		alike.push(k);
	});
	const numbers = counted(rows);
	return [...makes].map(([make, list]) => ({
		...meshSizes(
			make,
			Uint32Array.from(list, (k) => rows[k]!),
			countsOf(list[0]!)[0] / 3,
			(n, ...to) => read(list[n]!, ...to)
		),
		pieces: Uint32Array.from(list, (k) => numbers[k]!)
	}));
}

const extentOf = (positions: Float64Array, c: number) => {
	let [least, most] = [Infinity, -Infinity];
	for (let k = c; k < positions.length; k += 3) {
		least = Math.min(least, positions[k]!);
		most = Math.max(most, positions[k]!);
	}
	return most - least;
};

/** By piece: how many of its row stand before it. */
function counted(rows: Uint32Array): Uint32Array {
	const soFar = new Map<number, number>();
	return rows.map((row) => {
		const n = soFar.get(row) ?? 0;
		soFar.set(row, n + 1);
		return n;
	});
}

/** Distances between points of meshes of so many points, the same ones of each. */
function meshSizes(make: string, rows: Uint32Array, count: number, read: ReadPoint): PieceSizes {
	const used = Math.min(count, MOST_POINTS);
	const chosen = Array.from({ length: used }, (_, k) => Math.floor((k * count) / used));
	const pairs = chosen.flatMap((_, a) => chosen.slice(a + 1).map((__, more) => [a, a + 1 + more] as const));
	const points = new Float64Array(used * 3);
	const values = new Float64Array(rows.length * pairs.length);
	for (let k = 0; k < rows.length; k++) {
		chosen.forEach((point, n) => read(k, point, points, n * 3));
		pairs.forEach(([a, b], d) => (values[k * pairs.length + d] = distance(points, a * 3, b * 3)));
	}
	return {
		make,
		dims: pairs.length,
		turns: [IDENTITY(pairs.length)],
		mirrors: [],
		values,
		rows,
		pieces: counted(rows)
	};
}

function distance(p: Float64Array, a: number, b: number): number {
	const x = p[a]! - p[b]!;
	const y = p[a + 1]! - p[b + 1]!;
	const z = p[a + 2]! - p[b + 2]!;
	return Math.sqrt(x * x + y * y + z * z);
}

function patternSizes(kind: PlacedPart['kind'], geometry: PatternGeometry, pieces: Float64Array): PieceSizes[] {
	const { points, pointsPerHost, present } = geometry;
	const bodies = connected(geometry.triangles);
	const hosts = [...pieces.keys()].filter((h) => pieces[h]! > 0 && present?.[h] !== 0);
	if (hosts.length === 0) return [];
	// Where a host counts as another number of pieces than its triangles hang together in, it is taken as a whole.
	const told = hosts.every((h) => pieces[h] === bodies.length);
	const lists = told ? bodies : [[...new Set(geometry.triangles)].sort((a, b) => a - b)];
	return lists.flatMap((list, piece): PieceSizes[] => {
		const at = (h: number, k: number) => (h * pointsPerHost + list[k]!) * 3;
		const rings = ringsOf(kind, list, geometry.triangles);
		const made =
			kind === 'bar' && told
				? barSizes(list.length / 2, points, at, hosts)
				: rings
					? ringSizes(rings, list.length, points, at, hosts)
					: meshSizes(`mesh ${list.length}`, Uint32Array.from(hosts), list.length, (n, point, into, to) =>
							copyPoint(points, at(hosts[n]!, point), into, to)
						);
		const rows = told
			? Uint32Array.from(hosts)
			: Uint32Array.from(hosts.flatMap((h) => Array<number>(pieces[h]!).fill(h)));
		const repeat = told ? made.values : spread(made, hosts, pieces);
		return [
			{
				...made,
				values: repeat,
				rows,
				pieces: told ? new Uint32Array(rows.length).fill(piece) : counted(rows)
			}
		];
	});
}

/** The numbers of each host once for every piece that it counts as. */
function spread({ values, dims }: Pick<PieceSizes, 'values' | 'dims'>, hosts: readonly number[], pieces: Float64Array) {
	return Float64Array.from(
		hosts.flatMap((h, k) =>
			Array.from({ length: pieces[h]! }, () => [...values.subarray(k * dims, (k + 1) * dims)]).flat()
		)
	);
}

/** Numbers of points that triangles hang together in, each rising, in the order in which triangles come. */
export function connected(triangles: Uint16Array): number[][] {
	const parent = new Map<number, number>();
	const root = (p: number): number => {
		let r = p;
		while (parent.get(r)! !== r) r = parent.get(r)!;
		parent.set(p, r);
		return r;
	};
	for (const p of triangles) if (!parent.has(p)) parent.set(p, p);
	for (let t = 0; t < triangles.length; t += 3)
		for (const k of [1, 2]) parent.set(root(triangles[t + k]!), root(triangles[t]!));
	const bodies = new Map<number, Set<number>>();
	for (const p of triangles) bodies.set(root(p), (bodies.get(root(p)) ?? new Set()).add(p));
	return [...bodies.values()].map((set) => [...set].sort((a, b) => a - b));
}

export type Made = Omit<PieceSizes, 'pieces'>;
/** First number of a point of a host. */
export type At = (host: number, k: number) => number;

/**
 * Of a thin piece: the distances between all its corners, however it is turned about the lines that run around it, and how
 * far the corners of lines of four lie off a plane, which tells a piece from its mirror image where distances do not.
 */
function ringSizes(
	rings: readonly (readonly number[])[],
	count: number,
	points: Float64Array,
	at: At,
	hosts: readonly number[]
): Made {
	const n = rings[0]!.length;
	const pairs = Array.from({ length: count }, (_, a) => a).flatMap((a) =>
		Array.from({ length: count - a - 1 }, (_, k) => [a, a + k + 1] as const)
	);
	const place = new Map(pairs.map(([a, b], d) => [a * count + b, d]));
	const twisted = n === 4 ? rings : [];
	const dims = pairs.length + twisted.length;
	const laid = (next: (k: number, by: number) => number) =>
		Array.from({ length: n }, (_, by): Turn => {
			const moved = Array.from({ length: count }, (_, p) => p);
			for (const ring of rings) ring.forEach((p, k) => (moved[p] = ring[next(k, by)]!));
			const from = Uint16Array.from({ length: dims }, (_, d) => {
				if (d >= pairs.length) return d;
				const [a, b] = pairs[d]!.map((p) => moved[p]!) as [number, number];
				return place.get(Math.min(a, b) * count + Math.max(a, b))!;
			});
			// Turned by one corner, what rose falls.
			return twisted.length && by % 2 === 1
				? { from, signs: new Int8Array(dims).fill(1).fill(-1, pairs.length) }
				: { from };
		});
	const values = new Float64Array(hosts.length * dims);
	const places = new Float64Array(count);
	for (let row = 0, v = 0; row < hosts.length; row++) {
		for (let k = 0; k < count; k++) places[k] = at(hosts[row]!, k);
		for (let a = 0; a < count; a++)
			for (let b = a + 1; b < count; b++) values[v++] = distance(points, places[a]!, places[b]!);
		for (const [a, b, c, d] of twisted)
			values[v++] = riseOf(points, places[a!]!, places[b!]!, places[c!]!, places[d!]!);
	}
	return {
		make: `ring ${rings.length} x ${n} of ${count}`,
		dims,
		turns: laid((k, by) => (k + by) % n),
		mirrors: laid((k, by) => (by - k + n) % n),
		values,
		rows: Uint32Array.from(hosts)
	};
}

/**
 * The lines that run around a thin piece of so many points, in the order in which its step counts them: of a sheet those that
 * bound it, of a plate one above and one below. Nothing where they have not as many corners as each other.
 */
function ringsOf(kind: PlacedPart['kind'], list: readonly number[], triangles: Uint16Array): number[][] | undefined {
	const count = list.length;
	if (count > MOST_POINTS) return undefined;
	if (kind === 'plate')
		return count % 2 === 0
			? [0, 1].map((r) => Array.from({ length: count / 2 }, (_, k) => (r * count) / 2 + k))
			: undefined;
	if (kind !== 'sheet' && kind !== 'ribbon') return undefined;
	const place = new Map(list.map((p, k) => [p, k]));
	const sides = new Map<string, readonly [number, number]>();
	for (let t = 0; t < triangles.length; t += 3)
		for (let k = 0; k < 3; k++) {
			const [a, b] = [place.get(triangles[t + k]!), place.get(triangles[t + ((k + 1) % 3)]!)];
			if (a === undefined || b === undefined) continue;
			const key = `${Math.min(a, b)} ${Math.max(a, b)}`;
			if (!sides.delete(key)) sides.set(key, [a, b]);
		}
	const bound = connected(Uint16Array.from([...sides.values()].flatMap(([a, b]) => [a, b, b])));
	return bound.length && bound.every((ring) => ring.length === bound[0]!.length) ? bound : undefined;
}

/** How far the first diagonal of four corners passes above the second, seen from outside, mm. */
function riseOf(p: Float64Array, a: number, b: number, c: number, d: number): number {
	const ux = p[c]! - p[a]!;
	const uy = p[c + 1]! - p[a + 1]!;
	const uz = p[c + 2]! - p[a + 2]!;
	const vx = p[d]! - p[b]!;
	const vy = p[d + 1]! - p[b + 1]!;
	const vz = p[d + 2]! - p[b + 2]!;
	const x = uy * vz - uz * vy;
	const y = uz * vx - ux * vz;
	const z = ux * vy - uy * vx;
	const size = Math.sqrt(x * x + y * y + z * z);
	return size > 0 ? ((p[a]! - p[b]!) * x + (p[a + 1]! - p[b + 1]!) * y + (p[a + 2]! - p[b + 2]!) * z) / size : 0;
}

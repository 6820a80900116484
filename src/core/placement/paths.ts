import { hypot, norm } from '../elementary/index.ts';
import { newell } from '../geometry/newell.ts';
import type { MeasuredFace } from '../readings/faceReadings.ts';
import { CANCELLED } from '../tolerances.ts';
import type { DrawnPaths } from './drawn/drawPaths.ts';

/** Chains of nodes, with the readings that kits on paths know. */
export interface Paths {
	readonly cornerStart: Uint32Array;
	/** Nodes in order; of a closed path each once. */
	readonly corners: Uint32Array;
	/** By path: 1 where it runs all around and meets itself. */
	readonly closed: Uint8Array;
	/** By path: which line of the setting-out it is, counted from 1. */
	readonly line: Uint32Array;
	/** By path: 0 for the only piece of its line, else 1, 2, ... along it. */
	readonly piece: Uint32Array;
	/** By path: whether it is a line across, a line up, or drawn. */
	readonly way: Uint8Array;
	/** By point, mm, and unit normals, stride 3: nodes, and behind them points of drawn paths. */
	readonly position: Float64Array;
	readonly pointNormal: Float64Array;
	/** Unit normal of each path: the mean of its nodes', stride 3. */
	readonly normal: Float64Array;
	reading(name: string): Float64Array | undefined;
}

/**
 * The lines of the setting-out as chains of nodes, each `every`-th of them; over a seam the last line is the first and
 * counts once, and a line that crosses the seam goes on. Where two nodes on a line have no cell in common, as across an
 * opening, it ends and begins again. O(nodes).
 */
export function pathsOf(
	{ nodes, cells }: Pick<MeasuredFace, 'nodes' | 'cells'>,
	along: 'across' | 'up',
	every: number
): Paths {
	const { columns, rows, nodeOf, position, ends } = nodes;
	const joined = cellNeighbours(cells, position.length / 3);
	const start: number[] = [0];
	const corners: number[] = [];
	const line: number[] = [];
	const piece: number[] = [];
	const closed: number[] = [];
	const [lines, steps] = along === 'across' ? [rows, columns] : [columns, rows];
	const [linesClose, stepsClose] =
		along === 'across' ? [ends.closedUp, ends.closedAcross] : [ends.closedAcross, ends.closedUp];
	for (let l = 0; l < (linesClose ? lines - 1 : lines); l += every) {
		const chains: number[][] = [[]];
		for (let s = 0; s < steps; s++) {
			const chain = chains.at(-1)!;
			const place = along === 'across' ? l * columns + s : s * columns + l;
			const node = nodeOf ? nodeOf[place]! : place;
			// Places that the tiling leaves out, as every second one of diamonds, are passed over.
			if (!joined.used(node) || (nodes.onFace && nodes.onFace[place] === 0)) continue;
			const last = chain.at(-1);
			if (last === node) continue;
			if (last !== undefined && !joined.share(last, node)) chains.push([node]);
			else chain.push(node);
		}
		const around = stepsClose && joinOverSeam(chains);
		const long = chains.filter((chain) => chain.length > 1);
		for (const [k, chain] of long.entries()) {
			for (const node of chain) corners.push(node);
			start.push(corners.length);
			line.push(l + 1);
			piece.push(long.length > 1 ? k + 1 : 0);
			closed.push(around ? 1 : 0);
		}
	}
	const cornerStart = Uint32Array.from(start);
	const all = Uint32Array.from(corners);
	return {
		cornerStart,
		corners: all,
		closed: Uint8Array.from(closed),
		line: Uint32Array.from(line),
		piece: Uint32Array.from(piece),
		way: new Uint8Array(line.length).fill(along === 'across' ? ACROSS : UP),
		position,
		pointNormal: nodes.normal,
		normal: pathNormals(nodes, cornerStart, all),
		reading: (name) => readPaths(position, { cornerStart, corners: all, closed, line }, name)
	};
}

/** What `way` of a path tells. */
export const ACROSS = 0;
export const UP = 1;
export const DRAWN = 2;

/** A face with the paths that are drawn on it. */
export interface FaceWithPaths extends Pick<MeasuredFace, 'nodes' | 'cells'> {
	readonly drawn?: DrawnPaths | undefined;
}

/** The lines of the setting-out that a kit takes, and behind them all drawn paths, counted from 1 each. O(nodes + points). */
export function kitPaths(face: FaceWithPaths, { along, every }: { along: 'across' | 'up'; every: number }): Paths {
	return withDrawn(pathsOf(face, along, every), face);
}

/** Paths with the drawn ones of a face behind them. */
function withDrawn(lines: Paths, { nodes, drawn }: FaceWithPaths): Paths {
	if (!drawn?.count) return lines;
	const first = nodes.position.length / 3;
	const behind = lines.corners.length;
	const counted = Array.from({ length: drawn.count }, (_, k) => k + 1);
	const points = Uint32Array.from({ length: drawn.position.length / 3 }, (_, k) => first + k);
	const cornerStart = joined(
		lines.cornerStart,
		drawn.start.subarray(1).map((s) => s + behind)
	);
	const corners = joined(lines.corners, points);
	const closed = [...lines.closed, ...drawn.closed];
	const line = [...lines.line, ...counted];
	const { position, normal: pointNormal } = pointsBehind(nodes, drawn);
	return {
		cornerStart,
		corners,
		closed: Uint8Array.from(closed),
		line: Uint32Array.from(line),
		piece: joined(lines.piece, new Uint32Array(drawn.count)),
		way: Uint8Array.from([...lines.way, ...counted.map(() => DRAWN)]),
		position,
		pointNormal,
		normal: pathNormals({ position, normal: pointNormal }, cornerStart, corners),
		reading: (name) => readPaths(position, { cornerStart, corners, closed, line }, name)
	};
}

function joined<A extends Uint32Array | Float64Array>(a: A, b: A): A {
	const out = new (a.constructor as new (length: number) => A)(a.length + b.length);
	out.set(a);
	out.set(b, a.length);
	return out;
}

type Points = Pick<FaceWithPaths['nodes'], 'position' | 'normal'>;
const known = new WeakMap<DrawnPaths, { readonly nodes: Points; readonly all: Points }>();

/** Nodes with the points of drawn paths behind them, put together once however many kits stand on paths. */
function pointsBehind(nodes: Points, drawn: DrawnPaths): Points {
	const there = known.get(drawn);
	if (there?.nodes === nodes) return there.all;
	const all = { position: joined(nodes.position, drawn.position), normal: joined(nodes.normal, drawn.normal) };
	known.set(drawn, { nodes, all });
	return all;
}

/** Length of each drawn path from point to point, mm. O(points). */
export function drawnLengths({ start, position, closed, count }: DrawnPaths): Float64Array {
	const corners = Uint32Array.from({ length: position.length / 3 }, (_, k) => k);
	const line = Array.from({ length: count }, (_, k) => k + 1);
	return readPaths(position, { cornerStart: start, corners, closed: [...closed], line }, 'length')!;
}

/** The drawn paths of a face alone. */
export const drawnPathsOf = (face: FaceWithPaths): Paths => withDrawn(NO_LINES, face);

const NO_LINES: Paths = {
	cornerStart: new Uint32Array(1),
	corners: new Uint32Array(),
	closed: new Uint8Array(),
	line: new Uint32Array(),
	piece: new Uint32Array(),
	way: new Uint8Array(),
	position: new Float64Array(),
	pointNormal: new Float64Array(),
	normal: new Float64Array(),
	reading: () => new Float64Array()
};

/** Joins the last chain of a line to the first where they meet at the seam; true where that is one chain all around. In place. */
function joinOverSeam(chains: number[][]): boolean {
	const [first, last] = [chains[0]!, chains.at(-1)!];
	if (last.length < 2 || last.at(-1) !== first[0]) return false;
	last.pop();
	if (first === last) {
		if (first.length > 2) return true;
		last.push(first[0]!);
		return false;
	}
	chains[0] = [...last, ...first];
	chains.pop();
	return false;
}

/** Which nodes carry cells, and which two have one in common. */
function cellNeighbours({ count, cornerStart, corners }: MeasuredFace['cells'], nodeCount: number) {
	const start = new Uint32Array(nodeCount + 1);
	for (const n of corners.subarray(0, cornerStart[count])) start[n + 1]!++;
	for (let n = 0; n < nodeCount; n++) start[n + 1]! += start[n]!;
	const cells = new Uint32Array(start[nodeCount]!);
	const filled = start.slice();
	for (let c = 0; c < count; c++)
		for (let k = cornerStart[c]!; k < cornerStart[c + 1]!; k++) cells[filled[corners[k]!]!++] = c;
	const of = (n: number) => cells.subarray(start[n], start[n + 1]);
	return {
		used: (n: number) => start[n + 1]! > start[n]!,
		share: (a: number, b: number) => of(a).some((c) => of(b).includes(c))
	};
}

function pathNormals(
	{ normal, position }: Pick<MeasuredFace['nodes'], 'normal' | 'position'>,
	cornerStart: Uint32Array,
	corners: Uint32Array
): Float64Array {
	const out = new Float64Array((cornerStart.length - 1) * 3);
	for (let p = 0; p + 1 < cornerStart.length; p++) {
		const path = corners.subarray(cornerStart[p], cornerStart[p + 1]);
		let sum: readonly number[] = [0, 1, 2].map((c) => path.reduce((n, node) => n + normal[node * 3 + c]!, 0));
		// Of a path all around a face the normals cancel out: its own plane is taken.
		if (norm(sum) < path.length * CANCELLED) sum = newell(position, path.length, (k) => path[k]! * 3);
		const size = norm(sum);
		for (let c = 0; c < 3; c++) out[p * 3 + c] = size > 0 ? sum[c]! / size : c === 2 ? 1 : 0;
	}
	return out;
}

function readPaths(
	position: Float64Array,
	{
		cornerStart,
		corners,
		closed,
		line
	}: Pick<Paths, 'cornerStart' | 'corners'> & { readonly closed: readonly number[]; readonly line: readonly number[] },
	name: string
): Float64Array | undefined {
	const each = (of: (path: Uint32Array, p: number) => number) =>
		Float64Array.from(line, (_, p) => of(corners.subarray(cornerStart[p], cornerStart[p + 1]), p));
	const distance = (a: number, b: number) =>
		hypot(
			position[b * 3]! - position[a * 3]!,
			position[b * 3 + 1]! - position[a * 3 + 1]!,
			position[b * 3 + 2]! - position[a * 3 + 2]!
		);
	switch (name) {
		case 'length':
			return each((path, p) =>
				path.reduce(
					(sum, node, k) => sum + (k > 0 ? distance(path[k - 1]!, node) : closed[p] ? distance(path.at(-1)!, node) : 0),
					0
				)
			);
		case 'elevation':
			return each((path) => path.reduce((least, node) => Math.min(least, position[node * 3 + 2]!), Infinity));
		case 'points':
			return each((path) => path.length);
		case 'row':
			return each((_, p) => line[p]!);
		default:
			return undefined;
	}
}

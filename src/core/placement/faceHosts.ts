import { ZygasterError } from '../errors.ts';
import { closestPointFinder } from '../geometry/closestPoint.ts';
import { ROOM_READINGS } from '../kit/hostReadings.ts';
import type { HostColumns, HostKind } from '../kit/hosts.ts';
import type { KitHost } from '../kit/schema.ts';
import { edgeKinds } from '../readings/edgeKinds.ts';
import { EDGE_READINGS } from '../readings/lineReadings.ts';
import { readingsOf, READINGS, type MeasuredFace, type ReadingName } from '../readings/faceReadings.ts';
import { liftNodes } from '../settingout/layer.ts';
import { NO_CELL, outlinesOf } from '../tiling/cells.ts';
import { nodesThrough } from '../tiling/edges.ts';
import { baysOf } from './bays.ts';
import type { DrawnPaths } from './drawn/drawPaths.ts';
import { DRAWN, kitPaths } from './paths.ts';
import type { EdgeRooms } from './rooms.ts';
import { spokesOf } from './spokes.ts';

/** A face that kits are placed on. */
export interface HostFace extends MeasuredFace {
	/** Distance of the second layer, mm, the same or by node; 0 without one. */
	readonly layer: number | Float64Array;
	readonly drawn?: DrawnPaths;
	/** What else is placed at the ends of edges; nothing is where left out. */
	readonly rooms?: () => EdgeRooms | undefined;
	/** The face as its cells begin, where kits see them turned or mirrored: readings that do not hang on the corners are its. */
	readonly unturned?: HostFace;
}

/** Readings of a cell that hang on which of its corners is the first. */
const BY_CORNER = /^(width|height|edge\d|angle\d|diagonal\d)$/;

/** Everything of one face that a kind of kit can stand on, not yet sorted by the number of points. */
export type HostTable = Omit<HostColumns, 'ids' | 'holes'> & {
	readonly kind: HostKind;
	/** Elements that the kit wants, in order. */
	readonly wanted: Uint32Array;
};

/** The hosts of a face for a kit. Throws a ZygasterError with code `kit` where the face has none of the kind. O(nodes + cells). */
export function hostsOf(face: HostFace, host: KitHost): HostTable {
	const { nodes, cells, surface, readings } = face;
	const measured = readingsOf(face);
	let nearest: ReturnType<typeof closestPointFinder> | undefined;
	const common = {
		position: nodes.position,
		pointNormal: nodes.normal,
		onFace(point: Float64Array, o: number) {
			nearest ??= closestPointFinder(surface);
			const { position } = nearest([point[o]!, point[o + 1]!, point[o + 2]!]);
			point.set(position, o);
		}
	};
	const plain = face.unturned && readingsOf(face.unturned);
	const readingOf = (kind: 'cell' | 'edge' | 'node') => (name: string) =>
		Object.hasOwn(READINGS, `${kind}.${name}`)
			? (plain && !BY_CORNER.test(name) ? plain : measured).column(`${kind}.${name}` as ReadingName)
			: undefined;
	switch (host.kind) {
		case 'cell':
		case 'box': {
			if (host.kind === 'box') needsLayer(face, 'cells with depth');
			return {
				...common,
				kind: host.kind,
				...outlinesOf(cells),
				normal: readings.normal,
				wanted: countUp(cells.count),
				reading: readingOf('cell'),
				...(host.kind === 'box' ? { upper: liftNodes(nodes, face.layer, cells, readings.normal) } : {})
			};
		}
		case 'edge': {
			const kinds = host.edges.length ? edgeKinds(nodes, cells) : undefined;
			const names: readonly string[] = EDGE_READINGS.kind.kinds;
			// Between the middles of two cells there is nothing at a border.
			const all = countUp(cells.edgeCount).filter(
				(e) => host.on !== 'middles' || cells.edgeCells[e * 2 + 1] !== NO_CELL
			);
			return {
				...common,
				kind: 'edge',
				...edgeLines(face, host.on),
				normal: edgeNormals(face),
				wanted: kinds ? all.filter((e) => (host.edges as readonly string[]).includes(names[kinds[e]!]!)) : all,
				ways: (edge, end) => face.rooms?.()?.waysAt(edge, end) ?? [],
				reading: (name) => {
					if (!Object.hasOwn(ROOM_READINGS, name)) return readingOf('edge')(name);
					return face.rooms?.()?.[name === 'startRoom' ? 'start' : 'end'] ?? new Float64Array(cells.edgeCount);
				}
			};
		}
		case 'node': {
			const { cornerStart, corners, border, used } = spokesOf(face);
			const fits = (n: number) =>
				used[n] === 1 && (host.nodes === 'all' || (border[n] === 1) === (host.nodes === 'border'));
			return {
				...common,
				kind: 'node',
				cornerStart,
				corners,
				normal: nodes.normal,
				wanted: countUp(nodes.position.length / 3).filter(fits),
				reading: readingOf('node'),
				...(face.layer === 0 ? {} : { upper: liftNodes(nodes, face.layer, cells, readings.normal) })
			};
		}
		case 'path': {
			const paths = kitPaths(face, host);
			// Without being asked for, a kit takes the lines of the setting-out alone.
			const lines = paths.way.filter((way) => way !== DRAWN).length;
			return { ...common, kind: 'path', ...paths, wanted: countUp(lines) };
		}
		case 'bay': {
			const { begins, left: _, ...bays } = baysOf(face, host);
			return { ...common, kind: 'bay', ...bays, wanted: countUp(cells.count).filter((c) => begins[c] === 1) };
		}
	}
}

/** 0, 1, 2, ..., times a step. */
function countUp(count: number, step = 1): Uint32Array {
	const out = new Uint32Array(count);
	for (let k = 0; k < count; k++) out[k] = k * step;
	return out;
}

/** What an edge host is told to lie on. */
export type EdgeLayer = Extract<KitHost, { kind: 'edge' }>['on'];

/**
 * The points of each edge in order, as kits see them: on the face, on the second layer, from the middle of its left cell
 * there to that of its right one, or from its start on one layer to its end on the other. Throws a ZygasterError with code `kit` where there is no second layer. O(nodes + cells).
 */
export function edgeLines(
	face: Pick<HostFace, 'nodes' | 'cells' | 'readings' | 'layer'>,
	on: EdgeLayer
): Pick<HostTable, 'cornerStart' | 'corners' | 'position' | 'pointNormal'> {
	const { nodes, cells, readings, layer } = face;
	const lines = linesOfEdges(cells, nodes.columns * nodes.rows);
	if (on === 'face') return { ...lines, position: nodes.position, pointNormal: nodes.normal };
	needsLayer(face, 'lines on the second layer');
	const upper = liftNodes(nodes, layer, cells, readings.normal);
	if (on === 'layer') return { ...lines, position: upper, pointNormal: nodes.normal };
	if (on === 'rising' || on === 'falling') {
		const { cornerStart, corners } = lines;
		const behind = nodes.position.length / 3;
		const [first, last] = on === 'rising' ? [0, behind] : [behind, 0];
		return {
			cornerStart: countUp(cells.edgeCount + 1, 2),
			corners: Uint32Array.from({ length: cells.edgeCount * 2 }, (_, k) =>
				k % 2 === 0 ? corners[cornerStart[k / 2]!]! + first : corners[cornerStart[(k + 1) / 2]! - 1]! + last
			),
			position: Float64Array.from([...nodes.position, ...upper]),
			pointNormal: Float64Array.from([...nodes.normal, ...nodes.normal])
		};
	}
	const middles = new Float64Array(cells.count * 3);
	for (let c = 0; c < cells.count; c++) {
		const [from, to] = [cells.cornerStart[c]!, cells.cornerStart[c + 1]!];
		for (let k = from; k < to; k++)
			for (let x = 0; x < 3; x++) middles[c * 3 + x]! += upper[cells.corners[k]! * 3 + x]! / (to - from);
	}
	return {
		cornerStart: countUp(cells.edgeCount + 1, 2),
		corners: Uint32Array.from(cells.edgeCells, (c, k) => (c === NO_CELL ? cells.edgeCells[k - 1]! : c)),
		position: middles,
		pointNormal: readings.normal
	};
}

function needsLayer({ layer }: Pick<HostFace, 'layer'>, what: string): void {
	if (layer === 0)
		throw new ZygasterError(
			'kit',
			`This kit is made for ${what}; right would be a second layer, whose distance is set under Setting-out.`
		);
}

/** The nodes of each edge in order: its two ends, or all that a curved one runs through. */
function linesOfEdges(
	{ edgeCount, edgeNodes, edgeBends }: HostFace['cells'],
	grid: number
): Pick<HostTable, 'cornerStart' | 'corners'> {
	if (!edgeBends) return { cornerStart: countUp(edgeCount + 1, 2), corners: lowerFirst(edgeNodes, grid) };
	const ends = lowerFirst(edgeNodes, grid);
	const cornerStart = edgeBends.start.map((bend, e) => bend + 2 * e);
	const corners = new Uint32Array(cornerStart[edgeCount]!);
	for (let e = 0; e < edgeCount; e++) {
		const through = nodesThrough(edgeBends, e);
		const turned = ends[e * 2] !== edgeNodes[e * 2];
		corners[cornerStart[e]!] = ends[e * 2]!;
		corners.set(turned ? through.toReversed() : through, cornerStart[e]! + 1);
		corners[cornerStart[e + 1]! - 1] = ends[e * 2 + 1]!;
	}
	return { cornerStart, corners };
}

/** Edges run to the right or upwards: places of the grid are numbered that way; others stay as they are. */
function lowerFirst(edgeNodes: Uint32Array, grid: number): Uint32Array {
	const out = edgeNodes.slice();
	for (let e = 0; e < out.length; e += 2) {
		const [a, b] = [out[e]!, out[e + 1]!];
		if (a < grid && b < grid && a > b) [out[e], out[e + 1]] = [b, a];
	}
	return out;
}

/** Halfway between the normals of an edge's cells. */
function edgeNormals({ cells, readings }: HostFace): Float64Array {
	const normal = new Float64Array(cells.edgeCount * 3);
	for (let e = 0; e < cells.edgeCount; e++) {
		const [a, b] = [cells.edgeCells[e * 2]!, cells.edgeCells[e * 2 + 1]!];
		const other = b === NO_CELL ? a : b;
		const x = readings.normal[a * 3]! + readings.normal[other * 3]!;
		const y = readings.normal[a * 3 + 1]! + readings.normal[other * 3 + 1]!;
		const z = readings.normal[a * 3 + 2]! + readings.normal[other * 3 + 2]!;
		const size = Math.sqrt(x * x + y * y + z * z);
		normal[e * 3] = size > 0 ? x / size : readings.normal[a * 3]!;
		normal[e * 3 + 1] = size > 0 ? y / size : readings.normal[a * 3 + 1]!;
		normal[e * 3 + 2] = size > 0 ? z / size : readings.normal[a * 3 + 2]!;
	}
	return normal;
}

import { ZygasterError } from '../errors.ts';
import type { KitHost } from '../kit/schema.ts';
import { liftNodes } from '../settingout/layer.ts';
import { NO_CELL } from '../tiling/cells.ts';
import { nodesThrough } from '../tiling/edges.ts';
import type { HostFace, HostTable } from './faceHosts.ts';

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

/** Throws a ZygasterError with code `kit` where a face has no second layer. */
export function needsLayer({ layer }: Pick<HostFace, 'layer'>, what: string): void {
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
export function edgeNormals({ cells, readings }: HostFace): Float64Array {
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

/** 0, 1, 2, ..., times a step. */
export function countUp(count: number, step = 1): Uint32Array {
	const out = new Uint32Array(count);
	for (let k = 0; k < count; k++) out[k] = k * step;
	return out;
}

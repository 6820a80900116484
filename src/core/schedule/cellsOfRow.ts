import { square } from '../elementary/index.ts';
import { baysOf } from '../placement/bays.ts';
import { ACROSS, DRAWN, pathsOf, type FaceWithPaths } from '../placement/paths.ts';
import type { MeasuredFace } from '../readings/faceReadings.ts';
import { NO_CELL } from '../tiling/cells.ts';
import { cellsAround } from '../tiling/marks.ts';
import { bayAt, HOST_TABLES, type FaceSchedule, type HostTableName } from './faceTable.ts';
import { partsOf, type FaceWithParts } from './parts.ts';
import type { TableName } from './tables.ts';

/** The cells that a row of a face's schedule touches: itself, those beside an edge, around a node, along a path. O(corners). */
export function cellsOfRow(
	face: FaceWithParts & Pick<MeasuredFace, 'readings'> & { readonly schedule: FaceSchedule },
	table: TableName,
	row: number
): number[] {
	if (table === 'parts') {
		const { hostTable, host } = partsOf(face);
		return cellsOfHost(face, HOST_TABLES[hostTable[row]!]!, host[row]!);
	}
	return cellsOfHost(face, table, row);
}

function cellsOfHost(
	face: FaceWithPaths & Pick<MeasuredFace, 'readings'> & { readonly schedule: FaceSchedule },
	name: HostTableName,
	row: number
): number[] {
	const { cells, schedule } = face;
	const table = schedule.tables[name];
	const host = table.host[row]!;
	switch (name) {
		case 'panels':
			return [host];
		case 'edges':
			return [...cells.edgeCells.subarray(host * 2, host * 2 + 2)].filter((c) => c !== NO_CELL);
		case 'nodes':
			return cellsAround(cells, new Set([host])).get(host) ?? [];
		case 'bays':
			return baysOf(face, bayAt(table.at[row]!)).cellsOf(host);
		case 'paths': {
			const [number, way] = [table.columns.row![row]!, table.role[row]!];
			if (way === DRAWN && !face.drawn!.nodes[number - 1]!.length) return cellsNear(face, number - 1);
			const nodes = new Set<number>(
				way === DRAWN ? face.drawn!.nodes[number - 1] : nodesOfLine(face, way, number, table.piece[row]!)
			);
			const touched = new Map<number, number>();
			for (const list of cellsAround(cells, nodes).values())
				for (const c of list) touched.set(c, (touched.get(c) ?? 0) + 1);
			// Those that have a side on it, not a corner only.
			return [...touched].filter(([, n]) => n > 1).map(([c]) => c);
		}
	}
}

/** The nodes of a line of the setting-out. */
function nodesOfLine(face: FaceWithPaths, way: number, number: number, of: number): Uint32Array {
	const { cornerStart, corners, line, piece } = pathsOf(face, way === ACROSS ? 'across' : 'up', 1);
	const path = line.findIndex((l, p) => l === number && piece[p] === of);
	return corners.subarray(cornerStart[path], cornerStart[path + 1]);
}

/** The cells nearest to the points of a drawn path that runs beside the nodes. O(points x cells). */
function cellsNear({ nodes, cells, drawn }: FaceWithPaths, path: number): number[] {
	const { count, cornerStart, corners } = cells;
	const middles = new Float64Array(count * 3);
	for (let c = 0; c < count; c++)
		for (let k = cornerStart[c]!; k < cornerStart[c + 1]!; k++)
			for (let x = 0; x < 3; x++)
				middles[c * 3 + x]! += nodes.position[corners[k]! * 3 + x]! / (cornerStart[c + 1]! - cornerStart[c]!);
	const { start, position } = drawn!;
	const found = new Set<number>();
	for (let p = start[path]!; p < start[path + 1]!; p++) {
		let [best, least] = [0, Infinity];
		for (let c = 0; c < count; c++) {
			const far =
				square(middles[c * 3]! - position[p * 3]!) +
				square(middles[c * 3 + 1]! - position[p * 3 + 1]!) +
				square(middles[c * 3 + 2]! - position[p * 3 + 2]!);
			if (far < least) [best, least] = [c, far];
		}
		found.add(best);
	}
	return [...found];
}

import { DRAWN } from '../placement/paths.ts';
import { cellsAround, edgeOwner, nodeOwner } from '../tiling/marks.ts';
import type { DrawnPaths } from '../placement/drawn/drawPaths.ts';
import { HOST_TABLES, HOST_WORDS, type HostTableName } from './faceTable.ts';
import { cornersOn, type FaceWithCorners } from './hostCorners.ts';
import { partsOf, type FaceWithParts } from './parts.ts';

/** A face whose hosts and pieces are known by keys. */
export interface FaceWithKeys extends FaceWithCorners, FaceWithParts {
	readonly key: string;
	readonly drawn: DrawnPaths;
}

/** How the hosts of a face are known, by the rows of its tables. */
export interface HostKeys {
	/** The same as long as the host's place on the grid is, whatever order hosts are counted in. */
	keyOf(kind: HostTableName, row: number): string;
	/** The middle of its corners, mm. */
	middleOf(kind: HostTableName, row: number): number[];
}

export function hostsOn(face: FaceWithKeys): HostKeys {
	const { cells, schedule, drawn } = face;
	const { order: _, ...unordered } = cells;
	const { columns, role, piece } = schedule.tables.paths;
	const nodes = schedule.tables.nodes.host;
	const around = nodes.length ? cellsAround(cells, new Set(nodes)) : undefined;
	const corners = Object.fromEntries(
		HOST_TABLES.filter((name) => schedule.tables[name].count > 0).map((name) => [name, cornersOn(face, name)])
	) as Partial<Record<HostTableName, ReturnType<typeof cornersOn>>>;
	const cellKey = (c: number) =>
		`${cells.row[c]},${cells.column[c]},${cells.roles?.[cells.role?.[c] ?? 0] ?? ''},${cells.trim?.piece[c] ?? 0}`;
	return {
		keyOf(kind, row) {
			if (kind === 'paths') {
				const line = columns.row![row]!;
				return role[row] === DRAWN
					? `drawn ${drawn.ids[line - 1]} ${drawn.marks[line - 1]}`
					: `${role[row]} ${line} ${piece[row]}`;
			}
			const element = schedule.tables[kind].host[row]!;
			if (kind === 'panels') return cellKey(element);
			if (kind === 'bays') return `${cellKey(element)},${schedule.tables.bays.at[row]}`;
			const owner =
				kind === 'edges' ? edgeOwner(unordered, element) : nodeOwner(unordered, element, around!.get(element)!);
			return `${cellKey(owner.cell)},${owner.at}`;
		},
		middleOf(kind, row) {
			const { position, of } = corners[kind]!;
			const points = of(row);
			const middle = [0, 0, 0];
			for (const p of points) for (let c = 0; c < 3; c++) middle[c]! += position[p * 3 + c]! / points.length;
			return middle;
		}
	};
}

/** By row of a table of a face's parts: what the piece is known by, as long as its face, its host and its part are there. O(pieces). */
export function partKeys(face: FaceWithKeys, hosts: HostKeys, table = partsOf(face)): string[] {
	const { words, index } = table.words.part!;
	const soFar = new Map<string, number>();
	return Array.from({ length: table.count }, (_, r) => {
		const kind = HOST_TABLES[table.hostTable[r]!]!;
		const place = `${face.key} ${HOST_WORDS[kind]} ${hosts.keyOf(kind, table.host[r]!)} ${words[index[r]!]!}`;
		const number = (soFar.get(place) ?? 0) + 1;
		soFar.set(place, number);
		return `${place} ${number}`;
	});
}

import { baySuffix, hostSuffix, pathMark, printMark } from '../tiling/marks.ts';
import type { BaySize } from '../kit/baySize.ts';
import { DRAWN } from '../placement/paths.ts';
import type { TableName } from './tables.ts';

/** Where an element has no row. */
export const NO_ROW = -1;

/** Words by row, each once. */
export interface WordColumn {
	readonly words: readonly string[];
	/** By row, into `words`. */
	readonly index: Uint16Array | Uint32Array;
}

/** One table of the schedule of one face, in columns. */
export interface FaceTable {
	readonly count: number;
	/** By row: the element of the face that it is about: a cell, an edge, a node, the first cell of a bay; of paths their running number. */
	readonly host: Uint32Array;
	/** By element: its row; NO_ROW for one that nothing stands on. */
	readonly rowOf: Int32Array;
	/** By row: what its mark is written from besides row and column: index into the face's roles (of paths 0 across, 1 up, 2 drawn), piece, and side or corner (of bays their size). */
	readonly role: Uint8Array;
	readonly piece: Uint16Array;
	readonly at: Uint16Array;
	readonly words: Readonly<Record<string, WordColumn>>;
	readonly columns: Readonly<Record<string, Float64Array>>;
}

/** What marks of a face are written by. */
export interface MarkedFace {
	readonly key: string;
	readonly name: string;
	/** The face's own mark. */
	readonly mark: string;
	readonly template: string;
	readonly roles: readonly string[];
}

export const HOST_TABLES = ['panels', 'edges', 'nodes', 'paths', 'bays'] as const satisfies TableName[];
export type HostTableName = (typeof HOST_TABLES)[number];

/** What a host is called. */
export const HOST_WORDS = { panels: 'cell', edges: 'edge', nodes: 'node', paths: 'path', bays: 'bay' } as const;

/** The schedule of one face: a table for each kind of host. */
export interface FaceSchedule extends MarkedFace {
	/** Of drawn paths, in their order. */
	readonly drawnMarks: readonly string[];
	readonly tables: Readonly<Record<HostTableName, FaceTable>>;
}

/** The size of a bay as one number, and back. */
export const atOfBay = ({ across, up }: BaySize) => across * 256 + up;
export const bayAt = (at: number): BaySize => ({ across: at >> 8, up: at & 255 });

/** The mark of a row of a host's table. */
export function markOf(
	{ mark, template, roles, drawnMarks, tables }: FaceSchedule,
	name: HostTableName,
	r: number
): string {
	const { columns, role, piece, at } = tables[name];
	if (name === 'paths' && role[r] === DRAWN) return drawnMarks[columns.row![r]! - 1]!;
	if (name === 'paths') return pathMark(mark, role[r] === 0 ? 'across' : 'up', columns.row![r]!, piece[r]!);
	const cell = printMark(template, mark, columns.row![r]! - 1, columns.column![r]! - 1, roles[role[r]!], piece[r]);
	if (name === 'bays') {
		const { across, up } = bayAt(at[r]!);
		return cell + baySuffix(across, up);
	}
	return name === 'panels' ? cell : cell + hostSuffix(name === 'edges' ? 'edge' : 'node', at[r]!);
}

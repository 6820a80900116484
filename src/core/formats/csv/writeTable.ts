import { concatBytes, utf8ToBytes } from '@noble/hashes/utils.js';
import type { FaceTable, MarkedFace } from '../../schedule/faceTable.ts';
import { tableOf, type TableName } from '../../schedule/tables.ts';
import { hostSuffix, markParts, pieceLetter, roleText } from '../../tiling/marks.ts';
import { LENGTHS, OTHERS, type TableUnit } from '../../units/tableUnits.ts';
import type { Sink } from '../sink.ts';
import { defused } from './defused.ts';
import { ByteWriter, MOST_NUMBER_BYTES, putFixed } from '../byteWriter.ts';

const COMMA = 44;

/** A table of one face, with how its marks are written: as those of cells, or by a function. */
export interface WrittenTable {
	readonly face: MarkedFace;
	readonly table: Pick<FaceTable, 'count' | 'words' | 'columns'>;
	/** By row; left out where marks are those of cells, or of their sides and corners. */
	readonly markOf?: (row: number) => string;
}

/** Cells, their sides and their corners are marked by row and column of the cell. */
export interface CellMarkedTable extends WrittenTable {
	readonly table: FaceTable;
}

/** A table of the schedule over all faces as comma-separated values with a heading line, UTF-8. Source: RFC 4180. */
export function writeTable(
	name: TableName,
	faces: readonly (CellMarkedTable | Required<WrittenTable>)[],
	sink: Sink,
	units: TableUnit = 'mm'
): void {
	const out = new ByteWriter(sink);
	const { words, columns } = tableOf(name);
	const figures = Object.entries(columns).map(([column, { quantity, decimals, label }]) => {
		const { digits, ...unit } =
			quantity === 'length' || quantity === 'area' ? LENGTHS[units][quantity] : { digits: 0, ...OTHERS[quantity] };
		return { column, decimals: decimals + digits, label, ...unit };
	});
	const heads = [...Object.values(words).map((w) => w.label), ...figures.map(({ label, unit }) => label + unit)];
	out.text(['Mark', 'Face', ...heads].map(quote).join(',') + '\r\n');
	for (const { face, table, markOf } of faces) {
		const mark = markOf ? (r: number) => out.text(quote(markOf(r))) : cellMarks(out, name, face, table as FaceTable);
		// The face and the first word stand together in every row.
		const [first, ...others] = Object.keys(words).map((word) => {
			const { words: list, index } = table.words[word]!;
			return { list: list.map((w) => utf8ToBytes(`,${quote(w)}`)), index };
		});
		const faceBytes = utf8ToBytes(`,${quote(face.name)}`);
		const starts = first ? first.list.map((w) => concatBytes(faceBytes, w)) : [faceBytes];
		const values = figures.map(({ column, per, decimals }) => ({ values: table.columns[column]!, per, decimals }));
		const most = values.length * (MOST_NUMBER_BYTES + 1);
		for (let r = 0; r < table.count; r++) {
			mark(r);
			out.raw(starts[first ? first.index[r]! : 0]!);
			for (const { list, index } of others) out.raw(list[index[r]!]!);
			let at = out.begin(most);
			const { room } = out;
			for (let k = 0; k < values.length; k++) {
				const { values: column, per, decimals } = values[k]!;
				room.setUint8(at, COMMA);
				at = putFixed(room, at + 1, column[r]! / per, decimals);
			}
			out.end(at);
			out.raw(LINE_END);
		}
	}
	out.finish();
}

const LINE_END = utf8ToBytes('\r\n');

type MarkBytes =
	| { readonly kind: 'text'; readonly bytes: Uint8Array }
	| { readonly kind: 'row'; readonly digits: number }
	| { readonly kind: 'column'; readonly digits: number }
	| { readonly kind: 'role'; readonly roles: readonly Uint8Array[] };

/** Writes the marks of a face's rows as `markOf` words them, without making strings. */
function cellMarks(out: ByteWriter, name: TableName, face: MarkedFace, table: FaceTable): (r: number) => void {
	const parts = markBytes(face);
	const { role, piece, at } = table;
	const { row, column } = table.columns;
	const side = name === 'panels' ? undefined : name === 'edges' ? 'edge' : 'node';
	return (r) => {
		for (let k = 0; k < parts.length; k++) {
			const part = parts[k]!;
			if (part.kind === 'row') out.whole(row![r]!, part.digits);
			else if (part.kind === 'column') out.whole(column![r]!, part.digits);
			else out.raw(part.kind === 'text' ? part.bytes : part.roles[role[r]!]!);
		}
		if (piece[r]! > 0) out.text(pieceLetter(piece[r]!));
		if (side) out.text(hostSuffix(side, at[r]!));
	};
}

/** The parts of a face's marks, as far as they are the same for all its cells as bytes. */
function markBytes({ mark, template, roles }: MarkedFace): MarkBytes[] {
	return markParts(template).map((part): MarkBytes => {
		if ('text' in part) return { kind: 'text', bytes: utf8ToBytes(part.text) };
		if (part.field === 'face') return { kind: 'text', bytes: utf8ToBytes(mark) };
		if (part.field === 'role')
			return { kind: 'role', roles: (roles.length ? roles : ['']).map((r) => utf8ToBytes(roleText(r, part.size))) };
		return { kind: part.field, digits: Math.max(1, part.size) };
	});
}

/** A field, quoted where it must be, and no formula. */
export function quote(field: string): string {
	const plain = defused(field);
	return /[",\r\n]/.test(plain) ? `"${plain.replaceAll('"', '""')}"` : plain;
}

import { SIZE_CHANGED_MM } from '../tolerances.ts';
import type { Model } from './pipeline.ts';

interface FaceSizes {
	/** Of the face that they were taken from: the same hash, the same sizes. */
	readonly hash: string;
	readonly row: Uint32Array;
	readonly column: Uint32Array;
	/** Pieces of cut fields; left out where all are whole. */
	readonly piece?: Uint8Array;
	/** mm */
	readonly width: Float64Array;
	readonly height: Float64Array;
}

/** Places and sizes of a model's cells by face, enough to tell what a later model has changed. */
export type CellSizes = ReadonlyMap<string, FaceSizes>;

export interface ModelChange {
	/** Cells that were not there, that are not there any more, and whose width or height is another. */
	readonly added: number;
	readonly gone: number;
	readonly resized: number;
	readonly same: number;
}

/** Copies, so that they outlive the model; of faces that are as before those stay. O(cells of changed faces). */
export function cellSizes(model: Model, before: CellSizes = new Map()): CellSizes {
	return new Map(
		model.faces.map(({ key, hash, cells, readings }) => [
			key,
			before.get(key)?.hash === hash
				? before.get(key)!
				: {
						hash,
						row: cells.row.slice(),
						column: cells.column.slice(),
						...(cells.trim ? { piece: cells.trim.piece } : {}),
						width: readings.columns.width.slice(),
						height: readings.columns.height.slice()
					}
		])
	);
}

/** Compares two states by the keys of their cells. O(cells). */
export function compareSizes(before: CellSizes, after: CellSizes): ModelChange {
	const change = { added: 0, gone: 0, resized: 0, same: 0 };
	for (const [key, now] of after) {
		const old = before.get(key);
		if (!old) change.added += now.row.length;
		else if (old.hash === now.hash) change.same += now.row.length;
		else compareFace(old, now, change);
	}
	for (const [key, old] of before) if (!after.has(key)) change.gone += old.row.length;
	return change;
}

function compareFace(old: FaceSizes, now: FaceSizes, change: { -readonly [K in keyof ModelChange]: number }): void {
	const count = now.row.length;
	const places = new Map<number, number>();
	for (let c = 0; c < old.row.length; c++) {
		// A cell that stands at the same index needs no looking up.
		if (c >= count || placeOf(old, c) !== placeOf(now, c)) places.set(placeOf(old, c), c);
	}
	for (let c = 0; c < count; c++) {
		const place = placeOf(now, c);
		const was = c < old.row.length && placeOf(old, c) === place ? c : places.get(place);
		places.delete(place);
		if (was === undefined) change.added++;
		else if (differs(old.width[was]!, now.width[c]!) || differs(old.height[was]!, now.height[c]!)) change.resized++;
		else change.same++;
	}
	change.gone += places.size;
}

/** One number for a place and its piece; a face has fewer than 2^21 columns, a field fewer than 2^8 pieces. */
const placeOf = ({ row, column, piece }: FaceSizes, c: number) =>
	(row[c]! * 2_097_152 + column[c]!) * 256 + (piece?.[c] ?? 0);

const differs = (a: number, b: number) => Math.abs(a - b) > SIZE_CHANGED_MM;

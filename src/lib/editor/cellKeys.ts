import type { CellAddress } from '../stage/spaceView.ts';
import type { FaceView } from '../../core/view/faceView.ts';
import type { ModelView } from '../../core/view/modelView.ts';

/** A cell by its place, which outlives a change of the mass. */
export interface CellKey {
	readonly face: string;
	readonly row: number;
	readonly column: number;
	/** Piece of a cut field, 0 for the only one. */
	readonly piece: number;
}

export function keyOf(view: ModelView, { face, cell }: CellAddress): CellKey {
	const { key, row, column, trim } = view.faces[face]!;
	return { face: key, row: row[cell]!, column: column[cell]!, piece: trim?.piece[cell] ?? 0 };
}

/** Keys with others behind them, each once. */
export function joinKeys(keys: readonly CellKey[], more: readonly CellKey[]): CellKey[] {
	const textOf = (k: CellKey) => `${k.face} ${k.row} ${k.column} ${k.piece}`;
	return [...new Map([...keys, ...more].map((k) => [textOf(k), k])).values()];
}

/** Where cells are in a model, in the order of the keys; those that it lacks are left out. O(cells). */
export function findCells(view: ModelView, keys: readonly CellKey[]): CellAddress[] {
	if (keys.length === 0) return [];
	const places = view.faces.map((face) => {
		const wanted = new Map(
			keys.filter((k) => k.face === face.key).map((k) => [placeNumber(k.row, k.column, k.piece), -1])
		);
		for (let cell = 0; wanted.size > 0 && cell < face.cellCount; cell++) {
			const place = cellPlace(face, cell);
			if (wanted.has(place)) wanted.set(place, cell);
		}
		return wanted;
	});
	return keys.flatMap((key) => {
		const face = view.faces.findIndex((f) => f.key === key.face);
		const cell = places[face]?.get(placeNumber(key.row, key.column, key.piece)) ?? -1;
		return cell < 0 ? [] : [{ face, cell }];
	});
}

const cellPlace = ({ row, column, trim }: FaceView, cell: number) =>
	placeNumber(row[cell]!, column[cell]!, trim?.piece[cell] ?? 0);

/** One number for a place; a face has fewer than 2^21 columns, a field fewer than 2^8 pieces. */
const placeNumber = (row: number, column: number, piece: number) => (row * 2 ** 21 + column) * 2 ** 8 + piece;

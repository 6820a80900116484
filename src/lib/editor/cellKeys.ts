import type { CellAddress } from '../stage/spaceView.ts';
import type { ModelView } from '../worker/modelView.ts';

/** A cell by its place, which outlives a change of the mass. */
export interface CellKey {
	readonly face: string;
	readonly row: number;
	readonly column: number;
}

/** Where cells are in a model, in the order of the keys; those that it lacks are left out. O(cells). */
export function findCells(view: ModelView, keys: readonly CellKey[]): CellAddress[] {
	if (keys.length === 0) return [];
	const places = view.faces.map(({ key, cellCount, row, column }) => {
		const wanted = new Map(keys.filter((k) => k.face === key).map((k) => [placeNumber(k.row, k.column), -1]));
		for (let cell = 0; wanted.size > 0 && cell < cellCount; cell++) {
			const place = placeNumber(row[cell]!, column[cell]!);
			if (wanted.has(place)) wanted.set(place, cell);
		}
		return wanted;
	});
	return keys.flatMap((key) => {
		const face = view.faces.findIndex((f) => f.key === key.face);
		const cell = places[face]?.get(placeNumber(key.row, key.column)) ?? -1;
		return cell < 0 ? [] : [{ face, cell }];
	});
}

/** One number for a place; a face has far fewer columns than this. */
const placeNumber = (row: number, column: number) => row * 2 ** 24 + column;

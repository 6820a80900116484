import type { CellAddress } from '../stage/spaceView.ts';
import type { ModelView } from '../worker/modelView.ts';

/** A cell by its place, which outlives a change of the mass. */
export interface CellKey {
	readonly face: string;
	readonly row: number;
	readonly column: number;
}

/** The chosen cells, the same in every view. */
export class Selection {
	private keys = $state.raw<readonly CellKey[]>([]);
	/** Row of the schedule under the pointer, in whichever view. */
	hovered = $state.raw<CellAddress>();

	get count(): number {
		return this.keys.length;
	}

	/** Chooses one cell, or adds it to (or takes it from) those chosen. */
	choose(view: ModelView, address: CellAddress | undefined, add = false): void {
		if (!address) {
			if (!add) this.keys = [];
			return;
		}
		const key = keyOf(view, address);
		if (!add) this.keys = [key];
		else if (this.keys.some((k) => same(k, key))) this.keys = this.keys.filter((k) => !same(k, key));
		else this.keys = [...this.keys, key];
	}

	/** Chooses these cells and no others. */
	chooseAll(view: ModelView, addresses: readonly CellAddress[]): void {
		this.keys = addresses.map((address) => keyOf(view, address));
	}

	clear(): void {
		this.keys = [];
	}

	/** Where the chosen cells are in a model, in the order of choice; those that it lacks are left out. O(cells). */
	addresses(view: ModelView): CellAddress[] {
		if (this.keys.length === 0) return [];
		const places = view.faces.map(({ key, cellCount, row, column }) => {
			const wanted = new Map(
				this.keys.filter((k) => k.face === key).map((k) => [placeNumber(k.row, k.column), -1])
			);
			for (let cell = 0; wanted.size > 0 && cell < cellCount; cell++) {
				const place = placeNumber(row[cell]!, column[cell]!);
				if (wanted.has(place)) wanted.set(place, cell);
			}
			return wanted;
		});
		return this.keys.flatMap((key) => {
			const face = view.faces.findIndex((f) => f.key === key.face);
			const cell = places[face]?.get(placeNumber(key.row, key.column)) ?? -1;
			return cell < 0 ? [] : [{ face, cell }];
		});
	}
}

/** One number for a place; a face has far fewer columns than this. */
const placeNumber = (row: number, column: number) => row * 2 ** 24 + column;

function keyOf(view: ModelView, { face, cell }: CellAddress): CellKey {
	const { key, row, column } = view.faces[face]!;
	return { face: key, row: row[cell]!, column: column[cell]! };
}

const same = (a: CellKey, b: CellKey) =>
	a.face === b.face && a.row === b.row && a.column === b.column;

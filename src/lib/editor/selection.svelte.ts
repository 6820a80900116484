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

	clear(): void {
		this.keys = [];
	}

	/** Where the chosen cells are in a model; those that it does not have are left out. */
	addresses(view: ModelView): CellAddress[] {
		return this.keys.flatMap((key) => {
			const face = view.faces.findIndex((f) => f.key === key.face);
			const cells = view.faces[face];
			if (!cells) return [];
			for (let cell = 0; cell < cells.cellCount; cell++)
				if (cells.row[cell] === key.row && cells.column[cell] === key.column) return [{ face, cell }];
			return [];
		});
	}
}

function keyOf(view: ModelView, { face, cell }: CellAddress): CellKey {
	const { key, row, column } = view.faces[face]!;
	return { face: key, row: row[cell]!, column: column[cell]! };
}

const same = (a: CellKey, b: CellKey) =>
	a.face === b.face && a.row === b.row && a.column === b.column;

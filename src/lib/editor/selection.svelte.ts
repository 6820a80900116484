import { findCells, joinKeys, keyOf, type CellKey } from './cellKeys.ts';
import type { CellAddress } from '../stage/spaceView.ts';
import type { ModelView } from '../../core/view/modelView.ts';

/** The chosen cells, the same in every view. */
export class Selection {
	private keys = $state.raw<readonly CellKey[]>([]);
	private under = $state.raw<CellAddress>();

	/** The cell under the pointer, in whichever view. */
	get hovered(): CellAddress | undefined {
		return this.under;
	}
	/** A pointer that moves within a cell changes nothing, so that nothing is drawn for it. */
	set hovered(at: CellAddress | undefined) {
		if (at?.face !== this.under?.face || at?.cell !== this.under?.cell) this.under = at;
	}

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

	/** Chooses these cells and no others, or these too. */
	chooseAll(view: ModelView, addresses: readonly CellAddress[], add = false): void {
		const keys = addresses.map((address) => keyOf(view, address));
		this.keys = add ? joinKeys(this.keys, keys) : keys;
	}

	clear(): void {
		this.keys = [];
	}

	/** Where the chosen cells are in a model, in the order of choice; those that it lacks are left out. O(cells). */
	addresses(view: ModelView): CellAddress[] {
		return findCells(view, this.keys);
	}
}

const same = (a: CellKey, b: CellKey) =>
	a.face === b.face && a.row === b.row && a.column === b.column && a.piece === b.piece;

import type { CellTable } from '../cells.ts';

/** A cell that is cut, or a piece of one, on its way to the table: corners, and what the table tells of it. */
export interface CellPiece {
	/** Index of the cell before it was cut. */
	readonly cell: number;
	/** Nodes, and places, anticlockwise from the lower left. */
	corners: number[];
	places: number[];
	readonly holes: readonly number[][];
	readonly piece: number;
	cut: boolean;
	share: number;
	sliver: boolean;
	/** Nodes that its line runs straight on through: corners of its neighbours. */
	straight?: Set<number>;
	/** It has taken in a sliver of a neighbour, so that it is more than a piece of its cell. */
	joined?: boolean;
}

/** A whole cell as a piece of itself. */
export function wholePiece({ cornerStart, corners, places = corners }: CellTable, cell: number): CellPiece {
	const [from, to] = [cornerStart[cell], cornerStart[cell + 1]];
	return {
		cell,
		corners: [...corners.subarray(from, to)],
		places: [...places.subarray(from, to)],
		holes: [],
		piece: 0,
		cut: false,
		share: 1,
		sliver: false
	};
}

/** What becomes of a cell: it stays whole, nothing of it is left, it was never on the face, or pieces of it are left. */
export const WHOLE = 0;
export const LOST = 1;
export const BESIDE = 2;
export const CUT = 3;

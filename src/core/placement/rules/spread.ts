import { NO_CELL, type CellTable } from '../../tiling/cells.ts';
import type { Lists } from './hostLists.ts';

/** 1 where something holds. */
export function maskOf(count: number, holds: (h: number) => boolean): Uint8Array {
	const mask = new Uint8Array(count);
	for (let h = 0; h < count; h++) if (holds(h)) mask[h] = 1;
	return mask;
}

/** Cells within `steps` of those that are marked, going from neighbour to neighbour; the marked ones among them. O(cells + steps x edges). */
export function spreadCells({ count, edgeCount, edgeCells }: CellTable, marked: Uint8Array, steps: number): Uint8Array {
	const near = marked.slice();
	if (steps === 0) return near;
	/** By cell: in which step it was reached, 1 for those marked; 0 where it is not. */
	const reached = new Uint16Array(count);
	for (let c = 0; c < count; c++) reached[c] = near[c]!;
	for (let step = 1, more = true; more && step <= steps; step++) {
		more = false;
		for (let e = 0; e < edgeCount; e++) {
			const a = edgeCells[2 * e]!;
			const b = edgeCells[2 * e + 1]!;
			if (b === NO_CELL) continue;
			if (reached[a] === step && reached[b] === 0) reached[b] = step + 1;
			else if (reached[b] === step && reached[a] === 0) reached[a] = step + 1;
			else continue;
			more = true;
		}
	}
	for (let c = 0; c < count; c++) near[c] = reached[c] === 0 ? 0 : 1;
	return near;
}

/** Hosts of which a cell is marked. */
export const touching = ({ start, items }: Lists, marked: Uint8Array): Uint8Array =>
	maskOf(start.length - 1, (h) => {
		for (let k = start[h]!; k < start[h + 1]!; k++) if (marked[items[k]!] === 1) return true;
		return false;
	});

/** Cells that marked hosts are, lie between or touch. */
export function touchedCells({ start, items }: Lists, marked: Uint8Array, count: number): Uint8Array {
	const cells = new Uint8Array(count);
	for (let h = 0; h < marked.length; h++)
		if (marked[h] === 1) for (let k = start[h]!; k < start[h + 1]!; k++) cells[items[k]!] = 1;
	return cells;
}

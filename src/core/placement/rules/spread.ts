import { NO_CELL, type CellTable } from '../../tiling/cells.ts';
import type { Lists } from './ruleHosts.ts';

/** Cells within `steps` of those that are marked, going from neighbour to neighbour; the marked ones among them. O(cells + edges). */
export function spreadCells({ count, edgeCount, edgeCells }: CellTable, marked: Uint8Array, steps: number): Uint8Array {
	const near = marked.slice();
	if (steps === 0) return near;
	const neighbours = new Map<number, number[]>();
	const add = (a: number, b: number) => {
		const list = neighbours.get(a);
		if (list) list.push(b);
		else neighbours.set(a, [b]);
	};
	for (let e = 0; e < edgeCount; e++) {
		const [a, b] = [edgeCells[2 * e]!, edgeCells[2 * e + 1]!];
		if (b === NO_CELL) continue;
		add(a, b);
		add(b, a);
	}
	let front: number[] = [];
	for (let c = 0; c < count; c++) if (near[c] === 1) front.push(c);
	for (let s = 0; s < steps && front.length > 0; s++) {
		const next: number[] = [];
		for (const c of front)
			for (const other of neighbours.get(c) ?? []) {
				if (near[other] === 1) continue;
				near[other] = 1;
				next.push(other);
			}
		front = next;
	}
	return near;
}

/** Hosts of which a cell is marked. */
export const touching = ({ start, items }: Lists, marked: Uint8Array): Uint8Array =>
	Uint8Array.from({ length: start.length - 1 }, (_, h) => {
		for (let k = start[h]!; k < start[h + 1]!; k++) if (marked[items[k]!] === 1) return 1;
		return 0;
	});

/** Cells that marked hosts are, lie between or touch. */
export function touchedCells({ start, items }: Lists, marked: Uint8Array, count: number): Uint8Array {
	const cells = new Uint8Array(count);
	for (let h = 0; h < marked.length; h++)
		if (marked[h] === 1) for (let k = start[h]!; k < start[h + 1]!; k++) cells[items[k]!] = 1;
	return cells;
}

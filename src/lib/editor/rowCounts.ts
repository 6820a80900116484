import type { FaceView } from '../../core/view/faceView.ts';

/** Rows one after the other that have the same number of cells, counted from 1. */
export interface RowRun {
	readonly from: number;
	readonly to: number;
	readonly cells: number;
}

/** How many cells each row has, equal ones next to each other taken together. O(cells). */
export function rowRuns({ row, order, cellCount }: Pick<FaceView, 'row' | 'order' | 'cellCount'>): RowRun[] {
	const counted = order?.row ?? row;
	const cells: number[] = [];
	for (let c = 0; c < cellCount; c++) cells[counted[c]!] = (cells[counted[c]!] ?? 0) + 1;
	const runs: { from: number; to: number; cells: number }[] = [];
	for (let r = 0; r < cells.length; r++) {
		const count = cells[r] ?? 0;
		const last = runs.at(-1);
		if (last && last.cells === count) last.to = r + 1;
		else runs.push({ from: r + 1, to: r + 1, cells: count });
	}
	return runs;
}

/** First and last cell in the order of the marks; nothing on a face without cells. O(cells). */
export function endCells({
	row,
	column,
	order,
	trim,
	cellCount
}: Pick<FaceView, 'row' | 'column' | 'order' | 'trim' | 'cellCount'>): [number, number] | undefined {
	if (cellCount === 0) return undefined;
	const [rows, columns] = [order?.row ?? row, order?.column ?? column];
	const before = (a: number, b: number) =>
		(rows[a]! - rows[b]! || columns[a]! - columns[b]! || (trim?.piece[a] ?? 0) - (trim?.piece[b] ?? 0)) < 0;
	let [first, last] = [0, 0];
	for (let c = 1; c < cellCount; c++) {
		if (before(c, first)) first = c;
		if (before(last, c)) last = c;
	}
	return [first, last];
}

import { FRESH_ARRAYS, type ArraySource } from '../arrays.ts';
import type { NodeTable } from '../settingout/nodes.ts';
import { NO_CELL, type CellTable } from './cells.ts';

/** One four-cornered cell for each field of the setting-out, row by row. O(cells). */
export function tileRectangular(
	nodes: Pick<NodeTable, 'columns' | 'rows'>,
	arrays = FRESH_ARRAYS
): CellTable {
	const across = nodes.columns - 1;
	const up = nodes.rows - 1;
	const count = across * up;
	const cornerStart = arrays.uint32(count + 1);
	const corners = arrays.uint32(count * 4);
	const row = arrays.uint32(count);
	const column = arrays.uint32(count);
	for (let j = 0, c = 0; j < up; j++) {
		for (let i = 0; i < across; i++, c++) {
			const lower = j * nodes.columns + i;
			const upper = lower + nodes.columns;
			cornerStart[c] = c * 4;
			corners[c * 4] = lower;
			corners[c * 4 + 1] = lower + 1;
			corners[c * 4 + 2] = upper + 1;
			corners[c * 4 + 3] = upper;
			row[c] = j;
			column[c] = i;
		}
	}
	cornerStart[count] = count * 4;
	return { count, cornerStart, corners, row, column, ...rectangularEdges(nodes.columns, nodes.rows, arrays) };
}

/** The lines across, row by row, then the lines up; each with the cell before it named first. */
function rectangularEdges(columns: number, rows: number, arrays: ArraySource) {
	const [across, up] = [columns - 1, rows - 1];
	const edgeCount = across * rows + up * columns;
	const edgeNodes = arrays.uint32(edgeCount * 2);
	const edgeCells = arrays.int32(edgeCount * 2);
	let e = 0;
	const add = (a: number, b: number, before: number, after: number) => {
		edgeNodes[e] = a;
		edgeNodes[e + 1] = b;
		edgeCells[e] = before === NO_CELL ? after : before;
		edgeCells[e + 1] = before === NO_CELL ? NO_CELL : after;
		e += 2;
	};
	for (let j = 0; j < rows; j++)
		for (let i = 0; i < across; i++)
			add(
				j * columns + i,
				j * columns + i + 1,
				j > 0 ? (j - 1) * across + i : NO_CELL,
				j < up ? j * across + i : NO_CELL
			);
	for (let j = 0; j < up; j++)
		for (let i = 0; i < columns; i++)
			add(
				j * columns + i,
				(j + 1) * columns + i,
				i > 0 ? j * across + i - 1 : NO_CELL,
				i < across ? j * across + i : NO_CELL
			);
	return { edgeCount, edgeNodes, edgeCells };
}

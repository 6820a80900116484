import { FRESH_ARRAYS, type ArraySource } from '../arrays.ts';
import type { NodeTable } from '../settingout/nodes.ts';
import { NO_CELL, type CellTable } from './cells.ts';
import { edgesOf } from './edges.ts';

type Grid = Pick<NodeTable, 'columns' | 'rows' | 'ends'> & Partial<Pick<NodeTable, 'nodeOf' | 'collapsed' | 'fromEnd'>>;

const FROM_START = { across: false, up: false };

/**
 * One four-cornered cell for each field of the setting-out, row by row from the starting edge; three-cornered
 * ones where the face runs to a point, none where a field has shrunk to nothing. Over a seam the last column
 * meets the first. O(cells).
 */
export function tileRectangular(nodes: Grid, arrays = FRESH_ARRAYS): CellTable {
	const { columns, nodeOf, fromEnd = FROM_START } = nodes;
	const across = columns - 1;
	const up = nodes.rows - 1;
	const fields = across * up;
	const cornerStart = arrays.uint32(fields + 1);
	const corners = arrays.uint32(fields * 4);
	const row = arrays.uint32(fields);
	const column = arrays.uint32(fields);
	// Where the grid runs on everywhere all fields are alike.
	if (!nodeOf) {
		layFields(columns, across, up, fromEnd, cornerStart, corners, row, column);
		const { edgeCount, edgeNodes, edgeCells } = gridEdges(nodes, arrays);
		// Written out, not spread: see `alike` of kits.
		return { count: fields, cornerStart, corners, row, column, edgeCount, edgeNodes, edgeCells };
	}
	const places = arrays.uint32(fields * 4);
	let k = 0;
	let c = 0;
	const add = (place: number, start: number) => {
		const node = nodeOf[place]!;
		// Corners that have run together count once.
		if (k > start && (corners[k - 1] === node || corners[start] === node)) return;
		places[k] = place;
		corners[k++] = node;
	};
	for (let r = 0; r < up; r++) {
		const j = fromEnd.up ? up - 1 - r : r;
		for (let q = 0; q < across; q++) {
			const i = fromEnd.across ? across - 1 - q : q;
			const lowerLeft = j * columns + i;
			const start = k;
			add(lowerLeft, start);
			add(lowerLeft + 1, start);
			add(lowerLeft + columns + 1, start);
			add(lowerLeft + columns, start);
			if (k - start < 3) {
				k = start;
				continue;
			}
			cornerStart[c] = start;
			row[c] = r;
			column[c++] = q;
		}
	}
	cornerStart[c] = k;
	const whole = c === fields;
	const cells = {
		count: c,
		cornerStart: whole ? cornerStart : cornerStart.slice(0, c + 1),
		corners: k === corners.length ? corners : corners.slice(0, k),
		places: k === places.length ? places : places.slice(0, k),
		row: whole ? row : row.slice(0, c),
		column: whole ? column : column.slice(0, c)
	};
	return { ...cells, ...(nodes.collapsed ? edgesOf(cells, arrays) : gridEdges(nodes, arrays)) };
}

type FromEnd = NonNullable<Grid['fromEnd']>;

/** The four corners, the row and the column of every field. */
function layFields(
	columns: number,
	across: number,
	up: number,
	fromEnd: FromEnd,
	cornerStart: Uint32Array,
	corners: Uint32Array,
	row: Uint32Array,
	column: Uint32Array
): void {
	let k = 0;
	let c = 0;
	for (let r = 0; r < up; r++) {
		const first = (fromEnd.up ? up - 1 - r : r) * columns;
		for (let q = 0; q < across; q++, c++) {
			const lowerLeft = first + (fromEnd.across ? across - 1 - q : q);
			cornerStart[c] = k;
			corners[k++] = lowerLeft;
			corners[k++] = lowerLeft + 1;
			corners[k++] = lowerLeft + columns + 1;
			corners[k++] = lowerLeft + columns;
			row[c] = r;
			column[c] = q;
		}
	}
	cornerStart[c] = k;
}

/** The lines across, row by row, then the lines up; each with the cell before it named first. Lines that have run to a point are none. */
function gridEdges({ columns, rows, ends, nodeOf, fromEnd = FROM_START }: Grid, arrays: ArraySource) {
	const across = columns - 1;
	const up = rows - 1;
	const linesAcross = rows - Number(ends.bottomPoint) - Number(ends.topPoint) - Number(ends.closedUp);
	const linesUp = columns - Number(ends.startPoint) - Number(ends.endPoint) - Number(ends.closedAcross);
	const edgeCount = across * linesAcross + up * linesUp;
	const edgeNodes = arrays.uint32(edgeCount * 2);
	const edgeCells = arrays.int32(edgeCount * 2);
	const cells = fieldsBeside(across, up, ends, fromEnd);
	const first = { across: ends.bottomPoint ? 1 : 0, up: ends.startPoint ? 1 : 0 };
	const e = layLines(columns, linesAcross, across, first.across, 0, 1, 0, cells, edgeNodes, edgeCells);
	layLines(columns, up, linesUp, 0, first.up, columns, e, cells, edgeNodes, edgeCells);
	if (nodeOf) for (let k = 0; k < edgeNodes.length; k++) edgeNodes[k] = nodeOf[edgeNodes[k]!]!;
	return { edgeCount, edgeNodes, edgeCells };
}

/** Cell of the field in a row and a column is `row + column`, of those at `1 + j` and `1 + i`: beyond a border there is none, beyond a seam it is the one on the other side. */
interface FieldCells {
	readonly row: Int32Array;
	readonly column: Int32Array;
}

function fieldsBeside(across: number, up: number, ends: Grid['ends'], fromEnd: FromEnd): FieldCells {
	const line = (count: number, closed: boolean, back: boolean, step: number) =>
		Int32Array.from({ length: count + 2 }, (_, k) => {
			if ((k === 0 || k > count) && !closed) return NO_CELL;
			const field = (k - 1 + count) % count;
			return (back ? count - 1 - field : field) * step;
		});
	return {
		row: line(up, ends.closedUp, fromEnd.up, across),
		column: line(across, ends.closedAcross, fromEnd.across, 1)
	};
}

/** Lines from place to place, `step` apart, with the cells before and after each; answers where they end. */
function layLines(
	columns: number,
	rows: number,
	count: number,
	firstRow: number,
	firstColumn: number,
	step: number,
	start: number,
	{ row, column }: FieldCells,
	edgeNodes: Uint32Array,
	edgeCells: Int32Array
): number {
	let e = start;
	for (let j = firstRow; j < firstRow + rows; j++)
		for (let i = firstColumn; i < firstColumn + count; i++, e += 2) {
			const place = j * columns + i;
			const fieldRow = row[j + 1]!;
			const fieldColumn = column[i + 1]!;
			// A line across has a row of cells before it, a line up a column.
			const rowBefore = step === 1 ? row[j]! : fieldRow;
			const columnBefore = step === 1 ? fieldColumn : column[i]!;
			const before = rowBefore < 0 || columnBefore < 0 ? NO_CELL : rowBefore + columnBefore;
			const after = fieldRow < 0 || fieldColumn < 0 ? NO_CELL : fieldRow + fieldColumn;
			edgeNodes[e] = place;
			edgeNodes[e + 1] = place + step;
			edgeCells[e] = before === NO_CELL ? after : before;
			edgeCells[e + 1] = before === NO_CELL ? NO_CELL : after;
		}
	return e;
}

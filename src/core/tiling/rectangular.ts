import { FRESH_ARRAYS, type ArraySource } from '../arrays.ts';
import type { NodeTable } from '../settingout/nodes.ts';
import { NO_CELL, type CellTable } from './cells.ts';

type Grid = Pick<NodeTable, 'columns' | 'rows' | 'ends'>;

/**
 * One four-cornered cell for each field of the setting-out, row by row; three-cornered ones where the face
 * runs to a point. Over a seam the last column meets the first. O(cells).
 */
export function tileRectangular(nodes: Grid, arrays = FRESH_ARRAYS): CellTable {
	const { across, up } = fieldsOf(nodes);
	const node = nodeFinder(nodes);
	const { bottomPoint, topPoint, startPoint, endPoint } = nodes.ends;
	const count = across * up;
	const triangles = (Number(bottomPoint) + Number(topPoint)) * across + (Number(startPoint) + Number(endPoint)) * up;
	const cornerStart = arrays.uint32(count + 1);
	const corners = arrays.uint32(count * 4 - triangles);
	const row = arrays.uint32(count);
	const column = arrays.uint32(count);
	let k = 0;
	for (let j = 0, c = 0; j < up; j++) {
		for (let i = 0; i < across; i++, c++) {
			cornerStart[c] = k;
			const lowerLeft = node(i, j);
			const lowerRight = node(i + 1, j);
			const upperRight = node(i + 1, j + 1);
			const upperLeft = node(i, j + 1);
			// Corners that have run together count once.
			if (lowerLeft !== upperLeft) corners[k++] = lowerLeft;
			if (lowerRight !== lowerLeft) corners[k++] = lowerRight;
			if (upperRight !== lowerRight) corners[k++] = upperRight;
			if (upperLeft !== upperRight) corners[k++] = upperLeft;
			row[c] = j;
			column[c] = i;
		}
	}
	cornerStart[count] = k;
	return { count, cornerStart, corners, row, column, ...rectangularEdges(nodes, arrays) };
}

function fieldsOf({ columns, rows, ends }: Grid) {
	return { across: ends.closedAcross ? columns : columns - 1, up: ends.closedUp ? rows : rows - 1 };
}

/** Index of the node at a place of the grid, around seams and at points. */
function nodeFinder({ columns, rows, ends }: Grid) {
	const { bottomPoint, topPoint, startPoint, endPoint } = ends;
	return (i: number, j: number): number => {
		const column = i === columns ? 0 : i;
		const row = j === rows ? 0 : j;
		if ((bottomPoint && row === 0) || (topPoint && row === rows - 1)) return row * columns;
		if ((startPoint && column === 0) || (endPoint && column === columns - 1)) return column;
		return row * columns + column;
	};
}

/** The lines across, row by row, then the lines up; each with the cell before it named first. */
function rectangularEdges(grid: Grid, arrays: ArraySource) {
	const { columns, rows, ends } = grid;
	const { across, up } = fieldsOf(grid);
	const { bottomPoint, topPoint, startPoint, endPoint } = ends;
	const node = nodeFinder(grid);
	// Lines that have run to a point are none.
	const linesAcross = rows - Number(bottomPoint) - Number(topPoint);
	const linesUp = columns - Number(startPoint) - Number(endPoint);
	const edgeCount = across * linesAcross + up * linesUp;
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
	for (let j = bottomPoint ? 1 : 0; j < rows - (topPoint ? 1 : 0); j++) {
		const below = j > 0 ? j - 1 : ends.closedUp ? up - 1 : NO_CELL;
		const above = j < up ? j : NO_CELL;
		for (let i = 0; i < across; i++)
			add(
				node(i, j),
				node(i + 1, j),
				below === NO_CELL ? NO_CELL : below * across + i,
				above === NO_CELL ? NO_CELL : above * across + i
			);
	}
	for (let j = 0; j < up; j++)
		for (let i = startPoint ? 1 : 0; i < columns - (endPoint ? 1 : 0); i++) {
			const left = i > 0 ? i - 1 : ends.closedAcross ? across - 1 : NO_CELL;
			add(
				node(i, j),
				node(i, j + 1),
				left === NO_CELL ? NO_CELL : j * across + left,
				i < across ? j * across + i : NO_CELL
			);
		}
	return { edgeCount, edgeNodes, edgeCells };
}

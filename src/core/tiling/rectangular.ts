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
	const [across, up] = [columns - 1, nodes.rows - 1];
	const fields = across * up;
	const cornerStart = arrays.uint32(fields + 1);
	const corners = arrays.uint32(fields * 4);
	const places = nodeOf && arrays.uint32(fields * 4);
	const row = arrays.uint32(fields);
	const column = arrays.uint32(fields);
	let k = 0;
	let c = 0;
	const add = (place: number, start: number) => {
		const node = nodeOf ? nodeOf[place]! : place;
		// Corners that have run together count once.
		if (k > start && (corners[k - 1] === node || corners[start] === node)) return;
		if (places) places[k] = place;
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
		...(places ? { places: k === places.length ? places : places.slice(0, k) } : {}),
		row: whole ? row : row.slice(0, c),
		column: whole ? column : column.slice(0, c)
	};
	return { ...cells, ...(nodes.collapsed ? edgesOf(cells, arrays) : gridEdges(nodes, arrays)) };
}

/** The lines across, row by row, then the lines up; each with the cell before it named first. Lines that have run to a point are none. */
function gridEdges({ columns, rows, ends, nodeOf, fromEnd = FROM_START }: Grid, arrays: ArraySource) {
	const [across, up] = [columns - 1, rows - 1];
	const node = (i: number, j: number) => (nodeOf ? nodeOf[j * columns + i]! : j * columns + i);
	/** The cell of a field; beyond a border none, beyond a seam the one on the other side. */
	const cell = (i: number, j: number) => {
		if ((i < 0 || i >= across) && !ends.closedAcross) return NO_CELL;
		if ((j < 0 || j >= up) && !ends.closedUp) return NO_CELL;
		const [q, r] = [(i + across) % across, (j + up) % up];
		return (fromEnd.up ? up - 1 - r : r) * across + (fromEnd.across ? across - 1 - q : q);
	};
	const linesAcross = rows - Number(ends.bottomPoint) - Number(ends.topPoint) - Number(ends.closedUp);
	const linesUp = columns - Number(ends.startPoint) - Number(ends.endPoint) - Number(ends.closedAcross);
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
	const firstLine = ends.bottomPoint ? 1 : 0;
	for (let j = firstLine; j < firstLine + linesAcross; j++)
		for (let i = 0; i < across; i++) add(node(i, j), node(i + 1, j), cell(i, j - 1), cell(i, j));
	const firstUp = ends.startPoint ? 1 : 0;
	for (let j = 0; j < up; j++)
		for (let i = firstUp; i < firstUp + linesUp; i++) add(node(i, j), node(i, j + 1), cell(i - 1, j), cell(i, j));
	return { edgeCount, edgeNodes, edgeCells };
}

import { FRESH_ARRAYS } from '../arrays.ts';
import { SAME_FIELD } from '../tolerances.ts';
import type { NodeTable } from '../settingout/nodes.ts';
import { nodeOnGrid } from '../settingout/places.ts';
import { NO_CELL, type CellTable } from '../tiling/cells.ts';

const ACROSS = 0;
const UP = 1;
const DIAGONAL = 2;
const BORDER = 3;

/** How each edge runs on the grid, as `EDGE_READINGS.kind` numbers it. O(edges). */
export function edgeKinds(
	nodes: Pick<NodeTable, 'columns' | 'rows' | 'ends' | 'xy'>,
	{ edgeCount, edgeNodes, edgeCells }: CellTable,
	arrays = FRESH_ARRAYS
): Float64Array {
	const { columns, rows, ends } = nodes;
	const kinds = arrays.float64(edgeCount);
	const [a, b]: [Float64Array, Float64Array] = [new Float64Array(2), new Float64Array(2)];
	const atPoint = (y: number) => (ends.bottomPoint && y === 0) || (ends.topPoint && y === rows - 1);
	const grid = columns * rows;
	for (let e = 0; e < edgeCount; e++) {
		if (edgeCells[e * 2 + 1] === NO_CELL) {
			kinds[e] = BORDER;
			continue;
		}
		const p = edgeNodes[e * 2]!;
		const q = edgeNodes[e * 2 + 1]!;
		// Next to each other on the grid: nothing to be worked out.
		if (p < grid && q < grid && (q - p === 1 || p - q === 1) && Math.max(p, q) % columns !== 0) {
			kinds[e] = ACROSS;
			continue;
		}
		if (p < grid && q < grid && (q - p === columns || p - q === columns)) {
			kinds[e] = UP;
			continue;
		}
		nodeOnGrid(nodes, p, a);
		nodeOnGrid(nodes, q, b);
		const dx = atPoint(a[1]!) || atPoint(b[1]!) ? 0 : overSeam(b[0]! - a[0]!, columns - 1, ends.closedAcross);
		const dy = overSeam(b[1]! - a[1]!, rows - 1, ends.closedUp);
		kinds[e] = Math.abs(dy) < SAME_FIELD ? ACROSS : Math.abs(dx) < SAME_FIELD ? UP : DIAGONAL;
	}
	return kinds;
}

/** The shorter way around. */
const overSeam = (d: number, around: number, closed: boolean) => (closed ? d - Math.round(d / around) * around : d);

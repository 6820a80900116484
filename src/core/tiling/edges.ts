import { FRESH_ARRAYS } from '../arrays.ts';
import { NO_CELL, type CellTable } from './cells.ts';

/**
 * The edges of any cells, each once, in the order in which cells come to them; the cell that came first is
 * named first. Sides that run between the same nodes are one edge. O(sides).
 */
export function edgesOf(
	{ count, cornerStart, corners }: Pick<CellTable, 'count' | 'cornerStart' | 'corners'>,
	arrays = FRESH_ARRAYS
): Pick<CellTable, 'edgeCount' | 'edgeNodes' | 'edgeCells'> {
	const sides = cornerStart[count]!;
	const nodes = arrays.uint32(sides * 2);
	const cells = arrays.int32(sides * 2);
	let most = -1;
	for (let k = 0; k < sides; k++) if (corners[k]! > most) most = corners[k]!;
	// The edges of each node that is their lower one, as a chain: neighbours in the table are neighbours in memory.
	const first = new Int32Array(most + 1).fill(-1);
	const next = new Int32Array(sides);
	let edgeCount = 0;
	for (let c = 0; c < count; c++) {
		const from = cornerStart[c]!;
		const to = cornerStart[c + 1]!;
		for (let k = from; k < to; k++) {
			const a = corners[k]!;
			const b = corners[k + 1 < to ? k + 1 : from]!;
			const low = a < b ? a : b;
			const other = a < b ? b : a;
			let e = first[low]!;
			while (e >= 0 && nodes[e * 2]! !== other && nodes[e * 2 + 1]! !== other) e = next[e]!;
			if (e >= 0) {
				cells[e * 2 + 1] = c;
				continue;
			}
			nodes[edgeCount * 2] = a;
			nodes[edgeCount * 2 + 1] = b;
			cells[edgeCount * 2] = c;
			cells[edgeCount * 2 + 1] = NO_CELL;
			next[edgeCount] = first[low]!;
			first[low] = edgeCount++;
		}
	}
	return { edgeCount, edgeNodes: nodes.slice(0, edgeCount * 2), edgeCells: cells.slice(0, edgeCount * 2) };
}

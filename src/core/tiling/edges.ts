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
	// An open-addressing table of edges by their nodes; entries are edge indices.
	const size = 2 ** Math.ceil(Math.log2(Math.max(4, sides * 2)));
	const table = new Int32Array(size).fill(-1);
	let edgeCount = 0;
	for (let c = 0; c < count; c++)
		for (let k = cornerStart[c]!; k < cornerStart[c + 1]!; k++) {
			const a = corners[k]!;
			const b = corners[k + 1 < cornerStart[c + 1]! ? k + 1 : cornerStart[c]!]!;
			const [low, high] = a < b ? [a, b] : [b, a];
			let slot = (Math.imul(low, 0x9e3779b1) ^ Math.imul(high, 0x85ebca6b)) >>> 0;
			for (slot &= size - 1; ; slot = (slot + 1) & (size - 1)) {
				const e = table[slot]!;
				if (e < 0) {
					table[slot] = edgeCount;
					nodes[edgeCount * 2] = a;
					nodes[edgeCount * 2 + 1] = b;
					cells[edgeCount * 2] = c;
					cells[edgeCount * 2 + 1] = NO_CELL;
					edgeCount++;
					break;
				}
				const [p, q] = [nodes[e * 2]!, nodes[e * 2 + 1]!];
				if ((p === a && q === b) || (p === b && q === a)) {
					cells[e * 2 + 1] = c;
					break;
				}
			}
		}
	return { edgeCount, edgeNodes: nodes.slice(0, edgeCount * 2), edgeCells: cells.slice(0, edgeCount * 2) };
}

import { firstOf, FRESH_ARRAYS } from '../arrays.ts';
import { Uint32List } from '../lists.ts';
import { NO_CELL, type CellTable } from './cells.ts';

type Edges = Pick<CellTable, 'edgeCount' | 'edgeNodes' | 'edgeCells' | 'edgeBends'>;

/**
 * The edges of any cells, each once, in the order in which cells come to them; the cell that came first is
 * named first. Sides that run between the same nodes are one edge; the curved side of a cell along a round opening is
 * one edge, through all its points. O(sides).
 */
export function edgesOf(
	{ count, cornerStart, corners, round }: Pick<CellTable, 'count' | 'cornerStart' | 'corners' | 'round'>,
	arrays = FRESH_ARRAYS
): Edges {
	const sides = cornerStart[count]!;
	const nodes = arrays.uint32(sides * 2);
	const cells = arrays.int32(sides * 2);
	const bends = round && { start: new Uint32List(), nodes: new Uint32List() };
	let most = -1;
	for (let k = 0; k < sides; k++) if (corners[k]! > most) most = corners[k]!;
	// The edges of each node that is their lower one, as a chain: neighbours in the table are neighbours in memory.
	const first = arrays.int32(most + 1).fill(-1);
	const next = arrays.int32(sides);
	let edgeCount = 0;
	for (let c = 0; c < count; c++) {
		const from = cornerStart[c]!;
		const to = cornerStart[c + 1]!;
		for (let k = from; k < to; k++) {
			if (round && round[k] === 1) continue;
			const a = corners[k]!;
			let end = k + 1 < to ? k + 1 : from;
			const bend = bends?.nodes.length;
			if (round && bends)
				for (; round[end] === 1 && end !== k; end = end + 1 < to ? end + 1 : from) bends.nodes.push(corners[end]!);
			const b = corners[end]!;
			const low = a < b ? a : b;
			if (bends === undefined || bends.nodes.length === bend) {
				const other = a < b ? b : a;
				let e = first[low]!;
				while (e >= 0 && nodes[e * 2]! !== other && nodes[e * 2 + 1]! !== other) e = next[e]!;
				if (e >= 0) {
					cells[e * 2 + 1] = c;
					continue;
				}
				next[edgeCount] = first[low]!;
				first[low] = edgeCount;
			}
			bends?.start.push(bend!);
			nodes[edgeCount * 2] = a;
			nodes[edgeCount * 2 + 1] = b;
			cells[edgeCount * 2] = c;
			cells[edgeCount * 2 + 1] = NO_CELL;
			edgeCount++;
		}
	}
	bends?.start.push(bends.nodes.length);
	arrays.spare(first, next);
	return {
		edgeCount,
		edgeNodes: firstOf(arrays, nodes, edgeCount * 2),
		edgeCells: firstOf(arrays, cells, edgeCount * 2),
		...(bends ? { edgeBends: { start: bends.start.array.slice(), nodes: bends.nodes.array.slice() } } : {})
	};
}

/** Edges as straight segments for drawing: two nodes each, and the edge that each belongs to. */
export function edgeSegments({
	edgeCount,
	edgeNodes,
	edgeBends
}: Pick<Edges, 'edgeCount' | 'edgeNodes' | 'edgeBends'>): { readonly nodes: Uint32Array; readonly edge: Uint32Array } {
	if (!edgeBends) return { nodes: edgeNodes, edge: Uint32Array.from({ length: edgeCount }, (_, e) => e) };
	const [nodes, edge] = [new Uint32List(), new Uint32List()];
	for (let e = 0; e < edgeCount; e++) {
		let at = edgeNodes[e * 2]!;
		for (const next of nodesThrough(edgeBends, e)) at = add(at, next, e);
		add(at, edgeNodes[e * 2 + 1]!, e);
	}
	return { nodes: nodes.array, edge: edge.array };

	function add(from: number, to: number, e: number): number {
		nodes.push(from);
		nodes.push(to);
		edge.push(e);
		return to;
	}
}

const NONE = new Uint32Array();

/** The nodes between an edge's ends. */
export const nodesThrough = (bends: Edges['edgeBends'], edge: number): Uint32Array =>
	bends ? bends.nodes.subarray(bends.start[edge], bends.start[edge + 1]) : NONE;

import { hypot } from '../elementary/index.ts';
import type { NodeTable } from './nodes.ts';

/** What a node's cells are told by: `corners` of cell c are those from `cornerStart[c]` on. */
interface CellCorners {
	readonly count: number;
	readonly cornerStart: Uint32Array;
	readonly corners: Uint32Array;
}

/**
 * The outward normals of nodes, stride 3; where the face has none, as at a point, the mean of those of the cells around
 * (`cellNormal`, stride 3), as a unit. The nodes' own array where all of them have one. O(corners).
 */
export function nodeNormals(
	{ normal }: Pick<NodeTable, 'normal'>,
	cells: CellCorners,
	cellNormal: Float64Array
): Float64Array {
	const bare = (n: number) => normal[n * 3] === 0 && normal[n * 3 + 1] === 0 && normal[n * 3 + 2] === 0;
	const missing: number[] = [];
	for (let n = 0; n < normal.length / 3; n++) if (bare(n)) missing.push(n);
	if (!missing.length) return normal;
	const way = Float64Array.from(normal);
	for (let c = 0; c < cells.count; c++)
		for (let k = cells.cornerStart[c]!; k < cells.cornerStart[c + 1]!; k++) {
			const n = cells.corners[k]!;
			if (bare(n)) for (let x = 0; x < 3; x++) way[n * 3 + x]! += cellNormal[c * 3 + x]!;
		}
	for (const n of missing) {
		const size = hypot(way[n * 3]!, way[n * 3 + 1]!, way[n * 3 + 2]!) || 1;
		for (let x = 0; x < 3; x++) way[n * 3 + x]! /= size;
	}
	return way;
}

/**
 * The second layer of a setting-out: every node lifted along its normal by a distance, the same or its own, mm, stride 3. A
 * node where the face has no normal goes with the cells around it.
 */
export function liftNodes(
	nodes: Pick<NodeTable, 'position' | 'normal'>,
	distance: number | Float64Array,
	cells: CellCorners,
	cellNormal: Float64Array
): Float64Array {
	const { position } = nodes;
	const way = nodeNormals(nodes, cells, cellNormal);
	const lifted = new Float64Array(position.length);
	for (let n = 0; n < position.length; n += 3) {
		const by = typeof distance === 'number' ? distance : distance[n / 3]!;
		const size = hypot(way[n]!, way[n + 1]!, way[n + 2]!) || 1;
		for (let x = 0; x < 3; x++) lifted[n + x] = position[n + x]! + (way[n + x]! / size) * by;
	}
	return lifted;
}

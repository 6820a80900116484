import { hypot } from '../elementary/index.ts';
import type { NodeTable } from './nodes.ts';

/**
 * The second layer of a setting-out: every node lifted along its normal by a distance, the same or its own, mm, stride 3. A node where the face
 * has no normal, as at a point, goes with the cells around it (`cellNormal`, stride 3, by `corners`).
 */
export function liftNodes(
	{ position, normal }: Pick<NodeTable, 'position' | 'normal'>,
	distance: number | Float64Array,
	cells: { readonly count: number; readonly cornerStart: Uint32Array; readonly corners: Uint32Array },
	cellNormal: Float64Array
): Float64Array {
	const way = Float64Array.from(normal);
	const bare = (n: number) => normal[n * 3] === 0 && normal[n * 3 + 1] === 0 && normal[n * 3 + 2] === 0;
	for (let c = 0; c < cells.count; c++)
		for (let k = cells.cornerStart[c]!; k < cells.cornerStart[c + 1]!; k++) {
			const n = cells.corners[k]!;
			if (bare(n)) for (let x = 0; x < 3; x++) way[n * 3 + x]! += cellNormal[c * 3 + x]!;
		}
	const lifted = new Float64Array(position.length);
	for (let n = 0; n < position.length; n += 3) {
		const by = typeof distance === 'number' ? distance : distance[n / 3]!;
		const size = hypot(way[n]!, way[n + 1]!, way[n + 2]!) || 1;
		for (let x = 0; x < 3; x++) lifted[n + x] = position[n + x]! + (way[n + x]! / size) * by;
	}
	return lifted;
}

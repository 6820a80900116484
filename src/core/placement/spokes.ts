import { atan2 } from '../elementary/index.ts';
import type { MeasuredFace } from '../readings/faceReadings.ts';
import { NO_CELL } from '../tiling/cells.ts';
import { wayAt } from '../geometry/vectors.ts';

/** The edges around every node. */
export interface Spokes {
	/** By node: where its numbers start in `corners`; one more entry than nodes. */
	readonly cornerStart: Uint32Array;
	/** Each node, then the far ends of its edges, anticlockwise seen from outside. */
	readonly corners: Uint32Array;
	/** 1 where an edge of the node has one cell only. */
	readonly border: Uint8Array;
	/** 1 where an edge ends. */
	readonly used: Uint8Array;
}

/** Sorts the edges around every node by their angle about its normal, from the lowest-numbered neighbour on. O(edges log valence). */
export function spokesOf({ nodes, cells }: Pick<MeasuredFace, 'nodes' | 'cells'>): Spokes {
	const { position, normal } = nodes;
	const count = position.length / 3;
	const valence = new Uint32Array(count);
	const border = new Uint8Array(count);
	for (let e = 0; e < cells.edgeCount; e++)
		for (const end of [0, 1]) {
			const n = cells.edgeNodes[e * 2 + end]!;
			valence[n]!++;
			if (cells.edgeCells[e * 2 + 1] === NO_CELL) border[n] = 1;
		}
	const cornerStart = new Uint32Array(count + 1);
	for (let n = 0; n < count; n++) cornerStart[n + 1] = cornerStart[n]! + valence[n]! + 1;
	const corners = new Uint32Array(cornerStart[count]!);
	const filled = new Uint32Array(count);
	for (let n = 0; n < count; n++) corners[cornerStart[n]!] = n;
	for (let e = 0; e < cells.edgeCount; e++) {
		const [a, b] = [cells.edgeNodes[e * 2]!, cells.edgeNodes[e * 2 + 1]!];
		corners[cornerStart[a]! + ++filled[a]!] = b;
		corners[cornerStart[b]! + ++filled[b]!] = a;
	}
	for (let n = 0; n < count; n++) {
		if (valence[n]! < 2) continue;
		const around = corners.subarray(cornerStart[n]! + 1, cornerStart[n + 1]!).sort();
		const [x, y, z] = [normal[n * 3]!, normal[n * 3 + 1]!, normal[n * 3 + 2]!];
		const way = (m: number) => wayAt(position, n * 3, m * 3);
		const first = way(around[0]!);
		const side = [y * first[2] - z * first[1], z * first[0] - x * first[2], x * first[1] - y * first[0]] as const;
		// The first way square to the normal, so that both axes are as long.
		const front = [side[1] * z - side[2] * y, side[2] * x - side[0] * z, side[0] * y - side[1] * x] as const;
		const angles = new Map(
			[...around].map((m, k) => {
				const d = way(m);
				const angle = atan2(
					d[0] * side[0] + d[1] * side[1] + d[2] * side[2],
					d[0] * front[0] + d[1] * front[1] + d[2] * front[2]
				);
				return [m, k === 0 ? 0 : angle < 0 ? angle + 2 * Math.PI : angle] as const;
			})
		);
		around.set([...around].sort((a, b) => angles.get(a)! - angles.get(b)!));
	}
	return { cornerStart, corners, border, used: Uint8Array.from(valence, (v) => (v > 0 ? 1 : 0)) };
}

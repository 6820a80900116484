import { measureCells } from '../../readings/measureCells.ts';
import { COINCIDENT_MM } from '../../tolerances.ts';
import { outlinesOf, type CellTable } from '../../tiling/cells.ts';
import type { HostFace } from '../faceHosts.ts';
import type { Turn } from './schema.ts';

/**
 * By cell: at which of its corners, counted from 0, a kit begins there. Ties go to the corner that comes first.
 * O(corners).
 */
export function turnsOf(turn: Turn, { nodes, cells }: Pick<HostFace, 'nodes' | 'cells'>): Uint8Array {
	const { cornerStart, corners } = outlinesOf(cells);
	const { position } = nodes;
	return Uint8Array.from({ length: cells.count }, (_, cell) => {
		const from = cornerStart[cell]!;
		const n = cornerStart[cell + 1]! - from;
		if (turn.kind === 'quarters') return turn.quarters % n;
		const at = (k: number, c: number) => position[corners[from + (k % n)]! * 3 + c]!;
		const middle = [0, 1, 2].map((c) => Array.from({ length: n }, (_, k) => at(k, c)).reduce((a, b) => a + b, 0) / n);
		const way =
			turn.kind === 'direction'
				? [turn.x, turn.y, turn.z]
				: turn.kind === 'point'
					? [turn.x - middle[0]!, turn.y - middle[1]!, turn.z - middle[2]!]
					: [0, 0, 1];
		// The first side lies as far as can be against the way; of the lowest corner it is the corner itself.
		const height = (k: number) =>
			turn.kind === 'lowest'
				? at(k, 2)
				: way.reduce((sum, w, c) => sum + w * ((at(k, c) + at(k + 1, c)) / 2 - middle[c]!), 0);
		let best = 0;
		let least = height(0);
		for (let k = 1; k < n; k++) {
			const here = height(k);
			if (here < least - COINCIDENT_MM) [least, best] = [here, k];
		}
		return best;
	});
}

/** A face whose cells begin at other corners, with the readings that they have then. O(corners). */
export function turnFace(face: HostFace, turns: Uint8Array): HostFace {
	const { cells, nodes } = face;
	const first = outlinesOf(cells);
	const { cornerStart, corners, straight } = cells;
	/** By entry: where it comes from. */
	const from = new Uint32Array(corners.length);
	for (let c = 0; c < cells.count; c++) {
		const [start, n] = [cornerStart[c]!, cornerStart[c + 1]! - cornerStart[c]!];
		let by = turns[c]!;
		if (straight && n > 0) {
			// Turns count corners where the line bends; entries hold those that it runs straight on through, too.
			const node = first.corners[first.cornerStart[c]! + by];
			for (by = 0; by < n && !(straight[start + by] === 0 && corners[start + by] === node);) by++;
		}
		for (let k = 0; k < n; k++) from[start + k] = start + ((k + by) % n);
	}
	const moved = <T extends Uint32Array | Uint8Array>(list: T | undefined) =>
		list && (list.map((_, k) => list[from[k] ?? k]!) as T);
	const turned: CellTable = {
		...cells,
		corners: moved(corners)!,
		...(cells.places ? { places: moved(cells.places)! } : {}),
		...(straight ? { straight: moved(straight)! } : {}),
		...(cells.round ? { round: moved(cells.round)! } : {})
	};
	return { ...face, cells: turned, readings: measureCells(nodes, turned), unturned: face.unturned ?? face };
}

import { measureCells } from '../../readings/measureCells.ts';
import type { CellTable } from '../../tiling/cells.ts';
import type { HostFace } from '../faceHosts.ts';

/** A face on which some of the cut cells are whole again, with the readings that they have then. O(corners). */
export function wholeFace(face: HostFace, hosts: Uint32Array): HostFace {
	const { cells } = face;
	const { count, cornerStart, trim } = cells;
	const wholes = new Map([...hosts].map((c) => [c, trim!.wholes.get(c)!]));
	const starts = new Uint32Array(count + 1);
	for (let c = 0; c < count; c++)
		starts[c + 1] = starts[c]! + (wholes.get(c)?.corners.length ?? cornerStart[c + 1]! - cornerStart[c]!);
	/** A list by corner; what a whole cell has there is a corner that turns. */
	const refilled = <T extends Uint32Array | Uint8Array>(list: T, own?: 'corners' | 'places'): T => {
		const out = new (list.constructor as new (length: number) => T)(starts[count]!);
		for (let c = 0; c < count; c++) {
			const whole = wholes.get(c);
			if (!whole) out.set(list.subarray(cornerStart[c], cornerStart[c + 1]), starts[c]);
			else if (own) out.set(whole[own], starts[c]);
		}
		return out;
	};
	const cut = trim!.cut.slice();
	for (const c of hosts) cut[c] = 0;
	const whole: CellTable = {
		...cells,
		cornerStart: starts,
		corners: refilled(cells.corners, 'corners'),
		places: refilled(cells.places ?? cells.corners, 'places'),
		...(cells.straight ? { straight: refilled(cells.straight) } : {}),
		...(cells.round ? { round: refilled(cells.round) } : {}),
		trim: { ...trim!, cut, holes: new Map([...trim!.holes].filter(([c]) => !wholes.has(c))) }
	};
	return { ...face, cells: whole, readings: measureCells(face.nodes, whole) };
}

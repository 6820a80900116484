import { BLOCK } from './formula/compile.ts';
import type { HostColumns } from './hosts.ts';
import type { Block, KitProgram } from './program.ts';
import type { SolidPort } from './solids.ts';

/** A block over the first hosts of a run, with its constants filled in; later ones move on by `from`. */
export function newBlock(
	program: KitProgram,
	hosts: HostColumns,
	count: number,
	solids: SolidPort | undefined,
	points: Float64Array = new Float64Array(count * program.pointsPerHost * 3)
): Block & { from: number; count: number } {
	const columns = Array.from({ length: program.slots }, () => EMPTY);
	for (const [slot, value] of program.constants) columns[slot] = new Float64Array(BLOCK).fill(value);
	return {
		hosts: alike(hosts),
		from: 0,
		count: Math.min(count, BLOCK),
		points,
		stride: program.pointsPerHost * 3,
		columns,
		masks: Array.from({ length: program.maskCount }, () => new Uint8Array(BLOCK)),
		failed: new Uint16Array(count),
		clamped: new Map(program.kit.parameters.map((p) => [p.name, new Uint8Array(count)])),
		solids
	};
}

/**
 * The same columns in an object that is always built alike: engines give objects that are spread from others a shape of their
 * own each time, and compile what reads them anew.
 */
const alike = (hosts: HostColumns): HostColumns => {
	const { ids, owners, spokes, cornerStart, corners, closed, position, normal, pointNormal, upper, pointValues } =
		hosts;
	const all = {
		ids,
		owners,
		spokes,
		cornerStart,
		corners,
		closed,
		position,
		normal,
		pointNormal,
		upper,
		pointValues,
		holes: hosts.holes,
		reading: hosts.reading,
		ways: hosts.ways,
		onFace: hosts.onFace
	};
	return all as HostColumns;
};

const EMPTY = new Float64Array(0);

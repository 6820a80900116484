import { FRESH_ARRAYS, type ArraySource } from '../arrays.ts';
import { evaluateKit, resolve, type KitResult, type KitValues } from '../kit/evaluate.ts';
import { compileKit } from '../kit/program.ts';
import type { Kit } from '../kit/schema.ts';
import type { CellReadings } from '../readings/measureCells.ts';
import type { NodeTable } from '../settingout/nodes.ts';
import type { CellTable } from '../tiling/cells.ts';

/** Density in kg/m3 by material id. */
export type Densities = Readonly<Record<string, number>>;

/** One part of a kit on many hosts, with its weight. */
export interface PlacedPart {
	readonly name: string;
	readonly role: string;
	readonly material: string;
	readonly scheduled: boolean;
	readonly triangles: Uint16Array;
	/** mm2 and mm, one a host. */
	readonly area: Float64Array;
	readonly length: Float64Array;
	/** kg/mm2: density times thickness. */
	readonly weightPerArea: number;
}

/** A kit on the cells of one corner count of a face. */
export interface Placement {
	readonly kit: Kit;
	readonly hosts: Uint32Array;
	readonly pointsPerHost: number;
	/** mm, stride 3. */
	readonly points: Float64Array;
	readonly parts: readonly PlacedPart[];
	readonly failures: KitResult['failures'];
}

/** Places a kit on every cell of a face, one placement for each corner count that occurs. O(cells). */
export function placeKit(
	kit: Kit,
	values: KitValues,
	densities: Densities,
	nodes: Pick<NodeTable, 'position'>,
	cells: CellTable,
	readings: CellReadings,
	arrays = FRESH_ARRAYS
): Placement[] {
	return hostsByCorners(cells, arrays).map(([corners, hosts]) => {
		const columns = {
			cells: hosts,
			cornerStart: cells.cornerStart,
			corners: cells.corners,
			position: nodes.position,
			normal: readings.normal
		};
		const result = evaluateKit(compileKit(kit, corners), values, columns, arrays);
		return {
			kit,
			hosts: result.hosts,
			pointsPerHost: result.program.pointsPerHost,
			points: result.points,
			failures: result.failures,
			parts: result.parts.map(({ pattern, area, length }) => {
				const { name, role, material, scheduled, thickness } = pattern.step;
				return {
					name,
					role,
					material,
					scheduled,
					triangles: pattern.triangles,
					area,
					length,
					// kg/m3 * mm / (mm3 in a m3)
					weightPerArea: (densities[material]! * resolve(thickness, values)) / 1e9
				};
			})
		};
	});
}

/** Cell indices grouped by their number of corners, fewest first. */
function hostsByCorners(cells: CellTable, arrays: ArraySource): [number, Uint32Array][] {
	const counts = new Map<number, number>();
	const cornersOf = (c: number) => cells.cornerStart[c + 1]! - cells.cornerStart[c]!;
	for (let c = 0; c < cells.count; c++)
		counts.set(cornersOf(c), (counts.get(cornersOf(c)) ?? 0) + 1);
	return [...counts]
		.sort(([a], [b]) => a - b)
		.map(([corners, count]) => {
			const hosts = arrays.uint32(count);
			for (let c = 0, k = 0; c < cells.count; c++) if (cornersOf(c) === corners) hosts[k++] = c;
			return [corners, hosts];
		});
}

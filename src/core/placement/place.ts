import { FRESH_ARRAYS, type ArraySource } from '../arrays.ts';
import { evaluateKit, resolve, type HostColumns, type KitResult, type KitValues } from '../kit/evaluate.ts';
import { fillSheets } from '../kit/fillSheets.ts';
import { compileKit } from '../kit/program.ts';
import type { Kit } from '../kit/schema.ts';
import type { CellReadings } from '../readings/measureCells.ts';
import type { NodeTable } from '../settingout/nodes.ts';
import { isSpecial, outlinesOf, type CellOutlines, type CellTable } from '../tiling/cells.ts';

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

/** Cells that a kit is not made for. */
export interface Misfit {
	readonly corners: number;
	readonly cells: Uint32Array;
}

export interface Placed {
	readonly placements: readonly Placement[];
	readonly misfits: readonly Misfit[];
}

/** Cells of so many corners often have sides that are shorter than an inset is wide. */
const SHORT_SIDED = 5;
/** Hosts that are tried again one by one, since that takes far longer than all at once. */
const MOST_AGAIN = 2000;

/**
 * Places a kit on every cell of a face: one placement for each corner count that occurs, and one for each
 * cell that is cut, dented or too short-sided for the others' way. O(cells).
 */
export function placeKit(
	kit: Kit,
	values: KitValues,
	densities: Densities,
	nodes: Pick<NodeTable, 'position'>,
	cells: CellTable,
	readings: CellReadings,
	arrays = FRESH_ARRAYS
): Placed {
	const placements: Placement[] = [];
	const misfits: Misfit[] = [];
	const outlines = outlinesOf(cells);
	const columns = { ...outlines, position: nodes.position, normal: readings.normal };
	for (const { corners, hosts, single } of groupHosts(cells, outlines, arrays)) {
		if (corners < kit.host.leastCorners || corners > kit.host.greatestCorners) {
			misfits.push({ corners, cells: hosts });
			continue;
		}
		const alone = (cell: number) => evaluateSingle(kit, values, { ...columns, cells: Uint32Array.of(cell) }, cells, corners);
		const result = single ? alone(hosts[0]!) : evaluateKit(compileKit(kit, corners), values, { ...columns, cells: hosts }, arrays);
		const again = !single && corners >= SHORT_SIDED && failureCount(result) <= MOST_AGAIN ? mend(result, alone) : { failures: result.failures, mended: [] };
		placements.push(placementOf(kit, values, densities, { ...result, failures: again.failures }));
		for (const mended of again.mended) placements.push(placementOf(kit, values, densities, mended));
	}
	return { placements, misfits };
}

const failureCount = ({ failures }: KitResult) => [...failures.values()].reduce((n, cells) => n + cells.length, 0);

/** Tries the hosts that failed each by itself, where sides too short for an inset vanish; those that fail again are left. */
function mend({ failures }: KitResult, alone: (cell: number) => KitResult): { failures: KitResult['failures']; mended: KitResult[] } {
	const mended: KitResult[] = [];
	const left = new Map<string, Uint32Array>();
	for (const [step, cells] of failures) {
		const still = cells.filter((cell) => {
			const result = alone(cell);
			if (result.hosts.length > 0) mended.push(result);
			return result.hosts.length === 0;
		});
		if (still.length) left.set(step, still);
	}
	return { failures: left, mended };
}

/** A cell by itself, its sheets filled as its outline is. */
function evaluateSingle(kit: Kit, values: KitValues, columns: HostColumns, cells: CellTable, corners: number): KitResult {
	const cell = columns.cells[0]!;
	const holes = cells.trim?.holes.get(cell) ?? [];
	const program = compileKit(kit, corners, holes.map((h) => h.length));
	const host = { ...columns, holes };
	const first = evaluateKit(program, values, host);
	if (first.hosts.length === 0) return first;
	const n = cell * 3;
	return evaluateKit(fillSheets(program, first.points, [columns.normal[n]!, columns.normal[n + 1]!, columns.normal[n + 2]!]), values, host);
}

function placementOf(kit: Kit, values: KitValues, densities: Densities, result: KitResult): Placement {
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
}

interface HostGroup {
	readonly corners: number;
	readonly hosts: Uint32Array;
	/** One cell with a shape of its own. */
	readonly single: boolean;
}

/** Cell indices grouped by their number of corners, fewest first; then the cut and dented ones, each by itself. */
function groupHosts(cells: CellTable, { cornerStart }: CellOutlines, arrays: ArraySource): HostGroup[] {
	const cornersOf = (c: number) => cornerStart[c + 1]! - cornerStart[c]!;
	const alone = (c: number) => isSpecial(cells, c);
	const singles: number[] = [];
	const counts = new Map<number, number>();
	for (let c = 0; c < cells.count; c++)
		if (alone(c)) singles.push(c);
		else counts.set(cornersOf(c), (counts.get(cornersOf(c)) ?? 0) + 1);
	const apart = new Set(singles);
	const groups = [...counts]
		.sort(([a], [b]) => a - b)
		.map(([corners, count]) => {
			const hosts = arrays.uint32(count);
			for (let c = 0, k = 0; c < cells.count; c++) if (cornersOf(c) === corners && !apart.has(c)) hosts[k++] = c;
			return { corners, hosts, single: false };
		});
	return [...groups, ...singles.map((c) => ({ corners: cornersOf(c), hosts: Uint32Array.of(c), single: true }))];
}

import { FRESH_ARRAYS, type ArraySource } from '../arrays.ts';
import { areaVectorOf } from '../mesh/triangleMesh.ts';
import type { NodeTable } from '../settingout/nodes.ts';
import { outlinesOf, type CellOutlines, type CellTable } from '../tiling/cells.ts';
import { MAIN_CELL_READINGS, type MainCellReading } from './cellReadings.ts';
import { measureOutlines, type Columns } from './measureOutlines.ts';
import { measureQuads } from './measureQuads.ts';

/** The main readings of a face's cells, in columns indexed by cell. */
export interface CellReadings {
	readonly columns: Readonly<Record<MainCellReading, Float64Array>>;
	/** Unit outward normal of each cell's mean plane (Newell's), stride 3; (0, 0, 0) for a cell without area. */
	readonly normal: Float64Array;
}

const sources = new WeakMap<CellReadings, ArraySource>();

/** Where further readings of the same cells take their arrays from: they are used as long as these. */
export const arraysBeside = (readings: CellReadings): ArraySource => sources.get(readings) ?? FRESH_ARRAYS;

/** Measures the main readings of every cell. O(corners). */
export function measureCells(
	nodes: Pick<NodeTable, 'position'>,
	cells: CellTable,
	arrays = FRESH_ARRAYS
): CellReadings {
	const { count } = cells;
	const names = Object.keys(MAIN_CELL_READINGS) as MainCellReading[];
	const columns = Object.fromEntries(names.map((name) => [name, arrays.float64(count)])) as Record<
		MainCellReading,
		Float64Array
	>;
	const normal = arrays.float64(count * 3);
	const { row: rows, column: columnsOf } = cells.order ?? cells;
	countFromOne(rows, columns.row);
	countFromOne(columnsOf, columns.column);
	measureShares(cells.trim?.share, cells.part, columns.share);
	measureRuns(nodes.position, outlinesOf(cells), count, columns, normal);
	if (cells.trim) takeOffHoles(nodes.position, cells.trim.holes, columns.area, normal);
	const readings = { columns, normal };
	sources.set(readings, arrays);
	return readings;
}

/** Runs of cells with four corners, and those with others between them. */
function measureRuns(
	position: Float64Array,
	outlines: CellOutlines,
	count: number,
	columns: Columns,
	normal: Float64Array
): void {
	const { cornerStart } = outlines;
	const isQuad = (c: number) => cornerStart[c + 1]! - cornerStart[c]! === 4;
	for (let from = 0, to = 0; from < count; from = to) {
		const quads = isQuad(from);
		do to++;
		while (to < count && isQuad(to) === quads);
		(quads ? measureQuads : measureOutlines)(position, outlines, { from, to }, columns, normal);
	}
}

// What goes over all cells stands in functions of arrays alone, which engines compile once, whatever tables they are of.

function countFromOne(from: Uint32Array, to: Float64Array): void {
	for (let c = 0; c < to.length; c++) to[c] = from[c]! + 1;
}

function measureShares(trim: Float64Array | undefined, part: Float64Array | undefined, share: Float64Array): void {
	share.fill(1);
	if (trim) for (let c = 0; c < share.length; c++) share[c]! *= trim[c]!;
	if (part) for (let c = 0; c < share.length; c++) share[c]! *= part[c]!;
}

/** Areas less those of the cells' holes, seen square to the same mean plane. */
function takeOffHoles(
	position: Float64Array,
	holes: ReadonlyMap<number, readonly Uint32Array[]>,
	area: Float64Array,
	normal: Float64Array
): void {
	for (const [c, loops] of holes)
		for (const loop of loops) {
			let twice = 0;
			for (let k = 1; k + 1 < loop.length; k++) {
				const [x, y, z] = areaVectorOf(position, loop[0]!, loop[k]!, loop[k + 1]!);
				twice += x * normal[c * 3]! + y * normal[c * 3 + 1]! + z * normal[c * 3 + 2]!;
			}
			// Holes run clockwise, so that theirs is negative.
			area[c]! += twice / 2;
		}
}

import { FRESH_ARRAYS, type ArraySource } from '../arrays.ts';
import { standsOnCells, type Placement } from '../placement/place.ts';
import type { CellReadings } from '../readings/measureCells.ts';
import type { CellTable } from '../tiling/cells.ts';
import { printMark } from '../tiling/marks.ts';
import { PANEL_COLUMN_NAMES, type PanelColumn } from './columns.ts';

/** Where a cell has no row in the schedule. */
export const NO_ROW = -1;

/** One row a panel, in columns. Rows stand by face, then row by row from the starting edge. */
export interface PanelSchedule {
	readonly count: number;
	readonly faces: readonly ScheduledFace[];
	readonly kits: readonly string[];
	/** Index into `faces`. */
	readonly face: Uint16Array;
	/** Index into `kits`. */
	readonly kit: Uint16Array;
	/** Index into its face's `roles`. */
	readonly role: Uint8Array;
	/** Piece of its field, 0 for the only one. */
	readonly piece: Uint8Array;
	/** Cell index within its face. */
	readonly cell: Uint32Array;
	/** For each face, the schedule row of each cell; NO_ROW for a cell without a kit. */
	readonly rowOfCell: readonly Int32Array[];
	readonly columns: Readonly<Record<PanelColumn, Float64Array>>;
}

export interface ScheduledFace {
	readonly key: string;
	readonly name: string;
	readonly mark: string;
	/** How its cells' marks are written. */
	readonly template: string;
	readonly roles: readonly string[];
}

export interface ScheduleInput extends Omit<ScheduledFace, 'roles'> {
	readonly cells: Pick<CellTable, 'trim' | 'order' | 'role' | 'roles'>;
	readonly readings: CellReadings;
	readonly placements: readonly Placement[];
}

/** Collects the panels of all faces: cells on which a kit has made something, named by the first that has. O(cells + parts). */
export function schedulePanels(inputs: readonly ScheduleInput[], arrays = FRESH_ARRAYS): PanelSchedule {
	const kits = [
		...new Map(
			inputs
				.flatMap((f) => f.placements.filter(standsOnCells))
				.filter((p) => !p.inner)
				.map((p) => [p.kit.id, p.kit.name])
		)
	];
	const kitOf = new Map(kits.map(([id], k) => [id, k]));
	const standing = inputs.map((input) => kitsOfCells(input, kitOf));
	let count = 0;
	const rowOfCell = inputs.map((input, f) => {
		const { kits: kitOfCell, count: here } = standing[f]!;
		const rows = rowsOfCells(input, kitOfCell, count, arrays);
		count += here;
		return rows;
	});
	const schedule = {
		count,
		rowOfCell,
		faces: inputs.map(({ key, name, mark, template, cells }) => ({
			key,
			name,
			mark,
			template,
			roles: cells.roles ?? []
		})),
		kits: kits.map(([, name]) => name),
		face: new Uint16Array(count),
		kit: new Uint16Array(count),
		role: new Uint8Array(count),
		piece: new Uint8Array(count),
		cell: arrays.uint32(count),
		columns: Object.fromEntries(PANEL_COLUMN_NAMES.map((name) => [name, arrays.float64(count)])) as Record<
			PanelColumn,
			Float64Array
		>
	};
	inputs.forEach((input, face) => fillFace(schedule, input, standing[face]!.kits, face));
	return schedule;
}

/** Where no kit has made anything on a cell. */
const OPEN = -1;

/** By cell: the first kit that has made a piece on it, or OPEN; and how many cells have one. */
function kitsOfCells(
	{ placements, readings }: ScheduleInput,
	kitOf: ReadonlyMap<string, number>
): { kits: Int32Array; count: number } {
	const kits = new Int32Array(readings.columns.row.length).fill(OPEN);
	let count = 0;
	let kit = OPEN;
	for (const placement of placements) {
		if (!standsOnCells(placement)) continue;
		// What stands within a kit counts as that kit's, and comes behind it.
		if (!placement.inner) kit = kitOf.get(placement.kit.id)!;
		for (const { pieces } of placement.parts)
			for (let h = 0; h < pieces.length; h++) {
				const cell = placement.hosts[h]!;
				if (pieces[h]! > 0 && kits[cell] === OPEN) {
					kits[cell] = kit;
					count++;
				}
			}
	}
	return { kits, count };
}

function fillFace(
	schedule: PanelSchedule,
	{ readings, cells, placements }: ScheduleInput,
	kitOfCell: Int32Array,
	face: number
): void {
	const { columns: out } = schedule;
	const from = readings.columns;
	const rowOf = schedule.rowOfCell[face]!;
	const pieces = cells.trim?.piece;
	const roles = cells.role;
	for (let cell = 0; cell < rowOf.length; cell++) {
		const r = rowOf[cell]!;
		if (r === NO_ROW) continue;
		schedule.face[r] = face;
		schedule.cell[r] = cell;
		schedule.kit[r] = kitOfCell[cell]!;
		if (roles) schedule.role[r] = roles[cell]!;
		if (pieces) schedule.piece[r] = pieces[cell]!;
		out.row[r] = from.row[cell]!;
		out.column[r] = from.column[cell]!;
		out.width[r] = from.width[cell]!;
		out.height[r] = from.height[cell]!;
		out.area[r] = from.area[cell]!;
		out.warp[r] = from.warp[cell]!;
		out.share[r] = from.share[cell]!;
		out.frameLength[r] = 0;
		out.weight[r] = 0;
	}
	for (const placement of placements) {
		if (!standsOnCells(placement)) continue;
		const { hosts, parts } = placement;
		for (const part of parts) {
			if (!part.scheduled) continue;
			const framed = part.role === 'frame';
			for (let h = 0; h < hosts.length; h++) {
				const r = rowOf[hosts[h]!]!;
				if (r === NO_ROW) continue;
				out.weight[r]! += part.volume[h]! * part.density;
				if (framed) out.frameLength[r]! += part.length[h]!;
			}
		}
	}
}

/** Schedule row of each cell that carries a kit, counted on from `start` in the order of the marks. */
function rowsOfCells(input: ScheduleInput, kitOfCell: Int32Array, start: number, arrays: ArraySource): Int32Array {
	const rowOf = arrays.int32(kitOfCell.length).fill(NO_ROW);
	let row = start;
	for (const c of countedOrder(input)) if (kitOfCell[c] !== OPEN) rowOf[c] = row++;
	return rowOf;
}

/** Cells in the order in which they are counted. */
function countedOrder({ cells: { order, trim }, readings }: ScheduleInput): Uint32Array {
	const all = Uint32Array.from({ length: readings.columns.row.length }, (_, c) => c);
	if (!order) return all;
	return all.sort(
		(a, b) =>
			order.row[a]! - order.row[b]! ||
			order.column[a]! - order.column[b]! ||
			(trim?.piece[a] ?? 0) - (trim?.piece[b] ?? 0)
	);
}

/** The mark of schedule row `r`. */
export function markOf(schedule: PanelSchedule, r: number): string {
	const { row, column } = schedule.columns;
	const { template, mark, roles } = schedule.faces[schedule.face[r]!]!;
	return printMark(template, mark, row[r]! - 1, column[r]! - 1, roles[schedule.role[r]!], schedule.piece[r]);
}

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

/** Collects the panels of all faces. O(panels). */
export function schedulePanels(
	inputs: readonly ScheduleInput[],
	arrays = FRESH_ARRAYS
): PanelSchedule {
	const count = inputs.reduce((sum, f) => sum + panelCount(f), 0);
	let start = 0;
	const rowOfCell = inputs.map((input) => {
		const rows = rowsOfCells(input, start, arrays);
		start += panelCount(input);
		return rows;
	});
	const schedule = {
		count,
		rowOfCell,
		faces: inputs.map(({ key, name, mark, template, cells }) => ({ key, name, mark, template, roles: cells.roles ?? [] })),
		kits: [...new Set(inputs.flatMap((f) => f.placements.filter((p) => standsOnCells(p) && !p.inner).map((p) => p.kit.name)))],
		face: new Uint16Array(count),
		kit: new Uint16Array(count),
		role: new Uint8Array(count),
		piece: new Uint8Array(count),
		cell: arrays.uint32(count),
		columns: Object.fromEntries(
			PANEL_COLUMN_NAMES.map((name) => [name, arrays.float64(count)])
		) as Record<PanelColumn, Float64Array>
	};
	inputs.forEach((input, face) => fillFace(schedule, { ...input, placements: input.placements.filter(standsOnCells) }, face));
	return schedule;
}

/** Cells that carry a kit; several kits on one cell make one panel. */
function panelCount({ placements, readings }: Pick<ScheduleInput, 'placements' | 'readings'>): number {
	const [first, ...others] = placements.filter((p) => standsOnCells(p) && !p.inner);
	if (!first) return 0;
	if (others.length === 0) return first.hosts.length;
	const seen = new Uint8Array(readings.columns.row.length);
	for (const { hosts } of [first, ...others]) for (const cell of hosts) seen[cell] = 1;
	return seen.reduce((n, s) => n + s, 0);
}

function fillFace(schedule: PanelSchedule, input: ScheduleInput, face: number): void {
	const { columns: out } = schedule;
	const from = input.readings.columns;
	const rowOf = schedule.rowOfCell[face]!;
	const pieces = input.cells.trim?.piece;
	const roles = input.cells.role;
	// The first kit on a cell names its panel, so that it is written last.
	for (const { kit, hosts, inner } of input.placements.toReversed()) {
		if (inner) continue;
		const kitIndex = schedule.kits.indexOf(kit.name);
		for (let h = 0; h < hosts.length; h++) {
			const cell = hosts[h]!;
			const r = rowOf[cell]!;
			schedule.face[r] = face;
			schedule.cell[r] = cell;
			schedule.kit[r] = kitIndex;
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
	}
	for (const { hosts, parts } of input.placements) {
		for (const part of parts) {
			if (!part.scheduled) continue;
			const framed = part.role === 'frame';
			for (let h = 0; h < hosts.length; h++) {
				const r = rowOf[hosts[h]!]!;
				out.weight[r]! += part.volume[h]! * part.density;
				if (framed) out.frameLength[r]! += part.length[h]!;
			}
		}
	}
}

/** Schedule row of each cell that carries a kit, counted on from `start` in the order of the marks. */
function rowsOfCells(input: ScheduleInput, start: number, arrays: ArraySource): Int32Array {
	const rowOf = arrays.int32(input.readings.columns.row.length).fill(NO_ROW);
	for (const placement of input.placements) if (standsOnCells(placement) && !placement.inner) for (const cell of placement.hosts) rowOf[cell] = 0;
	let row = start;
	for (const c of countedOrder(input)) if (rowOf[c] !== NO_ROW) rowOf[c] = row++;
	return rowOf;
}

/** Cells in the order in which they are counted. */
function countedOrder({ cells: { order, trim }, readings }: ScheduleInput): Uint32Array {
	const all = Uint32Array.from({ length: readings.columns.row.length }, (_, c) => c);
	if (!order) return all;
	return all.sort((a, b) => order.row[a]! - order.row[b]! || order.column[a]! - order.column[b]! || (trim?.piece[a] ?? 0) - (trim?.piece[b] ?? 0));
}

/** The mark of schedule row `r`. */
export function markOf(schedule: PanelSchedule, r: number): string {
	const { row, column } = schedule.columns;
	const { template, mark, roles } = schedule.faces[schedule.face[r]!]!;
	return printMark(template, mark, row[r]! - 1, column[r]! - 1, roles[schedule.role[r]!], schedule.piece[r]);
}

import { dimensionOf } from '../kit/formula/dimension.ts';
import { slackOf } from '../same.ts';
import { PANEL_COLUMNS, PANEL_COLUMN_NAMES, type PanelColumn } from './columns.ts';
import { markOf, type PanelSchedule } from './panels.ts';

export type SortKey = PanelColumn | 'mark' | 'kit';

/** A condition on one figure, in inner units; both ends belong to it. */
export interface RangeFilter {
	readonly column: PanelColumn;
	readonly least?: number;
	readonly greatest?: number;
}

export interface ScheduleQuery {
	readonly sort?: { readonly by: SortKey; readonly descending: boolean };
	/** Part of a mark or of a kit's name; case does not matter. */
	readonly text?: string;
	readonly ranges?: readonly RangeFilter[];
}

export interface ScheduleAnswer {
	/** Rows of the schedule, filtered and in order. */
	readonly order: Uint32Array;
	/** Sum or greatest value of each column over those rows; NaN where a column has no total. */
	readonly totals: Readonly<Record<PanelColumn, number>>;
}

/** Filters, sorts and totals. Ties keep the order of the schedule. O(n log n). */
export function querySchedule(schedule: PanelSchedule, query: ScheduleQuery): ScheduleAnswer {
	const order = sortRows(schedule, filterRows(schedule, query), query.sort);
	return { order, totals: totalRows(schedule, order) };
}

function filterRows(schedule: PanelSchedule, { text, ranges = [] }: ScheduleQuery): Uint32Array {
	const wanted = text?.trim().toLowerCase() ?? '';
	const kitMatches = schedule.kits.map((name) => name.toLowerCase().includes(wanted));
	// Like panels stay together, whatever rounding makes of their last digits.
	const limits = ranges.map(({ column, least = -Number.MAX_VALUE, greatest = Number.MAX_VALUE }) => ({
		values: schedule.columns[column],
		least,
		greatest,
		slack: slackOf(dimensionOf(PANEL_COLUMNS[column].quantity))
	}));
	const rows = new Uint32Array(schedule.count);
	let kept = 0;
	for (let r = 0; r < schedule.count; r++) {
		const inside = limits.every(({ values, least, greatest, slack }) => {
			const value = values[r]!;
			return value >= least - slack(value, least) && value <= greatest + slack(value, greatest);
		});
		if (!inside) continue;
		if (wanted && !kitMatches[schedule.kit[r]!] && !markOf(schedule, r).toLowerCase().includes(wanted)) continue;
		rows[kept++] = r;
	}
	return rows.slice(0, kept);
}

function sortRows(schedule: PanelSchedule, rows: Uint32Array, sort: ScheduleQuery['sort']): Uint32Array {
	if (!sort) return rows;
	const sign = sort.descending ? -1 : 1;
	if (sort.by === 'mark') {
		// The schedule already stands by face, row and column, which is the order of the marks.
		return sort.descending ? rows.reverse() : rows;
	}
	const values: ArrayLike<number> = sort.by === 'kit' ? kitRanks(schedule) : schedule.columns[sort.by];
	return rows.sort((a, b) => sign * (values[a]! - values[b]!) || a - b);
}

function kitRanks(schedule: PanelSchedule): Float64Array {
	const sorted = [...schedule.kits].sort((a, b) => a.localeCompare(b, 'en'));
	const ranks = schedule.kits.map((name) => sorted.indexOf(name));
	return Float64Array.from(schedule.kit, (k) => ranks[k]!);
}

function totalRows(schedule: PanelSchedule, rows: Uint32Array): Record<PanelColumn, number> {
	const totals = {} as Record<PanelColumn, number>;
	for (const name of PANEL_COLUMN_NAMES) {
		const values = schedule.columns[name];
		const { total } = PANEL_COLUMNS[name];
		let result = total === 'none' ? NaN : 0;
		if (total === 'sum') for (const r of rows) result += values[r]!;
		if (total === 'greatest') for (const r of rows) result = Math.max(result, values[r]!);
		totals[name] = result;
	}
	return totals;
}

import { dimensionOf } from '../kit/formula/dimension.ts';
import { slackOf } from '../same.ts';
import type { FaceTable } from './faceTable.ts';
import { columnNames, tableOf, type TableName } from './tables.ts';

/** A condition on one column's figures, in inner units; both ends belong to it. */
export interface RangeFilter {
	readonly column: string;
	readonly least?: number;
	readonly greatest?: number;
}

export interface ScheduleQuery {
	readonly table: TableName;
	/** `mark`, or a column of words or figures. */
	readonly sort?: { readonly by: string; readonly descending: boolean } | undefined;
	/** Part of a mark or of a word; case does not matter. */
	readonly text?: string;
	readonly ranges?: readonly RangeFilter[];
}

export interface ScheduleAnswer {
	/** How many rows the table has in all: an answer about another state of the model is told by it. */
	readonly count: number;
	/** Rows of the table over all faces, filtered and in order. */
	readonly order: Uint32Array;
	/** Sum or greatest value of each column over those rows; NaN where a column has no total. */
	readonly totals: Readonly<Record<string, number>>;
}

/** A table of one face, with the marks of its rows. */
export interface MarkedTable {
	readonly table: Pick<FaceTable, 'count' | 'words' | 'columns'>;
	readonly markOf: (row: number) => string;
}

/** First row of each face in a table over all faces, and the number of all. */
export function startsOf(tables: readonly { readonly count: number }[]): Uint32Array {
	const starts = new Uint32Array(tables.length + 1);
	tables.forEach(({ count }, f) => (starts[f + 1] = starts[f]! + count));
	return starts;
}

/** The face that a row over all faces belongs to. */
export function faceOfRow(starts: Uint32Array, row: number): number {
	let [low, high] = [0, starts.length - 2];
	while (low < high) {
		const middle = (low + high + 1) >> 1;
		if (starts[middle]! <= row) low = middle;
		else high = middle - 1;
	}
	return low;
}

/** Filters, sorts and totals one table over all faces. Ties keep the order of the schedule. O(n log n). */
export function querySchedule(faces: readonly MarkedTable[], query: ScheduleQuery): ScheduleAnswer {
	const starts = startsOf(faces.map((f) => f.table));
	const order = sortRows(faces, starts, filterRows(faces, starts, query), query);
	return { count: starts.at(-1)!, order, totals: totalRows(faces, starts, order, query.table) };
}

function filterRows(faces: readonly MarkedTable[], starts: Uint32Array, query: ScheduleQuery): Uint32Array {
	const { text, ranges = [], table: name } = query;
	const wanted = text?.trim().toLowerCase() ?? '';
	const rows = new Uint32Array(starts.at(-1)!);
	let kept = 0;
	faces.forEach(({ table, markOf }, f) => {
		const words = Object.values(table.words).map(({ words, index }) => ({
			matches: words.map((w) => w.toLowerCase().includes(wanted)),
			index
		}));
		// Like panels stay together, whatever rounding makes of their last digits.
		const limits = ranges.map(({ column, least = -Number.MAX_VALUE, greatest = Number.MAX_VALUE }) => ({
			values: table.columns[column]!,
			least,
			greatest,
			slack: slackOf(dimensionOf(tableOf(name).columns[column]!.quantity))
		}));
		for (let r = 0; r < table.count; r++) {
			const inside = limits.every(({ values, least, greatest, slack }) => {
				const value = values[r]!;
				return value >= least - slack(value, least) && value <= greatest + slack(value, greatest);
			});
			if (!inside) continue;
			if (
				wanted &&
				!words.some(({ matches, index }) => matches[index[r]!]) &&
				!markOf(r).toLowerCase().includes(wanted)
			)
				continue;
			rows[kept++] = starts[f]! + r;
		}
	});
	return rows.slice(0, kept);
}

function sortRows(
	faces: readonly MarkedTable[],
	starts: Uint32Array,
	rows: Uint32Array,
	{ sort }: ScheduleQuery
): Uint32Array {
	if (!sort) return rows;
	const sign = sort.descending ? -1 : 1;
	// The schedule already stands by face and in the order of the marks.
	if (sort.by === 'mark') return sort.descending ? rows.reverse() : rows;
	const values = new Float64Array(starts.at(-1)!);
	const ranks = ranksOf(faces.flatMap(({ table }) => table.words[sort.by]?.words ?? []));
	faces.forEach(({ table }, f) => {
		const words = table.words[sort.by];
		if (words) for (let r = 0; r < table.count; r++) values[starts[f]! + r] = ranks.get(words.words[words.index[r]!]!)!;
		else values.set(table.columns[sort.by]!.subarray(0, table.count), starts[f]);
	});
	return rows.sort((a, b) => sign * (values[a]! - values[b]!) || a - b);
}

/** Words by their place in the alphabet. */
const ranksOf = (words: readonly string[]) =>
	new Map([...new Set(words)].sort((a, b) => a.localeCompare(b, 'en')).map((word, rank) => [word, rank]));

function totalRows(
	faces: readonly MarkedTable[],
	starts: Uint32Array,
	rows: Uint32Array,
	name: TableName
): Record<string, number> {
	const totals: Record<string, number> = {};
	const faceOf = Uint32Array.from(rows, (r) => faceOfRow(starts, r));
	for (const column of columnNames(name)) {
		const { total } = tableOf(name).columns[column]!;
		const values = faces.map((f) => f.table.columns[column]!);
		let result = total === 'none' ? NaN : 0;
		if (total !== 'none')
			for (let k = 0; k < rows.length; k++) {
				const value = values[faceOf[k]!]![rows[k]! - starts[faceOf[k]!]!]!;
				if (total === 'sum') result += value;
				else if (value > result) result = value;
			}
		totals[column] = result;
	}
	return totals;
}

import { dimensionOf, sameDimension, type Dimension } from '../../kit/formula/dimension.ts';
import { BLOCK, compileFormula, compileTerm, type Named, type Scope, type Term } from '../../kit/formula/compile.ts';
import { FormulaError, parseFormula, type Formula } from '../../kit/formula/parse.ts';
import { messageOf } from '../../errors.ts';
import type { Quantity } from '../../units/quantity.ts';
import type { Rows, Words } from './rows.ts';
import type { Note, OwnColumn, OwnTable, Summary } from './schema.ts';

/** A column as it has come out. */
export type MadeColumn =
	| { readonly kind: 'words'; readonly label: string; readonly words: Words; readonly summary: Summary }
	| {
			readonly kind: 'figures';
			readonly label: string;
			/** By row of the table that it is from; NaN where there is none. */
			readonly values: Float64Array;
			/** What it measures: a quantity, or powers of lengths (mm) and angles. */
			readonly quantity: Quantity | undefined;
			readonly dimension: Dimension;
			readonly decimals: number;
			readonly summary: Summary;
	  }
	| { readonly kind: 'notes'; readonly label: string; readonly id: string; readonly textOf: (row: number) => string }
	/** What is wrong with it. */
	| { readonly kind: 'fault'; readonly label: string; readonly fault: string };

/** Rows that stand together. */
export interface RowGroup {
	/** 0 is the outermost. */
	readonly level: number;
	/** The words of its columns of groups, outer ones first. */
	readonly words: readonly string[];
	/** Its rows in `order`: from, and up to but not with. */
	readonly from: number;
	readonly to: number;
	/** By column; NaN where there is none. */
	readonly totals: readonly number[];
}

export interface MadeTable {
	readonly table: OwnTable;
	readonly columns: readonly MadeColumn[];
	/** Rows of the table that it is from, in order. */
	readonly order: Uint32Array;
	/** Outer ones before those within them. */
	readonly groups: readonly RowGroup[];
	/** By column, over all rows. */
	readonly totals: readonly number[];
	/** What is wrong with its filters, groups and order; those are left out. */
	readonly faults: readonly string[];
}

/** What formulas of a table can name: its columns, and texts that are compared with words. */
class RowScope implements Scope {
	private readonly rows: Rows;
	private readonly texts: readonly string[];
	private readonly slots = new Map<string, Named>();
	readonly columns: (Float64Array | Uint32Array)[] = [];

	constructor(rows: Rows, texts: readonly string[]) {
		this.rows = rows;
		this.texts = texts;
	}

	named(name: string): Named | undefined {
		const known = this.slots.get(name);
		if (known) return known;
		const words = this.rows.word(name);
		const values = words ? words.index : this.rows.figure(name);
		if (!values) return undefined;
		const named: Named = {
			slot: this.columns.push(values) - 1,
			dimension: dimensionOf(this.rows.columns[name]!.quantity ?? 'count'),
			uniform: false,
			// What no row has can be asked for, too: then none is found.
			...(words ? { choices: [...words.words, ...this.texts.filter((t) => !words.words.includes(t))] } : {})
		};
		this.slots.set(name, named);
		return named;
	}

	measured(): undefined {
		return undefined;
	}

	all(): readonly string[] {
		return Object.keys(this.rows.columns);
	}
}

function textsIn(formula: Formula): string[] {
	if (formula.kind === 'text') return [formula.value];
	return 'args' in formula ? formula.args.flatMap(textsIn) : [];
}

function evaluate(rows: Rows, text: string, compile: (scope: Scope) => Term) {
	const scope = new RowScope(rows, textsIn(parseFormula(text)));
	const term = compile(scope);
	const out = new Float64Array(rows.count);
	for (let from = 0; from < out.length; from += BLOCK) {
		const count = Math.min(BLOCK, out.length - from);
		const block = scope.columns.map((c) => Float64Array.from(c.subarray(from, from + count)));
		out.set(term.run(block, count).subarray(0, count), from);
	}
	return { values: out, dimension: term.dimension };
}

const fault = (cause: unknown): string => {
	if (!(cause instanceof FormulaError)) throw cause;
	return messageOf(cause);
};

const DECIMALS: Readonly<Record<string, number>> = { length: 1, area: 4, volume: 6, angle: 3 };
const QUANTITIES: readonly Quantity[] = ['length', 'area', 'volume', 'angle'];

function makeColumn(rows: Rows, column: OwnColumn, notes: ReadonlyMap<string, string>): MadeColumn {
	if (column.kind === 'note') {
		const { id, label } = column;
		return { kind: 'notes', label, id, textOf: (row) => notes.get(`${id} ${rows.keyOf(row)}`) ?? '' };
	}
	const { show, summary } = column;
	const known = Object.hasOwn(rows.columns, show) ? rows.columns[show] : undefined;
	const label = column.label ?? known?.label ?? show;
	const words = rows.word(show);
	if (words) return { kind: 'words', label, words, summary };
	try {
		const { values, dimension } = known?.quantity
			? { values: rows.figure(show)!, dimension: dimensionOf(known.quantity) }
			: evaluate(rows, show, (scope) => compileTerm(show, scope));
		const quantity = known?.quantity ?? QUANTITIES.find((q) => sameDimension(dimensionOf(q), dimension));
		return {
			kind: 'figures',
			label,
			values: known ? values : values.map((v) => (Number.isFinite(v) ? v : NaN)),
			quantity,
			dimension,
			decimals: column.decimals ?? known?.decimals ?? DECIMALS[quantity ?? ''] ?? 3,
			summary
		};
	} catch (cause) {
		return { kind: 'fault', label, fault: fault(cause) };
	}
}

/** Makes a table: filters, groups, sorts and totals its rows. Faults are told and left out. O(rows log rows). */
export function runTable(rows: Rows, table: OwnTable, notes: readonly Note[]): MadeTable {
	const faults: string[] = [];
	const byPlace = new Map(notes.map((n) => [`${n.column} ${n.row}`, n.text]));
	const columns = table.columns.map((c) => makeColumn(rows, c, byPlace));
	let kept = Uint32Array.from({ length: rows.count }, (_, r) => r);
	for (const text of table.where)
		try {
			const { values } = evaluate(rows, text, (scope) => compileFormula(text, 'yesno', scope));
			kept = kept.filter((r) => values[r] !== 0 && !Number.isNaN(values[r]!));
		} catch (cause) {
			faults.push(`The filter ${fault(cause)}`);
		}
	const groups = table.groups.flatMap((name) => {
		const words = rows.word(name);
		if (!words)
			faults.push(`The group “${name}” is no column of words; right would be one of ${wordNames(rows).join(', ')}`);
		return words ? [words] : [];
	});
	const sorted = table.sort.flatMap(({ by, descending }) => {
		try {
			const words = rows.word(by);
			const values = words
				? ranked(words)
				: (rows.figure(by) ?? evaluate(rows, by, (scope) => compileTerm(by, scope)).values);
			return [{ values, sign: descending ? -1 : 1 }];
		} catch (cause) {
			faults.push(`The order ${fault(cause)}`);
			return [];
		}
	});
	kept = inGroups(kept, groups);
	sortWithin(kept, groups, sorted);
	const totalsOf = (from: number, to: number) => columns.map((c) => summarise(c, kept, from, to));
	return {
		table,
		columns,
		order: kept,
		groups: groupRows(kept, groups, totalsOf, groupOrder(table)),
		totals: totalsOf(0, kept.length),
		faults
	};
}

/** Groups go by the totals of the column that is sorted by first, where it has any; else by their words. */
function groupOrder({ columns, sort: [first] }: OwnTable) {
	const column = columns.findIndex((c) => c.kind === 'value' && c.show === first?.by && c.summary !== 'none');
	return column < 0 ? undefined : { column, sign: first!.descending ? -1 : 1 };
}

const wordNames = (rows: Rows) => Object.keys(rows.columns).filter((name) => !rows.columns[name]!.quantity);

/** Rows by their groups, the outer ones first, and within by what they are. O(rows + words) a group. */
function inGroups(rows: Uint32Array<ArrayBuffer>, groups: readonly Words[]): Uint32Array<ArrayBuffer> {
	// From the innermost outwards: rows of one word stay in the order that they have.
	return [...groups].reverse().reduce((order, { words, index }) => {
		const rank = rankOf(words);
		const next = new Uint32Array(words.length + 1);
		for (const r of order) next[rank[index[r]!]! + 1]!++;
		for (let k = 0; k < words.length; k++) next[k + 1]! += next[k]!;
		const out = new Uint32Array(order.length);
		for (const r of order) out[next[rank[index[r]!]!]!++] = r;
		return out;
	}, rows);
}

interface SortKey {
	/** By row. */
	readonly values: ArrayLike<number>;
	readonly sign: number;
}

/** Sorts the rows within each innermost group; those that are alike stay as they stand. */
function sortWithin(order: Uint32Array, groups: readonly Words[], keys: readonly SortKey[]): void {
	if (keys.length === 0) return;
	const byKeys = (a: number, b: number) => {
		for (let k = 0; k < keys.length; k++) {
			const { values, sign } = keys[k]!;
			const [x, y] = [values[a]!, values[b]!];
			if (x === y) continue;
			const off = compared(x, y, sign);
			if (off !== 0) return off;
		}
		return a - b;
	};
	const isAlike = (a: number, b: number) => groups.every(({ index }) => index[a] === index[b]);
	for (let from = 0; from < order.length;) {
		let to = from + 1;
		while (to < order.length && isAlike(order[from]!, order[to]!)) to++;
		if (to - from > 1) order.subarray(from, to).sort(byKeys);
		from = to;
	}
}

/** By row: the place of its word in the alphabet. */
function ranked({ words, index }: Words): Float64Array {
	const rank = rankOf(words);
	return Float64Array.from(index, (w) => rank[w]!);
}

const ranks = new WeakMap<readonly string[], Uint32Array>();

/** By word: its place in the alphabet, with numbers within words by their size. */
function rankOf(words: readonly string[]): Uint32Array {
	const known = ranks.get(words);
	if (known) return known;
	const order = [...words.keys()].sort((a, b) => COLLATOR.compare(words[a]!, words[b]!) || a - b);
	const rank = new Uint32Array(words.length);
	order.forEach((w, k) => (rank[w] = k));
	ranks.set(words, rank);
	return rank;
}
const COLLATOR = new Intl.Collator('en', { numeric: true });

/** Parts rows into groups, `order` is as they stand. By the totals of a column, where one is named; rows move with them. */
function groupRows(
	order: Uint32Array,
	groups: readonly Words[],
	totalsOf: (from: number, to: number) => number[],
	by: { readonly column: number; readonly sign: number } | undefined
): RowGroup[] {
	const found: RowGroup[] = [];
	const within = (level: number, from: number, to: number, before: readonly string[]) => {
		const words = groups[level];
		if (!words) return;
		const here: RowGroup[] = [];
		for (let start = from; start < to;) {
			const word = words.index[order[start]!]!;
			let end = start + 1;
			while (end < to && words.index[order[end]!] === word) end++;
			here.push({ level, words: [...before, words.words[word]!], from: start, to: end, totals: totalsOf(start, end) });
			start = end;
		}
		if (by) {
			here.sort((a, b) => compared(a.totals[by.column]!, b.totals[by.column]!, by.sign));
			const rows = order.slice(from, to);
			let at = from;
			for (const g of here) {
				order.set(rows.subarray(g.from - from, g.to - from), at);
				at += g.to - g.from;
			}
		}
		let start = from;
		for (const g of here) {
			const end = start + g.to - g.from;
			found.push({ ...g, from: start, to: end });
			within(level + 1, start, end, g.words);
			start = end;
		}
	};
	within(0, 0, order.length, []);
	return found;
}

/** What is nothing comes last, whichever way. */
function compared(x: number, y: number, sign: number): number {
	if (x === y) return 0;
	return Number.isNaN(x) ? (Number.isNaN(y) ? 0 : 1) : Number.isNaN(y) ? -1 : sign * (x - y);
}

/** What stands below a column for some of its rows: NaN for nothing. Cells without a figure are left out. */
function summarise(column: MadeColumn, order: Uint32Array, from: number, to: number): number {
	if (column.kind === 'words') {
		if (column.summary !== 'count') return NaN;
		const seen = new Set<number>();
		for (let k = from; k < to; k++) seen.add(column.words.index[order[k]!]!);
		return seen.size;
	}
	if (column.kind !== 'figures' || column.summary === 'none') return NaN;
	const { values, summary } = column;
	let [sum, count, least, greatest] = [0, 0, Infinity, -Infinity];
	for (let k = from; k < to; k++) {
		const value = values[order[k]!]!;
		if (Number.isNaN(value)) continue;
		sum += value;
		count++;
		if (value < least) least = value;
		if (value > greatest) greatest = value;
	}
	if (summary === 'count') return count;
	if (count === 0) return NaN;
	switch (summary) {
		case 'sum':
			return sum;
		case 'mean':
			return sum / count;
		case 'least':
			return least;
		case 'greatest':
			return greatest;
		case 'spread':
			return greatest - least;
	}
}

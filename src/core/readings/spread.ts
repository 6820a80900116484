import { SAME_RATIO } from '../tolerances.ts';

/** What the values of a reading come to over some faces. */
export interface Spread {
	/** Hosts that have a value, and those that have none. */
	readonly count: number;
	readonly none: number;
	readonly sum: number;
	readonly least: number;
	readonly mean: number;
	readonly greatest: number;
	/** Standard deviation, of all values and not of a sample. */
	readonly deviation: number;
}

type Values = ArrayLike<number>;

/** Count, least, mean, greatest and standard deviation; all but the counts are NaN where there is no value. O(n). */
export function spreadOf(columns: readonly Values[]): Spread {
	let [count, none, sum, least, greatest] = [0, 0, 0, Infinity, -Infinity];
	for (const values of columns)
		for (let k = 0; k < values.length; k++) {
			const value = values[k]!;
			if (Number.isNaN(value)) {
				none++;
				continue;
			}
			count++;
			sum += value;
			if (value < least) least = value;
			if (value > greatest) greatest = value;
		}
	if (count === 0) return { count, none, sum: 0, least: NaN, mean: NaN, greatest: NaN, deviation: NaN };
	const mean = sum / count;
	// Once more about the mean, since sums of squares lose what small spreads of large values are.
	let squares = 0;
	for (const values of columns)
		for (let k = 0; k < values.length; k++) {
			const off = values[k]! - mean;
			if (!Number.isNaN(off)) squares += off * off;
		}
	return { count, none, sum, least, mean, greatest, deviation: Math.sqrt(squares / count) };
}

/** Which of so many equal classes a value is in; those beyond the range are in the first and last one, -1 for none. */
export function classOf(value: number, from: number, to: number, classes: number): number {
	if (Number.isNaN(value)) return -1;
	// A range that only rounding has made is none, and a value that rounding has put below a class belongs to it.
	if (!(to - from > SAME_RATIO * Math.max(Math.abs(from), Math.abs(to)))) return 0;
	return Math.max(0, Math.min(classes - 1, Math.floor(((value - from) / (to - from)) * classes + SAME_RATIO)));
}

/** How many values each class has. O(n). */
export function histogram(columns: readonly Values[], from: number, to: number, classes: number): Uint32Array {
	const counts = new Uint32Array(classes);
	for (const values of columns)
		for (let k = 0; k < values.length; k++) {
			const at = classOf(values[k]!, from, to, classes);
			if (at >= 0) counts[at]!++;
		}
	return counts;
}

export interface HostAddress {
	/** Index of the column. */
	readonly column: number;
	readonly host: number;
}

/** The hosts with the greatest (or least) values, the most extreme one first; equal ones in order. O(n log most). */
export function extremes(columns: readonly Values[], most: number, greatest: boolean): HostAddress[] {
	const found: (HostAddress & { readonly value: number })[] = [];
	const sign = greatest ? 1 : -1;
	columns.forEach((values, column) => {
		for (let host = 0; host < values.length; host++) {
			const value = values[host]! * sign;
			if (Number.isNaN(value) || (found.length === most && value <= found[most - 1]!.value)) continue;
			let at = found.length;
			while (at > 0 && found[at - 1]!.value < value) at--;
			found.splice(at, 0, { column, host, value });
			if (found.length > most) found.pop();
		}
	});
	return found.map(({ column, host }) => ({ column, host }));
}

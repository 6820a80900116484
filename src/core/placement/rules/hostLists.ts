/** Lists of different length one after the other: those of `k` from `start[k]` to `start[k + 1]`. */
export interface Lists {
	readonly start: Uint32Array;
	readonly items: Uint32Array;
}

/** Lists as two arrays. */
export function listsOf(lists: readonly (readonly number[])[]): Lists {
	const start = new Uint32Array(lists.length + 1);
	lists.forEach((list, k) => (start[k + 1] = start[k]! + list.length));
	return { start, items: Uint32Array.from(lists.flat()) };
}

/** How long lists are that begin at these numbers, each length once, in the order in which they come. O(lists). */
export function countsOf(start: Uint32Array): number[] {
	const counts: number[] = [];
	let last = -1;
	for (let h = 0; h + 1 < start.length; h++) {
		const count = start[h + 1]! - start[h]!;
		if (count === last) continue;
		last = count;
		if (!counts.includes(count)) counts.push(count);
	}
	return counts;
}

/** Columns as one, component by component. */
export function interleaved(columns: readonly Float64Array[]): Float64Array {
	const size = columns.length;
	const out = new Float64Array(columns[0]!.length * size);
	for (let c = 0; c < size; c++) for (let h = 0; h * size < out.length; h++) out[h * size + c] = columns[c]![h]!;
	return out;
}

/** The mean of what stands between two starts, component by component. */
export function means(start: Uint32Array, size: number, at: (k: number, c: number) => number): Float64Array {
	const out = new Float64Array((start.length - 1) * size);
	for (let h = 0; h + 1 < start.length; h++)
		for (let c = 0; c < size; c++) {
			let sum = 0;
			for (let k = start[h]!; k < start[h + 1]!; k++) sum += at(k, c);
			out[h * size + c] = sum / Math.max(1, start[h + 1]! - start[h]!);
		}
	return out;
}

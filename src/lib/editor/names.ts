/** `stem` with the first number from 1 that is not taken. */
export function freeName(stem: string, taken: readonly string[], between = '-'): string {
	let n = 1;
	while (taken.includes(`${stem}${between}${n}`)) n++;
	return `${stem}${between}${n}`;
}

/** What the ids made here end with. */
let tail = '';

/** Gives the ids that are made here an end of their own, so that those of two people who add something at once differ. */
export const setIdTail = (text: string): void => void (tail = text);

/** An id that is not taken, such as `level-3`; see `setIdTail`. */
export function freeId(stem: string, taken: readonly string[]): string {
	const start = `${stem}-`;
	// Of each id what stands behind the stem, up to the tail.
	const used = new Set(taken.flatMap((id) => (id.startsWith(start) ? [id.slice(start.length).split('-', 1)[0]!] : [])));
	let n = 1;
	while (used.has(String(n))) n++;
	return `${start}${n}${tail && `-${tail}`}`;
}

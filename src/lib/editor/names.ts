/** `stem` with the first number from 1 that is not taken. */
export function freeName(stem: string, taken: readonly string[], between = '-'): string {
	let n = 1;
	while (taken.includes(`${stem}${between}${n}`)) n++;
	return `${stem}${between}${n}`;
}

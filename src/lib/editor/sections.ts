import { copyOfJson } from '../../core/project/jsonPatch.ts';
/** An element of a list of numbers by name, such as a section, with its place in the list. */
type Numbers = Record<string, unknown>;

/**
 * Puts a copy of element `k` half way between it and the next (or the one before, for the last): every
 * plain number is the mean of both. Answers its index.
 */
export function addBetween<T extends object>(list: T[], k: number): number {
	const low = Math.min(k, list.length - 2);
	const [a, b] = [list[low] as Numbers, list[low + 1] as Numbers];
	const middle = copyOfJson(a);
	for (const [name, value] of Object.entries(a))
		if (typeof value === 'number' && typeof b[name] === 'number') middle[name] = (value + b[name]) / 2;
	list.splice(low + 1, 0, middle as T);
	return low + 1;
}

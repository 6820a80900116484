import type { KitProgram } from '../kit/program.ts';

/** By what they are compiled with; an edit of where a kit stands compiles nothing anew. */
const kept = new Map<string, KitProgram>();
const MOST_PROGRAMS = 200;

/** The program that was compiled of the same inputs before, or one that is made now. Its scratch arrays stay with it. */
export function keptProgram(inputs: readonly unknown[], compile: () => KitProgram): KitProgram {
	const key = JSON.stringify(inputs);
	const known = kept.get(key);
	if (known) return known;
	if (kept.size >= MOST_PROGRAMS) kept.clear();
	const made = compile();
	kept.set(key, made);
	return made;
}

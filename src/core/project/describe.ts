import { group } from '../units/print.ts';
import { idOf, type Patch, type Steps } from './jsonPatch.ts';
import { readPatch } from './readPatch.ts';
import type { Project } from './schema.ts';

/** A place of a project with the names of what it lies in: `Canopy › shape › length`. */
export function placeInWords(project: Project, steps: Steps): string {
	let at: unknown = project;
	const words: string[] = [];
	for (const { name, id } of steps) {
		if (Array.isArray(at)) {
			const list: readonly unknown[] = at;
			at = id === undefined ? list[Number(name)] : list.find((element) => idOf(element) === id);
			const label = (at as { name?: unknown } | undefined)?.name;
			// The list is told by its element’s name, where it has one.
			if (typeof label === 'string' && id !== undefined) words.pop();
			words.push(typeof label === 'string' ? label : (id ?? String(Number(name) + 1)));
		} else {
			at =
				typeof at === 'object' && at !== null && Object.hasOwn(at, name)
					? (at as Record<string, unknown>)[name]
					: undefined;
			words.push(inWords(String(name)));
		}
	}
	return words.join(' › ') || 'the project';
}

/** `settingOut` as `setting out`. */
export const inWords = (name: string) =>
	name.replace(/([a-z])([A-Z])/g, (_, a: string, b: string) => `${a} ${b.toLowerCase()}`);

const MOST_LETTERS = 40;

/** A value as it is told: numbers with their digits grouped, lists and parts of the document by their name or size. */
export function valueInWords(value: unknown): string {
	if (typeof value === 'number') return group(value, Number.isInteger(value) ? 0 : 3);
	if (typeof value === 'string') return `“${value.length > MOST_LETTERS ? `${value.slice(0, MOST_LETTERS)}…` : value}”`;
	if (typeof value === 'boolean') return value ? 'yes' : 'no';
	if (value === null || value === undefined) return 'nothing';
	if (Array.isArray(value)) return value.length === 1 ? 'one entry' : `${value.length} entries`;
	const { name, kind } = value as { name?: unknown; kind?: unknown };
	if (typeof name === 'string') return `“${name}”`;
	return typeof kind === 'string' ? kind : 'other values';
}

const MOST_LINES = 200;

/** One difference in words. */
export interface Difference {
	readonly place: string;
	/** Nothing where it was added. */
	readonly before?: string;
	/** Nothing where it was removed. */
	readonly after?: string;
}

/** What a patch does to a project, place by place; what only moved is told as moved. */
export const describePatch = (project: Project, patch: Patch): Difference[] =>
	readPatch(patch)
		.slice(0, MOST_LINES)
		.flatMap(({ operation, steps }): Difference[] => {
			const place = placeInWords(project, steps);
			const list = placeInWords(project, steps.slice(0, -1));
			switch (operation.op) {
				case 'remove':
					return [{ place, before: valueInWords(valueAt(project, steps)) }];
				case 'replace':
					return [{ place, before: valueInWords(valueAt(project, steps)), after: valueInWords(operation.value) }];
				case 'move':
					return [{ place: list, before: 'one order', after: 'another' }];
				case 'add':
					return [{ place: idOf(operation.value) === undefined ? place : list, after: valueInWords(operation.value) }];
				default:
					return [];
			}
		});

function valueAt(project: Project, steps: Steps): unknown {
	let at: unknown = project;
	for (const { name, id } of steps) {
		if (typeof at !== 'object' || at === null) return undefined;
		at =
			Array.isArray(at) && id !== undefined
				? at.find((element) => idOf(element) === id)
				: (at as Record<string | number, unknown>)[name];
	}
	return at;
}

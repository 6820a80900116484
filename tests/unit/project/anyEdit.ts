import { ZygasterError } from '../../../src/core/errors.ts';
import { checkDocument } from '../../../src/core/project/read.ts';
import type { Project } from '../../../src/core/project/schema.ts';

/** An edit of whatever stands in a document: numbers say which part of it, what in it, and what becomes of that. */
export interface AnyEdit {
	readonly part: number;
	readonly at: number;
	readonly way: number;
}

type Place = { readonly in: Record<string, unknown>; readonly key: string };

/** Whatever holds of the values of a document, with where it stands. */
function placesOf(value: unknown, holds: (value: unknown) => boolean): Place[] {
	if (typeof value !== 'object' || value === null) return [];
	const within = value as Record<string, unknown>;
	return Object.keys(within).flatMap((key) => [
		...(holds(within[key]) ? [{ in: within, key }] : []),
		...placesOf(within[key], holds)
	]);
}

const FIGURES: readonly ((x: number) => number)[] = [
	(x) => x * 1.1,
	(x) => x + 1,
	(x) => x - 1,
	(x) => x / 2,
	(x) => Math.round(x * 1.3),
	() => 0,
	(x) => -x
];

/** The document after the edit; nothing where it is refused, which it must be in words. */
export function afterEdit(project: Project, { part, at, way }: AnyEdit): Project | undefined {
	const next = structuredClone(project);
	const parts = Object.values(next).filter((v) => typeof v === 'object');
	const chosen = { it: parts[part % parts.length] };
	const figures = placesOf(chosen, (v) => typeof v === 'number' || typeof v === 'boolean');
	const lists = placesOf(chosen, (v) => Array.isArray(v) && v.length > 0);
	const all = [...figures, ...lists];
	if (all.length === 0) return undefined;
	const { in: within, key } = all[at % all.length]!;
	const value = within[key];
	if (typeof value === 'boolean') within[key] = !value;
	else if (typeof value === 'number') within[key] = FIGURES[way % FIGURES.length]!(value);
	else if (Array.isArray(value)) {
		if (way % 3 === 0) value.reverse();
		else value.splice(way % value.length, 1);
	}
	try {
		return checkDocument(next);
	} catch (cause) {
		if (cause instanceof ZygasterError) return undefined;
		throw cause;
	}
}

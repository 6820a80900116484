import { applyPatch as applyInPlace, createPatch, type Operation } from 'rfc6902';
import { ZygasterError } from '../errors.ts';
import { checkDocument } from './read.ts';
import type { Project } from './schema.ts';

/** A change of a project: JSON Patch, RFC 6902. */
export type Patch = readonly Operation[];

/**
 * The patch from one project to another. Every step into a list is led by a `test` of the id found
 * there, so that the patch cannot hit another element when somebody else has changed the list.
 */
export function diffProjects(before: Project, after: Project): Patch {
	const changes = createPatch(before, after);
	const tests = new Map<string, Operation>();
	for (const { path } of changes) addIdTests(before, path, tests);
	return [...tests.values(), ...changes];
}

function addIdTests(document: unknown, path: string, tests: Map<string, Operation>): void {
	let at = document;
	let here = '';
	for (const part of path.split('/').slice(1)) {
		here += `/${part}`;
		at = (at as Record<string, unknown> | undefined)?.[unescapePart(part)];
		const id = (at as { id?: unknown } | undefined)?.id;
		if (typeof id === 'string') tests.set(here, { op: 'test', path: `${here}/id`, value: id });
	}
}

const unescapePart = (part: string) => part.replaceAll('~1', '/').replaceAll('~0', '~');

/** Steps of a path that would lead out of the document into the language's own objects. */
const FORBIDDEN = new Set(['__proto__', 'prototype', 'constructor']);

const leadsOut = (operation: Operation) =>
	[operation.path, 'from' in operation ? operation.from : '']
		.flatMap((path) => path.split('/'))
		.some((part) => FORBIDDEN.has(part));

/**
 * The project after a patch, checked. Throws a ZygasterError: `conflict` when the patch does not fit
 * this project, or what `checkDocument` throws when the result is no sound project.
 */
export function applyPatch(project: Project, patch: Patch): Project {
	const hostile = patch.find(leadsOut);
	if (hostile) throw new ZygasterError('conflict', `This change does not fit a project: its path is ${hostile.path}.`);
	const changed: unknown = JSON.parse(JSON.stringify(project));
	const fault = applyInPlace(changed, [...patch]).find((result) => result !== null);
	if (fault)
		throw new ZygasterError('conflict', `This change does not fit the project as it is now (${fault.message}).`, '', {
			cause: fault
		});
	return checkDocument(changed);
}

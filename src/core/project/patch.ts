import { ZygasterError } from '../errors.ts';
import { applyInPlace, diff, PatchError, partsOf, pathOf, type Operation, type Patch } from './jsonPatch.ts';
import { checkDocument } from './read.ts';
import type { Project } from './schema.ts';

export type { Patch } from './jsonPatch.ts';

/**
 * The patch from one project to another. Every step into a list is led by a `test` of the id found
 * there, so that the patch cannot hit another element when somebody else has changed the list.
 */
export function diffProjects(before: Project, after: Project): Patch {
	const changes = diff(before, after);
	const tests = new Map<string, Operation>();
	for (const change of changes) {
		addIdTests(before, change.path, tests);
		if ('from' in change) addIdTests(before, change.from, tests);
	}
	return [...tests.values(), ...changes];
}

function addIdTests(document: unknown, path: string, tests: Map<string, Operation>): void {
	let at = document;
	const parts = partsOf(path);
	parts.forEach((part, k) => {
		at = (at as Record<string, unknown> | undefined)?.[part];
		const id = (at as { id?: unknown } | undefined)?.id;
		const here = pathOf(parts.slice(0, k + 1));
		if (typeof id === 'string') tests.set(here, { op: 'test', path: `${here}/id`, value: id });
	});
}

/**
 * The project after a patch, checked. Throws a ZygasterError: `conflict` when the patch does not fit
 * this project, or what `checkDocument` throws when the result is no sound project.
 */
export function applyPatch(project: Project, patch: Patch): Project {
	let changed: unknown;
	try {
		changed = applyInPlace(JSON.parse(JSON.stringify(project)), patch);
	} catch (cause) {
		if (!(cause instanceof PatchError)) throw cause;
		throw new ZygasterError('conflict', `This change does not fit the project as it is now: ${cause.message}.`, '', {
			cause
		});
	}
	return checkDocument(changed);
}

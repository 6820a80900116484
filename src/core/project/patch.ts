import { createDraft, finishDraft } from './drafts.ts';
import { ZygasterError } from '../errors.ts';
import { diffProjects } from './diff.ts';
import { applyInPlace, copyOfJson, PatchError, type Patch } from './jsonPatch.ts';
import { checkChanged, checkDocument } from './read.ts';
import type { Project } from './schema.ts';
import { checkTexts } from './texts.ts';

export type { Patch } from './jsonPatch.ts';

/** A project after a change, and the patches that lead there and back. */
export interface Changed {
	readonly project: Project;
	readonly patch: Patch;
	readonly back: Patch;
}

/**
 * A project with a change made on a draft of it, checked; what has not changed is shared. Throws what the change throws,
 * and a ZygasterError where the result is no sound project. O(what has changed).
 */
export function changeProject(project: Project, change: (draft: Project) => void): Project {
	const draft = createDraft(project);
	change(draft);
	const changed = finishDraft(draft);
	return changed === project ? project : checkChanged(changed);
}

/** The same, with the patches: they are found where the two projects share nothing, so that they cost what has changed. */
export function changeWithPatches(project: Project, change: (draft: Project) => void): Changed {
	const changed = changeProject(project, change);
	const patch = diffProjects(project, changed);
	checkTexts(patch);
	return { project: changed, patch, back: diffProjects(changed, project) };
}

/**
 * The project after a patch, checked. Throws a ZygasterError: `conflict` when the patch does not fit
 * this project, or what the check throws when the result is no sound project. O(what it changes).
 */
export const applyPatch = (project: Project, patch: Patch): Project => applyPatches(project, [patch]);

/** The project after a patch that has been checked elsewhere; what it does not change is shared. */
export function patched(project: Project, patch: Patch): Project {
	const draft = createDraft(project);
	applyInPlace(draft, patch);
	return finishDraft(draft);
}

/** The project after several patches, checked at the end. Throws as `applyPatch` does. */
export function applyPatches(project: Project, patches: readonly Patch[]): Project {
	const draft = createDraft(project);
	let changed: unknown = draft;
	try {
		for (const patch of patches) {
			checkTexts(patch);
			changed = applyInPlace(changed, patch);
		}
	} catch (cause) {
		if (!(cause instanceof PatchError)) throw cause;
		throw new ZygasterError('conflict', `This change does not fit the project as it is now: ${cause.message}.`, '', {
			cause
		});
	}
	if (changed !== draft) return checkDocument(copyOfJson(changed));
	const finished = finishDraft(draft);
	return finished === project ? project : checkChanged(finished);
}

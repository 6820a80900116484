import { differences, pathOf, type Operation, type Patch, type Steps } from './jsonPatch.ts';
import { KnownIds } from './knownIds.ts';
import type { Project } from './schema.ts';

/**
 * The patch from one project to another. Every step into a list is led by a `test` of the id found there, and what is
 * put into a list by one of the element before it: nobody else's change of the list can lead the patch astray, and it
 * can be put on a project whose lists have changed (`rebase.ts`).
 */
export function diffProjects(before: Project, after: Project): Patch {
	const patch: Operation[] = [];
	const known = new KnownIds();
	const test = (path: string, id: string) => {
		if (known.at(path) === id) return;
		known.learn(path, id);
		patch.push({ op: 'test', path: `${path}/id`, value: id });
	};
	const testAll = (steps: Steps) =>
		steps.forEach(({ id }, k) => {
			if (id !== undefined) test(pathOf(steps.slice(0, k + 1).map((s) => s.name)), id);
		});
	for (const { operation, steps, from, behind } of differences(before, after)) {
		if (from) testAll(from);
		testAll(steps);
		const at = steps.at(-1)?.name;
		if (behind !== undefined && typeof at === 'number')
			test(pathOf([...steps.slice(0, -1).map((s) => s.name), at - 1]), behind);
		patch.push(operation);
		known.forget(operation);
	}
	return patch;
}

import { ZygasterError } from '../errors.ts';
import { createDraft } from './drafts.ts';
import { placeInWords, valueInWords } from './describe.ts';
import {
	applyInPlace,
	idOf,
	PatchError,
	pathOf,
	type Operation,
	type Patch,
	type Step,
	type Steps
} from './jsonPatch.ts';
import { KnownIds } from './knownIds.ts';
import { applyPatch } from './patch.ts';
import { isPlace, readPatch, type Read } from './readPatch.ts';
import type { Project } from './schema.ts';

/** One place that two changes both touch, in the user's words. */
export interface Clash {
	readonly place: string;
	readonly mine: string;
	readonly theirs: string;
}

/** Thrown where a change cannot be put on a project that others have changed meanwhile. */
export class ClashError extends ZygasterError {
	readonly clashes: readonly Clash[];

	constructor(message: string, clashes: readonly Clash[]) {
		super('clash', message);
		this.clashes = clashes;
	}
}

/** A change as it fits a project that others have changed since, and the project after it. */
export interface Rebased {
	readonly patch: Patch;
	readonly project: Project;
}

/**
 * Puts a patch on a project that others' patches have changed since it was made: elements of lists are found again by
 * their ids. `before` is any state of the project that still has what the patches name; it is only asked for names.
 * Throws a ClashError where both touch one place, where what it changes is gone, or where the result is no sound project.
 */
export function rebase(project: Project, patch: Patch, others: readonly Patch[], before: Project = project): Rebased {
	const mine = readPatch(patch);
	const clashes = clashesOf(mine, others.flatMap(readPatch), before);
	if (clashes.length) throw new ClashError(`${clashes.map((c) => c.place).join(', ')}: both were changed.`, clashes);
	const found = findAgain(project, mine, before);
	try {
		return { patch: found, project: applyPatch(project, found) };
	} catch (cause) {
		if (!(cause instanceof ZygasterError)) throw cause;
		throw new ClashError(cause.message, []);
	}
}

/** Whether two changes touch one place, so that the later one would undo something of the earlier. */
export const touchesSame = (a: Patch, b: Patch): boolean => overlaps(readPatch(a), readPatch(b)).length > 0;

/** A place that is touched, as a tree by names and ids. */
interface Branch {
	readonly inner: Map<string, Branch>;
	ends?: Read;
}

const keyOf = ({ name, id }: Step) => (id === undefined ? String(name) : `#${id}`);

function overlaps(mine: readonly Read[], theirs: readonly Read[]): { mine: Read; theirs: Read; at: Steps }[] {
	const root: Branch = { inner: new Map() };
	for (const read of theirs)
		for (const steps of read.touched) {
			let branch = root;
			for (const step of steps) {
				let next = branch.inner.get(keyOf(step));
				if (!next) branch.inner.set(keyOf(step), (next = { inner: new Map() }));
				branch = next;
			}
			branch.ends ??= read;
		}
	return mine.flatMap((read) =>
		read.touched.flatMap((steps) => {
			const other = meeting(root, steps, 0);
			return other ? [{ mine: read, theirs: other, at: steps }] : [];
		})
	);
}

/** What ends on the way, or beyond its end. */
function meeting(branch: Branch, steps: Steps, k: number): Read | undefined {
	if (branch.ends) return branch.ends;
	if (k === steps.length) return firstEnd(branch);
	for (const next of branchesAt(branch, steps[k]!)) {
		const found = meeting(next, steps, k + 1);
		if (found) return found;
	}
	return undefined;
}

/** A place that is known by its number only may be that of any element. */
function branchesAt({ inner }: Branch, step: Step): Branch[] {
	if (!isPlace(step)) return [inner.get(keyOf(step))].filter((b) => b !== undefined);
	return [...inner]
		.filter(([key]) => key === keyOf(step) || key.startsWith('#') !== (step.id !== undefined))
		.map(([, b]) => b);
}

function firstEnd(branch: Branch): Read | undefined {
	if (branch.ends) return branch.ends;
	for (const next of branch.inner.values()) {
		const found = firstEnd(next);
		if (found) return found;
	}
	return undefined;
}

const MOST_CLASHES = 20;

function clashesOf(mine: readonly Read[], theirs: readonly Read[], before: Project): Clash[] {
	const seen = new Set<string>();
	return overlaps(mine, theirs).flatMap(({ mine, theirs, at }) => {
		const place = placeInWords(before, at);
		if (same(mine, theirs) || seen.has(place) || seen.size === MOST_CLASHES) return [];
		seen.add(place);
		return [{ place, mine: effect(mine), theirs: effect(theirs) }];
	});
}

/** Two that do the same at the same place are at one. */
const same = (a: Read, b: Read) =>
	a.operation.op === 'replace' &&
	b.operation.op === 'replace' &&
	a.steps.map(keyOf).join('/') === b.steps.map(keyOf).join('/') &&
	JSON.stringify(a.operation.value) === JSON.stringify(b.operation.value);

function effect({ operation }: Read): string {
	if (operation.op === 'remove') return 'removed';
	if (operation.op === 'move') return 'moved';
	return 'value' in operation ? valueInWords(operation.value) : 'changed';
}

/** The patch with the places at which its elements stand in a project. */
function findAgain(project: Project, reads: readonly Read[], before: Project): Patch {
	const patch: Operation[] = [];
	const draft: unknown = createDraft(project);
	const told = new KnownIds();
	for (const { operation, steps, from, behind } of reads) {
		const put = operation.op === 'add' || operation.op === 'move' || operation.op === 'copy';
		const source = from && namesOf(draft, from, before);
		const names = put ? putNames(draft, steps, behind, from, before) : namesOf(draft, steps, before);
		for (const way of source ? [names, source] : [names])
			for (const test of testsOn(draft, way.slice(0, put && way === names ? -1 : undefined), told)) patch.push(test);
		if (put && behind !== undefined) {
			const at = Number(names.at(-1)) - 1;
			const path = pathOf([...names.slice(0, -1), at]);
			if (operation.op === 'add' && at >= 0 && told.at(path) !== behind) {
				told.learn(path, behind);
				patch.push({ op: 'test', path: `${path}/id`, value: behind });
			}
		}
		const moved = { ...operation, path: pathOf(names), ...(source ? { from: pathOf(source) } : {}) } as Operation;
		try {
			applyInPlace(draft, [moved]);
		} catch (cause) {
			if (!(cause instanceof PatchError)) throw cause;
			throw new ClashError(`${placeInWords(before, steps)} is not there any more as it was.`, []);
		}
		patch.push(moved);
		told.forget(moved);
	}
	return patch;
}

function namesOf(draft: unknown, steps: Steps, before: Project): (string | number)[] {
	let at = draft;
	return steps.map((step, k) => {
		let { name } = step;
		if (Array.isArray(at) && step.id !== undefined) {
			name = at.findIndex((element) => idOf(element) === step.id);
			if (name < 0) {
				const place = placeInWords(before, steps.slice(0, k + 1));
				throw new ClashError(`${place} has been removed meanwhile.`, [{ place, mine: 'changed', theirs: 'removed' }]);
			}
		}
		at =
			typeof at === 'object' && at !== null && Object.hasOwn(at, name)
				? (at as Record<string | number, unknown>)[name]
				: undefined;
		return name;
	});
}

/** Where something is put: behind the element that it stood behind, or at its number as far as the list goes. */
function putNames(
	draft: unknown,
	steps: Steps,
	behind: string | undefined,
	from: Steps | undefined,
	before: Project
): (string | number)[] {
	const last = steps.at(-1);
	if (!last || !isPlace(last)) return namesOf(draft, steps, before);
	const way = namesOf(draft, steps.slice(0, -1), before);
	let list = draft;
	for (const name of way) list = (list as Record<string | number, unknown> | undefined)?.[name];
	if (!Array.isArray(list) || last.name === '-') return [...way, last.name];
	const found = behind === undefined ? -1 : list.findIndex((element) => idOf(element) === behind);
	// What is moved within its list is taken out of it first.
	const own = from?.at(-1)?.id;
	const at = own === undefined ? -1 : list.findIndex((element) => idOf(element) === own);
	const place =
		found < 0
			? Math.min(Number(last.name), list.length - (at < 0 ? 0 : 1))
			: found + 1 - (at >= 0 && at <= found ? 1 : 0);
	return [...way, place];
}

/** Tests of the ids on a way, as far as they have not been made. */
function testsOn(draft: unknown, names: readonly (string | number)[], told: KnownIds): Operation[] {
	const tests: Operation[] = [];
	let at = draft;
	names.forEach((name, k) => {
		const isElement = Array.isArray(at);
		at = (at as Record<string | number, unknown> | undefined)?.[name];
		const id = isElement ? idOf(at) : undefined;
		const path = pathOf(names.slice(0, k + 1));
		if (id === undefined || told.at(path) === id) return;
		told.learn(path, id);
		tests.push({ op: 'test', path: `${path}/id`, value: id });
	});
	return tests;
}

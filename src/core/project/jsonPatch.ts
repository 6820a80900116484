/** One step of a change: JSON Patch, RFC 6902. */
export type Operation =
	| { readonly op: 'add' | 'replace' | 'test'; readonly path: string; readonly value: unknown }
	| { readonly op: 'remove'; readonly path: string }
	| { readonly op: 'move' | 'copy'; readonly from: string; readonly path: string };

/** A change of a document. */
export type Patch = readonly Operation[];

/** Why an operation does not fit a document, with the path that it is about. */
export class PatchError extends Error {
	readonly path: string;

	constructor(path: string, message: string) {
		super(message);
		this.path = path;
	}
}

/** Values that a patch may copy at most, all of its copies together: a few bytes could ask for any number of them. */
const MOST_COPIED = 2_000_000;

/**
 * Applies a patch in place. Only own keys of plain data are touched, whatever names a path has. Throws a PatchError
 * where an operation does not fit; the document may have been changed in part by then. Source: RFC 6902, RFC 6901.
 */
export function applyInPlace(document: unknown, patch: Patch): unknown {
	const root = { document };
	let copied = 0;
	for (const operation of patch) {
		switch (operation.op) {
			case 'test':
				if (!same(valueAt(root, operation.path), operation.value))
					throw new PatchError(operation.path, `${operation.path} is not what it was`);
				break;
			case 'add':
				insert(root, operation.path, given(operation));
				break;
			case 'replace':
				take(root, operation.path);
				insert(root, operation.path, given(operation));
				break;
			case 'remove':
				take(root, operation.path);
				break;
			case 'move':
				if (operation.path.startsWith(`${operation.from}/`))
					throw new PatchError(operation.path, `${operation.from} cannot be moved into itself`);
				insert(root, operation.path, take(root, operation.from));
				break;
			case 'copy': {
				const value = valueAt(root, operation.from);
				copied += countOf(value, MOST_COPIED);
				if (copied > MOST_COPIED)
					throw new PatchError(operation.path, `it copies more than ${MOST_COPIED} values at once`);
				insert(root, operation.path, copyOfJson(value));
				break;
			}
			default:
				throw new PatchError('', `“${String((operation as { op?: unknown }).op)}” is no operation of a patch`);
		}
	}
	return root.document;
}

/** The value that an operation brings, as a copy: the patch stays what it is. */
function given({ path, value }: Extract<Operation, { value: unknown }>): unknown {
	if (value === undefined) throw new PatchError(path, `nothing is given for ${path}`);
	return copyOfJson(value);
}

/** A copy of a value of JSON, also of one that is being drafted. */
export const copyOfJson = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T;

/** The names of a path. Source: RFC 6901. */
export function partsOf(path: string): string[] {
	if (path === '') return [];
	if (!path.startsWith('/')) throw new PatchError(path, `“${path}” is no path; right would be one that begins with /`);
	return path
		.slice(1)
		.split('/')
		.map((part) => part.replaceAll('~1', '/').replaceAll('~0', '~'));
}

export const pathOf = (parts: readonly (string | number)[]): string =>
	parts.map((part) => `/${String(part).replaceAll('~', '~0').replaceAll('/', '~1')}`).join('');

interface Root {
	document: unknown;
}
type Holder = Record<string, unknown> | unknown[];

/** What holds the last name of a path, and that name. */
function holderOf(root: Root, path: string): { holder: Holder; name: string } {
	const parts = ['document', ...partsOf(path)];
	let holder: unknown = root;
	for (const part of parts.slice(0, -1)) holder = own(holder, part, path);
	if (typeof holder !== 'object' || holder === null) throw new PatchError(path, `nothing stands at ${path}`);
	return { holder: holder as Holder, name: parts.at(-1)! };
}

const INDEX = /^(0|[1-9]\d*)$/;

function own(holder: unknown, name: string, path: string): unknown {
	const there =
		typeof holder === 'object' &&
		holder !== null &&
		(Array.isArray(holder) ? INDEX.test(name) && Number(name) < holder.length : Object.hasOwn(holder, name));
	if (!there) throw new PatchError(path, `nothing stands at ${path}`);
	return (holder as Record<string, unknown>)[name];
}

function valueAt(root: Root, path: string): unknown {
	const { holder, name } = holderOf(root, path);
	return own(holder, name, path);
}

function insert(root: Root, path: string, value: unknown): void {
	const { holder, name } = holderOf(root, path);
	if (Array.isArray(holder)) {
		const index = name === '-' ? holder.length : INDEX.test(name) ? Number(name) : NaN;
		if (!(index <= holder.length)) throw new PatchError(path, `${path} is no place of its list`);
		holder.splice(index, 0, value);
	} else if (name === '__proto__') throw new PatchError(path, `${path} is no name of a document`);
	else holder[name] = value;
}

/** Takes a value out; the document itself is left in place, to be replaced. */
function take(root: Root, path: string): unknown {
	const { holder, name } = holderOf(root, path);
	const value = own(holder, name, path);
	if (Array.isArray(holder)) holder.splice(Number(name), 1);
	else if ((holder as unknown) !== root) Reflect.deleteProperty(holder, name);
	return value;
}

/** How many values a document holds, as far as `most`. */
function countOf(value: unknown, most: number): number {
	let count = 0;
	const visit = (part: unknown): void => {
		if (++count > most || typeof part !== 'object' || part === null) return;
		for (const inner of Object.values(part)) visit(inner);
	};
	visit(value);
	return count;
}

/** Whether two values of JSON are alike, whatever the order of their keys. O(values). */
export function same(a: unknown, b: unknown): boolean {
	if (a === b) return true;
	if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null)
		return Number.isNaN(a) && Number.isNaN(b);
	if (Array.isArray(a) || Array.isArray(b))
		return Array.isArray(a) && Array.isArray(b) && a.length === b.length && a.every((value, k) => same(value, b[k]));
	const names = Object.keys(a);
	if (names.length !== Object.keys(b).length) return false;
	return names.every(
		(name) => Object.hasOwn(b, name) && same((a as Record<string, unknown>)[name], (b as Record<string, unknown>)[name])
	);
}

/** A step of a path: a name, or a place of a list with the id of the element that stands there, where it has one. */
export interface Step {
	readonly name: string | number;
	readonly id?: string | undefined;
}
export type Steps = readonly Step[];

/** An operation of a difference, with what stands on the way to its places before it is done. */
export interface Found {
	readonly operation: Operation;
	readonly steps: Steps;
	/** Of a move: where it comes from. */
	readonly from?: Steps;
	/** Of what is put into a list: the id of the element that it stands behind. */
	readonly behind?: string | undefined;
}

/** The patch from one value of JSON to another. */
export const diff = (before: unknown, after: unknown): Patch => differences(before, after).map((d) => d.operation);

/**
 * What leads from one value of JSON to another, step by step. Lists whose elements have ids are told apart by these; of
 * others what is alike at both ends stays, and the rest is gone through place by place. What both share is not gone
 * through, so that values made on a draft take O(what has changed, and the lists that hold it); others O(values), and
 * lists of ids O(n2) in those that have moved.
 */
export function differences(before: unknown, after: unknown): Found[] {
	const found: Found[] = [];
	diffInto(before, after, [], found);
	return found;
}

const pathTo = (steps: Steps) => pathOf(steps.map((s) => s.name));

function diffInto(before: unknown, after: unknown, at: Steps, out: Found[]): void {
	if (before === after) return;
	if (Array.isArray(before) && Array.isArray(after)) return diffLists(before, after, at, out);
	if (isPlain(before) && isPlain(after)) return diffObjects(before, after, at, out);
	if (same(before, after)) return;
	out.push({ operation: { op: 'replace', path: pathTo(at), value: after }, steps: at });
}

const isPlain = (value: unknown): value is Record<string, unknown> =>
	typeof value === 'object' && value !== null && !Array.isArray(value);

/** The id of an element of a list, where it has one. */
export const idOf = (element: unknown): string | undefined =>
	isPlain(element) && Object.hasOwn(element, 'id') && typeof element.id === 'string' ? element.id : undefined;

function diffObjects(before: Record<string, unknown>, after: Record<string, unknown>, at: Steps, out: Found[]): void {
	for (const name of Object.keys(before))
		if ((!Object.hasOwn(after, name) || after[name] === undefined) && before[name] !== undefined) {
			const steps = [...at, { name }];
			out.push({ operation: { op: 'remove', path: pathTo(steps) }, steps });
		}
	for (const [name, value] of Object.entries(after)) {
		if (value === undefined) continue;
		const steps = [...at, { name }];
		if (Object.hasOwn(before, name) && before[name] !== undefined) diffInto(before[name], value, steps, out);
		else out.push({ operation: { op: 'add', path: pathTo(steps), value }, steps });
	}
}

function diffLists(before: readonly unknown[], after: readonly unknown[], at: Steps, out: Found[]): void {
	const least = Math.min(before.length, after.length);
	let start = 0;
	while (start < least && same(before[start], after[start])) start++;
	let end = 0;
	while (end < least - start && same(before[before.length - 1 - end], after[after.length - 1 - end])) end++;
	const [old, now] = [before.slice(start, before.length - end), after.slice(start, after.length - end)];
	const [oldIds, ids] = [idsOf(old), idsOf(now)];
	const stepTo = (name: number, id?: string) => [...at, { name, id }];
	if (oldIds && ids) {
		const place = (k: number, id?: string) => stepTo(start + k, id);
		diffById({ old, oldIds, now, ids, place, before: idOf(before[start - 1]) }, out);
		return;
	}
	const both = Math.min(old.length, now.length);
	for (let k = 0; k < both; k++) {
		const [a, b] = [idOf(old[k]), idOf(now[k])];
		// An element is never made into another one: whoever has changed the first would not know it again.
		if (a === b) diffInto(old[k], now[k], stepTo(start + k, a), out);
		else
			out.push({
				operation: { op: 'replace', path: pathTo(stepTo(start + k)), value: now[k] },
				steps: stepTo(start + k, a)
			});
	}
	for (let k = old.length - 1; k >= both; k--) {
		const steps = stepTo(start + k, idOf(old[k]));
		out.push({ operation: { op: 'remove', path: pathTo(steps) }, steps });
	}
	for (let k = both; k < now.length; k++) {
		const steps = stepTo(start + k);
		out.push({
			operation: { op: 'add', path: pathTo(steps), value: now[k] },
			steps,
			behind: idOf(after[start + k - 1])
		});
	}
}

/** The ids of elements, where all have one and none twice. */
function idsOf(list: readonly unknown[]): string[] | undefined {
	const ids = list.map(idOf);
	return ids.every((id) => id !== undefined) && new Set(ids).size === ids.length ? ids : undefined;
}

interface Lists {
	readonly old: readonly unknown[];
	readonly oldIds: readonly string[];
	readonly now: readonly unknown[];
	readonly ids: readonly string[];
	/** The steps to a place of what differs. */
	readonly place: (k: number, id?: string) => Steps;
	/** The id of what stands before all of it. */
	readonly before: string | undefined;
}

function diffById({ old, oldIds, now, ids, place, before }: Lists, out: Found[]): void {
	const wanted = new Set(ids);
	const known = new Map(oldIds.map((id, k) => [id, old[k]]));
	const here = [...oldIds];
	for (let k = here.length - 1; k >= 0; k--)
		if (!wanted.has(here[k]!)) {
			const steps = place(k, here[k]);
			out.push({ operation: { op: 'remove', path: pathTo(steps) }, steps });
			here.splice(k, 1);
		}
	ids.forEach((id, k) => {
		const steps = place(k);
		const path = pathTo(steps);
		const behind = k > 0 ? ids[k - 1] : before;
		if (!known.has(id)) {
			out.push({ operation: { op: 'add', path, value: now[k] }, steps, behind });
			here.splice(k, 0, id);
		} else if (here[k] !== id) {
			const at = here.indexOf(id, k);
			const from = place(at, id);
			out.push({ operation: { op: 'move', from: pathTo(from), path }, steps, from, behind });
			here.splice(k, 0, ...here.splice(at, 1));
		}
	});
	ids.forEach((id, k) => {
		if (known.has(id)) diffInto(known.get(id), now[k], place(k, id), out);
	});
}

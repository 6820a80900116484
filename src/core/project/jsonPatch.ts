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

const copyOfJson = (value: unknown): unknown => JSON.parse(JSON.stringify(value));

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
	if (Array.isArray(a) !== Array.isArray(b)) return false;
	const names = Object.keys(a);
	if (names.length !== Object.keys(b).length) return false;
	return names.every(
		(name) => Object.hasOwn(b, name) && same((a as Record<string, unknown>)[name], (b as Record<string, unknown>)[name])
	);
}

/**
 * The patch from one value of JSON to another. Lists whose elements have ids are told apart by these; of others what
 * is alike at both ends stays, and the rest is gone through place by place. O(values), for lists of ids O(n2) in those
 * that have moved.
 */
export function diff(before: unknown, after: unknown): Patch {
	const operations: Operation[] = [];
	diffInto(before, after, [], operations);
	return operations;
}

type Parts = readonly (string | number)[];

function diffInto(before: unknown, after: unknown, at: Parts, out: Operation[]): void {
	if (same(before, after)) return;
	if (Array.isArray(before) && Array.isArray(after)) return diffLists(before, after, at, out);
	if (isPlain(before) && isPlain(after)) return diffObjects(before, after, at, out);
	out.push({ op: 'replace', path: pathOf(at), value: after });
}

const isPlain = (value: unknown): value is Record<string, unknown> =>
	typeof value === 'object' && value !== null && !Array.isArray(value);

function diffObjects(
	before: Record<string, unknown>,
	after: Record<string, unknown>,
	at: Parts,
	out: Operation[]
): void {
	for (const name of Object.keys(before))
		if (!Object.hasOwn(after, name) || after[name] === undefined) {
			if (before[name] !== undefined) out.push({ op: 'remove', path: pathOf([...at, name]) });
		}
	for (const [name, value] of Object.entries(after)) {
		if (value === undefined) continue;
		if (Object.hasOwn(before, name) && before[name] !== undefined) diffInto(before[name], value, [...at, name], out);
		else out.push({ op: 'add', path: pathOf([...at, name]), value });
	}
}

function diffLists(before: readonly unknown[], after: readonly unknown[], at: Parts, out: Operation[]): void {
	const least = Math.min(before.length, after.length);
	let start = 0;
	while (start < least && same(before[start], after[start])) start++;
	let end = 0;
	while (end < least - start && same(before[before.length - 1 - end], after[after.length - 1 - end])) end++;
	const [old, now] = [before.slice(start, before.length - end), after.slice(start, after.length - end)];
	const [oldIds, ids] = [idsOf(old), idsOf(now)];
	if (oldIds && ids) diffById(old, oldIds, now, ids, start, at, out);
	else {
		const both = Math.min(old.length, now.length);
		for (let k = 0; k < both; k++) diffInto(old[k], now[k], [...at, start + k], out);
		for (let k = old.length - 1; k >= both; k--) out.push({ op: 'remove', path: pathOf([...at, start + k]) });
		for (let k = both; k < now.length; k++) out.push({ op: 'add', path: pathOf([...at, start + k]), value: now[k] });
	}
}

/** The ids of elements, where all have one and none twice. */
function idsOf(list: readonly unknown[]): string[] | undefined {
	const ids = list.map((element) => (isPlain(element) ? element.id : undefined));
	return ids.every((id) => typeof id === 'string') && new Set(ids).size === ids.length ? (ids as string[]) : undefined;
}

function diffById(
	old: readonly unknown[],
	oldIds: readonly string[],
	now: readonly unknown[],
	ids: readonly string[],
	start: number,
	at: Parts,
	out: Operation[]
): void {
	const wanted = new Set(ids);
	const before = new Map(oldIds.map((id, k) => [id, old[k]]));
	const here = [...oldIds];
	for (let k = here.length - 1; k >= 0; k--)
		if (!wanted.has(here[k]!)) {
			out.push({ op: 'remove', path: pathOf([...at, start + k]) });
			here.splice(k, 1);
		}
	ids.forEach((id, k) => {
		const path = pathOf([...at, start + k]);
		if (!before.has(id)) {
			out.push({ op: 'add', path, value: now[k] });
			here.splice(k, 0, id);
		} else if (here[k] !== id) {
			const from = here.indexOf(id, k);
			out.push({ op: 'move', from: pathOf([...at, start + from]), path });
			here.splice(k, 0, ...here.splice(from, 1));
		}
	});
	ids.forEach((id, k) => {
		if (before.has(id)) diffInto(before.get(id), now[k], [...at, start + k], out);
	});
}

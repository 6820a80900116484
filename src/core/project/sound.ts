import type { z } from 'zod';

/** What has come out of a check of a document. Nobody changes such a value: changes are made on drafts that share what stays. */
const sound = new WeakSet<object>();
let checking: 'nothing' | 'all' | 'changed' = 'nothing';

/** Runs a check of a document: of `all` of it, or of what has `changed`, where what came out of an earlier one is taken as it is. */
export function checkingDocument<T>(what: 'all' | 'changed', check: () => T): T {
	const before = checking;
	checking = what;
	try {
		return check();
	} finally {
		checking = before;
	}
}

/** The schema, which remembers the objects that came out of it without a fault. Call it last, after `max` and its like. */
export function remembered<S extends z.ZodType>(schema: S): S {
	const internals = schema._zod;
	const { run } = internals;
	internals.run = (payload, context) => {
		if (checking === 'nothing') return run(payload, context);
		if (checking === 'changed' && isSound(payload.value)) return payload;
		const result = run(payload, context);
		if (!(result instanceof Promise) && result.issues.length === 0 && isObject(result.value)) sound.add(result.value);
		return result;
	};
	return schema;
}

const isObject = (value: unknown): value is object => typeof value === 'object' && value !== null;
const isSound = (value: unknown) => isObject(value) && sound.has(value);

/** Something wrong: where, from the part that was checked on, and what would be right. */
export interface Fault {
	readonly path: readonly (string | number)[];
	readonly message: string;
}

/**
 * A check of a part beside others; one that found nothing is made again only when one of them has changed.
 * The answer tells what is wrong.
 */
export function beside<Part extends object, Others extends readonly unknown[]>(
	check: (part: Part, ...others: Others) => readonly Fault[]
): (part: Part, ...others: Others) => readonly Fault[] {
	const right = new WeakMap<Part, Others>();
	return (part, ...others) => {
		const known = checking === 'changed' ? right.get(part) : undefined;
		if (known?.every((value, k) => value === others[k])) return [];
		const found = check(part, ...others);
		if (found.length === 0 && checking !== 'nothing') right.set(part, others);
		return found;
	};
}

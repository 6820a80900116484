/** Steps from a value to one within it. */
export type Path = readonly (string | number)[];

/** The value at a path; undefined where it leads nowhere. */
export function valueAt(root: unknown, path: Path): unknown {
	return path.reduce<unknown>((at, step) => (at as Record<string | number, unknown> | undefined)?.[step], root);
}

/** Sets the value at a path of an object that may be changed. */
export function setAt(root: object, path: Path, value: unknown): void {
	const owner = valueAt(root, path.slice(0, -1)) as Record<string | number, unknown>;
	owner[path.at(-1)!] = value;
}

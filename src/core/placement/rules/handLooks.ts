import { KEY_SIZE, type RuleHosts } from './ruleHosts.ts';
import type { Override, RuleValue } from './schema.ts';

/** What is set by hand on a host, later ones over earlier ones. */
export interface Look {
	readonly kit: string | null | undefined;
	readonly values: Readonly<Record<string, RuleValue>>;
	readonly turn: Override['turn'];
}

/** What overrides set on the hosts that they find; what they wait for is counted in `waiting`, by override. O(hosts + overrides). */
export function handLooks(
	overrides: readonly Override[],
	hosts: RuleHosts,
	waiting: Record<string, number>
): { readonly looks: ReadonlyMap<number, Look>; readonly used: number } {
	const looks = new Map<number, Look>();
	let used = 0;
	if (overrides.length === 0) return { looks, used };
	const { keys, stands } = hosts;
	/** One number for a row, a piece and a side or corner: those that are asked for, with their hosts by column. */
	const lineOf = (row: number, piece: number, at: number) => (row * 256 + piece) * 4096 + at;
	const lines = new Map<number, Map<number, number>>();
	for (const { hosts: runs } of overrides)
		for (const [row, , , piece, at] of runs) lines.set(lineOf(row, piece, at), new Map());
	for (let h = 0; h < hosts.count; h++) {
		if (stands && stands[h] === 0) continue;
		const o = h * KEY_SIZE;
		lines.get(lineOf(keys[o]!, keys[o + 2]!, keys[o + 3]!))?.set(keys[o + 1]!, h);
	}
	for (const { id, hosts: runs, kit, values, turn } of overrides)
		for (const [row, from, to, piece, at] of runs) {
			const line = lines.get(lineOf(row, piece, at))!;
			// A run may be far longer than the row is.
			const found =
				to - from < line.size
					? Array.from({ length: to - from + 1 }, (_, k) => line.get(from + k)).filter((h) => h !== undefined)
					: [...line].flatMap(([column, h]) => (column >= from && column <= to ? [h] : []));
			const missing = to - from + 1 - found.length;
			if (missing) waiting[id] = (waiting[id] ?? 0) + missing;
			used += found.length;
			for (const h of found) {
				const before = looks.get(h);
				looks.set(h, {
					kit: kit === undefined ? before?.kit : kit,
					values: { ...before?.values, ...values },
					turn: turn ?? before?.turn
				});
			}
		}
	return { looks, used };
}

/** 1 for every host that has a look. */
export function markedOf(count: number, looks: ReadonlyMap<number, Look>): Uint8Array {
	const marked = new Uint8Array(count);
	for (const h of looks.keys()) marked[h] = 1;
	return marked;
}

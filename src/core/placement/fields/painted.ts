import type { RuleHosts } from '../rules/ruleHosts.ts';
import type { Field } from './schema.ts';

export type Painted = Extract<Field['source'], { kind: 'painted' }>;

/** One number for a row and a column; a face has fewer than 2^21 columns. */
const placeOf = (row: number, column: number) => row * 2_097_152 + column;

/** What has been painted on each cell of a face, 0 to 1; other hosts have the mean of the cells that they touch. O(runs + hosts). */
export function paintedColumn({ parts }: Painted, key: string, hosts: RuleHosts): Float64Array {
	const { count, row, column } = hosts.face.cells;
	/** Runs by row, since a run may be longer than the row is. */
	const runs = new Map<number, Painted['parts'][number]['runs'][number][]>();
	for (const run of parts.find((p) => p.face === key)?.runs ?? []) {
		const there = runs.get(run[0]);
		if (there) there.push(run);
		else runs.set(run[0], [run]);
	}
	const known = new Map<number, number>();
	const cells = new Float64Array(count);
	for (let c = 0; c < count; c++) {
		const place = placeOf(row[c]!, column[c]!);
		const value =
			known.get(place) ?? runs.get(row[c]!)?.find(([, from, to]) => column[c]! >= from && column[c]! <= to)?.[3] ?? 0;
		known.set(place, value);
		cells[c] = value;
	}
	if (hosts.kind === 'cell') return cells;
	const { start, items } = hosts.cells;
	const out = new Float64Array(hosts.count);
	for (let h = 0; h < out.length; h++) {
		const n = start[h + 1]! - start[h]!;
		for (let k = start[h]!; k < start[h + 1]!; k++) out[h]! += cells[items[k]!]! / n;
	}
	return out;
}

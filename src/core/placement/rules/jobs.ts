import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import type { Kit, KitParameter } from '../../kit/schema.ts';
import type { GivenValues } from '../../kit/values.ts';
import type { Rule, RuleValue, Turn } from './schema.ts';
import type { RuleScope } from './scope.ts';
import { alongPaths } from './pathPoints.ts';
import { Uint32List } from '../../lists.ts';
import { isText, resolveValue, type Resolved } from './values.ts';

/** A kit that is placed on some hosts of a face with values. */
export interface Job {
	/** Of its face: no other job has it. */
	readonly id: string;
	/** Rule that took the hosts; nothing where all is set by hand. */
	readonly rule: string | undefined;
	readonly byHand: boolean;
	readonly kit: string;
	/** Hosts in the numbering of the kit's own, rising. */
	readonly hosts: Uint32Array;
	/** The same for all of them. */
	readonly given: GivenValues;
	/** By host, in their order. */
	readonly columns: Readonly<Record<string, Float64Array>>;
	/** Of paths: values that differ along them, by the numbers of their points. */
	readonly points?: Readonly<Record<string, Float64Array>>;
	readonly turn?: Turn | undefined;
	readonly trim?: Rule['trim'];
	/** On how many hosts a value was held at a parameter's limits, by its name. */
	readonly clamped: ReadonlyMap<string, number>;
	/** Hosts on which a value is no number, by parameter; the kit's own value stands there. */
	readonly without: ReadonlyMap<string, number>;
	/** Of everything above. */
	readonly hash: string;
}

/** Hosts with the values that they are to have. */
export interface JobPlan extends Pick<Job, 'rule' | 'byHand' | 'turn' | 'trim'> {
	readonly id: string;
	readonly kit: Kit;
	readonly hosts: Uint32Array;
	/** Of each host, in their order; one alone holds for all. */
	readonly values: readonly Readonly<Record<string, RuleValue>>[];
	/** The number that the kit knows a host by, where that is another. */
	readonly renumber?: (host: number) => number;
}

/**
 * Makes jobs of a plan: several where hosts have different texts, materials, or different values given at all.
 * Throws a FormulaError where a value cannot be worked out. O(hosts x values).
 */
export function jobsOf(plan: JobPlan, scope: RuleScope): Job[] {
	const { kit, hosts, values } = plan;
	const resolved = new Map<RuleValue, Map<KitParameter, Resolved>>();
	const resolve = (value: RuleValue, parameter: KitParameter): Resolved => {
		if (typeof value !== 'object') return { kind: 'same', value };
		const known = resolved.get(value)?.get(parameter);
		if (known) return known;
		const made = resolveValue(value, parameter, scope);
		resolved.set(value, (resolved.get(value) ?? new Map<KitParameter, Resolved>()).set(parameter, made));
		return made;
	};
	/** What parts one job from another: which values are given, and their texts. */
	const groups = new Map<string, Group>();
	const groupOf = (row: number): Group => {
		const own = values[values.length === 1 ? 0 : row]!;
		const names = kit.parameters.filter((p) => own[p.name] !== undefined);
		const texts: Record<string, string> = {};
		for (const p of names) {
			if (!isText(p)) continue;
			const found = resolve(own[p.name]!, p);
			texts[p.name] =
				found.kind === 'words' ? found.words[found.index[hosts[row]!]!]! : String((found as { value: unknown }).value);
		}
		const key = JSON.stringify([names.map((p) => p.name), texts]);
		const known = groups.get(key) ?? { rows: [], texts, names };
		groups.set(key, known);
		return known;
	};
	const [first] = values;
	const alike =
		values.length === 1 &&
		kit.parameters.every((p) => first![p.name] === undefined || resolve(first![p.name]!, p).kind !== 'words');
	// Where all are alike, rows are those of the plan.
	if (alike) groupOf(0);
	else for (let row = 0; row < hosts.length; row++) groupOf(row).rows.push(row);
	return [...groups.values()].map(({ rows, texts, names }, g) => {
		const count = alike ? hosts.length : rows.length;
		const rowAt = (k: number) => (alike ? k : rows[k]!);
		const given: Record<string, number | string> = { ...texts };
		const columns: Record<string, Float64Array> = {};
		const clamped = new Map<string, number>();
		const without = new Map<string, number>();
		const points: Record<string, Float64Array> = {};
		for (const p of names) {
			if (isText(p)) continue;
			const along = kit.host.kind === 'path' && alike && alongPaths(first![p.name]!, p, scope);
			if (along) points[p.name] = along;
			const constant = alike ? resolve(first![p.name]!, p) : undefined;
			if (constant?.kind === 'same') {
				given[p.name] = constant.value;
				continue;
			}
			const column = new Float64Array(count);
			let same = true;
			for (let k = 0; k < column.length; k++) {
				const row = rowAt(k);
				const found = constant ?? resolve(values[values.length === 1 ? 0 : row]![p.name]!, p);
				column[k] = found.kind === 'numbers' ? found.column[hosts[row]!]! : Number((found as { value: unknown }).value);
				same &&= column[k] === column[0];
			}
			if (same && !Number.isNaN(column[0])) given[p.name] = column[0]!;
			else columns[p.name] = held(p, column, clamped, without);
		}
		const ids = alike && !plan.renumber ? hosts : new Uint32Array(count);
		for (let k = 0; ids !== hosts && k < ids.length; k++) {
			const h = hosts[rowAt(k)]!;
			ids[k] = plan.renumber ? plan.renumber(h) : h;
		}
		const job = {
			id: groups.size > 1 ? `${plan.id} ${g + 1}` : plan.id,
			rule: plan.rule,
			byHand: plan.byHand,
			kit: kit.id,
			hosts: ids,
			given,
			columns,
			...(Object.keys(points).length ? { points } : {}),
			turn: plan.turn,
			...(plan.trim ? { trim: plan.trim } : {}),
			clamped,
			without
		};
		return { ...job, hash: hashOfJob(job) };
	});
}

/** Hosts of one job, as rows of its plan. */
interface Group {
	readonly rows: number[];
	readonly texts: Readonly<Record<string, string>>;
	readonly names: readonly KitParameter[];
}

/** A column between a parameter's limits, with its default where there is no number. */
function held(
	p: KitParameter,
	column: Float64Array,
	clamped: Map<string, number>,
	without: Map<string, number>
): Float64Array {
	const [least, greatest] =
		p.quantity === 'choice' ? [0, p.choices.length - 1] : 'least' in p ? [p.least, p.greatest] : [-Infinity, Infinity];
	let [over, none] = [0, 0];
	const out = column.map((value) => {
		if (!Number.isFinite(value)) {
			none++;
			return Number(p.default);
		}
		const asked = p.quantity === 'count' || p.quantity === 'choice' ? Math.round(value) : value;
		const used = Math.min(greatest, Math.max(least, asked));
		if (used !== asked) over++;
		return used;
	});
	if (over) clamped.set(p.name, over);
	if (none) without.set(p.name, none);
	return out;
}

/** Rising numbers as runs: the first, and how many follow on each other. What stands for most of a face is hashed at once. */
function runsOf(rising: Uint32Array): Uint32Array {
	const runs = new Uint32List();
	for (let k = 0; k < rising.length;) {
		const start = k;
		do k++;
		while (k < rising.length && rising[k] === rising[k - 1]! + 1);
		runs.push(rising[start]!);
		runs.push(k - start);
	}
	return runs.array;
}

function hashOfJob({ hosts, given, columns, points = {}, turn, trim, kit }: Omit<Job, 'hash'>): string {
	const hash = sha256.create();
	hash.update(
		// With how many hosts there are, so that it is known where their runs end and the columns begin.
		utf8ToBytes(
			JSON.stringify([kit, given, turn ?? null, Object.keys(columns), Object.keys(points), trim ?? null, hosts.length])
		)
	);
	for (const { buffer, byteOffset, byteLength } of [runsOf(hosts), ...Object.values(columns), ...Object.values(points)])
		hash.update(new Uint8Array(buffer, byteOffset, byteLength));
	return bytesToHex(hash.digest());
}

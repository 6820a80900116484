import { messageOf } from '../../errors.ts';
import { cornersInWords } from '../../kit/corners.ts';
import type { Kit } from '../../kit/schema.ts';
import type { KitLibrary } from '../../kit/builderWorld.ts';
import { FormulaError } from '../../kit/formula/parse.ts';
import { group } from '../../units/print.ts';
import { kitPaths, type Paths } from '../paths.ts';
import { cellsTaken, holds, type ConditionWorld } from './conditions.ts';
import { jobsOf, type Job, type JobPlan } from './jobs.ts';
import { asksNeighbours } from './meeting.ts';
import { handLooks, markedOf, type Look } from './handLooks.ts';
import { ALL_FIT, RuleHosts, type RuledFace } from './ruleHosts.ts';
import type { Override, Rule, RuleSet, RuleValue } from './schema.ts';
import { maskOf } from './spread.ts';
import { RuleScope, type RuleWorld } from './scope.ts';

/** Where no rule takes a host. */
export const NO_RULE = -1;

/** Everything of the project that says what stands on a face. */
export interface RulesOfFace extends Omit<RuleWorld, 'openings'> {
	/** Those with rules or overrides on the face, in order. */
	readonly sets: readonly RuleSet[];
	readonly rules: readonly Rule[];
	readonly overrides: readonly Override[];
	/** Pictures of fields that are not here, so that what is made without them is made again when they come. */
	readonly missing: readonly string[];
	readonly zones: readonly { readonly id: string; readonly runs: readonly (readonly [number, number, number])[] }[];
}

/** What the rules of a set have taken on a face. */
export interface AssignedSet {
	readonly set: string;
	readonly host: RuleSet['host'];
	readonly bay?: RuleSet['bay'];
	/** Rules in order. */
	readonly rules: readonly string[];
	/** By host: index into `rules`, or NO_RULE. Hosts on which nothing can stand have NO_RULE, too. */
	readonly ruleOf: Int16Array;
	/** By rule: hosts that it takes, and those on which it holds but an earlier one takes. */
	readonly taken: readonly number[];
	readonly hidden: readonly number[];
	/** Hosts that no rule takes. */
	readonly unassigned: number;
	/** By host: 1 where something is set by hand; nothing is when left out. */
	readonly byHand?: Uint8Array;
	/** By host: 1 where it is left open. */
	readonly open: Uint8Array;
}

/** Something to be told, of which cells where it is of cells. */
export interface RuleNote {
	readonly message: string;
	readonly cells?: Uint32Array;
}

/** What is to be placed on a face. */
export interface Assigned {
	readonly sets: readonly AssignedSet[];
	readonly jobs: readonly Job[];
	/** Hosts that overrides have found, and those that they wait for. */
	readonly overrides: { readonly used: number; readonly waiting: number };
	/** By override: hosts that it waits for. */
	readonly waiting: Readonly<Record<string, number>>;
	readonly notes: readonly RuleNote[];
}

/**
 * Says which rule takes which host of a face, with which values. A rule that cannot be worked out takes nothing, which
 * is told; the rest stands. O(hosts x rules).
 */
export function assign(rules: RulesOfFace, world: RuleWorld, face: RuledFace, library: KitLibrary): Assigned {
	const notes: RuleNote[] = [];
	const jobs: Job[] = [];
	const sets: AssignedSet[] = [];
	const waiting: Record<string, number> = {};
	let used = 0;
	const takenCells = new Map<string, Uint8Array>();
	const conditions: ConditionWorld = {
		key: rules.key,
		zone: (id) => rules.zones.find((z) => z.id === id)?.runs ?? [],
		taken: (rule) => takenCells.get(rule)
	};
	const scopes = new Map<string, RuleScope>();
	const scopeOf = ({ host, bay }: Pick<RuleSet, 'host' | 'bay'>) => {
		const key = bay ? `${host} ${bay.across} ${bay.up}` : host;
		const scope = scopes.get(key) ?? new RuleScope(new RuleHosts(host, face, bay), world);
		scopes.set(key, scope);
		return scope;
	};
	const wanted = new Set(rules.rules.flatMap((r) => r.where.flatMap(rulesBeside)));
	for (const set of rules.sets) {
		const scope = scopeOf(set);
		const own = rules.rules.filter((r) => r.set === set.id);
		const taking = takeHosts(
			set,
			own,
			scope,
			conditions,
			library,
			(rule, mask) => {
				if (wanted.has(rule.id)) takenCells.set(rule.id, cellsTaken(scope, mask));
			},
			notes
		);
		const hand = handLooks(
			rules.overrides.filter((o) => o.set === set.id),
			scope.hosts,
			waiting
		);
		used += hand.used;
		const open = openHosts(own, taking.ruleOf, hand.looks);
		sets.push({ ...taking, open, ...(hand.looks.size ? { byHand: markedOf(scope.hosts.count, hand.looks) } : {}) });
		for (const plan of plansOf(set, own, taking, hand.looks, scope, library)) {
			try {
				jobs.push(...jobsOf(plan, scope));
			} catch (cause) {
				if (!(cause instanceof FormulaError)) throw cause;
				notes.push({
					message: `${plan.rule === undefined ? `What is set by hand in ${set.name}` : ruleWords(own, plan.rule, set)}: ${messageOf(cause)}.`
				});
			}
		}
	}
	notes.push(...misfitNotes(rules, sets, scopeOf, library));
	for (const set of rules.sets) if (set.host === 'bay') notes.push(...leftNotes(set, scopeOf(set).hosts));
	const left = Object.values(waiting).reduce((a, b) => a + b, 0);
	return { sets, jobs, overrides: { used, waiting: left }, waiting, notes };
}

const ruleWords = (own: readonly Rule[], id: string, set: RuleSet) => {
	const k = own.findIndex((r) => r.id === id);
	return own[k]?.name ?? `Rule ${k + 1} of ${set.name}`;
};

/** Rules whose neighbours a condition asks for. */
export function rulesBeside(condition: Rule['where'][number]): string[] {
	if (condition.kind === 'beside') return [condition.rule];
	if (condition.kind === 'any') return condition.of.flatMap(rulesBeside);
	return condition.kind === 'not' ? rulesBeside(condition.of) : [];
}

type Taking = Omit<AssignedSet, 'open' | 'byHand'>;

function takeHosts(
	set: RuleSet,
	own: readonly Rule[],
	scope: RuleScope,
	world: ConditionWorld,
	library: KitLibrary,
	hear: (rule: Rule, mask: Uint8Array) => void,
	notes: RuleNote[]
): Taking {
	const { hosts } = scope;
	const { count, stands } = hosts;
	const ruleOf = new Int16Array(count).fill(NO_RULE);
	const taken: number[] = [];
	const hidden: number[] = [];
	const drawn = set.host === 'path' ? maskOf(count, (h) => hosts.drawnBy(h) !== undefined) : undefined;
	const takesDrawn = ({ where }: Rule) => where.some((c) => c.kind === 'path');
	/** Lines and drawn paths that no rule of the set is for are none of its hosts. */
	const meant = [false, true].map((d) => own.some((rule) => takesDrawn(rule) === d));
	const isHost = (h: number) => stands?.[h] !== 0 && (!drawn || meant[drawn[h]!]!);
	own.forEach((rule, r) => {
		const mask = new Uint8Array(count);
		let [took, lost] = [0, 0];
		try {
			const kit = rule.kit === null ? undefined : library.get(rule.kit);
			const fits = kit ? hosts.fits(kit.host, rule.trim !== undefined) : ALL_FIT;
			const masks = rule.where.map((c) => holds(c, scope, world));
			const asked = fits !== ALL_FIT || stands !== undefined || drawn !== undefined;
			for (let h = 0; h < count; h++) {
				if (asked) {
					if (stands && stands[h] === 0) continue;
					if (drawn && (drawn[h] === 1) !== takesDrawn(rule)) continue;
					if (!fits(h)) continue;
				}
				let here = true;
				for (let m = 0; here && m < masks.length; m++) here = masks[m]![h] === 1;
				if (!here) continue;
				if (ruleOf[h] !== NO_RULE) {
					lost++;
					continue;
				}
				ruleOf[h] = r;
				mask[h] = 1;
				took++;
			}
			// Of several faces the first has none before it.
			if (took === 0 && count > 0 && !rule.where.some(asksNeighbours))
				notes.push({
					message: `${ruleWords(own, rule.id, set)} takes nothing here: ${lost ? `earlier rules take all ${group(lost, 0)} on which it holds` : 'it holds nowhere'}.`
				});
		} catch (cause) {
			if (!(cause instanceof FormulaError)) throw cause;
			notes.push({ message: `${ruleWords(own, rule.id, set)} takes nothing here: ${messageOf(cause)}.` });
		}
		taken.push(took);
		hidden.push(lost);
		hear(rule, mask);
	});
	let unassigned = 0;
	for (let h = 0; h < count; h++) if (ruleOf[h] === NO_RULE && isHost(h)) unassigned++;
	return {
		set: set.id,
		host: set.host,
		...(set.bay ? { bay: set.bay } : {}),
		rules: own.map((r) => r.id),
		ruleOf,
		taken,
		hidden,
		unassigned
	};
}

function openHosts(own: readonly Rule[], ruleOf: Int16Array, looks: ReadonlyMap<number, Look>): Uint8Array {
	const leaves = own.map((r) => r.kit === null);
	const open = leaves.includes(true)
		? maskOf(ruleOf.length, (h) => leaves[ruleOf[h]!] === true)
		: new Uint8Array(ruleOf.length);
	for (const [h, { kit }] of looks) if (kit !== undefined) open[h] = kit === null ? 1 : 0;
	return open;
}

/** The hosts that each rule takes, those set by hand aside. */
function hostsByRule(
	{ ruleOf, taken }: Pick<Taking, 'ruleOf' | 'taken'>,
	byHand: ReadonlyMap<number, unknown>
): Uint32Array[] {
	const lists = taken.map((count) => new Uint32Array(count));
	const counts = new Uint32Array(taken.length);
	const some = byHand.size > 0;
	for (let h = 0; h < ruleOf.length; h++) {
		const r = ruleOf[h]!;
		if (r !== NO_RULE && !(some && byHand.has(h))) lists[r]![counts[r]!++] = h;
	}
	return lists.map((list, r) => (counts[r] === list.length ? list : list.slice(0, counts[r])));
}

function plansOf(
	set: RuleSet,
	own: readonly Rule[],
	taking: Taking,
	looks: ReadonlyMap<number, Look>,
	scope: RuleScope,
	library: KitLibrary
): JobPlan[] {
	const { ruleOf } = taking;
	const lists = hostsByRule(taking, looks);
	const plans: JobPlan[] = own.flatMap((rule, r): JobPlan[] => {
		const kit = rule.kit === null ? undefined : library.get(rule.kit);
		if (!kit || !lists[r]!.length) return [];
		return [
			{
				id: rule.id,
				rule: rule.id,
				byHand: false,
				kit,
				hosts: lists[r]!,
				values: [rule.values],
				turn: rule.turn,
				trim: rule.trim,
				...numbering(kit, scope)
			}
		];
	});
	/** Hosts set by hand that have kit, rule and turn in common. */
	const hands = new Map<
		string,
		{
			readonly hosts: number[];
			readonly values: Record<string, RuleValue>[];
			readonly kit: Kit;
			readonly rule: Rule | undefined;
			readonly turn: Override['turn'];
		}
	>();
	for (const h of [...looks.keys()].sort((a, b) => a - b)) {
		const look = looks.get(h)!;
		const rule = own[ruleOf[h]!];
		const id = look.kit === undefined ? rule?.kit : look.kit;
		const kit = typeof id === 'string' ? library.get(id) : undefined;
		if (!kit) continue;
		const keeps = kit.id === rule?.kit;
		const turn = look.turn ?? rule?.turn;
		const key = JSON.stringify([kit.id, keeps ? rule.id : '', turn]);
		const known = new Set(kit.parameters.map((p) => p.name));
		const values = Object.fromEntries(
			Object.entries({ ...(keeps ? rule.values : {}), ...look.values }).filter(([name]) => known.has(name))
		);
		const hand = hands.get(key);
		if (hand) {
			hand.hosts.push(h);
			hand.values.push(values);
		} else hands.set(key, { hosts: [h], values: [values], kit, rule: keeps ? rule : undefined, turn });
	}
	for (const { hosts, values, kit, rule, turn } of hands.values())
		plans.push({
			id: `${set.id} by hand ${plans.length}`,
			rule: rule?.id,
			byHand: true,
			kit,
			hosts: Uint32Array.from(hosts),
			values: hosts.length === 1 ? [values[0]!] : values,
			turn,
			trim: rule?.trim,
			...numbering(kit, scope)
		});
	return plans;
}

/** Kits on paths count the lines that they take. */
function numbering({ host }: Kit, { hosts }: RuleScope): Pick<JobPlan, 'renumber'> {
	if (host.kind !== 'path') return {};
	const own = kitPaths(hosts.face, host);
	const nameOf = ({ way, line, piece }: Paths, p: number) => `${way[p]} ${line[p]} ${piece[p]}`;
	const numbers = new Map(Array.from(own.line, (_, p) => [nameOf(own, p), p] as const));
	return {
		renumber: (h) => {
			const { paths, at } = hosts.pathOf(h);
			return numbers.get(nameOf(paths, at))!;
		}
	};
}

/** Cells that are left when bays have stepped over a face. */
function leftNotes({ name, bay }: RuleSet, { bays: { left }, count }: RuleHosts): RuleNote[] {
	if (!left.length) return [];
	const size = `${bay!.across} × ${bay!.up}`;
	const message =
		left.length === count
			? `${name}: no bay of ${size} cells finds room here; right would be a division with four corners and as many rows and columns.`
			: `${name}: bays of ${size} leave ${group(left.length, 0)} of ${group(count, 0)} cells over.`;
	return [{ message, cells: left }];
}

/** Cells that stay empty since no kit of their rules is made for so many corners. */
function misfitNotes(
	{ sets: all, rules }: RulesOfFace,
	sets: readonly AssignedSet[],
	scopeOf: (set: Pick<RuleSet, 'host'>) => RuleScope,
	library: KitLibrary
): RuleNote[] {
	const ofCells = sets.filter((s) => s.host === 'cell');
	if (!ofCells.length) return [];
	const { hosts } = scopeOf({ host: 'cell' });
	const { start } = hosts.nodes;
	const empty = (h: number) => ofCells.every((s) => s.ruleOf[h] === NO_RULE && s.byHand?.[h] !== 1);
	const notes: RuleNote[] = [];
	const told = new Set<string>();
	for (const rule of rules.filter((r) => all.find((s) => s.id === r.set)?.host === 'cell')) {
		const kit = rule.kit === null ? undefined : library.get(rule.kit);
		if (!kit || !('leastCorners' in kit.host) || rule.where.length || told.has(kit.id)) continue;
		told.add(kit.id);
		const fits = hosts.fits(kit.host);
		if (fits === ALL_FIT) continue;
		const byCorners = new Map<number, number[]>();
		for (let h = 0; h < hosts.count; h++) {
			if (fits(h) || !empty(h)) continue;
			const corners = start[h + 1]! - start[h]!;
			const alike = byCorners.get(corners);
			if (alike) alike.push(h);
			else byCorners.set(corners, [h]);
		}
		for (const [corners, cells] of [...byCorners].sort(([a], [b]) => a - b))
			notes.push({
				message: `“${kit.name}” fits cells with ${cornersInWords(kit.host)}; ${cells.length} with ${corners} are left empty.`,
				cells: Uint32Array.from(cells)
			});
	}
	return notes;
}

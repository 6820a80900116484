import { setHostOf } from '../../core/placement/rules/ruleHosts.ts';
import type { Condition, Rule, RuleSet, RuleValue, Turn } from '../../core/placement/rules/schema.ts';
import type { BaySize } from '../../core/kit/baySize.ts';
import type { Kit } from '../../core/kit/schema.ts';
import type { Project } from '../../core/project/schema.ts';
import type { HandCell } from './byHand.ts';
import { freeId, freeName } from './names.ts';
import { addZone, paintZone } from './zones.ts';

const ruleOf = (draft: Project, id: string) => draft.rules.find((r) => r.id === id)!;
const kitOf = (project: Project, id: string | null | undefined) => project.kits.find((k) => k.id === id);

/** The rules of a set that stand on a face, in order. */
export const rulesOn = (project: Project, set: string, face: string): Rule[] =>
	project.rules.filter((r) => r.set === set && standsOn(r, face));

export const standsOn = ({ faces }: Pick<Rule, 'faces'>, face: string) => faces.length === 0 || faces.includes(face);

/** The first set for hosts of a kit; a new one where there is none. */
export function setFor(draft: Project, kit: Kit): RuleSet {
	return draft.sets.find((s) => holdsKit(s, kit)) ?? addSet(draft, setHostOf(kit.host), bayOf(kit));
}

const bayOf = ({ host }: Pick<Kit, 'host'>): BaySize | undefined =>
	host.kind === 'bay' ? { across: host.across, up: host.up } : undefined;

/** Whether rules of a set can place a kit. */
export const holdsKit = (set: Pick<RuleSet, 'host' | 'bay'>, kit: Pick<Kit, 'host'>): boolean => {
	const bay = bayOf(kit);
	return setHostOf(kit.host) === set.host && bay?.across === set.bay?.across && bay?.up === set.bay?.up;
};

const SET_NAMES = { cell: 'Panels', edge: 'Edges', node: 'Nodes', path: 'Paths', bay: 'Bays' } as const;

/** Adds a set for hosts of a kind, behind the others of its kind. */
export function addSet(draft: Project, host: RuleSet['host'], bay: BaySize = { across: 2, up: 2 }): RuleSet {
	const name = SET_NAMES[host];
	const set: RuleSet = {
		id: freeId(
			name.toLowerCase(),
			draft.sets.map((s) => s.id)
		),
		name: draft.sets.some((s) => s.name === name)
			? freeName(
					name,
					draft.sets.map((s) => s.name),
					' '
				)
			: name,
		host,
		...(host === 'bay' ? { bay: { ...bay } } : {})
	};
	const last = draft.sets.findLastIndex((s) => s.host === host);
	draft.sets.splice(last < 0 ? draft.sets.length : last + 1, 0, set);
	return set;
}

/** Another size for the bays of a set. */
export function setBay(draft: Project, id: string, size: Partial<BaySize>): void {
	const set = draft.sets.find((s) => s.id === id)!;
	set.bay = { ...set.bay!, ...size };
}

/** The set that a kit goes to when it is added to one: a set of bays without rules takes its size, others give way to one of its size. */
export function setForKit(draft: Project, id: string, kit: string | null): string {
	const set = draft.sets.find((s) => s.id === id)!;
	const added = kitOf(draft, kit);
	if (!added || holdsKit(set, added)) return id;
	if (set.bay && !draft.rules.some((r) => r.set === id)) set.bay = bayOf(added)!;
	return setFor(draft, added).id;
}

/** Removes a set with its rules and what is set by hand in it. */
export function removeSet(draft: Project, id: string): void {
	draft.sets = draft.sets.filter((s) => s.id !== id);
	draft.rules = draft.rules.filter((r) => r.set !== id);
	draft.overrides = draft.overrides.filter((o) => o.set !== id);
}

/** Moves a set up or down among the others. */
export function moveSet(draft: Project, id: string, by: number): void {
	const from = draft.sets.findIndex((s) => s.id === id);
	const [set] = draft.sets.splice(from, 1);
	draft.sets.splice(Math.max(0, Math.min(draft.sets.length, from + by)), 0, set!);
}

/** Leaves open, before all other rules of a set, what an earlier face has on a common border; answers the rule's id. All faces where none is named. */
export function leaveToEarlier(draft: Project, set: string, faces: readonly string[]): string {
	const id = freeId(
		'rule',
		draft.rules.map((r) => r.id)
	);
	const first = draft.rules.findIndex((r) => r.set === set);
	const where: Condition[] = [{ kind: 'border', state: 'earlier', within: 0 }];
	draft.rules.splice(Math.max(0, first), 0, { id, set, faces: [...faces], where, kit: null, values: {} });
	return id;
}

/** Leaves to the earlier face what some rules have on a common border, in each of their sets. */
export function placeOnce(draft: Project, ids: readonly string[]): void {
	const rules = draft.rules.filter((r) => ids.includes(r.id));
	for (const set of new Set(rules.map((r) => r.set))) {
		const own = rules.filter((r) => r.set === set);
		const all = own.some((r) => r.faces.length === 0);
		leaveToEarlier(draft, set, all ? [] : [...new Set(own.flatMap((r) => r.faces))]);
	}
}

/**
 * Puts a kit on faces, or leaves hosts open; answers the rule's id. It stands before the rule that takes all others
 * there, since behind that one it would never hold.
 */
export function addRule(
	draft: Project,
	rule: {
		set: string;
		faces: readonly string[];
		kit: string | null;
		where?: readonly Condition[];
		values?: Rule['values'];
	}
): string {
	const id = freeId(
		'rule',
		draft.rules.map((r) => r.id)
	);
	const at = draft.rules.findIndex(
		(r) => r.set === rule.set && r.where.length === 0 && rule.faces.some((face) => standsOn(r, face))
	);
	const made: Rule = {
		id,
		set: rule.set,
		faces: [...rule.faces],
		where: [...(rule.where ?? [])],
		kit: rule.kit,
		values: rule.values ?? {}
	};
	draft.rules.splice(at < 0 || !made.where.length ? draft.rules.length : at, 0, made);
	return id;
}

/** Values of a kit that another one knows, too, as the same quantity; the labels of those that it does not. */
export function valuesFor(
	project: Project,
	values: Rule['values'],
	from: string | null,
	to: string | null
): { kept: Rule['values']; lost: string[] } {
	const [before, after] = [kitOf(project, from), kitOf(project, to)];
	const kept: Rule['values'] = {};
	const lost: string[] = [];
	for (const [name, value] of Object.entries(values)) {
		const [own, other] = [before, after].map((kit) => kit?.parameters.find((p) => p.name === name));
		if (own && other?.quantity === own.quantity) kept[name] = value;
		else lost.push(own?.label ?? name);
	}
	return { kept, lost };
}

/** Puts another kit in a rule's place, or none; answers the labels of the values that went with the one before. */
export function changeKit(draft: Project, id: string, kit: string | null): string[] {
	const rule = ruleOf(draft, id);
	const { kept, lost } = valuesFor(draft, rule.values, rule.kit, kit);
	rule.kit = kit;
	rule.values = kept;
	return lost;
}

export function removeRule(draft: Project, id: string): void {
	draft.rules = draft.rules.filter((r) => r.id !== id);
}

/** Moves a rule before another one of its set, or behind all of them. */
export function moveRule(draft: Project, id: string, before: string | undefined): void {
	if (id === before) return;
	const [rule] = draft.rules.splice(
		draft.rules.findIndex((r) => r.id === id),
		1
	);
	const at =
		before === undefined
			? draft.rules.findLastIndex((r) => r.set === rule!.set) + 1
			: draft.rules.findIndex((r) => r.id === before);
	draft.rules.splice(at, 0, rule!);
}

/** Sets one value of a rule; without a value the kit's own holds again. */
export function setRuleValue(draft: Project, id: string, name: string, value?: RuleValue): void {
	const rule = ruleOf(draft, id);
	rule.values = withValue(rule.values, name, value);
}

export function withValue(values: Rule['values'], name: string, value?: RuleValue): Rule['values'] {
	const { [name]: _, ...others } = values;
	return value === undefined ? others : { ...others, [name]: value };
}

export const setWhere = (draft: Project, id: string, where: readonly Condition[]): void => {
	ruleOf(draft, id).where = [...where];
};

export function setTurn(draft: Project, id: string, turn: Turn | undefined): void {
	const rule = ruleOf(draft, id);
	if (turn) rule.turn = turn;
	else delete rule.turn;
}

/** Cells of faces as a zone: one that is there, or a new one; answers its id. */
export function intoZone(draft: Project, cells: readonly HandCell[], zone?: string): string {
	const id = zone ?? addZone(draft);
	for (const face of new Set(cells.map((c) => c.face)))
		paintZone(
			draft,
			id,
			face,
			cells.filter((c) => c.face === face),
			false
		);
	return id;
}

/** A rule of its own for cells of faces, before all others of its set, which holds in a new zone of them; answers its id. */
export function ruleForCells(draft: Project, set: string, cells: readonly HandCell[], kit: string | null): string {
	const zone = intoZone(draft, cells);
	const id = addRule(draft, {
		set,
		faces: [...new Set(cells.map((c) => c.face))],
		kit,
		where: [{ kind: 'zone', zone }]
	});
	moveRule(draft, id, draft.rules.find((r) => r.set === set)!.id);
	return id;
}

/** Lets a rule's kit stand on cut cells as on whole ones, trimmed; without it the kit fits itself to what is left. */
export function setTrim(draft: Project, id: string, trim: Rule['trim']): void {
	const rule = ruleOf(draft, id);
	if (trim) rule.trim = trim;
	else delete rule.trim;
}

/** Lets a rule hold on these faces; on all where none is named. */
export const setFaces = (draft: Project, id: string, faces: readonly string[]): void => {
	ruleOf(draft, id).faces = [...faces];
};

/** Lets rules go that stood only on faces that are no more, with what was set by hand there. */
export function dropRuleFaces(draft: Project, gone: (face: string) => boolean): void {
	draft.rules = draft.rules.flatMap((rule) => {
		if (!rule.faces.some(gone)) return [rule];
		rule.faces = rule.faces.filter((f) => !gone(f));
		return rule.faces.length ? [rule] : [];
	});
	draft.overrides = draft.overrides.filter((o) => !gone(o.face));
	for (const { source } of draft.fields)
		if (source.kind === 'painted' && source.parts.some((p) => gone(p.face)))
			source.parts = source.parts.filter((p) => !gone(p.face));
	for (const rule of draft.rules) rule.where = rule.where.flatMap((c) => withoutFaces(c, gone) ?? []);
}

function withoutFaces(condition: Condition, gone: (face: string) => boolean): Condition | undefined {
	if (condition.kind === 'face') {
		const faces = condition.faces.filter((f) => !gone(f));
		return faces.length ? { ...condition, faces } : undefined;
	}
	if (condition.kind === 'any') {
		const of = condition.of.flatMap((c) => withoutFaces(c, gone) ?? []);
		return of.length ? { ...condition, of } : undefined;
	}
	if (condition.kind === 'not') {
		const of = withoutFaces(condition.of, gone);
		return of && { ...condition, of };
	}
	return condition;
}

/** Lets all rules that stand on one face stand on others, too. */
export function shareRules(draft: Project, face: string, others: readonly string[]): void {
	// Drawn paths are of one face alone.
	const isShared = (rule: Rule) => rule.faces.includes(face) && !rule.where.some((c) => c.kind === 'path');
	for (const rule of draft.rules) if (isShared(rule)) rule.faces = [...new Set([...rule.faces, ...others])];
}

/** Takes a kit out of all rules, and out of what is set by hand. */
export function dropKit(draft: Project, kit: string): void {
	draft.rules = draft.rules.filter((r) => r.kit !== kit);
	draft.overrides = draft.overrides.filter((o) => o.kit !== kit);
}

/** Renames a parameter of a kit wherever a value is given for it, or takes such values away. */
export function renameValue(draft: Project, kit: string, from: string, to: string | undefined): void {
	const renamed = (values: Rule['values']) =>
		Object.fromEntries(
			Object.entries(values).flatMap(([name, value]) =>
				name !== from ? [[name, value]] : to === undefined ? [] : [[to, value]]
			)
		);
	const taken = new Set(draft.rules.filter((r) => r.kit === kit).map((r) => r.set));
	for (const rule of draft.rules)
		if (rule.kit === kit && rule.values[from] !== undefined) rule.values = renamed(rule.values);
	for (const override of draft.overrides)
		if (
			override.values[from] !== undefined &&
			(override.kit === kit || (override.kit === undefined && taken.has(override.set)))
		)
			override.values = renamed(override.values);
}

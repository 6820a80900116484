import type { Project, Rule } from '../../core/project/schema.ts';
import { freeName } from './names.ts';

/** Puts a kit on a face, or takes it off with an empty id; values that the new kit does not know go. */
export function setKit(draft: Project, face: string, kit: string): void {
	const rule = draft.rules.findLast((r) => r.face === face);
	if (!kit) draft.rules = draft.rules.filter((r) => r.face !== face);
	else if (!rule)
		draft.rules.push({ id: freeName('rule', draft.rules.map((r) => r.id)), face, kit, values: {} });
	else {
		const known = draft.kits.find((k) => k.id === kit)!.parameters.map((p) => p.name);
		rule.kit = kit;
		rule.values = Object.fromEntries(Object.entries(rule.values).filter(([n]) => known.includes(n)));
	}
}

/** Sets one value of a rule; without a value the kit's own holds again. */
export function setRuleValue(draft: Project, id: Rule['id'], name: string, value?: number): void {
	const rule = draft.rules.find((r) => r.id === id)!;
	const { [name]: _, ...others } = rule.values;
	rule.values = value === undefined ? others : { ...others, [name]: value };
}

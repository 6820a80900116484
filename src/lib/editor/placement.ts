import type { Project, Rule } from '../../core/project/schema.ts';
import { freeId } from './names.ts';

/** Puts a further kit on a face. */
export function addRule(draft: Project, face: string, kit: string): void {
	draft.rules.push({
		id: freeId(
			'rule',
			draft.rules.map((r) => r.id)
		),
		face,
		kit,
		values: {}
	});
}

/** Puts another kit in a rule's place; values that it does not know, or knows as something else, go. */
export function changeKit(draft: Project, id: Rule['id'], kit: string): void {
	const rule = draft.rules.find((r) => r.id === id)!;
	const parametersOf = (kitId: string) =>
		new Map(draft.kits.find((k) => k.id === kitId)?.parameters.map((p) => [p.name, p.quantity]));
	const [before, after] = [parametersOf(rule.kit), parametersOf(kit)];
	rule.kit = kit;
	rule.values = Object.fromEntries(
		Object.entries(rule.values).filter(([n]) => after.has(n) && after.get(n) === before.get(n))
	);
}

/** Takes a rule's kit off its face. */
export function removeRule(draft: Project, id: Rule['id']): void {
	draft.rules = draft.rules.filter((r) => r.id !== id);
}

/** Sets one value of a rule; without a value the kit's own holds again. */
export function setRuleValue(draft: Project, id: Rule['id'], name: string, value?: number | string): void {
	const rule = draft.rules.find((r) => r.id === id)!;
	const { [name]: _, ...others } = rule.values;
	rule.values = value === undefined ? others : { ...others, [name]: value };
}

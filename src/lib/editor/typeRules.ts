import type { Project } from '../../core/project/schema.ts';
import type { TypeRule } from '../../core/schedule/types/schema.ts';

/** What holds for pieces of a role. */
export const typeRuleOf = ({ types }: Pick<Project, 'types'>, role: string): TypeRule =>
	types.rules.find((r) => r.role === role) ?? { role, tolerance: 'medium', mirrored: false };

/** Changes what holds for pieces of a role; what is as usual is not kept. */
export function setTypeRule(draft: Project, rule: TypeRule): void {
	const usual = rule.tolerance === 'medium' && !rule.mirrored;
	const at = draft.types.rules.findIndex((r) => r.role === rule.role);
	if (at >= 0) draft.types.rules.splice(at, 1, ...(usual ? [] : [rule]));
	else if (!usual) draft.types.rules.push(rule);
}

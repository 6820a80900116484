import { renameIn } from '../../core/kit/formula/parse.ts';
import { mentioned } from '../../core/kit/references.ts';
import { varies, type Condition, type Rule } from '../../core/placement/rules/schema.ts';
import type { Project } from '../../core/project/schema.ts';

/** Renames a shared number, in its list and in every formula that calls it. */
export function renameNumber(draft: Project, from: string, to: string): void {
	const number = draft.numbers.find((n) => n.id === from);
	if (!number || from === to) return;
	number.id = number.name = to;
	const inText = (text: string) => (mentioned(text).includes(from) ? renameIn(text, from, to) : text);
	const inCondition = (c: Condition): Condition => {
		if (c.kind === 'formula') return { ...c, formula: inText(c.formula) };
		if (c.kind === 'any') return { ...c, of: c.of.map(inCondition) };
		return c.kind === 'not' ? { ...c, of: inCondition(c.of) } : c;
	};
	const inValues = (values: Rule['values']): Rule['values'] =>
		Object.fromEntries(
			Object.entries(values).map(([name, v]) => [
				name,
				varies(v) && v.kind === 'formula' ? { ...v, formula: inText(v.formula) } : v
			])
		);
	for (const rule of draft.rules) {
		rule.where = rule.where.map(inCondition);
		rule.values = inValues(rule.values);
	}
	for (const override of draft.overrides)
		if (Object.values(override.values).some(varies)) override.values = inValues(override.values);
	for (const field of draft.fields)
		if (field.source.kind === 'formula') field.source.formula = inText(field.source.formula);
}

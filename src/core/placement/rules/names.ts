import { mentioned } from '../../kit/references.ts';
import type { Field } from '../fields/schema.ts';
import { varies, type Condition, type Override, type Rule, type RuleValue } from './schema.ts';

/** What rules and overrides of a face ask for, by the names of the project: fields with those that they hang on, numbers, zones. */
export function namesIn(
	rules: readonly Rule[],
	overrides: readonly Override[],
	fields: readonly Field[]
): { readonly words: ReadonlySet<string>; readonly zones: ReadonlySet<string> } {
	const words = new Set<string>();
	const zones = new Set<string>();
	const ofCondition = (c: Condition): void => {
		if (c.kind === 'zone') zones.add(c.zone);
		if (c.kind === 'field') words.add(c.field);
		if (c.kind === 'formula') for (const name of mentioned(c.formula)) words.add(name);
		if (c.kind === 'any') c.of.forEach(ofCondition);
		if (c.kind === 'not') ofCondition(c.of);
	};
	const ofValue = (value: RuleValue): void => {
		if (!varies(value)) return;
		if (value.kind === 'formula') for (const name of mentioned(value.formula)) words.add(name);
		if (value.kind === 'field' || value.kind === 'steps') words.add(value.field);
	};
	for (const { where, values } of rules) {
		where.forEach(ofCondition);
		Object.values(values).forEach(ofValue);
	}
	for (const { values } of overrides) Object.values(values).forEach(ofValue);
	// Fields may ask for others in turn; a set goes on over what is added while it is gone through.
	for (const word of words) {
		const source = fields.find((f) => f.id === word)?.source;
		if (source?.kind === 'formula') for (const name of mentioned(source.formula)) words.add(name);
	}
	return { words, zones };
}

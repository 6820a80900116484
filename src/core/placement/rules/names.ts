import { mentioned } from '../../kit/references.ts';
import type { SettingOut } from '../../settingout/spacing.ts';
import type { Tiling } from '../../tiling/schema.ts';
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
	return { words: withNamesWithin(words, fields), zones };
}

/** Names with those that the fields among them ask for in turn. */
export function withNamesWithin(names: Iterable<string>, fields: readonly Field[]): ReadonlySet<string> {
	const words = new Set(names);
	// A set goes on over what is added while it is gone through.
	for (const word of words) {
		const source = fields.find((f) => f.id === word)?.source;
		if (source?.kind === 'formula') for (const name of mentioned(source.formula)) words.add(name);
	}
	return words;
}

/** Fields that a face's division follows: the distance of its second layer, the sizes of its cells. */
export const fieldsOfDivision = ({
	settingOut: { layer },
	tiling
}: {
	readonly settingOut: SettingOut;
	readonly tiling: Tiling;
}): { readonly layer: readonly string[]; readonly tiling: readonly string[] } => ({
	layer: typeof layer === 'number' ? [] : [layer.field],
	tiling: tiling.kind === 'voronoi' && tiling.grading.kind === 'field' ? [tiling.grading.field] : []
});

import { plainWords, whereInWords, type Names } from '../placement/rules/sentence.ts';
import type { Rule, RuleSet } from '../placement/rules/schema.ts';
import { faceKey, type Project } from './schema.ts';

/** What the rules of a set name, as people call it. */
export const namesOf = (
	{
		units,
		zones,
		fields,
		rules,
		masses,
		paths
	}: Pick<Project, 'units' | 'zones' | 'fields' | 'rules' | 'masses' | 'paths'>,
	{ id, host }: Pick<RuleSet, 'id' | 'host'>
): Names => ({
	units,
	host,
	zones,
	fields,
	paths,
	rules: rules.filter((r) => r.set === id),
	faces: new Map(
		masses.flatMap((mass) => mass.faces.map((face) => [faceKey(mass, face), `${mass.name} › ${face.name}`] as const))
	)
});

/** What a rule is called: its own name, or its sentence. */
export const ruleName = (rule: Rule, project: Project, set: RuleSet): string =>
	rule.name ?? plainWords(whereInWords(rule.where, namesOf(project, set)));

/** What all rules are called, by their ids; nothing stands for what is set by hand. */
export const ruleNames = (project: Project): ReadonlyMap<string, string> =>
	new Map([
		...project.rules.map((rule): [string, string] => [
			rule.id,
			ruleName(
				rule,
				project,
				project.sets.find((s) => s.id === rule.set)!
			)
		]),
		['', 'by hand']
	]);

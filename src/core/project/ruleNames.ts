import type { Names } from '../placement/rules/sentence.ts';
import type { RuleSet } from '../placement/rules/schema.ts';
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

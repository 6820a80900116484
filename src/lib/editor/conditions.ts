import type { Condition, RuleSet } from '../../core/placement/rules/schema.ts';
import { READINGS_OF_SET } from '../../core/placement/rules/ruleHosts.ts';
import type { Project } from '../../core/project/schema.ts';

/** Kinds of conditions beside rows and columns, in the order of the list that they are chosen from. */
export const CONDITION_LABELS = {
	border: 'Border or opening',
	reading: 'Reading',
	rank: 'Least or greatest',
	zone: 'Zone',
	role: 'Role of the tiling',
	checker: 'Checker',
	share: 'Share at random',
	beside: 'Beside another rule',
	field: 'Field',
	path: 'Drawn path',
	face: 'Face',
	formula: 'Formula',
	any: 'Any of several'
} as const satisfies Partial<Record<Condition['kind'], string>>;
export type ConditionKind = keyof typeof CONDITION_LABELS | 'lines';

/** What a condition may name where it stands. */
export interface ConditionNames {
	readonly host: RuleSet['host'];
	readonly project: Pick<Project, 'zones' | 'fields' | 'paths'>;
	/** Rules that stand before it. */
	readonly earlier: readonly string[];
	readonly roles: readonly string[];
	readonly face: string;
}

/** Why a kind of condition has nothing to name yet; nothing where it has. */
export function missingFor(kind: ConditionKind, { host, project, earlier, roles }: ConditionNames): string | undefined {
	if (kind === 'zone' && !project.zones.length) return 'no zone yet: paint one under Setting-out';
	if (kind === 'field' && !project.fields.length) return 'no field yet: add one below';
	if (kind === 'beside' && !earlier.length) return 'no rule stands before this one';
	if (kind === 'path' && host !== 'path') return 'for rules on paths alone';
	if (kind === 'path' && !project.paths.length) return 'no path yet: add one below';
	if (kind === 'role' && roles.length < 2) return 'all cells of this tiling are alike';
	return undefined;
}

/** A new condition of a kind. */
export function newCondition(kind: ConditionKind, { host, project, earlier, roles, face }: ConditionNames): Condition {
	switch (kind) {
		case 'lines':
			return { kind, of: host === 'path' ? 'row' : 'column', from: 1, every: 2 };
		case 'border':
			return { kind, state: 'border', within: 0 };
		case 'reading':
			return host === 'cell'
				? { kind, reading: 'area', to: 1e6 }
				: host === 'node'
					? { kind, reading: 'valence', from: 3, to: 3 }
					: { kind, reading: 'length', to: 1000 };
		case 'rank':
			return {
				kind,
				reading: Object.hasOwn(READINGS_OF_SET[host], 'area') ? 'area' : 'elevation',
				most: 'least',
				count: 10
			};
		case 'path':
			return { kind, paths: [(project.paths.find((p) => p.face === face) ?? project.paths[0]!).id] };
		case 'zone':
			return { kind, zone: project.zones[0]!.id };
		case 'role':
			return { kind, role: roles[0]! };
		case 'checker':
			return { kind, odd: false };
		case 'share':
			return { kind, share: 0.25, seed: 1, clump: 0 };
		case 'beside':
			return { kind, rule: earlier.at(-1)!, within: 1 };
		case 'field':
			return { kind, field: project.fields[0]!.id, from: 0 };
		case 'face':
			return { kind, faces: [face] };
		case 'formula':
			return {
				kind,
				formula: host === 'cell' ? 'area > 2 m * 1 m' : host === 'node' ? 'valence == 4' : 'length > 1 m'
			};
		case 'any':
			return { kind, of: [{ kind: 'border', state: 'border', within: 0 }] };
	}
}

import { mentioned } from '../../core/kit/references.ts';
import type { Field } from '../../core/placement/fields/schema.ts';
import { BUILT_IN } from '../../core/placement/rules/scope.ts';
import { fieldsOfDivision, namesIn } from '../../core/placement/rules/names.ts';
import { READINGS_OF_SET } from '../../core/placement/rules/ruleHosts.ts';
import { varies, type Condition, type Rule } from '../../core/placement/rules/schema.ts';
import type { Project } from '../../core/project/schema.ts';
import type { Handle } from './handles.ts';
import { freeName } from './names.ts';

type VoronoiTiling = Extract<Project['masses'][number]['faces'][number]['tiling'], { kind: 'voronoi' }>;

/** Kinds of fields, in the order of the list that they are chosen from. */
export const FIELD_LABELS = {
	distance: 'Distance to points or lines',
	height: 'Height',
	along: 'Along the face',
	direction: 'Angle to a direction',
	reading: 'Reading',
	painted: 'Painted by hand',
	picture: 'Picture',
	noise: 'Smooth noise',
	random: 'Random',
	formula: 'Formula'
} as const satisfies Record<Field['source']['kind'], string>;
/** A picture begins with its file. */
export type FieldKind = Exclude<keyof typeof FIELD_LABELS, 'picture'>;

/** A new source of a kind; lines begin at a point of the face, mm. */
export function newSource(kind: FieldKind, at: readonly [number, number, number]): Field['source'] {
	switch (kind) {
		case 'distance':
			return {
				kind,
				to: [{ kind: 'points', points: [[...at]], closed: false }],
				combine: 'least',
				blend: 1000,
				along: 'straight'
			};
		case 'height':
			return { kind };
		case 'along':
			return { kind, way: 'across' };
		case 'direction':
			return { kind, x: 0, y: -1, z: 0 };
		case 'reading':
			return { kind, reading: 'area' };
		case 'painted':
			return { kind, parts: [] };
		case 'noise':
			return { kind, seed: 1, size: 5000 };
		case 'random':
			return { kind, seed: 1 };
		case 'formula':
			return { kind, formula: 'height / width' };
	}
}

/** Handles for the points of a field, dragged level through space. */
export function fieldHandles({ source, name }: Field): Handle[] {
	if (source.kind !== 'distance') return [];
	return source.to.flatMap(({ points }, s) =>
		points.map((at, p): Handle => ({
			label: `${name}, point ${p + 1}`,
			at,
			directions: [
				[1, 0, 0],
				[0, 1, 0]
			],
			targets: [0, 1].map((c) => ({ path: ['source', 'to', s, 'points', p, c], factor: 1, least: -Infinity }))
		}))
	);
}

/** Adds a field; answers the word that formulas call it by. */
export function addFieldTo(draft: Project, source: Field['source'], name: string): string {
	const taken = [...draft.fields.map((f) => f.id), ...draft.numbers.map((n) => n.id)];
	const label = draft.fields.some((f) => f.name === name)
		? freeName(
				name,
				draft.fields.map((f) => f.name),
				' '
			)
		: name;
	const stem =
		label
			.replace(/[^A-Za-z0-9]+/g, '_')
			.replace(/^[^A-Za-z]+|_+$/g, '')
			.slice(0, 40) || 'field';
	const reserved = [...Object.keys(BUILT_IN), ...Object.values(READINGS_OF_SET).flatMap((r) => Object.keys(r))];
	const id = [...taken, ...reserved].includes(stem) ? freeName(stem, [...taken, ...reserved], '_') : stem;
	draft.fields.push({ id, name: label, source });
	return id;
}

/** Names of what follows a field: rules by their place in their set, and other fields. */
export function usersOfField(project: Project, id: string): string[] {
	const named = (rule: Rule) => namesIn([rule], [], []).words.has(id);
	return [
		...project.rules
			.filter(named)
			.map((r) => r.name ?? `a rule of ${project.sets.find((s) => s.id === r.set)?.name ?? r.set}`),
		...project.overrides.filter((o) => namesIn([], [o], []).words.has(id)).map(() => 'what is set by hand'),
		...project.masses.flatMap((mass) =>
			mass.faces.flatMap((face) => {
				const { layer, tiling } = fieldsOfDivision(face);
				return [
					...(layer.includes(id) ? [`the second layer of ${mass.name} › ${face.name}`] : []),
					...(tiling.includes(id) ? [`the sizes of cells of ${mass.name} › ${face.name}`] : [])
				];
			})
		),
		...project.fields
			.filter((f) => f.source.kind === 'formula' && mentioned(f.source.formula).includes(id))
			.map((f) => f.name)
	];
}

/** Removes a field; rules that held by it, and all that followed it, let go of it. */
export function removeField(draft: Project, id: string): void {
	draft.fields = draft.fields.filter((f) => f.id !== id);
	for (const face of draft.masses.flatMap((m) => m.faces)) {
		const { layer } = face.settingOut;
		if (typeof layer !== 'number' && layer.field === id) face.settingOut.layer = layer.from;
		if (fieldsOfDivision(face).tiling.includes(id)) (face.tiling as VoronoiTiling).grading = { kind: 'even' };
	}
	const without = (condition: Condition): Condition | undefined => {
		if (condition.kind === 'field') return condition.field === id ? undefined : condition;
		if (condition.kind === 'any') {
			const of = condition.of.flatMap((c) => without(c) ?? []);
			return of.length ? { ...condition, of } : undefined;
		}
		if (condition.kind === 'not') {
			const of = without(condition.of);
			return of && { ...condition, of };
		}
		return condition;
	};
	const kept = (values: Rule['values']) =>
		Object.fromEntries(Object.entries(values).filter(([, v]) => !(varies(v) && 'field' in v && v.field === id)));
	for (const rule of draft.rules) {
		if (!namesIn([rule], [], []).words.has(id)) continue;
		rule.where = rule.where.flatMap((c) => without(c) ?? []);
		rule.values = kept(rule.values);
	}
	for (const override of draft.overrides)
		if (Object.values(override.values).some((v) => varies(v) && 'field' in v && v.field === id))
			override.values = kept(override.values);
}

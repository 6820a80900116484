import { contentOf, hasContent } from '../content.ts';
import type { Kit, KitParameter } from '../kit/schema.ts';
import { CONSTANTS, FUNCTIONS, UNITS } from '../kit/formula/compile.ts';
import { BYTES_A_POINT } from '../placement/fields/picture.ts';
import { BUILT_IN } from '../placement/rules/scope.ts';
import { READINGS_OF_SET, setHostOf } from '../placement/rules/ruleHosts.ts';
import {
	varies,
	type Condition,
	type Override,
	type Rule,
	type RuleSet,
	type RuleValue
} from '../placement/rules/schema.ts';
import type { DrawnPath } from '../placement/drawn/schema.ts';
import type { Field } from '../placement/fields/schema.ts';
import { fieldsOfDivision } from '../placement/rules/names.ts';
import type { Face, Project } from './schema.ts';
import { beside, type Fault } from './sound.ts';
import { unknown } from './unknown.ts';

/** What rules can name. */
export interface Known {
	readonly faces: ReadonlySet<string>;
	readonly kits: ReadonlyMap<string, Kit>;
	readonly materials: ReadonlySet<string>;
	readonly sets: ReadonlyMap<string, RuleSet>;
	readonly zones: ReadonlySet<string>;
	readonly fields: ReadonlySet<string>;
	readonly rules: ReadonlySet<string>;
	readonly paths: ReadonlySet<string>;
}

/** Names of the last project that was asked about, with the lists that they were taken from. */
let last: { readonly from: readonly unknown[]; readonly known: Known } | undefined;

/** What rules of a project can name; the same object while none of it has changed. */
export function knownNames({ masses, kits, materials, sets, zones, fields, rules, paths }: Project): Known {
	const from = [masses, kits, materials, sets, zones, fields, rules, paths];
	if (last?.from.every((list, k) => list === from[k])) return last.known;
	const known: Known = {
		faces: new Set(masses.flatMap((mass) => mass.faces.map((face) => `${mass.id}/${face.id}`))),
		kits: new Map(kits.map((kit) => [kit.id, kit])),
		materials: new Set(materials.map((m) => m.id)),
		sets: new Map(sets.map((s) => [s.id, s])),
		zones: new Set(zones.map((z) => z.id)),
		fields: new Set(fields.map((f) => f.id)),
		rules: new Set(rules.map((r) => r.id)),
		paths: new Set(paths.map((p) => p.id))
	};
	last = { from, known };
	return known;
}

/** Formulas must know what a name means: numbers and fields share their names with nothing else. */
export function* wordFaults({ numbers, fields }: Pick<Project, 'numbers' | 'fields'>): Generator<Fault> {
	const taken = new Set(
		[BUILT_IN, UNITS, CONSTANTS, FUNCTIONS, ...Object.values(READINGS_OF_SET)].flatMap((names) => Object.keys(names))
	);
	for (const [list, items] of [
		['numbers', numbers],
		['fields', fields]
	] as const)
		for (const [k, { id }] of items.entries()) {
			if (taken.has(id))
				yield {
					path: [list, k, 'id'],
					message: `“${id}” means something else in formulas already; right would be another name`
				};
			taken.add(id);
		}
}

/** Fields that a face's division follows must be there. */
export function* divisionFaults(face: Face, { fields }: Known): Generator<Fault> {
	const { layer, tiling } = fieldsOfDivision(face);
	for (const field of layer)
		if (!fields.has(field)) yield { path: ['settingOut', 'layer', 'field'], message: unknown('field', field, fields) };
	for (const field of tiling)
		if (!fields.has(field)) yield { path: ['tiling', 'grading', 'field'], message: unknown('field', field, fields) };
}

export function* fieldFaults({ name, source, range }: Field, known: Known): Generator<Fault> {
	if (source.kind === 'painted')
		for (const [p, { face, runs }] of source.parts.entries()) {
			if (!known.faces.has(face))
				yield { path: ['source', 'parts', p, 'face'], message: unknown('face', face, known.faces) };
			const r = runs.findIndex(([, from, to]) => from > to);
			if (r >= 0)
				yield { path: ['source', 'parts', p, 'runs', r], message: 'the first column must not be beyond the last' };
		}
	if (range && range[0] === range[1])
		yield {
			path: ['range'],
			message: `the range of “${name}” begins and ends at one value; right would be two that differ`
		};
	if (source.kind === 'reading' && !Object.values(READINGS_OF_SET).some((all) => Object.hasOwn(all, source.reading)))
		yield {
			path: ['source', 'reading'],
			message: unknown('reading', source.reading, Object.keys(READINGS_OF_SET.cell))
		};
	if (source.kind === 'picture' && hasContent(source.pixels)) {
		const found = contentOf(source.pixels).length;
		const wanted = source.width * source.height * BYTES_A_POINT;
		if (found !== wanted)
			yield {
				path: ['source', 'pixels'],
				message: `the picture of “${name}” has ${found} bytes; ${source.width} × ${source.height} points take ${wanted}`
			};
	}
	if (source.kind === 'distance')
		for (const [k, shape] of source.to.entries())
			if (shape.kind !== 'points' && shape.points.length < 2)
				yield { path: ['source', 'to', k, 'points'], message: 'a line needs at least two points' };
}

export function* pathFaults({ face }: DrawnPath, { faces }: Known): Generator<Fault> {
	if (!faces.has(face)) yield { path: ['face'], message: unknown('face', face, faces) };
}

/** Marks of paths must differ, as those of faces do. */
export function* markTwice(paths: readonly DrawnPath[]): Generator<Fault> {
	const owners = new Map<string, string>();
	for (const [k, { mark, name }] of paths.entries()) {
		const owner = owners.get(mark);
		if (owner !== undefined) yield { path: ['paths', k, 'mark'], message: `“${mark}” is already the mark of ${owner}` };
		owners.set(mark, name);
	}
}

export const ruleFaults = beside((rule: Rule, known: Known) => [...faultsOfRule(rule, known)]);

function* faultsOfRule(rule: Rule, known: Known): Generator<Fault> {
	const set = known.sets.get(rule.set);
	if (!set) yield { path: ['set'], message: unknown('set', rule.set, known.sets.keys()) };
	for (const [k, face] of rule.faces.entries())
		if (!known.faces.has(face)) yield { path: ['faces', k], message: unknown('face', face, known.faces) };
	for (const [k, condition] of rule.where.entries())
		for (const fault of conditionFaults(condition, rule, known)) yield { ...fault, path: ['where', k, ...fault.path] };
	const kit = rule.kit === null ? undefined : known.kits.get(rule.kit);
	if (rule.kit !== null && !kit) return yield { path: ['kit'], message: unknown('kit', rule.kit, known.kits.keys()) };
	if (kit && set) yield* hostFaults(kit, set);
	yield* valueFaults(rule.values, kit, known);
}

export function* overrideFaults(
	{ set: id, face, hosts, kit: kitId, values }: Override,
	known: Known
): Generator<Fault> {
	const set = known.sets.get(id);
	if (!set) yield { path: ['set'], message: unknown('set', id, known.sets.keys()) };
	if (!known.faces.has(face)) yield { path: ['face'], message: unknown('face', face, known.faces) };
	const k = hosts.findIndex(([, from, to]) => from > to);
	if (k >= 0)
		yield {
			path: ['hosts', k],
			message: `runs from column ${hosts[k]![1]} to ${hosts[k]![2]}; the first must not be beyond the last`
		};
	const kit = typeof kitId === 'string' ? known.kits.get(kitId) : undefined;
	if (typeof kitId === 'string' && !kit)
		return yield { path: ['kit'], message: unknown('kit', kitId, known.kits.keys()) };
	if (kit && set) yield* hostFaults(kit, set);
	if (kit) yield* valueFaults(values, kit, known);
}

function* hostFaults(kit: Kit, set: RuleSet): Generator<Fault> {
	if (setHostOf(kit.host) !== set.host)
		yield {
			path: ['kit'],
			message: `“${kit.name}” is made for ${setHostOf(kit.host)}s, the set “${set.name}” holds ${set.host}s`
		};
	else if (kit.host.kind === 'bay' && (kit.host.across !== set.bay!.across || kit.host.up !== set.bay!.up))
		yield {
			path: ['kit'],
			message: `“${kit.name}” is made for bays of ${kit.host.across} × ${kit.host.up} cells, the set “${set.name}” holds those of ${set.bay!.across} × ${set.bay!.up}`
		};
}

function* conditionFaults(condition: Condition, rule: Rule, known: Known): Generator<Fault> {
	switch (condition.kind) {
		case 'zone':
			if (!known.zones.has(condition.zone))
				yield { path: ['zone'], message: unknown('zone', condition.zone, known.zones) };
			return;
		case 'face':
			for (const [k, face] of condition.faces.entries())
				if (!known.faces.has(face)) yield { path: ['faces', k], message: unknown('face', face, known.faces) };
			return;
		case 'beside':
			if (!known.rules.has(condition.rule) || condition.rule === rule.id)
				yield { path: ['rule'], message: unknown('other rule', condition.rule, known.rules) };
			return;
		case 'field':
			if (!known.fields.has(condition.field))
				yield { path: ['field'], message: unknown('field', condition.field, known.fields) };
			return;
		case 'path':
			for (const [k, path] of condition.paths.entries())
				if (!known.paths.has(path)) yield { path: ['paths', k], message: unknown('path', path, known.paths) };
			return;
		case 'any':
			for (const [k, inner] of condition.of.entries())
				for (const fault of conditionFaults(inner, rule, known)) yield { ...fault, path: ['of', k, ...fault.path] };
			return;
		case 'not':
			for (const fault of conditionFaults(condition.of, rule, known)) yield { ...fault, path: ['of', ...fault.path] };
	}
}

function* valueFaults(values: Rule['values'], kit: Kit | undefined, known: Known): Generator<Fault> {
	for (const [name, value] of Object.entries(values)) {
		const path = ['values', name];
		if (!kit) {
			yield { path, message: 'hosts that are left open have no values' };
			continue;
		}
		const parameter = kit.parameters.find((p) => p.name === name);
		if (!parameter) {
			yield { path, message: `“${kit.name}” has no parameter “${name}”` };
			continue;
		}
		for (const one of plainValues(value)) yield* plainFaults(one, parameter, kit, known.materials, path);
		if (varies(value) && 'field' in value && !known.fields.has(value.field))
			yield { path: [...path, 'field'], message: unknown('field', value.field, known.fields) };
		if (varies(value) && (value.kind === 'formula' || value.kind === 'field') && isText(parameter))
			yield {
				path,
				message: `“${parameter.label}” of “${kit.name}” is a text, which follows a list, steps of a field or a choice`
			};
	}
}

const isText = ({ quantity }: KitParameter) => quantity === 'text' || quantity === 'material';

/** The values that a value of a rule can come to, where it names them. */
function plainValues(value: RuleValue): readonly (number | string)[] {
	if (!varies(value)) return [value];
	if (value.kind === 'choice') return value.values.map((v) => v.value);
	return value.kind === 'list' || value.kind === 'steps' ? value.values : [];
}

function* plainFaults(
	value: number | string,
	parameter: KitParameter,
	kit: Kit,
	materials: ReadonlySet<string>,
	path: Fault['path']
): Generator<Fault> {
	const text = isText(parameter);
	if (text !== (typeof value === 'string'))
		yield { path, message: `“${parameter.label}” of “${kit.name}” wants ${text ? 'a text' : 'a number'}` };
	else if (parameter.quantity === 'material' && !materials.has(value as string))
		yield { path, message: `there is no material “${value}”` };
}

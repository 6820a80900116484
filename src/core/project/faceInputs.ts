import { hasContent } from '../content.ts';
import type { DrawnPath } from '../placement/drawn/schema.ts';
import type { Field } from '../placement/fields/schema.ts';
import { fieldsOfDivision, namesIn, withNamesWithin } from '../placement/rules/names.ts';
import type { RulesOfFace } from '../placement/rules/assign.ts';
import type { Kit } from '../kit/schema.ts';
import type { Override, Rule } from '../placement/rules/schema.ts';
import type { KitWorld, KnownKit } from './kitWorld.ts';
import type { BesideSection } from './besideSections.ts';
import { faceKey, type Face, type Level, type Mass, type OwnTiling, type Project } from './schema.ts';

/** A kit as what stands on a face hangs on it. */
export interface KitInputs extends KnownKit {
	/** What it stands on. */
	readonly host: Kit['host']['kind'];
}

/** All that one face is made from, as plain data: the same text, the same face. Kits stand for themselves by their hash. */
export interface FaceInputs {
	readonly key: string;
	/** Mass and face, for people. */
	readonly what: string;
	/** Of the mass's surfaces where they stand, and which of them it is. */
	readonly surface: readonly [hash: string, index: number];
	readonly face: Face;
	/** Divided faces whose borders meet its own, and whether they stand earlier; none where neither its rules nor their kits ask. */
	readonly neighbours: readonly (Pick<FaceInputs, 'key' | 'surface'> &
		Pick<Face, 'insideOut'> & { readonly earlier: boolean })[];
	/** What earlier ones among them have along its border, which its bars keep clear of. */
	readonly beside: readonly BesideSection[];
	/** Those that its division or openings hang on, so that others may move without any work. */
	readonly levels: readonly Level[];
	/** The project's own tiling that it has, if it has one. */
	readonly own: readonly OwnTiling[];
	/** Paths that are drawn on it. */
	readonly paths: readonly DrawnPath[];
	/** Fields that its cells, and its second layer, follow, with all that they hang on. */
	readonly follows: { readonly tiling: FieldInputs; readonly layer: FieldInputs };
	/** What its rules say, with all that they hang on. */
	readonly rules: RulesOfFace;
	/** By id, the kits that they place. */
	readonly kits: Readonly<Record<string, KitInputs>>;
	/** Warnings are worded in these. */
	readonly units: Project['units'];
}

const texts = new WeakMap<FaceInputs, string>();

/** The inputs of a face as text, written once. */
export function textOf(face: FaceInputs): string {
	const text = texts.get(face) ?? JSON.stringify(face);
	texts.set(face, text);
	return text;
}

/** What one face of a mass is made from. `surfacesHash` is that of the mass’s surfaces where they stand. */
export function inputsOf(
	project: Project,
	rules: RulesByFace,
	world: KitWorld,
	mass: Mass,
	index: number,
	surfacesHash: string
): FaceInputs {
	const face = mass.faces[index]!;
	const key = faceKey(mass, face);
	const { tiling } = face;
	return {
		key,
		what: `${mass.name} › ${face.name}`,
		surface: [surfacesHash, index],
		face,
		neighbours: [],
		beside: [],
		levels: levelsUsed(project, face),
		own: tiling.kind === 'own' ? project.tilings.filter((t) => t.id === tiling.tiling) : [],
		paths: project.paths.filter((p) => p.face === key),
		follows: followsOf(project, key, face),
		...placingOf(project, rules, world, key, face),
		units: project.units
	};
}

function levelsUsed({ levels }: Project, face: Face): readonly Level[] {
	const { across, up } = face.settingOut;
	if ([across, up].some(({ spacing }) => spacing.kind === 'levels')) return levels;
	const named = new Set(face.openings.flatMap(({ place }) => (place.kind === 'level' ? [place.level] : [])));
	return named.size ? levels.filter((l) => named.has(l.id)) : [];
}

/** By face, the rules and overrides that stand on it, in order; under no name those that stand on all. */
export interface RulesByFace {
	readonly rules: ReadonlyMap<string, readonly Rule[]>;
	readonly overrides: ReadonlyMap<string, readonly Override[]>;
}

/** O(rules). */
export function rulesByFace({ rules, overrides, masses }: Project): RulesByFace {
	const all = masses.flatMap((mass) => mass.faces.map((face) => faceKey(mass, face)));
	const byFace = new Map<string, Rule[]>(all.map((key) => [key, []]));
	for (const rule of rules)
		for (const key of new Set(rule.faces.length ? rule.faces : all)) byFace.get(key)?.push(rule);
	const set = new Map<string, Override[]>();
	for (const override of overrides) {
		const there = set.get(override.face);
		if (there) there.push(override);
		else set.set(override.face, [override]);
	}
	return { rules: byFace, overrides: set };
}

/** A field without what is painted on other faces. */
function onFace(field: Field, key: string): Field {
	const { source } = field;
	return source.kind === 'painted'
		? { ...field, source: { ...source, parts: source.parts.filter((p) => p.face === key) } }
		: field;
}

type FieldInputs = Pick<RulesOfFace, 'key' | 'fields' | 'missing' | 'numbers' | 'levels'>;

/** What some names mean on a face. */
function fieldsNamed(project: Project, key: string, words: ReadonlySet<string>): FieldInputs {
	const fields = project.fields.filter((f) => words.has(f.id)).map((f) => onFace(f, key));
	return {
		key,
		fields,
		missing: fields.flatMap(({ source }) =>
			source.kind === 'picture' && !hasContent(source.pixels) ? [source.pixels] : []
		),
		numbers: project.numbers.filter((n) => words.has(n.id)),
		levels: words.has('storey') || words.has('level') ? project.levels : []
	};
}

function followsOf(project: Project, key: string, face: Face): FaceInputs['follows'] {
	const { layer, tiling } = fieldsOfDivision(face);
	const named = (ids: readonly string[]) => fieldsNamed(project, key, withNamesWithin(ids, project.fields));
	return { layer: named(layer), tiling: named(tiling) };
}

/** What stands on a face, with nothing of the project that it does not hang on. */
function placingOf(
	project: Project,
	byFace: RulesByFace,
	world: KitWorld,
	key: string,
	face: Face
): Pick<FaceInputs, 'rules' | 'kits'> {
	const rules = face.facade ? (byFace.rules.get(key) ?? []) : [];
	const overrides = face.facade ? (byFace.overrides.get(key) ?? []) : [];
	const sets = project.sets.filter((s) => rules.some((r) => r.set === s.id) || overrides.some((o) => o.set === s.id));
	const named = namesIn(rules, overrides, project.fields);
	const kits = [...rules, ...overrides].flatMap(({ kit }) => (typeof kit === 'string' ? [kit] : []));
	return {
		rules: {
			...fieldsNamed(project, key, named.words),
			sets,
			rules,
			overrides,
			zones: project.zones
				.filter((z) => named.zones.has(z.id))
				.map(({ id, parts }) => ({ id, runs: parts.find((p) => p.face === key)?.runs ?? [] }))
		},
		kits: Object.fromEntries(
			[...new Set(kits)].flatMap((id) => {
				const known = world.kit(id);
				return known ? [[id, { ...known, host: world.library.get(id)!.host.kind }] as const] : [];
			})
		)
	};
}

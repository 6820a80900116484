import type { Kit } from '../kit/schema.ts';
import type { KitWorld } from './kitWorld.ts';
import { faceKey, type Face, type Level, type Mass, type OwnTiling, type Project, type Rule } from './schema.ts';

/** A rule with all that its placement depends on beside the face. */
export interface RuleInputs {
	readonly rule: Rule;
	/** Of the kit, the kits and meshes within it, and the densities of materials. */
	readonly kitHash: string;
	readonly solids: boolean;
}

/** All that one face is made from, as plain data: the same text, the same face. Kits stand for themselves by their hash. */
export interface FaceInputs {
	readonly key: string;
	/** Mass and face, for people. */
	readonly what: string;
	/** Of the mass's surfaces where they stand, and which of them it is. */
	readonly surface: readonly [hash: string, index: number];
	readonly face: Face;
	/** Those that its division or openings hang on, so that others may move without any work. */
	readonly levels: readonly Level[];
	/** The project's own tiling that it has, if it has one. */
	readonly own: readonly OwnTiling[];
	readonly rules: readonly RuleInputs[];
	/** Warnings are worded in these. */
	readonly units: Project['units'];
}

/** What one face of a mass is made from. `surfacesHash` is that of the mass’s surfaces where they stand. */
export function inputsOf(
	project: Project,
	rules: RulesByFace,
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
		levels: levelsUsed(project, face),
		own: tiling.kind === 'own' ? project.tilings.filter((t) => t.id === tiling.tiling) : [],
		rules: (face.facade && rules.get(key)) || [],
		units: project.units
	};
}

function levelsUsed({ levels }: Project, face: Face): readonly Level[] {
	const { across, up } = face.settingOut;
	if ([across, up].some(({ spacing }) => spacing.kind === 'levels')) return levels;
	const named = new Set(face.openings.flatMap(({ place }) => (place.kind === 'level' ? [place.level] : [])));
	return named.size ? levels.filter((l) => named.has(l.id)) : [];
}

/** By face, the rules that place kits on it, in order. */
export type RulesByFace = ReadonlyMap<string, readonly RuleInputs[]>;

/** O(rules). */
export function rulesByFace({ rules }: Project, world: KitWorld): RulesByFace {
	const byFace = new Map<string, RuleInputs[]>();
	for (const rule of rules) {
		const known = world.kit(rule.kit);
		if (!known) continue;
		const inputs = { rule, kitHash: known.hash, solids: known.solids };
		const others = byFace.get(rule.face);
		if (others) others.push(inputs);
		else byFace.set(rule.face, [inputs]);
	}
	return byFace;
}

/** The kit that a rule places. */
export const kitOf = (world: KitWorld, { rule }: RuleInputs): Kit => world.library.get(rule.kit)!;

import { float32sOf, hasContent, uint32sOf } from '../content.ts';
import type { KitLibrary, ModuleLibrary } from '../kit/builderWorld.ts';
import { BESIDE_READINGS, ROOM_READINGS } from '../kit/hostReadings.ts';
import type { Mesh } from '../kit/mesh.ts';
import { allSteps, type Kit } from '../kit/schema.ts';
import { hasSection } from '../placement/rooms.ts';
import { hashOf } from './memo.ts';
import type { Project } from './schema.ts';

/** The project's kits by id. */
export const kitLibrary = (project: Pick<Project, 'kits'>): KitLibrary => new Map(project.kits.map((k) => [k.id, k]));

/** Meshes by the names of their contents. */
const decoded = new Map<string, Mesh>();
const MOST_DECODED = 50;

function decode({ positions, triangles }: Project['modules'][number]): Mesh {
	const key = `${positions} ${triangles}`;
	const known = decoded.get(key);
	if (known) return known;
	const made = { positions: Float64Array.from(float32sOf(positions)), triangles: uint32sOf(triangles) };
	if (decoded.size > MOST_DECODED) decoded.clear();
	decoded.set(key, made);
	return made;
}

/** The project's meshes for modules, by id. */
export const moduleLibrary = ({ modules }: Pick<Project, 'modules'>): ModuleLibrary =>
	// One whose content is missing is none, and the steps that want it say so.
	new Map(
		modules.filter((m) => hasContent(m.positions) && hasContent(m.triangles)).map((saved) => [saved.id, decode(saved)])
	);

/** What the meshes are that some kits are made of: an id may come to stand for another mesh. */
export function moduleHashes(
	{ modules }: Pick<Project, 'modules'>,
	kits: readonly Kit[]
): (readonly [string, string])[] {
	const used = new Set(
		kits.flatMap(allSteps).flatMap((s) => (s.kind === 'module' && s.file !== undefined ? [s.file] : []))
	);
	return modules
		.filter((m) => used.has(m.id))
		.map((m) => [m.id, `${m.positions} ${m.triangles} ${hasContent(m.positions) && hasContent(m.triangles)}`] as const);
}

/** A kit with all kits that it places within itself, each once. */
export function kitsWithin(kit: Kit, library: KitLibrary): Kit[] {
	const found = new Set<Kit>();
	const visit = (k: Kit): void => {
		if (found.has(k)) return;
		found.add(k);
		for (const step of allSteps(k)) {
			const inner = step.kind === 'kit' ? library.get(step.kit) : undefined;
			if (inner) visit(inner);
		}
	};
	visit(kit);
	return [...found];
}

/** Whether a kit, or one within it, joins or cuts bodies, which takes the solids package. */
export const needsSolids = (kit: Kit, library: KitLibrary) =>
	kitsWithin(kit, library).some((k) => allSteps(k).some((s) => s.kind === 'combine' && !s.off));

const reachesLayer = (kit: Kit) =>
	kit.host.kind === 'box' ||
	(kit.host.kind === 'edge' && kit.host.on !== 'face') ||
	allSteps(kit).some((s) => 'layer' in s && s.layer === 'upper');

/** A kit as the placement depends on it. */
export interface KnownKit {
	/** Of the kit, those within it, their meshes, and the densities of materials. */
	readonly hash: string;
	readonly solids: boolean;
	/** It says how thick it is at nodes. */
	readonly section: boolean;
	/** It asks for the room that others take at the ends of its edges. */
	readonly rooms: boolean;
	/** It asks for the other face that its edges lie along. */
	readonly beside: boolean;
	/** It stands on the second layer, or reaches it. */
	readonly onLayer: boolean;
}

/** What the kits of a project are, looked up once a run however many faces have them. */
export interface KitWorld {
	readonly library: KitLibrary;
	readonly modules: ModuleLibrary;
	/** kg/m3 by material id. */
	readonly densities: Readonly<Record<string, number>>;
	/** Nothing where the project has no such kit. */
	kit(id: string): KnownKit | undefined;
}

/** Formulas of a kit that ask for its room at nodes, or for other faces. */
const asking = (readings: object) => new RegExp(`\\b(${Object.keys(readings).join('|')})\\b`);
const [ROOM, BESIDE] = [asking(ROOM_READINGS), asking(BESIDE_READINGS)];

/** Hashes of kits by their text, since most edits change none. */
const hashes = new Map<string, string>();
const MOST_HASHES = 500;

/** The kits of a project, with the hashes that their placements hang on. O(bytes of kits that are asked for). */
export function kitWorldOf(project: Pick<Project, 'kits' | 'modules' | 'materials'>): KitWorld {
	const library = kitLibrary(project);
	const densities = Object.fromEntries(project.materials.map((m) => [m.id, m.density]));
	const known = new Map<string, KnownKit>();
	return {
		library,
		modules: moduleLibrary(project),
		densities,
		kit(id) {
			const kit = library.get(id);
			if (!kit || known.has(id)) return known.get(id);
			const kits = kitsWithin(kit, library);
			const inputs = [kits, moduleHashes(project, kits), densities];
			const text = JSON.stringify(inputs);
			const hash = hashes.get(text) ?? hashOf(inputs);
			if (hashes.size > MOST_HASHES) hashes.clear();
			hashes.set(text, hash);
			const found = {
				hash,
				solids: needsSolids(kit, library),
				section: hasSection(kit),
				rooms: kit.host.kind === 'edge' && (ROOM.test(text) || text.includes('"ends":"mitred"')),
				beside: kit.host.kind === 'edge' && BESIDE.test(text),
				onLayer: reachesLayer(kit)
			};
			known.set(id, found);
			return found;
		}
	};
}

import { base64 } from '@scure/base';
import { z } from 'zod';
import { contentOf } from '../content.ts';
import { messageOf, ZygasterError } from '../errors.ts';
import { allSteps, kitSchema, type Kit } from '../kit/schema.ts';
import { explainIssues } from './read.ts';
import { kitLibrary, kitsWithin } from './kitWorld.ts';
import { contentNames, keptFrom } from './contents.ts';
import { materialSchema, moduleSchema, type ModuleMesh, type Project } from './schema.ts';

const FORMAT = 'zygaster-kit';
const VERSION = 1;

/** A mesh with its bytes within, in base64: Float32 coordinates and Uint32 indices, little endian. */
const fileModule = z.strictObject({
	...moduleSchema.shape,
	positions: z.string().max(40_000_000),
	triangles: z.string().max(40_000_000)
});

export const kitFileSchema = z.strictObject({
	format: z.literal(FORMAT),
	version: z.literal(VERSION),
	/** The kit, then the kits within it. */
	kits: z.array(kitSchema).min(1).max(100),
	materials: z.array(materialSchema).max(500),
	modules: z.array(fileModule).max(200)
});

/** A kit with everything that it needs. */
export type KitFile = z.output<typeof kitFileSchema>;

/** A kit of a project with the kits within it, its materials and its meshes. */
export function packKit(project: Pick<Project, 'kits' | 'materials' | 'modules'>, kit: Kit): KitFile {
	const kits = kitsWithin(kit, kitLibrary(project));
	const steps = kits.flatMap(allSteps);
	const named = new Set([
		...steps.flatMap((s) => ('material' in s ? [s.material] : [])),
		...kits.flatMap((k) => k.parameters.flatMap((p) => (p.quantity === 'material' ? [p.default] : [])))
	]);
	const files = new Set(steps.flatMap((s) => (s.kind === 'module' && s.file !== undefined ? [s.file] : [])));
	return {
		format: FORMAT,
		version: VERSION,
		kits,
		materials: project.materials.filter((m) => named.has(m.id)),
		modules: project.modules.filter((m) => files.has(m.id)).map(packed)
	};
}

/** A mesh with its bytes within. Throws a ZygasterError with code `content` where they are not here. */
function packed(module: ModuleMesh): KitFile['modules'][number] {
	const { positions, triangles } = module;
	return { ...module, positions: base64.encode(contentOf(positions)), triangles: base64.encode(contentOf(triangles)) };
}

/** A mesh of a kit file as projects have it; its bytes are taken in. */
const unpacked = (module: KitFile['modules'][number]): ModuleMesh => ({
	...module,
	positions: keptFrom(module.positions, `${module.name} › positions`),
	triangles: keptFrom(module.triangles, `${module.name} › triangles`)
});

/** The contents that a kit file brings, once they are taken in. */
export const contentsOfKit = (file: KitFile): string[] =>
	contentNames({ masses: [], references: [], modules: file.modules.map(unpacked) });

/** A kit as JSON text, ending with a line break. */
export const writeKit = (project: Pick<Project, 'kits' | 'materials' | 'modules'>, kit: Kit): string =>
	`${JSON.stringify(packKit(project, kit), null, 2)}\n`;

/** Reads what `writeKit` wrote. Throws a ZygasterError with code `json` or `kit` that says where it is wrong. */
export function readKit(text: string): KitFile {
	let raw: unknown;
	try {
		raw = JSON.parse(text);
	} catch (cause) {
		throw new ZygasterError('json', `This is not JSON: ${messageOf(cause)}.`, '', { cause });
	}
	return checkKitFile(raw);
}

/** Checks a parsed kit file. Throws a ZygasterError with code `kit`. */
export function checkKitFile(raw: unknown): KitFile {
	const result = kitFileSchema.safeParse(raw);
	if (result.success) return result.data;
	throw new ZygasterError('kit', `This is no kit: ${explainIssues(result.error, raw)}.`);
}

/**
 * Adds a kit with everything that it needs to a project, under ids that are free there; what the project has in the
 * same words already is used. Changes the project; answers the kit's id.
 */
export function unpackKit(project: Pick<Project, 'kits' | 'materials' | 'modules'>, file: KitFile): string {
	for (const material of file.materials)
		if (!project.materials.some((m) => m.id === material.id)) project.materials.push(material);
	const meshes = new Map(file.modules.map((module) => [module.id, takeIn(project.modules, unpacked(module))]));
	const ids = new Map<string, string>();
	// The kits within first, so that the outer ones can name them.
	for (const kit of file.kits.toReversed()) {
		const renamed = kitSchema.parse(kit);
		for (const step of allSteps(renamed)) {
			if (step.kind === 'kit') step.kit = ids.get(step.kit) ?? step.kit;
			if (step.kind === 'module' && step.file !== undefined) step.file = meshes.get(step.file) ?? step.file;
		}
		ids.set(kit.id, takeIn(project.kits, renamed));
	}
	return ids.get(file.kits[0]!.id)!;
}

/** Puts something into a list unless it is there already, and answers its id. */
function takeIn<T extends { id: string; name: string }>(list: T[], item: T): string {
	const twin = list.find((other) => other.id === item.id);
	if (!twin) list.push(item);
	else if (JSON.stringify(twin) !== JSON.stringify(item)) {
		let n = 2;
		while (list.some((other) => other.id === `${item.id}-${n}`)) n++;
		const copy = { ...item, id: `${item.id}-${n}`, name: `${item.name} ${n}` };
		list.push(copy);
		return copy.id;
	}
	return item.id;
}

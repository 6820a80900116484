import { base64 } from '@scure/base';
import type { KitLibrary, ModuleLibrary } from '../kit/builder.ts';
import type { Mesh } from '../kit/mesh.ts';
import { allSteps, type Kit } from '../kit/schema.ts';
import type { Project } from './schema.ts';

/** The project's kits by id. */
export const kitLibrary = (project: Pick<Project, 'kits'>): KitLibrary => new Map(project.kits.map((k) => [k.id, k]));

/** Meshes decoded once for each text that they were saved as: every edit makes the document anew. */
const decoded = new Map<string, Mesh>();
const MOST_DECODED = 50;

/** The project's meshes for modules, by id. */
export function moduleLibrary({ modules }: Pick<Project, 'modules'>): ModuleLibrary {
	return new Map(
		modules.map((saved) => {
			const mesh = decoded.get(saved.positions) ?? {
				positions: Float64Array.from(new Float32Array(base64.decode(saved.positions).buffer as ArrayBuffer)),
				triangles: new Uint32Array(base64.decode(saved.triangles).buffer as ArrayBuffer)
			};
			if (decoded.size > MOST_DECODED) decoded.clear();
			decoded.set(saved.positions, mesh);
			return [saved.id, mesh];
		})
	);
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

import type { Project } from '../../core/project/schema.ts';
import { freeId } from './names.ts';

const STOREY = 3600;

/** Adds a level a storey above the highest. */
export function addLevel(draft: Project): void {
	const id = freeId(
		'level',
		draft.levels.map((l) => l.id)
	);
	const highest = Math.max(-STOREY, ...draft.levels.map((l) => l.height));
	draft.levels.push({ id, name: `Level ${id.split('-')[1]}`, height: highest + STOREY });
	sortLevels(draft);
}

/** Moves a level; everything that hangs on it follows. */
export function moveLevel(draft: Project, id: string, height: number): void {
	draft.levels.find((l) => l.id === id)!.height = height;
	sortLevels(draft);
}

/** Takes a level away; what hung on it stays at the height where it was. */
export function removeLevel(draft: Project, id: string): void {
	const { height } = draft.levels.find((l) => l.id === id)!;
	for (const mass of draft.masses) mass.shape = unhang(mass.shape, id, height - mass.frame.z) as typeof mass.shape;
	for (const face of draft.masses.flatMap((m) => m.faces)) {
		for (const { spacing } of [face.settingOut.across, face.settingOut.up])
			if (spacing.kind === 'levels') spacing.levels = spacing.levels.filter((l) => l !== id);
		// An opening keeps its height by another level.
		const other = draft.levels.find((l) => l.id !== id);
		for (const { name, place } of face.openings)
			if (place.kind === 'level' && place.level === id) {
				if (!other)
					throw new Error(
						`“${name}” hangs on this level, and there is no other. Right would be to give it a place on the face first.`
					);
				place.above += height - other.height;
				place.level = other.id;
			}
	}
	draft.levels = draft.levels.filter((l) => l.id !== id);
}

function unhang(value: unknown, id: string, height: number): unknown {
	if (typeof value !== 'object' || value === null) return value;
	if (Array.isArray(value)) return value.map((v) => unhang(v, id, height));
	const { level, above } = value as { level?: string; above?: number };
	if (level === id && typeof above === 'number') return height + above;
	return Object.fromEntries(Object.entries(value).map(([k, v]) => [k, unhang(v, id, height)]));
}

/** How many places of a project hang on a level. */
export function hangersOf(project: Project, id: string): number {
	const count = (value: unknown): number => {
		if (typeof value !== 'object' || value === null) return 0;
		if ((value as { level?: string }).level === id) return 1;
		return Object.values(value).reduce<number>((sum, v) => sum + count(v), 0);
	};
	const faces = project.masses.flatMap((m) => m.faces);
	const divided = faces
		.flatMap((f) => [f.settingOut.across.spacing, f.settingOut.up.spacing])
		.filter((s) => s.kind === 'levels' && s.levels.includes(id));
	return count(project.masses.map((m) => m.shape)) + count(faces.map((f) => f.openings)) + divided.length;
}

const sortLevels = (draft: Project) => draft.levels.sort((a, b) => b.height - a.height);

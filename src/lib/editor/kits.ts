import type { KitFile } from '../../core/project/kitFile.ts';
import { unpackKit } from '../../core/project/kitFile.ts';
import { STARTER_MATERIALS } from '../../core/project/starterMaterials.ts';
import type { Project } from '../../core/project/schema.ts';
import { allSteps, kitSchema, type Kit, type KitHost } from '../../core/kit/schema.ts';
import { freeId, freeName } from './names.ts';
import { dropKit, standsOn } from './placement.ts';

/** A starter, or any kit, as a file that a project can take in. */
export const kitAsFile = (kit: Kit): KitFile => ({
	format: 'zygaster-kit',
	version: 1,
	kits: [structuredClone(kit)],
	materials: structuredClone([...STARTER_MATERIALS]).filter((m) => JSON.stringify(kit).includes(`"${m.id}"`)),
	modules: []
});

/** Adds a kit with everything that it needs; answers its id. */
export const addKit = (draft: Project, file: KitFile): string => unpackKit(draft, file);

/** The hosts that a new kit can be made for. */
export const HOST_KINDS = {
	cell: 'Cell',
	box: 'Cell with depth',
	edge: 'Edge',
	node: 'Node',
	path: 'Path',
	bay: 'Bay'
} as const satisfies Record<KitHost['kind'], string>;

const HOSTS: Readonly<Record<KitHost['kind'], KitHost>> = {
	cell: { kind: 'cell', leastCorners: 3, greatestCorners: 64 },
	box: { kind: 'box', leastCorners: 4, greatestCorners: 4 },
	edge: { kind: 'edge', edges: [], on: 'face' },
	node: { kind: 'node', nodes: 'all' },
	path: { kind: 'path', along: 'across', every: 1 },
	bay: { kind: 'bay', across: 2, up: 2 }
};

/** A host of a kind, open to all of them. */
export const hostOf = (kind: KitHost['kind']): KitHost => structuredClone(HOSTS[kind]);

/** A new kit with the host's own line as its only step; answers its id. */
export function newKit(draft: Project, kind: KitHost['kind']): string {
	const id = freeId(
		'kit',
		draft.kits.map((k) => k.id)
	);
	const start = kind === 'node' ? { kind: 'corner', name: 'node', corner: 0 } : { kind: 'outline', name: 'outline' };
	draft.kits.push(
		kitSchema.parse({
			id,
			name: `New ${HOST_KINDS[kind].toLowerCase()} kit ${id.replace(/\D+/g, '')}`,
			host: hostOf(kind),
			parameters: [],
			steps: [start]
		})
	);
	return id;
}

/** A copy of a kit; answers its id. */
export function duplicateKit(draft: Project, id: string): string {
	const kit = draft.kits.find((k) => k.id === id)!;
	const copy = {
		...structuredClone(kit),
		id: freeId(
			id,
			draft.kits.map((k) => k.id)
		),
		name: freeName(
			kit.name,
			draft.kits.map((k) => k.name),
			' '
		),
		version: 1
	};
	draft.kits.splice(draft.kits.indexOf(kit) + 1, 0, copy);
	return copy.id;
}

/** Removes a kit with the rules that place it. */
export function removeKit(draft: Project, id: string): void {
	draft.kits = draft.kits.filter((k) => k.id !== id);
	dropKit(draft, id);
}

/** What holds a kit: names of the faces that it stands on and of the kits that it is within. */
export function holdersOf(project: Project, id: string): string[] {
	const stands = (face: string) =>
		project.rules.some((r) => r.kit === id && standsOn(r, face)) ||
		project.overrides.some((o) => o.kit === id && o.face === face);
	const names = project.masses.flatMap((m) =>
		m.faces.filter((f) => stands(`${m.id}/${f.id}`)).map((f) => `${m.name} › ${f.name}`)
	);
	const kits = project.kits.filter((k) => allSteps(k).some((s) => s.kind === 'kit' && s.kit === id)).map((k) => k.name);
	return [...names, ...kits];
}

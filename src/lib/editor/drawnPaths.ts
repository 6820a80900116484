import type { DrawnPath } from '../../core/placement/drawn/schema.ts';
import type { Project } from '../../core/project/schema.ts';
import { freeId, freeName } from './names.ts';
import { addRule, setFor } from './placement.ts';

/** Kinds of paths, in the order of the list that they are chosen from. */
export const PATH_LABELS = {
	picked: 'Through picked nodes',
	traced: 'By steps over the grid',
	geodesic: 'Shortest way on the face',
	cut: 'Cut by a plane',
	curve: 'Curve on the face',
	free: 'Points in space'
} as const satisfies Record<DrawnPath['source']['kind'], string>;
export type PathKind = keyof typeof PATH_LABELS;

/** How many points are clicked for each kind, as many as wanted where left out, and what they are for. */
export const PATH_POINTS: Readonly<Record<PathKind, { readonly most?: number; readonly label: string }>> = {
	picked: { label: 'Pick nodes' },
	traced: { most: 1, label: 'Pick the first node' },
	geodesic: { most: 2, label: 'Click both ends' },
	cut: { most: 1, label: 'Click a point of the plane' },
	curve: { label: 'Draw its points' },
	free: { label: 'Click its points' }
};

/** Places that a new path begins with: on the flat face and in space, mm. */
export interface PathStart {
	readonly flat: readonly [number, number];
	readonly space: readonly [number, number, number];
	readonly size: number;
}

/** A new source of a kind, about the middle of the face. */
export function newPathSource(
	kind: PathKind,
	{ flat: [x, y], space: [a, b, c], size }: PathStart
): DrawnPath['source'] {
	switch (kind) {
		case 'picked':
			return { kind, nodes: [] };
		case 'traced':
			return { kind, from: [0, 0, 0, 1], up: 1, across: 1, both: false };
		case 'geodesic':
			return { kind, from: [x - size, y], to: [x + size, y] };
		case 'cut':
			return { kind, point: [a, b, c], normal: [0, 0, 1] };
		case 'curve':
			return {
				kind,
				points: [
					[x - size, y],
					[x + size, y]
				],
				smooth: true
			};
		case 'free':
			return {
				kind,
				points: [
					[a, b, c],
					[a + size, b, c]
				]
			};
	}
}

/** Adds a path to a face; answers its id. */
export function addPath(draft: Project, face: string, source: DrawnPath['source']): string {
	const id = freeId(
		'path',
		draft.paths.map((p) => p.id)
	);
	const name = freeName(
		'Path',
		draft.paths.map((p) => p.name),
		' '
	);
	const mark = freeName(
		'P',
		draft.paths.map((p) => p.mark),
		''
	);
	draft.paths.push({ id, name, mark, face, source, closed: false, lift: 0, spacing: 500, mirrored: false, weave: 0 });
	return id;
}

/**
 * Gives a face the paths of another, with the rules that stand on them: those that hang on the face alone. Points, planes
 * and axes in space stay with the face that they were drawn for.
 */
export function copyPaths(draft: Project, from: string, to: string): void {
	const inSpace = ({ source: { kind }, array }: DrawnPath) =>
		kind === 'cut' || kind === 'free' || array?.kind === 'around';
	for (const path of draft.paths.filter((p) => p.face === from && !inSpace(p))) {
		const id = addPath(draft, to, path.source);
		const copy = draft.paths.at(-1)!;
		draft.paths[draft.paths.length - 1] = { ...path, id, name: copy.name, mark: copy.mark, face: to };
		for (const rule of draft.rules)
			if (rule.where.some((c) => c.kind === 'path' && c.paths.includes(path.id))) {
				rule.where = rule.where.map((c) =>
					c.kind === 'path' && c.paths.includes(path.id) ? { ...c, paths: [...c.paths, id] } : c
				);
				if (rule.faces.length) rule.faces = [...new Set([...rule.faces, to])];
			}
	}
}

/** Removes a path; rules that stood on it alone go with it. */
export function removePath(draft: Project, id: string): void {
	draft.paths = draft.paths.filter((p) => p.id !== id);
	draft.rules = draft.rules.flatMap((rule) => {
		const where = rule.where.flatMap((c) => {
			if (c.kind !== 'path' || !c.paths.includes(id)) return [c];
			const paths = c.paths.filter((p) => p !== id);
			return paths.length ? [{ ...c, paths }] : [];
		});
		const lost = rule.where.some((c) => c.kind === 'path') && !where.some((c) => c.kind === 'path');
		return lost ? [] : [where.length === rule.where.length ? rule : { ...rule, where }];
	});
}

/** Takes paths of faces that are no more out. */
export function dropPathFaces(draft: Project, gone: (face: string) => boolean): void {
	for (const { id } of draft.paths.filter((p) => gone(p.face))) removePath(draft, id);
}

/** Puts a kit onto a path by a rule of its own; answers the rule's id. */
export function kitOnPath(draft: Project, id: string, kit: string): string {
	const { face } = draft.paths.find((p) => p.id === id)!;
	const set = setFor(
		draft,
		draft.kits.find((k) => k.id === kit)!
	);
	return addRule(draft, { set: set.id, faces: [face], kit, where: [{ kind: 'path', paths: [id] }] });
}

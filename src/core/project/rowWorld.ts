import type { RowSource } from '../schedule/own/columns.ts';
import { Rows, type RowFace, type RowWorld } from '../schedule/own/rows.ts';
import { ruleNames } from './ruleNames.ts';
import type { Project } from './schema.ts';

/** What of a project stands in rows of schedules beside what is made of it. */
export const rowWorld = (project: Project): RowWorld => ({
	rules: ruleNames(project),
	materials: project.materials,
	zones: project.zones,
	levels: project.levels,
	costs: project.costs,
	types: project.types,
	kits: project.kits
});

/** By the first face of a model: its rows as they were asked for last, with the columns that they have put together. */
const known = new WeakMap<RowFace, Map<RowSource, Rows>>();

/** The rows of a model, the same ones for as long as nothing that they show has changed. */
export function rowsOf(project: Project, faces: readonly RowFace[], of: RowSource): Rows {
	const world = rowWorld(project);
	const there = faces[0] && known.get(faces[0]);
	const last = there?.get(of);
	if (last?.showsAlike(faces, world)) return last;
	const rows = new Rows(faces, of, world);
	if (faces[0]) known.set(faces[0], (there ?? new Map<RowSource, Rows>()).set(of, rows));
	return rows;
}

import type { RowWorld } from '../schedule/own/rows.ts';
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

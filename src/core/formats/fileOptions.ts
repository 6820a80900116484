import type { Project } from '../project/schema.ts';
import type { Format } from './format.ts';

/** Files whose options are set together, and others by themselves. */
const GROUPS: Readonly<Partial<Record<Format, string>>> = {
	csv: 'schedules',
	edges: 'schedules',
	nodes: 'schedules',
	paths: 'schedules',
	bays: 'schedules',
	parts: 'schedules',
	corners: 'schedules',
	quantities: 'schedules',
	tables: 'schedules',
	xlsx: 'schedules',
	rows: 'schedules',
	obj: 'meshes',
	stl: 'meshes',
	ply: 'meshes',
	cuts: 'cuts',
	cutsvg: 'cuts'
};
/** The name that the options of a format are kept by. */
export const groupOf = (format: Format): string => GROUPS[format] ?? format;

/** Whether a file is a table of figures. */
export const hasUnits = (format: Format): boolean => groupOf(format) === 'schedules' || format === 'cutlist';

/** What tables have lengths in where nothing is chosen: the project's own unit, as far as files have it. */
const UNIT_OF = { mm: 'mm', m: 'm', 'ft-in': 'ft' } as const;

/** The options that a project has chosen for a file, with the schedule of its own that it is. */
export function optionsOf(
	{ handover, units }: Pick<Project, 'handover' | 'units'>,
	format: Format,
	table?: string
): Record<string, unknown> {
	return {
		...(hasUnits(format) ? { units: handover.options['schedules']?.units ?? UNIT_OF[units] } : {}),
		...handover.options[groupOf(format)],
		...(table === undefined ? {} : { table })
	};
}

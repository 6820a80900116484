import type { Format } from '../../core/formats/format.ts';
import { WRITERS } from '../../core/formats/writers.ts';
import type { Project } from '../../core/project/schema.ts';
import type { FileName } from './fileLook.svelte.ts';

/** A file that can be handed over, as it is listed. */
export interface HandedFile extends FileName {
	readonly label: string;
	readonly help: string;
}

/** Files in the order in which they are listed. */
export const FILE_GROUPS: readonly { readonly heading: string; readonly formats: readonly Format[] }[] = [
	{
		heading: 'Schedules',
		formats: [
			'xlsx',
			'rows',
			'tables',
			'csv',
			'edges',
			'paths',
			'bays',
			'parts',
			'quantities',
			'cutlist',
			'nodes',
			'corners'
		]
	},
	{ heading: 'Models', formats: ['ifc', 'glb', 'obj', 'stl', 'ply', '3mf', 'step', 'space'] },
	{ heading: 'Drawings', formats: ['pdf', 'dxf', 'svg', 'cuts', 'cutsvg'] },
	{ heading: 'Project', formats: ['json', 'summary'] }
];

/** Files that show the model as it stands. */
export const SHOWS_MODEL: readonly Format[] = ['ifc', 'glb', 'obj', 'stl', 'ply', '3mf', 'step', 'space'];

/** The files of a format: of schedules of the project's own one each. */
export function filesOf(format: Format, { tables }: Pick<Project, 'tables'>): HandedFile[] {
	const { label, help } = WRITERS[format];
	return format === 'tables'
		? tables.map(({ id, name }) => ({ format, table: id, label: name, help }))
		: [{ format, label, help }];
}

/** Whether a file is one of the project's set. */
export const inSet = ({ handover }: Pick<Project, 'handover'>, { format, table }: FileName): boolean =>
	handover.files.some((f) => f.format === format && f.table === table);

/** Puts a file into the set, or takes it out. */
export function chooseFile({ handover }: Project, { format, table }: FileName, chosen: boolean): void {
	const others = handover.files.filter((f) => f.format !== format || f.table !== table);
	handover.files = chosen ? [...others, { format, ...(table ? { table } : {}) }] : others;
}

/** A number of bytes in words. */
export function bytesInWords(bytes: number): string {
	const [value, unit] =
		bytes >= 1e9 ? [bytes / 1e9, 'GB'] : bytes >= 1e6 ? [bytes / 1e6, 'MB'] : [Math.max(1, bytes / 1e3), 'kB'];
	return `${value < 10 ? value.toFixed(1) : Math.round(value)} ${unit}`;
}

import { utf8ToBytes } from '@noble/hashes/utils.js';
import { z } from 'zod';
import { ZygasterError } from '../errors.ts';
import type { Model } from '../project/pipeline.ts';
import type { Project } from '../project/schema.ts';
import { HOST_TABLES, markOf, type HostTableName } from '../schedule/faceTable.ts';
import type { TableName } from '../schedule/tables.ts';
import { isBar, writeCutList } from './csv/writeCutList.ts';
import { writeCorners, writeNodes, writeParts } from './csv/writePoints.ts';
import { CSV_UNITS, writeTable } from './csv/writeTable.ts';
import { writeJson } from './json/writeJson.ts';
import type { Sink } from './sink.ts';

export const FORMATS = [
	'json',
	'csv',
	'edges',
	'nodes',
	'paths',
	'parts',
	'corners',
	'cutlist',
	'xlsx',
	'glb'
] as const;
export type Format = (typeof FORMATS)[number];

/** What a file is made from. */
export interface WriterInput {
	readonly project: Project;
	readonly model: Model;
}

/** One kind of file of the handover. */
export interface Writer {
	/** As it is called on screen, and what it is good for. */
	readonly label: string;
	readonly help: string;
	/** What a file of it is called beside others. */
	readonly name: string;
	readonly extension: string;
	readonly media: string;
	/** It is written from the project alone: no model need be made for it. */
	readonly ofProject?: boolean;
	/** Settings that whoever orders it may give; all have defaults. */
	readonly options: z.ZodType;
	/** Why there is nothing to be written, where a model has nothing for it. */
	readonly missing: (input: WriterInput) => string | undefined;
	/** Writes the file piece after piece. Throws where the options are none of its own. */
	readonly write: (input: WriterInput, options: unknown, sink: Sink) => void | Promise<void>;
}

/** A writer whose options are checked by its own schema. */
const writer = <Schema extends z.ZodType>(
	options: Schema,
	write: (input: WriterInput, options: z.output<Schema>, sink: Sink) => void | Promise<void>,
	rest: Omit<Writer, 'options' | 'write' | 'missing'> & Partial<Pick<Writer, 'missing'>>
): Writer => ({
	missing: () => undefined,
	...rest,
	options,
	write: (input, given, sink) => write(input, options.parse(given), sink)
});

const noOptions = z.strictObject({});
const tableOptions = z.strictObject({
	/** Of lengths; areas follow. */
	units: z.enum(CSV_UNITS).default('mm')
});

const bought = z.number().positive().max(100_000);
const cutOptions = z.strictObject({
	...tableOptions.shape,
	/** mm: lengths that bars are delivered in, what a cut takes away, and what is cut off both ends together. */
	lengths: z.array(bought).min(1).max(20).default([6000]),
	kerf: z.number().min(0).max(100).default(4),
	trim: z.number().min(0).max(1000).default(20)
});

/** The marked tables of all faces. */
const tablesOf = ({ model }: WriterInput, name: HostTableName) =>
	model.schedule.map((face) =>
		name === 'paths'
			? { face, table: face.tables.paths, markOf: (r: number) => markOf(face, 'paths', r) }
			: { face, table: face.tables[name] }
	);

const tableWriter = (name: HostTableName, label: string, help: string): Writer =>
	writer(tableOptions, (input, { units }, sink) => writeTable(name, tablesOf(input, name), sink, units), {
		label,
		help,
		name,
		extension: 'csv',
		media: CSV,
		// A schedule of panels without any has its heading; the others are for those who have such kits.
		missing: (input) =>
			name === 'panels' || hasRows(input, name)
				? undefined
				: `There is nothing for the ${label.toLowerCase()}: no kit makes such parts.`
	});

const CSV = 'text/csv; charset=utf-8';
const noParts = (input: WriterInput, what: string) =>
	hasRows(input, 'parts') ? undefined : `There is nothing for the ${what}: no kit makes such parts.`;

const hasBars = ({ model }: WriterInput) =>
	model.faces.some((f) =>
		f.placements.some((p) => p.parts.some((part) => isBar(part) && part.pieces.some((n) => n > 0)))
	);

const hasRows = ({ model }: WriterInput, name: TableName) =>
	model.schedule.some((face) =>
		(name === 'parts' ? HOST_TABLES : [name as HostTableName]).some((t) => face.tables[t].count > 0)
	);

/** All files that leave: the server, the command line, the handover place and the documentation go through these. */
export const WRITERS: Readonly<Record<Format, Writer>> = {
	json: writer(noOptions, ({ project }, _, sink) => sink(utf8ToBytes(writeJson(project)) as Uint8Array<ArrayBuffer>), {
		label: 'Project',
		help: 'The whole project, to keep or to bring in elsewhere',
		name: 'project',
		extension: 'json',
		ofProject: true,
		media: 'application/json'
	}),
	csv: tableWriter('panels', 'Panel schedule', 'One row a panel, for any spreadsheet'),
	edges: tableWriter('edges', 'Edge schedule', 'One row for every edge that a kit stands on'),
	nodes: writer(tableOptions, ({ model }, { units }, sink) => writeNodes(model, sink, units), {
		label: 'Setting-out points',
		help: 'One row for every node: where it is, and where the face looks there',
		name: 'nodes',
		extension: 'csv',
		media: CSV,
		missing: ({ model }) => (model.faces.length ? undefined : 'There are no nodes: no face is divided.')
	}),
	paths: tableWriter('paths', 'Path schedule', 'One row for every line that a kit runs along'),
	parts: writer(tableOptions, ({ project, model }, { units }, sink) => writeParts(project, model, sink, units), {
		label: 'Part list',
		help: 'One row for every piece that is made, with its type',
		name: 'parts',
		extension: 'csv',
		media: CSV,
		missing: (input) => noParts(input, 'part list')
	}),
	corners: writer(tableOptions, ({ model }, { units }, sink) => writeCorners(model, sink, units), {
		label: 'Corner points',
		help: 'The corners of everything that kits stand on, in order',
		name: 'corners',
		extension: 'csv',
		media: CSV,
		missing: (input) => noParts(input, 'corner points')
	}),
	cutlist: writer(
		cutOptions,
		({ project, model }, { units, ...stock }, sink) => writeCutList(project, model, stock, sink, units),
		{
			label: 'Cut list',
			help: 'Which bars are cut from which delivered ones, with what is left of each',
			name: 'cutlist',
			extension: 'csv',
			media: CSV,
			missing: (input) => (hasBars(input) ? undefined : 'There is nothing for the cut list: no kit makes bars.')
		}
	),
	xlsx: writer(
		tableOptions,
		async ({ project, model }, { units }, sink) =>
			(await import('./xlsx/writeXlsx.ts')).writeXlsx(project, model, sink, units),
		{
			label: 'Schedules',
			help: 'All schedules as a spreadsheet, a sheet each, with totals',
			name: 'schedules',
			extension: 'xlsx',
			media: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
			missing: (input) => noParts(input, 'schedules')
		}
	),
	// Loaded when it is needed: the handover place knows all writers by name only.
	glb: writer(
		noOptions,
		async ({ project, model }, _, sink) => (await import('./glb/writeGlb.ts')).writeGlb(project, model, sink),
		{
			label: 'Model',
			help: 'glTF 2.0: one mesh a material, every part named by the mark of what it stands on',
			name: 'model',
			extension: 'glb',
			media: 'model/gltf-binary',
			missing: (input) =>
				hasRows(input, 'parts') ? undefined : 'There is no part to export: place a kit on a face first.'
		}
	)
};

export const isFormat = (text: unknown): text is Format => FORMATS.some((f) => f === text);

/** Checks settings for a file. Throws a ZygasterError with code `options` that says what would be right. */
export function readOptions(format: Format, given: unknown): unknown {
	const read = WRITERS[format].options.safeParse(given ?? {});
	if (read.success) return read.data;
	const { path, message } = read.error.issues[0]!;
	throw new ZygasterError(
		'options',
		`The options of ${WRITERS[format].label.toLowerCase()} are not right${path.length ? ` at ${path.join('.')}` : ''}: ${message}.`
	);
}

/** Writes a file. Throws a ZygasterError with code `empty` where there is nothing for it. */
export async function writeFormat(format: Format, input: WriterInput, options: unknown, sink: Sink): Promise<void> {
	const { missing, write } = WRITERS[format];
	const reason = missing(input);
	if (reason !== undefined) throw new ZygasterError('empty', reason);
	await write(input, options, sink);
}

import { utf8ToBytes } from '@noble/hashes/utils.js';
import { z } from 'zod';
import { ZygasterError } from '../errors.ts';
import { HOST_TABLES, markOf, type HostTableName } from '../schedule/faceTable.ts';
import { ONE_SIDED } from '../schedule/parts.ts';
import type { TableName } from '../schedule/tables.ts';
import { hasUnits, optionsOf } from './fileOptions.ts';
import {
	cutOptions,
	cutSheetOptions,
	drawingOptions,
	glbOptions,
	ifcOptions,
	meshOptions,
	noOptions,
	ownOptions,
	pdfOptions,
	svgOptions,
	tableOptions
} from './writerOptions.ts';
import { writeOwnTable, writeQuantities } from './csv/writeOwnTable.ts';
import { isBar, writeCutList } from './csv/writeCutList.ts';
import { writeCorners, writeNodes, writeParts } from './csv/writePoints.ts';
import { writeTable } from './csv/writeTable.ts';
import { TABLE_UNITS } from '../units/tableUnits.ts';
import { writeJson } from './json/writeJson.ts';
import type { Drawing } from '../drawing/drawing.ts';
import type { SetFile } from './zip/writeSet.ts';
import type { Sink } from './sink.ts';
import type { WriterInput } from './writerInput.ts';

export const FORMATS = [
	'json',
	'csv',
	'edges',
	'nodes',
	'paths',
	'bays',
	'parts',
	'corners',
	'cutlist',
	'quantities',
	'tables',
	'xlsx',
	'rows',
	'ifc',
	'glb',
	'obj',
	'stl',
	'ply',
	'3mf',
	'step',
	'space',
	'dxf',
	'svg',
	'cuts',
	'cutsvg',
	'pdf',
	'summary',
	'set'
] as const;
export type Format = (typeof FORMATS)[number];

/** One kind of file of the handover. */
export interface Writer {
	/** As it is called on screen, and what it is good for. */
	readonly label: string;
	readonly help: string;
	/** What a file of it is called beside others. */
	readonly name: string;
	readonly extension: string;
	readonly media: string;
	/** Only where somebody asks for it by name. */
	readonly onAsking?: boolean;
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

const setOptions = z.strictObject({
	/** Of schedules; what the project has chosen where nothing is said. */
	units: z.enum(TABLE_UNITS).optional(),
	/** The files with their options; those that the project has chosen where nothing is said. */
	files: z
		.array(
			z.strictObject({
				format: z.string().refine((f) => isFormat(f) && f !== 'set', 'must be a format other than set'),
				options: z.record(z.string(), z.unknown()).default({})
			})
		)
		.min(1, 'must name a file')
		.max(200)
		.optional()
});

/** The sheets that are asked for, in the project's order. */
function sheetsOf({ project }: WriterInput, { sheets }: z.output<typeof pdfOptions>) {
	const all = project.handover.sheets;
	const unknown = sheets?.find((id) => all.every((s) => s.id !== id));
	if (unknown !== undefined)
		throw new ZygasterError('options', `There is no sheet “${unknown}”; known: ${all.map((s) => s.id).join(', ')}.`);
	return all.filter((s) => !sheets || sheets.includes(s.id));
}

/** The files of a set, each with its writer. */
function filesOfSet(input: WriterInput, { files, units }: z.output<typeof setOptions>): SetFile[] {
	const asked: readonly { readonly format: string; readonly options: Record<string, unknown> }[] =
		files ??
		input.project.handover.files
			.filter((f) => isFormat(f.format) && f.format !== 'set')
			.map(({ format, table }) => ({
				format,
				options: {
					...optionsOf(input.project, format as Format, table),
					...(units && hasUnits(format as Format) ? { units } : {})
				}
			}));
	if (asked.length === 0)
		throw new ZygasterError('empty', 'No file is chosen for the set; choose some under Handover first.');
	const names = new Map<string, number>();
	return asked.map(({ format, options }) => {
		const { label, name, extension, missing } = WRITERS[format as Format];
		const table = input.project.tables.find((t) => t.id === options.table);
		const stem = table ? `${name}-${table.id}` : name;
		const before = names.get(`${stem}.${extension}`) ?? 0;
		names.set(`${stem}.${extension}`, before + 1);
		return {
			label: table?.name ?? label,
			name: `${stem}${before ? `-${before + 1}` : ''}.${extension}`,
			missing: missing(input),
			write: (sink) => WRITERS[format as Format].write(input, readOptions(format as Format, options), sink)
		};
	});
}

/** The marked tables of all faces. */
const tablesOf = ({ model }: WriterInput, name: HostTableName) =>
	model.schedule.map((face) =>
		name === 'paths' || name === 'bays'
			? { face, table: face.tables[name], markOf: (r: number) => markOf(face, name, r) }
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

/** A writer of the model with all its parts. */
const modelWriter = <Schema extends z.ZodType>(
	options: Schema,
	write: Parameters<typeof writer<Schema>>[1],
	rest: Pick<Writer, 'label' | 'help' | 'extension' | 'media' | 'onAsking'>
): Writer =>
	writer(options, write, {
		name: 'model',
		missing: (input) =>
			hasRows(input, 'parts') ? undefined : 'There is no part to export: place a kit on a face first.',
		...rest
	});

/** A writer of thin pieces as they are cut. */
const cutWriter = (
	write: (drawing: Drawing, sink: Sink) => Promise<void>,
	rest: Pick<Writer, 'label' | 'help' | 'extension' | 'media' | 'onAsking'>
): Writer =>
	writer(
		cutSheetOptions,
		async ({ project, model }, choice, sink) => {
			const { cutDrawing } = await import('../drawing/cutDrawing.ts');
			return write(cutDrawing(project, model, choice), sink);
		},
		{
			name: 'cuts',
			missing: ({ model }) =>
				model.faces.some((f) => f.placements.some((p) => p.parts.some((part) => ONE_SIDED.has(part.kind))))
					? undefined
					: 'There is nothing to be cut from sheets: no kit makes thin pieces.',
			...rest
		}
	);

/** A writer of a drawing: of the faces laid flat, or of a sheet. */
const drawingWriter = <Schema extends typeof drawingOptions>(
	options: Schema,
	write: (drawing: Drawing, options: z.output<Schema>, sink: Sink) => Promise<void>,
	rest: Pick<Writer, 'label' | 'help' | 'extension' | 'media'>
): Writer =>
	writer(
		options,
		async (input, given, sink) => {
			const { sheet: id } = given as z.output<typeof drawingOptions>;
			if (id === undefined) {
				const { developedDrawing } = await import('../drawing/developedDrawing.ts');
				return write(developedDrawing(input.project, input.model), given, sink);
			}
			const [sheet] = sheetsOf(input, { sheets: [id] });
			return write((await import('./paper/pagesOf.ts')).drawingOfSheet(input, sheet!), given, sink);
		},
		{
			name: 'developed',
			missing: ({ model }) => (model.faces.length ? undefined : 'There is nothing to be drawn: no face is divided.'),
			...rest
		}
	);

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
	bays: tableWriter('bays', 'Bay schedule', 'One row for every bay that a kit stands on'),
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
	quantities: writer(
		tableOptions,
		({ project, model }, { units }, sink) => writeQuantities(project, model, sink, units),
		{
			label: 'Quantities and cost',
			help: 'What everything comes to by face, storey, zone, material, role, kit and rate',
			name: 'quantities',
			extension: 'csv',
			media: CSV,
			missing: (input) => noParts(input, 'quantities')
		}
	),
	tables: writer(
		ownOptions,
		({ project, model }, { units, table: id }, sink) => {
			const table = project.tables.find((t) => t.id === id);
			if (!table)
				throw new ZygasterError(
					'options',
					`There is no schedule “${id}”; known: ${project.tables.map((t) => t.id).join(', ') || 'none'}.`
				);
			writeOwnTable(project, model, table, sink, units);
		},
		{
			label: 'Own schedule',
			help: 'A schedule of the project’s own',
			name: 'schedule',
			extension: 'csv',
			media: CSV,
			missing: ({ project }) =>
				project.tables.length ? undefined : 'There is no schedule of the project’s own; make one in Schedule first.'
		}
	),
	xlsx: writer(
		tableOptions,
		async (input, { units }, sink) => (await import('./xlsx/writeXlsx.ts')).writeXlsx(input, sink, units),
		{
			label: 'Schedules',
			help: 'All schedules as a spreadsheet, a sheet each, with totals',
			name: 'schedules',
			extension: 'xlsx',
			media: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
			missing: (input) => noParts(input, 'schedules')
		}
	),
	rows: writer(
		tableOptions,
		async (input, { units }, sink) => (await import('./json/writeSchedules.ts')).writeSchedules(input, sink, units),
		{
			label: 'Schedules as JSON',
			help: 'The same for programs: heads with units, and rows',
			name: 'schedules',
			extension: 'json',
			onAsking: true,
			media: 'application/json',
			missing: (input) => noParts(input, 'schedules')
		}
	),
	summary: writer(
		noOptions,
		async ({ project, model }, _, sink) => {
			const { summarise } = await import('./summary/summarise.ts');
			// Without the times that it took: the same model, the same bytes.
			const { stageTimesMs: _times, ...summary } = summarise(project, model);
			sink(utf8ToBytes(`${JSON.stringify(summary, null, 1)}\n`) as Uint8Array<ArrayBuffer>);
		},
		{
			label: 'Summary as JSON',
			help: 'For programs: cells, parts, types and rules in numbers, and what is warned of',
			name: 'summary',
			extension: 'json',
			onAsking: true,
			media: 'application/json'
		}
	),
	ifc: modelWriter(
		ifcOptions,
		async (input, options, sink) => (await import('./ifc/writeIfc.ts')).writeIfc(input, options, sink),
		{
			label: 'Building model',
			help: 'IFC4: faces as curtain walls and roofs with their pieces, types, quantities, materials, openings and storeys',
			extension: 'ifc',
			media: 'application/x-step'
		}
	),
	obj: modelWriter(
		meshOptions,
		async ({ project, model }, { units }, sink) =>
			(await import('./obj/writeObj.ts')).writeObj(project, model, units, sink),
		{
			label: 'Mesh as OBJ',
			help: 'An object a piece, named by its mark, in a group a face; z up',
			extension: 'obj',
			onAsking: true,
			media: 'model/obj'
		}
	),
	stl: modelWriter(
		meshOptions,
		async ({ project, model }, { units }, sink) =>
			(await import('./stl/writeStl.ts')).writeStl(project, model, units, sink),
		{ label: 'Mesh as STL', help: 'All triangles, binary; z up', extension: 'stl', onAsking: true, media: 'model/stl' }
	),
	ply: modelWriter(
		meshOptions,
		async ({ project, model }, { units }, sink) =>
			(await import('./ply/writePly.ts')).writePly(project, model, units, sink),
		{
			label: 'Mesh as PLY',
			help: 'Points with the colours of their materials, binary; z up',
			extension: 'ply',
			onAsking: true,
			media: 'application/octet-stream'
		}
	),
	'3mf': modelWriter(
		noOptions,
		async ({ project, model }, _, sink) => (await import('./mesh/write3mf.ts')).write3mf(project, model, sink),
		{
			label: 'Mesh as 3MF',
			help: 'An object a piece, named by its mark, with its material; mm, z up',
			extension: '3mf',
			onAsking: true,
			media: 'model/3mf'
		}
	),
	step: writer(noOptions, async (input, _, sink) => (await import('./step/writeStep.ts')).writeStep(input, sink), {
		label: 'Exact faces',
		help: 'STEP: the faces of the masses as surfaces, whole and without openings; mm',
		name: 'faces',
		extension: 'step',
		media: 'model/step',
		missing: ({ model }) => (model.bodies.length ? undefined : 'There is no face: add a mass first.')
	}),
	space: writer(
		noOptions,
		async ({ model }, _, sink) => (await import('./dxf/writeSpaceDxf.ts')).writeSpaceDxf(model, sink),
		{
			label: 'Grid in space as DXF',
			help: 'Cells as faces, their edges as lines and their nodes as points, on layers by face; mm, z up',
			name: 'grid',
			extension: 'dxf',
			media: 'image/vnd.dxf',
			missing: ({ model }) => (model.faces.length ? undefined : 'There is no cell: no face is divided.')
		}
	),
	dxf: drawingWriter(
		drawingOptions,
		async (drawing, _, sink) => (await import('./dxf/writeDxf.ts')).writeDxf(drawing, sink),
		{
			label: 'Developed view as DXF',
			help: 'Faces laid flat side by side: grid, borders, openings, levels and marks on layers; mm',
			extension: 'dxf',
			media: 'image/vnd.dxf'
		}
	),
	svg: drawingWriter(
		svgOptions,
		async (drawing, { scale }, sink) => (await import('./svg/writeSvg.ts')).writeSvg(drawing, scale, sink),
		{
			label: 'Developed view as SVG',
			help: 'The same as a picture at a scale',
			extension: 'svg',
			media: 'image/svg+xml'
		}
	),
	cuts: cutWriter(async (drawing, sink) => (await import('./dxf/writeDxf.ts')).writeDxf(drawing, sink), {
		label: 'Cut sheets as DXF',
		help: 'Thin pieces laid flat one to one, one of each type: cuts, holes, lines to be bent along, marks; mm',
		extension: 'dxf',
		media: 'image/vnd.dxf'
	}),
	cutsvg: cutWriter(async (drawing, sink) => (await import('./svg/writeSvg.ts')).writeSvg(drawing, 1, sink), {
		label: 'Cut sheets as SVG',
		help: 'The same as a picture one to one',
		extension: 'svg',
		onAsking: true,
		media: 'image/svg+xml'
	}),
	pdf: writer(
		pdfOptions,
		async (input, options, sink) => {
			const [{ pagesOf }, { writePdf }] = await Promise.all([
				import('./paper/pagesOf.ts'),
				import('./paper/writePdf.ts')
			]);
			const { fonts } = input;
			if (!fonts) throw new Error('PDF needs the fonts of the application');
			await writePdf(input, pagesOf(input, sheetsOf(input, options)), fonts, sink);
		},
		{
			label: 'Sheets',
			help: 'The drawings of the project on paper, at their scales, with title blocks',
			name: 'sheets',
			extension: 'pdf',
			media: 'application/pdf',
			missing: ({ project }) =>
				project.handover.sheets.length ? undefined : 'There is no sheet yet; add one in Handover first.'
		}
	),
	set: writer(
		setOptions,
		async (input, options, sink) =>
			(await import('./zip/writeSet.ts')).writeSet(filesOfSet(input, options), input, sink),
		{
			label: 'Set',
			help: 'The chosen files in one archive, with a list of them and their checksums',
			name: 'set',
			extension: 'zip',
			onAsking: true,
			media: 'application/zip'
		}
	),
	// Loaded when it is needed: the handover place knows all writers by name only.
	glb: modelWriter(
		glbOptions,
		async ({ project, model }, options, sink) =>
			(await import('./glb/writeGlb.ts')).writeGlb(project, model, options, sink),
		{
			label: 'Model',
			help: 'glTF 2.0: one mesh a material, every part named by the mark of what it stands on',
			extension: 'glb',
			media: 'model/gltf-binary'
		}
	)
};

export const isFormat = (text: unknown): text is Format => FORMATS.some((f) => f === text);

/** Checks settings for a file. Throws a ZygasterError with code `options` that says what would be right. */
export function readOptions(format: Format, given: unknown): unknown {
	const read = WRITERS[format].options.safeParse(given ?? {});
	if (read.success) {
		if (format === 'set')
			for (const file of (read.data as z.output<typeof setOptions>).files ?? [])
				readOptions(file.format as Format, file.options);
		return read.data;
	}
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

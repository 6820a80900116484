import { utf8ToBytes } from '@noble/hashes/utils.js';
import { ZygasterError } from '../errors.ts';
import { markOf, type HostTableName } from '../schedule/faceTable.ts';
import { isBar } from '../placement/place.ts';
import { writeCutList } from './csv/writeCutList.ts';
import { writeOwnTable, writeQuantities } from './csv/writeOwnTable.ts';
import { writeCorners, writeNodes, writeParts } from './csv/writePoints.ts';
import { writeTable } from './csv/writeTable.ts';
import { hasRows, writer, type Writer } from './writer.ts';
import type { WriterInput } from './writerInput.ts';
import { cutOptions, noOptions, ownOptions, tableOptions } from './writerOptions.ts';

const CSV = 'text/csv; charset=utf-8';

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

const noParts = (input: WriterInput, what: string) =>
	hasRows(input, 'parts') ? undefined : `There is nothing for the ${what}: no kit makes such parts.`;

const hasBars = ({ model }: WriterInput) =>
	model.faces.some((f) =>
		f.placements.some((p) => p.parts.some((part) => part.scheduled && isBar(part) && part.pieces.some((n) => n > 0)))
	);

/** Schedules, for people and for programs. */
export const SCHEDULE_WRITERS = {
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
	)
};

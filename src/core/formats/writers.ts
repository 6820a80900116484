import { utf8ToBytes } from '@noble/hashes/utils.js';
import { z } from 'zod';
import { ZygasterError } from '../errors.ts';
import { TABLE_UNITS } from '../units/tableUnits.ts';
import { DRAWING_WRITERS } from './drawingWriters.ts';
import { hasUnits, optionsOf } from './fileOptions.ts';
import { isFormat, type Format } from './format.ts';
import { writeJson } from './json/writeJson.ts';
import { MODEL_WRITERS } from './modelWriters.ts';
import { SCHEDULE_WRITERS } from './scheduleWriters.ts';
import type { Sink } from './sink.ts';
import { writer, type Writer } from './writer.ts';
import type { WriterInput } from './writerInput.ts';
import { noOptions } from './writerOptions.ts';
import type { SetFile } from './zip/writeSet.ts';

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
	...SCHEDULE_WRITERS,
	...MODEL_WRITERS,
	...DRAWING_WRITERS,
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
	)
};

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

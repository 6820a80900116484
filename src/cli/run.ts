import type { z } from 'zod';
import { totalmem } from 'node:os';
import { closeSync, openSync, writeSync } from 'node:fs';
import { mkdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { messageOf, ZygasterError } from '../core/errors.ts';
import { TABLE_UNITS } from '../core/units/tableUnits.ts';
import { optionsOf } from '../core/formats/fileOptions.ts';
import { FORMATS, isFormat, type Format } from '../core/formats/format.ts';
import { readOptions, WRITERS } from '../core/formats/writers.ts';
import type { Sink } from '../core/formats/sink.ts';
import {
	comparePieces,
	piecesByKey,
	summariseChanges,
	type ChangeSummary
} from '../core/formats/changes/comparePieces.ts';
import { writeChanges } from '../core/formats/changes/writeChanges.ts';
import { summarise, type ModelSummary } from '../core/formats/summary/summarise.ts';
import { solidsLoader } from '../core/kit/solids.ts';
import { fontFiles } from '../node/fontFiles.ts';
import { Memo } from '../core/project/memo.ts';
import { refuseTooLarge } from '../core/project/estimate.ts';
import { runPipeline, type Model } from '../core/project/pipeline.ts';
import { readProject } from '../core/project/read.ts';
import { faceKey, type Project } from '../core/project/schema.ts';

export interface RunOptions {
	/** Directory that the files go to. */
	readonly out: string;
	/** Formats, with commas between; all but plain meshes when left out. */
	readonly formats?: string | undefined;
	/** Unit of the schedule's lengths; mm when left out. */
	readonly units?: string | undefined;
	/** One schedule alone, by the name of its file: panels, edges, nodes, paths, parts or corners. */
	readonly schedule?: string | undefined;
	/** Lengths that bars are delivered in, mm, with commas between: for the cut list. */
	readonly stock?: string | undefined;
	/** Options of files, such as `ifc.grid=true`; they go before those that the project has chosen. */
	readonly option?: readonly string[] | undefined;
	/** The faces that files are made of, by name or mark; all when left out. */
	readonly only?: readonly string[] | undefined;
	/** An earlier state of the project, as a file: what has changed since is told, and written piece by piece. */
	readonly compare?: string | undefined;
}

export interface RunSummary extends ModelSummary {
	/** Files written, with their sizes. */
	readonly files: readonly { readonly name: string; readonly bytes: number }[];
	/** Milliseconds besides the stages: until the program ran, reading and checking the document, each writer with putting its file down; and all in all. */
	/** What has changed since the state that it was compared with. */
	readonly changes?: ChangeSummary;
	readonly timesMs: Readonly<Record<'startUp' | 'reading' | 'checking' | 'summary' | Format | 'total', number>>;
}

/** Makes the files of a project in a directory. Throws a ZygasterError for anything the user can mend. */
export async function runProject(
	file: string,
	{ out, formats, units, schedule, stock, option, only, compare }: RunOptions
): Promise<RunSummary> {
	const times = {
		startUp: performance.now(),
		reading: 0,
		checking: 0,
		...(Object.fromEntries(FORMATS.map((f) => [f, 0])) as Record<Format, number>)
	};
	const timed = async <T>(name: keyof typeof times, work: () => T | Promise<T>): Promise<T> => {
		const start = performance.now();
		const result = await work();
		times[name] += performance.now() - start;
		return result;
	};
	const text = await timed('reading', () => textOf(file));
	const project = await timed('checking', () => onlyFaces(readProject(text), only));
	const [unit] = units === undefined ? [] : chosen('--units', [units], TABLE_UNITS);
	const given = readGiven(option ?? []);
	const wanted =
		schedule === undefined
			? chosen('--formats', formats?.split(',') ?? FORMATS.filter((f) => !WRITERS[f].onAsking), FORMATS).flatMap(
					(format) => filesOf(format, project)
				)
			: [scheduleNamed(schedule, project)];
	const model = await modelOf(project);
	const changes = compare === undefined ? undefined : await changesSince(compare, project, model);
	const files: { name: string; bytes: number }[] = [];
	try {
		await mkdir(out, { recursive: true });
		for (const { format, name, table } of wanted) {
			const { extension, missing, write } = WRITERS[format];
			// A project without parts has no model to hand over; the summary's counts say so.
			if (missing({ project, model }) !== undefined) continue;
			const options = readOptions(format, {
				...optionsOf(project, format, table),
				...(unit && 'units' in (WRITERS[format].options as z.ZodObject).shape ? { units: unit } : {}),
				...(format === 'cutlist' && stock !== undefined ? { lengths: stock.split(',').map(Number) } : {}),
				...given.get(format)
			});
			const file = `${name}.${extension}`;
			const bytes = await timed(format, () =>
				toFile(join(out, file), (sink) => write({ project, model, fonts: fontFiles }, options, sink))
			);
			files.push({ name: file, bytes });
		}
		if (changes) {
			const bytes = await toFile(join(out, 'changes.csv'), (sink) => writeChanges(changes.changes, sink));
			files.push({ name: 'changes.csv', bytes });
		}
	} catch (cause) {
		if (!(cause instanceof Error && 'syscall' in cause)) throw cause;
		throw new ZygasterError('file', `${out} cannot be written: ${messageOf(cause)}`, out, { cause });
	}
	const summary = await timed('summary', () => summarise(project, model));
	return {
		...summary,
		...(changes ? { changes: changes.summary } : {}),
		files,
		timesMs: { ...times, total: performance.now() }
	};
}

/** Options by format. Throws where a text is none. */
function readGiven(texts: readonly string[]): Map<Format, Record<string, unknown>> {
	const given = new Map<Format, Record<string, unknown>>();
	for (const text of texts) {
		const [, format, name, value] = /^(\w+)\.(\w+)=(.*)$/s.exec(text) ?? [];
		if (!isFormat(format))
			throw new ZygasterError(
				'option',
				`--option has “${text}”; right would be FORMAT.NAME=VALUE, such as ifc.grid=true.`
			);
		const of = given.get(format) ?? {};
		given.set(format, of);
		of[name!] = valueOf(value!);
	}
	return given;
}

/** A value as JSON has it, or else the text itself. */
function valueOf(text: string): unknown {
	try {
		return JSON.parse(text);
	} catch {
		return text;
	}
}

/** The project with some faces alone divided. Throws where there is no such face. */
function onlyFaces(project: Project, names: readonly string[] | undefined): Project {
	if (!names) return project;
	const faces = project.masses.flatMap((mass) =>
		mass.faces.map((face) => ({
			face,
			called: [face.mark, face.name, `${mass.name}/${face.name}`, faceKey(mass, face)]
		}))
	);
	const unknown = names.find((name) => !faces.some((f) => f.called.includes(name)));
	if (unknown !== undefined)
		throw new ZygasterError(
			'option',
			`--only has “${unknown}”; right would be ${faces.map(({ face }) => `${face.mark} (${face.name})`).join(', ')}.`
		);
	for (const { face, called } of faces) if (!called.some((c) => names.includes(c))) face.facade = false;
	return project;
}

/** A file that is asked for, by the name that it gets. */
interface WantedFile {
	readonly format: Format;
	readonly name: string;
	/** Of schedules of the project's own. */
	readonly table?: string;
}

/** The files of a format: of schedules of the project's own one each. */
const filesOf = (format: Format, { tables }: Project): WantedFile[] =>
	format === 'tables'
		? tables.map(({ id }) => ({ format, name: `${WRITERS.tables.name}-${id}`, table: id }))
		: [{ format, name: WRITERS[format].name }];

/** A schedule by the name of its file, or one of the project's own by its name or id. */
function scheduleNamed(name: string, project: Project): WantedFile {
	const own = project.tables.find((t) => t.name === name || t.id === name);
	if (own) return { format: 'tables', name: `${WRITERS.tables.name}-${own.id}`, table: own.id };
	const plain = FORMATS.filter((f) => f !== 'tables' && WRITERS[f].extension === 'csv');
	const format = plain.find((f) => WRITERS[f].name === name);
	if (format) return { format, name };
	const known = [...plain.map((f) => WRITERS[f].name), ...project.tables.map((t) => t.name)];
	throw new ZygasterError('option', `--schedule has “${name}”; right would be ${known.join(', ')}.`);
}

const textOf = (file: string): Promise<string> =>
	readFile(file, 'utf8').catch((cause: unknown) => {
		throw new ZygasterError('file', `${file} cannot be read: ${messageOf(cause)}`, file, { cause });
	});

/** What a run may take of the machine's memory. */
const MEMORY_SHARE = 0.7;

const modelOf = (project: Project): Promise<Model> =>
	runPipeline(project, {
		memo: new Memo(),
		now: () => performance.now(),
		weigh: (work) => refuseTooLarge(work, totalmem() * MEMORY_SHARE),
		solids: solidsLoader(() => import('manifold-3d'))
	});

/** What has changed since an earlier state of the same project. Throws where the file is another project's. */
async function changesSince(file: string, project: Project, model: Model) {
	const earlier = readProject(await textOf(file));
	const before = piecesByKey(earlier, await modelOf(earlier));
	const after = piecesByKey(project, model);
	if (before.size && after.size && ![...before.keys()].some((key) => after.has(key)))
		throw new ZygasterError(
			'compare',
			`${file} and this project have no piece in common; right would be an earlier state of the same project.`,
			file
		);
	const changes = comparePieces(before, after);
	return { changes, summary: summariseChanges(before, after, changes) };
}

/** Puts a file down as it is written; answers its bytes. */
async function toFile(path: string, write: (sink: Sink) => void | Promise<void>): Promise<number> {
	const file = openSync(path, 'w');
	let bytes = 0;
	try {
		await write((chunk) => {
			for (let from = 0; from < chunk.length;) from += writeSync(file, chunk, from);
			bytes += chunk.length;
		});
	} finally {
		closeSync(file);
	}
	return bytes;
}

/** What was asked for, in the order of all there is. Throws where something is none of that. */
function chosen<T extends string>(option: string, asked: readonly string[], all: readonly T[]): T[] {
	const wrong = asked.map((a) => a.trim()).find((a) => !(all as readonly string[]).includes(a));
	if (wrong !== undefined)
		throw new ZygasterError('option', `${option} has “${wrong}”; right would be ${all.join(', ')}.`, option);
	return all.filter((a) => asked.some((b) => b.trim() === a));
}

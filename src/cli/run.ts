import { closeSync, openSync, writeSync } from 'node:fs';
import { mkdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { messageOf, ZygasterError } from '../core/errors.ts';
import { CSV_UNITS } from '../core/formats/csv/writeTable.ts';
import { FORMATS, readOptions, WRITERS, type Format } from '../core/formats/writers.ts';
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
import { Memo } from '../core/project/memo.ts';
import { runPipeline, type Model } from '../core/project/pipeline.ts';
import { readProject } from '../core/project/read.ts';
import type { Project } from '../core/project/schema.ts';

export interface RunOptions {
	/** Directory that the files go to. */
	readonly out: string;
	/** Formats, with commas between; all when left out. */
	readonly formats?: string | undefined;
	/** Unit of the schedule's lengths; mm when left out. */
	readonly units?: string | undefined;
	/** One schedule alone, by the name of its file: panels, edges, nodes, paths, parts or corners. */
	readonly schedule?: string | undefined;
	/** Lengths that bars are delivered in, mm, with commas between: for the cut list. */
	readonly stock?: string | undefined;
	/** An earlier state of the project, as a file: what has changed since is told, and written piece by piece. */
	readonly compare?: string | undefined;
}

export interface RunSummary extends ModelSummary {
	/** Files written, with their sizes. */
	readonly files: readonly { readonly name: string; readonly bytes: number }[];
	/** Milliseconds besides the stages: until the program ran, reading and checking the document, each writer with putting its file down; and all in all. */
	/** What has changed since the state that it was compared with. */
	readonly changes?: ChangeSummary;
	readonly timesMs: Readonly<Record<'startUp' | 'reading' | 'checking' | Format | 'total', number>>;
}

/** Makes the files of a project in a directory. Throws a ZygasterError for anything the user can mend. */
export async function runProject(
	file: string,
	{ out, formats, units, schedule, stock, compare }: RunOptions
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
		times[name] = performance.now() - start;
		return result;
	};
	const wanted =
		schedule === undefined
			? chosen('--formats', formats?.split(',') ?? FORMATS, FORMATS)
			: chosen('--schedule', [schedule], SCHEDULES).map((name) => FORMATS.find((f) => WRITERS[f].name === name)!);
	const [unit] = chosen('--units', [units ?? 'mm'], CSV_UNITS);
	const text = await timed('reading', () => textOf(file));
	const project = await timed('checking', () => readProject(text));
	const model = await modelOf(project);
	const changes = compare === undefined ? undefined : await changesSince(compare, project, model);
	const files: { name: string; bytes: number }[] = [];
	try {
		await mkdir(out, { recursive: true });
		for (const format of wanted) {
			const { name, extension, missing, write } = WRITERS[format];
			// A project without parts has no model to hand over; the summary's counts say so.
			if (missing({ project, model }) !== undefined) continue;
			const given = {
				...(WRITERS[format].options.safeParse({ units: unit }).success ? { units: unit } : {}),
				...(format === 'cutlist' && stock !== undefined ? { lengths: stock.split(',').map(Number) } : {})
			};
			const options = readOptions(format, given);
			const file = `${name}.${extension}`;
			const bytes = await timed(format, () =>
				toFile(join(out, file), (sink) => write({ project, model }, options, sink))
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
	return {
		...summarise(project, model),
		...(changes ? { changes: changes.summary } : {}),
		files,
		timesMs: { ...times, total: performance.now() }
	};
}

/** Schedules by the names of their files. */
const SCHEDULES = FORMATS.filter((f) => WRITERS[f].extension === 'csv').map((f) => WRITERS[f].name);

const textOf = (file: string): Promise<string> =>
	readFile(file, 'utf8').catch((cause: unknown) => {
		throw new ZygasterError('file', `${file} cannot be read: ${messageOf(cause)}`, file, { cause });
	});

const modelOf = (project: Project): Promise<Model> =>
	runPipeline(project, {
		memo: new Memo(),
		now: () => performance.now(),
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

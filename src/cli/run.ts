import { mkdir, readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { messageOf, ZygasterError } from '../core/errors.ts';
import { CSV_UNITS, writeCsv, type CsvUnit } from '../core/formats/csv/writeCsv.ts';
import { writeGlb } from '../core/formats/glb/writeGlb.ts';
import { writeJson } from '../core/formats/json/writeJson.ts';
import { summarise, type ModelSummary } from '../core/formats/summary/summarise.ts';
import { solidsLoader } from '../core/kit/solids.ts';
import { Memo } from '../core/project/memo.ts';
import { runPipeline, type Model } from '../core/project/pipeline.ts';
import { readProject } from '../core/project/read.ts';

const FORMATS = ['json', 'csv', 'glb'] as const;
type Format = (typeof FORMATS)[number];

export interface RunOptions {
	/** Directory that the files go to. */
	readonly out: string;
	/** Formats, with commas between; all when left out. */
	readonly formats?: string | undefined;
	/** Unit of the schedule's lengths; mm when left out. */
	readonly units?: string | undefined;
}

export interface RunSummary extends ModelSummary {
	/** Files written, with their sizes. */
	readonly files: readonly { readonly name: string; readonly bytes: number }[];
	/** Milliseconds besides the stages: until the program ran, reading and checking the document, each writer, putting files down; and all in all. */
	readonly timesMs: Readonly<Record<'startUp' | 'reading' | 'checking' | Format | 'files' | 'total', number>>;
}

/** Makes the files of a project in a directory. Throws a ZygasterError for anything the user can mend. */
export async function runProject(file: string, { out, formats, units }: RunOptions): Promise<RunSummary> {
	const times = { startUp: performance.now(), reading: 0, checking: 0, json: 0, csv: 0, glb: 0, files: 0 };
	const timed = async <T>(name: keyof typeof times, work: () => T | Promise<T>): Promise<T> => {
		const start = performance.now();
		const result = await work();
		times[name] = performance.now() - start;
		return result;
	};
	const wanted = chosen('--formats', formats?.split(',') ?? FORMATS, FORMATS);
	const [unit] = chosen('--units', [units ?? 'mm'], CSV_UNITS) as [CsvUnit];
	const text = await timed('reading', () =>
		readFile(file, 'utf8').catch((cause: unknown) => {
			throw new ZygasterError('file', `${file} cannot be read: ${messageOf(cause)}`, file, { cause });
		})
	);
	const project = await timed('checking', () => readProject(text));
	const model = await runPipeline(project, {
		memo: new Memo(),
		now: () => performance.now(),
		solids: solidsLoader(() => import('manifold-3d'))
	});
	const writers: Record<Format, () => Promise<[string, Uint8Array | string]>> = {
		json: async () => ['project.json', writeJson(project)],
		csv: async () => ['panels.csv', writeCsv(model.schedule, unit)],
		glb: async () => ['model.glb', await writeGlb(project, model)]
	};
	const files: [string, Uint8Array | string][] = [];
	for (const format of wanted)
		if (format !== 'glb' || hasParts(model)) files.push(await timed(format, writers[format]));
	await timed('files', async () => {
		try {
			await mkdir(out, { recursive: true });
			for (const [name, content] of files) await writeFile(join(out, name), content);
		} catch (cause) {
			throw new ZygasterError('file', `${out} cannot be written: ${messageOf(cause)}`, out, { cause });
		}
	});
	return {
		...summarise(project, model),
		files: files.map(([name, content]) => ({ name, bytes: Buffer.byteLength(content) })),
		timesMs: { ...times, total: performance.now() }
	};
}

/** A project without parts has no model to hand over; the summary's counts say so. */
const hasParts = (model: Model) => model.faces.some((f) => f.placements.some((p) => p.hosts.length));

/** What was asked for, in the order of all there is. Throws where something is none of that. */
function chosen<T extends string>(option: string, asked: readonly string[], all: readonly T[]): T[] {
	const wrong = asked.map((a) => a.trim()).find((a) => !(all as readonly string[]).includes(a));
	if (wrong !== undefined)
		throw new ZygasterError('option', `${option} has “${wrong}”; right would be ${all.join(', ')}.`, option);
	return all.filter((a) => asked.some((b) => b.trim() === a));
}

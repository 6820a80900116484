import { mkdir, readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { messageOf, ZygasterError } from '../core/errors.ts';
import { writeCsv } from '../core/formats/csv/writeCsv.ts';
import { writeGlb } from '../core/formats/glb/writeGlb.ts';
import { writeJson } from '../core/formats/json/writeJson.ts';
import { summarise, type ModelSummary } from '../core/formats/summary/summarise.ts';
import { solidsLoader } from '../core/kit/solids.ts';
import { Memo } from '../core/project/memo.ts';
import { runPipeline } from '../core/project/pipeline.ts';
import { readProject } from '../core/project/read.ts';

export interface RunSummary extends ModelSummary {
	/** Files written, with their sizes. */
	readonly files: readonly { readonly name: string; readonly bytes: number }[];
}

/** Makes the files of a project in a directory. Throws a ZygasterError for anything the user can mend. */
export async function runProject(file: string, out: string): Promise<RunSummary> {
	const text = await readFile(file, 'utf8').catch((cause: unknown) => {
		throw new ZygasterError('file', `${file} cannot be read: ${messageOf(cause)}`, file, { cause });
	});
	const project = readProject(text);
	const model = await runPipeline(project, { memo: new Memo(), now: () => performance.now(), solids: solidsLoader(() => import('manifold-3d')) });
	const files: [string, Uint8Array | string][] = [
		['project.json', writeJson(project)],
		['panels.csv', writeCsv(model.schedule)]
	];
	// A project without parts has no model to hand over; the summary's counts say so.
	if (model.faces.some((f) => f.placements.some((p) => p.hosts.length))) files.push(['model.glb', await writeGlb(project, model)]);
	try {
		await mkdir(out, { recursive: true });
		for (const [name, content] of files) await writeFile(join(out, name), content);
	} catch (cause) {
		throw new ZygasterError('file', `${out} cannot be written: ${messageOf(cause)}`, out, { cause });
	}
	return {
		...summarise(project, model),
		files: files.map(([name, content]) => ({ name, bytes: Buffer.byteLength(content) }))
	};
}

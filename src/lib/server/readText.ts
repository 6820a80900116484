import { join } from 'node:path';
import { Piscina } from 'piscina';
import { trustContent } from '../../core/content.ts';
import { ZygasterError } from '../../core/errors.ts';
import { readProject } from '../../core/project/read.ts';
import type { Project } from '../../core/project/schema.ts';
import type { ReadAnswer } from './readThread.ts';

/** Longer texts are read in a thread, so that others are answered meanwhile. */
const LONG = 500_000;

let threads: Piscina | undefined;

/** The project of a file’s text, checked; what it packs in is here then. Throws as `readProject` does. */
export async function readText(text: string): Promise<Project> {
	if (text.length < LONG) return readProject(text);
	threads ??= new Piscina({ filename: join(process.cwd(), 'dist', 'readThread.mjs'), minThreads: 0, maxThreads: 1 });
	const answer = (await threads.run(text)) as ReadAnswer;
	if (!('document' in answer)) throw new ZygasterError(answer.code, answer.message, answer.place);
	for (const [name, bytes] of answer.contents) trustContent(name, bytes);
	return answer.document;
}

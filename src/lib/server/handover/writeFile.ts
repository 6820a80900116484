import { totalmem } from 'node:os';
import { dropContent, takeContent } from '../../../core/content.ts';
import type { IssueTitle } from '../../../core/formats/writerInput.ts';
import { joined } from '../../../core/formats/sink.ts';
import { writeFormat, WRITERS, type Format } from '../../../core/formats/writers.ts';
import { solidsLoader } from '../../../core/kit/solids.ts';
import { Memo } from '../../../core/project/memo.ts';
import { refuseTooLarge } from '../../../core/project/estimate.ts';
import { fontFiles } from '../../../node/fontFiles.ts';
import { NO_MODEL, runPipeline } from '../../../core/project/pipeline.ts';
import type { Project } from '../../../core/project/schema.ts';

const solids = solidsLoader(() => import('manifold-3d'));

export interface WriteTask {
	readonly project: Project;
	readonly format: Format;
	readonly options: unknown;
	readonly issue: IssueTitle | undefined;
	/** What the project names, by name. */
	readonly contents: ReadonlyMap<string, Uint8Array<ArrayBuffer>>;
	/** Progress from 0 to 1 and pieces of the file are posted here. */
	readonly port: { postMessage(message: WriteMessage, transfer?: ArrayBuffer[]): void; close(): void };
}

export type WriteMessage = { readonly progress: number } | { readonly chunk: Uint8Array<ArrayBuffer> };

/** Pieces are sent on once they are so large, and none is larger. */
const CHUNK_BYTES = 1 << 20;
/** What an order may take of the machine's memory. */
const MEMORY_SHARE = 0.5;
/** What of the work making the model is. */
const MODEL_SHARE = 0.8;

/** Makes one file of the handover and sends it piece after piece; run in a thread of its own. Answers the number of bytes. */
export default async function writeFile({
	project,
	format,
	options,
	issue,
	contents,
	port
}: WriteTask): Promise<number> {
	for (const [name, bytes] of contents) takeContent(name, bytes);
	const model = WRITERS[format].ofProject
		? NO_MODEL
		: await runPipeline(project, {
				memo: new Memo(),
				now: () => performance.now(),
				solids,
				weigh: (work) => refuseTooLarge(work, totalmem() * MEMORY_SHARE),
				progress: (done, of) => port.postMessage({ progress: (MODEL_SHARE * done) / of })
			});
	let waiting: Uint8Array<ArrayBuffer>[] = [];
	let [length, total] = [0, 0];
	const send = () => {
		if (length === 0) return;
		const chunk = joined(waiting);
		waiting = [];
		length = 0;
		port.postMessage({ chunk }, [chunk.buffer]);
	};
	await writeFormat(format, { project, model, issue, fonts: fontFiles }, options, (written) => {
		total += written.length;
		for (let from = 0; from < written.length;) {
			const part = written.subarray(from, from + CHUNK_BYTES - length);
			waiting.push(part);
			length += part.length;
			from += part.length;
			if (length >= CHUNK_BYTES) send();
		}
	});
	send();
	// Whatever has been posted arrives before the other end hears of this.
	port.close();
	dropContent(contents.keys());
	return total;
}

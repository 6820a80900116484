import type { Kysely } from 'kysely';
import { dropContent, takeContent } from '../../../core/content.ts';
import { refuseLargeFile } from '../../../core/formats/likelySize.ts';
import { joined } from '../../../core/formats/sink.ts';
import { isFormat, type Format } from '../../../core/formats/format.ts';
import { writeFormat, WRITERS } from '../../../core/formats/writers.ts';
import { solidsLoader } from '../../../core/kit/solids.ts';
import { contentNames } from '../../../core/project/contents.ts';
import { refuseTooLarge } from '../../../core/project/estimate.ts';
import { Memo } from '../../../core/project/memo.ts';
import { NO_MODEL, runPipeline, type Model } from '../../../core/project/pipeline.ts';
import { checkDocument } from '../../../core/project/read.ts';
import type { Project } from '../../../core/project/schema.ts';
import { fontFiles } from '../../../node/fontFiles.ts';
import { PROGRAM } from '../actor.ts';
import { readContents } from '../contents.ts';
import { toZygasterError } from '../knownError.ts';
import type { Tables } from '../database/tables.ts';
import { keepChunk, settleOrder, type Claim } from './claims.ts';
import { fileName } from './fileName.ts';

const solids = solidsLoader(() => import('manifold-3d'));

/** Faces of the last project that this process made something of: its next files want most of them again. */
let last = { project: '', memo: new Memo() };

async function modelOf(
	id: string,
	project: Project,
	memory: number,
	progress: (share: number) => void
): Promise<Model> {
	if (last.project !== id) last = { project: id, memo: new Memo() };
	const { memo } = last;
	const model = await runPipeline(project, {
		memo,
		now: () => performance.now(),
		solids,
		weigh: (work) => refuseTooLarge(work, memory),
		progress: (done, of) => progress(done / of)
	});
	memo.recycle(model);
	return model;
}

/** Pieces are sent on once they are so large, and none is larger. */
const CHUNK_BYTES = 1 << 20;
/** Bytes that a file may likely have, before it is made; ORDER_FILE_MB sets it. */
const mostFileBytes = Number(process.env.ORDER_FILE_MB ?? 2000) * 1e6;
/** What of the work making the model is. */
const MODEL_SHARE = 0.8;

/**
 * Makes the file of an order from the document that was ordered, keeps it piece after piece, and closes the order: done, or
 * failed with the words why. `memory` is what it may take, bytes. Throws only where the database is away.
 */
export async function makeOrder(
	db: Kysely<Tables>,
	claim: Claim,
	memory: number,
	progress: (share: number) => void
): Promise<void> {
	const order = await db
		.selectFrom('handover')
		.select(['project_id', 'document', 'format', 'options', 'issue'])
		.where('id', '=', claim.id)
		.where('claim', '=', claim.claim)
		.executeTakeFirst();
	if (!order) return;
	const format = order.format as Format;
	const chunks = new Chunks(db, claim);
	let size: number;
	let name: string;
	let missing: string | null = null;
	let contents: ReadonlyMap<string, Uint8Array<ArrayBuffer>> = new Map();
	try {
		// jsonb does not keep the order of keys; reading through the schema brings it back.
		const project = checkDocument(order.document);
		const issue = order.issue ?? undefined;
		name = fileName(project, format, order.options, issue);
		contents = await readContents(PROGRAM, db, contentNames(project));
		for (const [content, bytes] of contents) takeContent(content, bytes);
		const model = WRITERS[format].ofProject
			? NO_MODEL
			: await modelOf(order.project_id, project, memory, (share) => progress(MODEL_SHARE * share));
		missing = missingIn(model);
		refuseLargeFile(model, format, filesIn(order.options, project), mostFileBytes);
		// What an attempt that was cut off has left.
		await db.deleteFrom('handover_chunk').where('handover_id', '=', claim.id).execute();
		await writeFormat(format, { project, model, issue, fonts: fontFiles }, order.options, (bytes) => chunks.add(bytes));
		size = await chunks.finish();
	} catch (cause) {
		const known = toZygasterError(cause);
		if (known.code === 'database-away') throw cause;
		return settleOrder(db, claim, { state: 'failed', message: known.message });
	} finally {
		dropContent(contents.keys());
	}
	await settleOrder(db, claim, {
		state: 'done',
		message: missing,
		progress: 1,
		file_name: name,
		media_type: WRITERS[format].media,
		size: String(size)
	});
}

/** The formats of the files of a set. */
const filesIn = (options: unknown, { handover }: Project): Format[] =>
	((options as { files?: readonly { format: string }[] }).files ?? handover.files)
		.map((f) => f.format)
		.filter(isFormat);

/** Warnings that an order tells of its model, at most. */
const MOST_TOLD = 5;

/** What a file of a model has not, in words; nothing where all of it is there. */
function missingIn({ warnings, faces }: Pick<Model, 'warnings' | 'faces'>): string | null {
	if (warnings.length === 0) return null;
	const told = warnings.slice(0, MOST_TOLD).map(({ face, message }) => {
		const mark = faces.find((f) => f.key === face)?.mark;
		return mark ? `${mark}: ${message}` : message;
	});
	const more = warnings.length - told.length;
	return [...told, ...(more ? [`and ${more} more, which the places of the project list`] : [])].join('\n');
}

/** Gathers what is written into pieces of one size, which are kept one after the other. */
class Chunks {
	private readonly db: Kysely<Tables>;
	private readonly claim: Claim;
	private waiting: Uint8Array<ArrayBuffer>[] = [];
	private length = 0;
	private total = 0;
	private number = 0;
	private kept: Promise<unknown> = Promise.resolve();

	constructor(db: Kysely<Tables>, claim: Claim) {
		this.db = db;
		this.claim = claim;
	}

	add(bytes: Uint8Array<ArrayBuffer>): void {
		this.total += bytes.length;
		for (let from = 0; from < bytes.length;) {
			const part = bytes.subarray(from, from + CHUNK_BYTES - this.length);
			this.waiting.push(part);
			this.length += part.length;
			from += part.length;
			if (this.length >= CHUNK_BYTES) this.keep();
		}
	}

	/** Bytes in all, once they are kept. */
	async finish(): Promise<number> {
		this.keep();
		await this.kept;
		return this.total;
	}

	private keep(): void {
		if (this.length === 0) return;
		const chunk = joined(this.waiting);
		this.waiting = [];
		this.length = 0;
		const number = this.number++;
		this.kept = this.kept.then(() => keepChunk(this.db, this.claim, number, chunk));
		// Heard of at the end; a rejection that nobody has caught by then would end the process.
		this.kept.catch(() => undefined);
	}
}

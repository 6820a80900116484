import { createHash } from 'node:crypto';
import { Readable, type Transform } from 'node:stream';
import { createGunzip, createGzip } from 'node:zlib';
import type { Kysely, Transaction } from 'kysely';
import { contentOf, CONTENT_NAMES, hasContent, short } from '../../core/content.ts';
import { ZygasterError } from '../../core/errors.ts';
import { PROGRAM, type Actor } from './actor.ts';
import type { Tables } from './database/tables.ts';
import type { Db } from './documents.ts';
import { noRoom, roomOf } from './quotas.ts';

/** Bytes of one content at most. */
export const MOST_CONTENT_BYTES = 512 * 2 ** 20;
const CHUNK_BYTES = 2 ** 20;

/** Whether a content is kept. */
export async function isKept(_actor: Actor, db: Db, name: string): Promise<boolean> {
	return (await db.selectFrom('content').select('name').where('name', '=', name).executeTakeFirst()) !== undefined;
}

/**
 * Keeps what comes under a name, as it comes; one that is kept already stays. Throws a ZygasterError with code `content`
 * where the bytes are not what the name says, `too-large`, and `quota`; then nothing is kept.
 */
export async function putContent(
	actor: Actor,
	db: Kysely<Tables>,
	name: string,
	bytes: AsyncIterable<Uint8Array>
): Promise<void> {
	if (await isKept(actor, db, name)) return;
	const room = await roomOf(actor, db);
	await db.transaction().execute((trx) => putIn(trx, actor, name, bytes, room));
}

async function putIn(
	trx: Transaction<Tables>,
	actor: Actor,
	name: string,
	bytes: AsyncIterable<Uint8Array>,
	room: number
): Promise<void> {
	const added = await trx
		.insertInto('content')
		.values({ name, size: '0', owner: actor.id === PROGRAM.id ? null : actor.id })
		.onConflict((c) => c.doNothing())
		.returning('name')
		.executeTakeFirst();
	// Somebody else has just brought the same.
	if (!added) return;
	const hash = createHash('sha256');
	let size = 0;
	async function* measured() {
		for await (const part of bytes) {
			size += part.length;
			if (size > MOST_CONTENT_BYTES)
				throw new ZygasterError(
					'too-large',
					`A mesh has ${MOST_CONTENT_BYTES / 2 ** 20} MB at most. Right would be a simpler one.`
				);
			if (size > room) throw noRoom();
			hash.update(part);
			yield part;
		}
	}
	let number = 0;
	for await (const chunk of pieces(through(measured(), createGzip({ level: 4 }))))
		await trx.insertInto('content_chunk').values({ name, number: number++, bytes: chunk }).execute();
	if (`sha256:${hash.digest('hex')}` !== name)
		throw new ZygasterError(
			'content',
			`What came as ${short(name)} is something else: it was damaged on its way. Send it again.`
		);
	await trx
		.updateTable('content')
		.set({ size: String(size) })
		.where('name', '=', name)
		.execute();
}

/** What comes, through a stream that changes it; a fault of either ends the other. */
function through(source: AsyncIterable<Uint8Array>, change: Transform): AsyncIterable<Buffer> {
	const readable = Readable.from(source);
	readable.once('error', (cause) => change.destroy(cause));
	return readable.pipe(change);
}

/** The same bytes in pieces of `CHUNK_BYTES`. */
async function* pieces(stream: AsyncIterable<Buffer>): AsyncGenerator<Buffer> {
	let waiting: Buffer[] = [];
	let length = 0;
	for await (const part of stream) {
		waiting.push(part);
		length += part.length;
		if (length < CHUNK_BYTES) continue;
		const all = Buffer.concat(waiting);
		let from = 0;
		for (; all.length - from >= CHUNK_BYTES; from += CHUNK_BYTES) yield all.subarray(from, from + CHUNK_BYTES);
		waiting = [all.subarray(from)];
		length = all.length - from;
	}
	if (length) yield Buffer.concat(waiting);
}

/** A content as it is kept: compressed by gzip (RFC 1952), piece after piece. Throws a ZygasterError with code `not-found`. */
export async function contentStream(
	actor: Actor,
	db: Kysely<Tables>,
	name: string
): Promise<{ readonly size: number; readonly gzip: AsyncGenerator<Buffer> }> {
	const row = await db.selectFrom('content').select('size').where('name', '=', name).executeTakeFirst();
	if (!row) throw new ZygasterError('not-found', `There is no content ${short(name)} here.`);
	return { size: Number(row.size), gzip: chunks(db, name) };
}

async function* chunks(db: Kysely<Tables>, name: string): AsyncGenerator<Buffer> {
	for (let number = 0; ; number++) {
		const row = await db
			.selectFrom('content_chunk')
			.select('bytes')
			.where('name', '=', name)
			.where('number', '=', number)
			.executeTakeFirst();
		if (!row) return;
		yield row.bytes;
	}
}

/** The bytes of those contents that are kept, by their names. */
export async function readContents(
	actor: Actor,
	db: Kysely<Tables>,
	names: readonly string[]
): Promise<Map<string, Uint8Array<ArrayBuffer>>> {
	const found = new Map<string, Uint8Array<ArrayBuffer>>();
	for (const name of names) {
		if (!(await isKept(actor, db, name))) continue;
		const parts: Buffer[] = [];
		for await (const part of through((await contentStream(actor, db, name)).gzip, createGunzip())) parts.push(part);
		found.set(name, Uint8Array.from(Buffer.concat(parts)));
	}
	return found;
}

/** Names of contents within a value of JSON, each once. */
export const contentNamesIn = (value: unknown): string[] => [
	...new Set(JSON.stringify(value).match(CONTENT_NAMES) ?? [])
];

/**
 * Notes that a project needs contents; those that came with a document are kept first. Throws a ZygasterError with code
 * `content` for one that nobody has, and `quota`.
 */
export async function useContents(
	trx: Transaction<Tables>,
	actor: Actor,
	project: string,
	names: readonly string[]
): Promise<void> {
	for (const name of names) {
		if (hasContent(name)) await putIn(trx, actor, name, Readable.from([contentOf(name)]), await roomOf(actor, trx));
		else if (!(await trx.selectFrom('content').select('name').where('name', '=', name).executeTakeFirst()))
			throw new ZygasterError(
				'content',
				`The project names ${short(name)}, which is not here; right would be to send its bytes first, or to bring its file in again.`
			);
		await trx
			.insertInto('content_use')
			.values({ project_id: project, name })
			.onConflict((c) => c.doNothing())
			.execute();
	}
}

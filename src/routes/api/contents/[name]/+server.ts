import { Readable } from 'node:stream';
import { createGunzip } from 'node:zlib';
import { contentNameSchema } from '$core/content.ts';
import { ZygasterError } from '$core/errors.ts';
import { app } from '$lib/server/app.ts';
import { contentStream, isKept, putContent } from '$lib/server/contents.ts';
import { actorOf } from '$lib/server/owner.ts';
import { answer } from '$lib/server/respond.ts';
import type { RequestHandler } from './$types';

function nameIn(params: { name: string }): string {
	const parsed = contentNameSchema.safeParse(params.name);
	if (!parsed.success)
		throw new ZygasterError('request', `“${params.name.slice(0, 80)}” ${parsed.error.issues[0]!.message}.`);
	return parsed.data;
}

/** The bytes of a name never change, so that whoever has them once need not ask again. */
const FOR_EVER = 'private, max-age=31536000, immutable';

export const GET: RequestHandler = ({ params, request, cookies }) =>
	answer(async () => {
		const { size, gzip } = await contentStream(actorOf(cookies), (await app()).db, nameIn(params));
		const takesGzip = /\bgzip\b/.test(request.headers.get('accept-encoding') ?? '');
		const source = Readable.from(gzip);
		const stream = takesGzip ? source : source.pipe(createGunzip());
		return new Response(Readable.toWeb(stream) as ReadableStream, {
			headers: {
				'content-type': 'application/octet-stream',
				'cache-control': FOR_EVER,
				vary: 'accept-encoding',
				...(takesGzip ? { 'content-encoding': 'gzip' } : { 'content-length': String(size) })
			}
		});
	});

export const HEAD: RequestHandler = ({ params, cookies }) =>
	answer(async () => {
		const kept = await isKept(actorOf(cookies), (await app()).db, nameIn(params));
		return new Response(null, { status: kept ? 204 : 404 });
	});

async function* partsOf(reader: ReadableStreamDefaultReader<Uint8Array>): AsyncGenerator<Uint8Array> {
	for (;;) {
		const { value, done } = await reader.read();
		if (done) return;
		yield value;
	}
}

/** Keeps the bytes of the body under their name. */
export const PUT: RequestHandler = ({ params, request, cookies }) =>
	answer(async () => {
		const { body } = request;
		// The server hands a body on only where its type is told.
		if (!body)
			throw new ZygasterError('request', 'Send the bytes as the body, with content-type: application/octet-stream.');
		const reader = body.getReader();
		try {
			await putContent(actorOf(cookies), (await app()).db, nameIn(params), partsOf(reader));
		} finally {
			// Whoever is answered before all has come would take that for a broken line.
			while (!(await reader.read().catch(() => ({ done: true }))).done);
		}
		return new Response(null, { status: 204 });
	});

import { contentNameSchema } from '$core/content.ts';
import { ZygasterError } from '$core/errors.ts';
import { app } from '$lib/server/app.ts';
import { contentResponse } from '$lib/server/contentResponse.ts';
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

export const GET: RequestHandler = ({ params, request, cookies }) =>
	answer(async () => contentResponse(request, await contentStream(actorOf(cookies), (await app()).db, nameIn(params))));

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

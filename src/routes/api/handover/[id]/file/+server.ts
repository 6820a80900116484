import { Readable } from 'node:stream';
import { app } from '$lib/server/app.ts';
import { actorOf } from '$lib/server/owner.ts';
import { answer } from '$lib/server/respond.ts';
import type { RequestHandler } from './$types';

/** The file of an order that is done. */
export const GET: RequestHandler = ({ params, cookies }) =>
	answer(async () => {
		const { name, media, size, chunks } = await (await app()).handover.file(actorOf(cookies), params.id);
		return new Response(Readable.toWeb(Readable.from(chunks)) as ReadableStream, {
			headers: {
				'content-type': media,
				'content-length': String(size),
				'content-disposition': `attachment; filename="${name}"`
			}
		});
	});

/** Throws an order that is settled away, with its file. */
export const DELETE: RequestHandler = ({ params, cookies }) =>
	answer(async () => {
		await (await app()).handover.remove(actorOf(cookies), params.id);
		return new Response(null, { status: 204 });
	});

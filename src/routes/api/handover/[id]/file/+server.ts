import { app } from '$lib/server/app.ts';
import { fileResponse } from '$lib/server/contentResponse.ts';
import { actorOf } from '$lib/server/owner.ts';
import { answer } from '$lib/server/respond.ts';
import type { RequestHandler } from './$types';

/** The file of an order that is done. */
export const GET: RequestHandler = ({ params, cookies }) =>
	answer(async () => fileResponse(await (await app()).handover.file(actorOf(cookies), params.id)));

/** Throws an order that is settled away, with its file. */
export const DELETE: RequestHandler = ({ params, cookies }) =>
	answer(async () => {
		await (await app()).handover.remove(actorOf(cookies), params.id);
		return new Response(null, { status: 204 });
	});

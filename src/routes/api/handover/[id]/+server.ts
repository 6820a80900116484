import { json } from '@sveltejs/kit';
import { app } from '$lib/server/app.ts';
import { actorOf } from '$lib/server/owner.ts';
import { answer } from '$lib/server/respond.ts';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = ({ params, cookies }) =>
	answer(async () => json(await (await app()).handover.status(actorOf(cookies), params.id)));

/** Stops an order that is not finished. */
export const DELETE: RequestHandler = ({ params, cookies }) =>
	answer(async () => {
		await (await app()).handover.cancel(actorOf(cookies), params.id);
		return new Response(null, { status: 204 });
	});

import { json } from '@sveltejs/kit';
import { app } from '$lib/server/app.ts';
import { answer } from '$lib/server/respond.ts';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = ({ params }) =>
	answer(async () => json(await (await app()).handover.status(params.id)));

/** Stops an order that is not finished. */
export const DELETE: RequestHandler = ({ params }) =>
	answer(async () => {
		await (await app()).handover.cancel(params.id);
		return new Response(null, { status: 204 });
	});

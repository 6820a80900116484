import { json } from '@sveltejs/kit';
import { app } from '$lib/server/app.ts';
import { dropKit, loadKit } from '$lib/server/kitLibrary.ts';
import { actorOf } from '$lib/server/owner.ts';
import { answer } from '$lib/server/respond.ts';
import type { RequestHandler } from './$types';

/** A kit file of the user's library. */
export const GET: RequestHandler = ({ params, cookies }) =>
	answer(async () => json(await loadKit(actorOf(cookies), (await app()).db, params.id)));

export const DELETE: RequestHandler = ({ params, cookies }) =>
	answer(async () => {
		await dropKit(actorOf(cookies), (await app()).db, params.id);
		return new Response(null, { status: 204 });
	});

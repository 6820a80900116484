import { json } from '@sveltejs/kit';
import { checkKitFile } from '$core/project/kitFile.ts';
import { app } from '$lib/server/app.ts';
import { keepKit, listKits } from '$lib/server/kitLibrary.ts';
import { actorOf } from '$lib/server/owner.ts';
import { answer, readJsonBody } from '$lib/server/respond.ts';
import type { RequestHandler } from './$types';

/** The kits of the user's library. */
export const GET: RequestHandler = ({ cookies }) =>
	answer(async () => json(await listKits(actorOf(cookies), (await app()).db)));

/** Keeps a kit file in the library; one of the same name is replaced. */
export const POST: RequestHandler = ({ request, cookies }) =>
	answer(async () => {
		const file = checkKitFile(await readJsonBody(request));
		const id = await keepKit(actorOf(cookies), (await app()).db, file);
		return json({ id }, { status: 201, headers: { location: `/api/kits/${id}` } });
	});

import { json } from '@sveltejs/kit';
import { app } from '$lib/server/app.ts';
import { editsSince } from '$lib/server/edits.ts';
import { actorOf } from '$lib/server/owner.ts';
import { loadProject } from '$lib/server/projects.ts';
import { answer } from '$lib/server/respond.ts';
import { wholeNumber } from '$lib/server/requests.ts';
import type { RequestHandler } from './$types';

/** The edits after the revision `since`, oldest first. */
export const GET: RequestHandler = ({ params, url, cookies }) =>
	answer(async () => {
		const actor = actorOf(cookies);
		const { db } = await app();
		await loadProject(actor, db, params.id);
		return json(await editsSince(actor, db, params.id, wholeNumber('since', url.searchParams.get('since') ?? '0')));
	});

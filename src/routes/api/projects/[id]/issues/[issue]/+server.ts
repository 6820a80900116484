import { app } from '$lib/server/app.ts';
import { removeIssue } from '$lib/server/issues.ts';
import { actorOf } from '$lib/server/owner.ts';
import { answer } from '$lib/server/respond.ts';
import type { RequestHandler } from './$types';

/** Takes an issue back. */
export const DELETE: RequestHandler = ({ params, cookies }) =>
	answer(async () => {
		await removeIssue(actorOf(cookies), (await app()).db, params.id, params.issue);
		return new Response(null, { status: 204 });
	});

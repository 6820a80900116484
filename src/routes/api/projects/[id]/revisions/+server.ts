import { json } from '@sveltejs/kit';
import { app } from '$lib/server/app.ts';
import { actorOf } from '$lib/server/owner.ts';
import { wholeNumber } from '$lib/server/requests.ts';
import { answer } from '$lib/server/respond.ts';
import { listRevisions } from '$lib/server/revisions.ts';
import type { RequestHandler } from './$types';

const MOST = 200;

/** Revisions from `to` backwards, or those alone that have a name (`named=yes`). */
export const GET: RequestHandler = ({ params, url, cookies }) =>
	answer(async () => {
		const to = url.searchParams.get('to');
		const named = url.searchParams.get('named') === 'yes';
		const limit = Math.min(MOST, wholeNumber('limit', url.searchParams.get('limit') ?? '50'));
		const asked = { to: to === null ? undefined : wholeNumber('to', to), limit, named };
		return json(await listRevisions(actorOf(cookies), (await app()).db, params.id, asked));
	});

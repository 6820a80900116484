import { json } from '@sveltejs/kit';
import { ZygasterError } from '$core/errors.ts';
import { FORMATS, isFormat } from '$core/formats/format.ts';
import { app } from '$lib/server/app.ts';
import { actorOf } from '$lib/server/owner.ts';
import { answer, readJsonBody } from '$lib/server/respond.ts';
import type { RequestHandler } from './$types';

/** How many orders are listed at most. */
const MOST = 50;

/** The orders of the project, the newest first. */
export const GET: RequestHandler = ({ params, cookies }) =>
	answer(async () => json(await (await app()).handover.list(actorOf(cookies), params.id, MOST)));

/** Orders a file of the project as it stands, or of an issue: `{ "format": "csv", "options": { "units": "m" }, "issue": "id" }`. */
export const POST: RequestHandler = ({ params, request, cookies }) =>
	answer(async () => {
		const body = (await readJsonBody(request)) as { format?: unknown; options?: unknown; issue?: unknown } | null;
		if (!isFormat(body?.format)) throw new ZygasterError('request', `The format must be one of ${FORMATS.join(', ')}.`);
		if (body.issue !== undefined && typeof body.issue !== 'string')
			throw new ZygasterError('request', 'The issue must be named by its id.');
		const { handover } = await app();
		const id = await handover.order(actorOf(cookies), params.id, body.format, body.options, body.issue);
		return json({ id }, { status: 202, headers: { location: `/api/handover/${id}` } });
	});

import { json } from '@sveltejs/kit';
import { ZygasterError } from '$core/errors.ts';
import { FORMATS, isFormat } from '$core/formats/writers.ts';
import { app } from '$lib/server/app.ts';
import { actorOf } from '$lib/server/owner.ts';
import { answer, readJsonBody } from '$lib/server/respond.ts';
import type { RequestHandler } from './$types';

/** Orders a file of the project: `{ "format": "csv", "options": { "units": "m" } }`. */
export const POST: RequestHandler = ({ params, request, cookies }) =>
	answer(async () => {
		const body = (await readJsonBody(request)) as { format?: unknown; options?: unknown } | null;
		if (!isFormat(body?.format)) throw new ZygasterError('request', `The format must be one of ${FORMATS.join(', ')}.`);
		const id = await (await app()).handover.order(actorOf(cookies), params.id, body.format, body.options);
		return json({ id }, { status: 202, headers: { location: `/api/handover/${id}` } });
	});

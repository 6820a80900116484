import { json } from '@sveltejs/kit';
import { ZygasterError } from '$core/errors.ts';
import { app } from '$lib/server/app.ts';
import { HANDOVER_FORMATS, isHandoverFormat } from '$lib/server/handover/formats.ts';
import { answer, readJsonBody } from '$lib/server/respond.ts';
import type { RequestHandler } from './$types';

/** Orders a file of the project: `{ "format": "csv" }`. */
export const POST: RequestHandler = ({ params, request }) =>
	answer(async () => {
		const body = (await readJsonBody(request)) as { format?: unknown } | null;
		if (!isHandoverFormat(body?.format))
			throw new ZygasterError('request', `The format must be one of ${Object.keys(HANDOVER_FORMATS).join(', ')}.`);
		const id = await (await app()).handover.order(params.id, body.format);
		return json({ id }, { status: 202, headers: { location: `/api/handover/${id}` } });
	});

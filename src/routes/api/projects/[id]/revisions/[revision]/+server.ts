import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { ZygasterError } from '$core/errors.ts';
import { app } from '$lib/server/app.ts';
import { actorOf } from '$lib/server/owner.ts';
import { wholeNumber } from '$lib/server/requests.ts';
import { answer, readJsonBody } from '$lib/server/respond.ts';
import { documentOf, nameRevision } from '$lib/server/revisions.ts';
import type { RequestHandler } from './$types';

/** The document as it was. */
export const GET: RequestHandler = ({ params, cookies }) =>
	answer(async () => {
		const revision = wholeNumber('revision', params.revision);
		const document = await documentOf(actorOf(cookies), (await app()).db, params.id, revision);
		return json({ document, revision });
	});

const named = z.strictObject({ name: z.string() });

/** Gives it a name: `{ "name": "before the workshop" }`; an empty one takes it away. */
export const PUT: RequestHandler = ({ params, request, cookies }) =>
	answer(async () => {
		const parsed = named.safeParse(await readJsonBody(request));
		if (!parsed.success) throw new ZygasterError('request', `This is no name: ${z.prettifyError(parsed.error)}`);
		const revision = wholeNumber('revision', params.revision);
		await nameRevision(actorOf(cookies), (await app()).db, params.id, revision, parsed.data.name);
		return new Response(null, { status: 204 });
	});

import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { ZygasterError } from '$core/errors.ts';
import { app } from '$lib/server/app.ts';
import { addIssue, issueSchema, listIssues } from '$lib/server/issues.ts';
import { actorOf } from '$lib/server/owner.ts';
import { answer, readJsonBody } from '$lib/server/respond.ts';
import type { RequestHandler } from './$types';

/** The issues of a project, the newest first. */
export const GET: RequestHandler = ({ params, cookies }) =>
	answer(async () => json(await listIssues(actorOf(cookies), (await app()).db, params.id)));

/** Issues the newest revision, or the one named: `{ "name": "Tender", "mark": "A", "author": "…", "note": "…" }`. */
export const POST: RequestHandler = ({ params, request, cookies }) =>
	answer(async () => {
		const parsed = issueSchema.safeParse(await readJsonBody(request));
		if (!parsed.success) throw new ZygasterError('request', `This is no issue: ${z.prettifyError(parsed.error)}`);
		return json(await addIssue(actorOf(cookies), (await app()).db, params.id, parsed.data), { status: 201 });
	});

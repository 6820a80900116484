import { json } from '@sveltejs/kit';
import { app } from '$lib/server/app.ts';
import { saveEdit } from '$lib/server/edits.ts';
import { actorOf } from '$lib/server/owner.ts';
import { deleteProject, loadProject } from '$lib/server/projects.ts';
import { readEdit } from '$lib/server/requests.ts';
import { answer, readJsonBody } from '$lib/server/respond.ts';
import type { RequestHandler } from './$types';

const etag = (revision: number) => ({ etag: `"${revision}"` });

export const GET: RequestHandler = ({ params, cookies }) =>
	answer(async () => {
		const { document, revision } = await loadProject(actorOf(cookies), (await app()).db, params.id);
		return json({ document, revision }, { headers: etag(revision) });
	});

/** Saves an edit; the answer has all edits since the one that it was made on. */
export const PATCH: RequestHandler = ({ params, request, cookies }) =>
	answer(async () => {
		const edit = readEdit(await readJsonBody(request), request.headers.get('if-match'));
		const saved = await saveEdit(actorOf(cookies), (await app()).db, params.id, edit);
		return json(saved, { headers: etag(saved.revision) });
	});

export const DELETE: RequestHandler = ({ params, cookies }) =>
	answer(async () => {
		await deleteProject(actorOf(cookies), (await app()).db, params.id);
		return new Response(null, { status: 204 });
	});

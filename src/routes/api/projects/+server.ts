import { json } from '@sveltejs/kit';
import { app } from '$lib/server/app.ts';
import { actorOf } from '$lib/server/owner.ts';
import { createProject, listProjects } from '$lib/server/projects.ts';
import { readText } from '$lib/server/readText.ts';
import { answer } from '$lib/server/respond.ts';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = ({ cookies }) =>
	answer(async () => json(await listProjects(actorOf(cookies), (await app()).db)));

/** Takes a project document and answers its new id. */
export const POST: RequestHandler = ({ request, cookies }) =>
	answer(async () => {
		const document = await readText(await request.text());
		const id = await createProject(actorOf(cookies), (await app()).db, document);
		return json({ id }, { status: 201, headers: { location: `/api/projects/${id}` } });
	});

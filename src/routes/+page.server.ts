import { randomUUID } from 'node:crypto';
import { fail, redirect, type RequestEvent } from '@sveltejs/kit';
import { message, superValidate } from 'sveltekit-superforms';
import { zod4 } from 'sveltekit-superforms/adapters';
import { starterProject } from '$core/project/starter.ts';
import type { Actor } from '$lib/server/actor.ts';
import { app } from '$lib/server/app.ts';
import { createSchema, idSchema, renameSchema, tokenSchema } from '$lib/server/forms.ts';
import { actorOf } from '$lib/server/owner.ts';
import {
	DAYS_DELETED,
	createProject,
	deleteProject,
	duplicateProject,
	listDeleted,
	listProjects,
	renameProject,
	restoreProject
} from '$lib/server/projects.ts';
import { readText } from '$lib/server/readText.ts';
import { statusOf } from '$lib/server/respond.ts';
import { toZygasterError } from '$lib/server/knownError.ts';
import { listTokens, makeToken, withdrawToken } from '$lib/server/tokens.ts';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ cookies }) => ({
	projects: await listProjects(actorOf(cookies), (await app()).db),
	tokens: await listTokens(actorOf(cookies), (await app()).db),
	deleted: await listDeleted(actorOf(cookies), (await app()).db),
	daysDeleted: DAYS_DELETED,
	create: await superValidate(zod4(createSchema), { id: 'create' })
});

/** Runs an action on the project that a form names; a failure is told beside the list. */
async function onProject(
	{ request, cookies }: RequestEvent,
	work: (actor: Actor, db: Awaited<ReturnType<typeof app>>['db'], id: string) => Promise<void>,
	done: string
) {
	const form = await superValidate(request, zod4(idSchema));
	if (!form.valid) return fail(400, { message: 'No project was named.' });
	try {
		await work(actorOf(cookies), (await app()).db, form.data.id);
		return { done, id: form.data.id };
	} catch (cause) {
		const known = toZygasterError(cause);
		return fail(statusOf(known), { message: known.message });
	}
}

export const actions: Actions = {
	makeToken: async ({ request, cookies }) => {
		const form = await superValidate(request, zod4(tokenSchema));
		if (!form.valid) return fail(400, { message: form.errors.name?.[0] ?? 'A token needs a name.' });
		try {
			return { token: await makeToken(actorOf(cookies), (await app()).db, form.data.name), name: form.data.name };
		} catch (cause) {
			const known = toZygasterError(cause);
			return fail(statusOf(known), { message: known.message });
		}
	},
	withdrawToken: (event) => onProject(event, withdrawToken, 'withdrawn'),
	create: async ({ request, cookies }) => {
		const form = await superValidate(request, zod4(createSchema), { id: 'create' });
		if (!form.valid) return fail(400, { form });
		const id = await createProject(actorOf(cookies), (await app()).db, {
			...starterProject(form.data.name),
			uid: `p-${randomUUID()}`
		});
		redirect(303, `/projects/${id}`);
	},
	rename: async ({ request, cookies }) => {
		const form = await superValidate(request, zod4(renameSchema), { id: 'rename' });
		if (!form.valid) return fail(400, { form });
		try {
			await renameProject(actorOf(cookies), (await app()).db, form.data.id, form.data.name);
		} catch (cause) {
			const known = toZygasterError(cause);
			return message(form, known.message, { status: statusOf(known) as 404 });
		}
		return { form };
	},
	duplicate: (event) => onProject(event, async (...asked) => void (await duplicateProject(...asked)), 'duplicated'),
	delete: (event) => onProject(event, deleteProject, 'deleted'),
	restore: (event) => onProject(event, restoreProject, 'restored'),
	import: async ({ request, cookies }) => {
		const file = (await request.formData()).get('file');
		if (!(file instanceof File) || file.size === 0)
			return fail(400, { message: 'Choose a project file (JSON) first.' });
		let id: string;
		try {
			id = await createProject(actorOf(cookies), (await app()).db, await readText(await file.text()));
		} catch (cause) {
			const known = toZygasterError(cause);
			return fail(statusOf(known), { message: `${file.name} was not brought in.\n${known.message}` });
		}
		redirect(303, `/projects/${id}`);
	}
};

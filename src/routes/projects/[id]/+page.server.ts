import { error } from '@sveltejs/kit';
import { app } from '$lib/server/app.ts';
import { actorOf } from '$lib/server/owner.ts';
import { loadProject } from '$lib/server/projects.ts';
import { statusOf } from '$lib/server/respond.ts';
import { toZygasterError } from '$lib/server/knownError.ts';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ params, cookies }) => {
	try {
		const actor = actorOf(cookies);
		return { ...(await loadProject(actor, (await app()).db, params.id)), actor: actor.id };
	} catch (cause) {
		const known = toZygasterError(cause);
		error(statusOf(known), { message: known.message, code: known.code });
	}
};

import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { ZygasterError } from '$core/errors.ts';
import type { Patch } from '$core/project/patch.ts';
import { app } from '$lib/server/app.ts';
import { deleteProject, loadProject, saveEdit } from '$lib/server/projects.ts';
import { answer, readJsonBody } from '$lib/server/respond.ts';
import type { RequestHandler } from './$types';

const pointer = z.string().regex(/^(\/.*)?$/, 'must be a JSON Pointer such as /name');
const editSchema = z.strictObject({
	label: z.string().trim().min(1).max(200),
	/** RFC 6902. */
	patch: z
		.array(
			z.discriminatedUnion('op', [
				z.object({ op: z.enum(['add', 'replace', 'test']), path: pointer, value: z.json() }),
				z.object({ op: z.literal('remove'), path: pointer }),
				z.object({ op: z.enum(['move', 'copy']), path: pointer, from: pointer })
			])
		)
		.min(1)
		.max(100_000)
});

const etag = (revision: number) => ({ etag: `"${revision}"` });

export const GET: RequestHandler = ({ params }) =>
	answer(async () => {
		const { document, revision } = await loadProject((await app()).db, params.id);
		return json({ document, revision }, { headers: etag(revision) });
	});

/** Saves an edit that is based on the revision in `If-Match` (RFC 9110). */
export const PATCH: RequestHandler = ({ params, request }) =>
	answer(async () => {
		const base = /^"(\d+)"$/.exec(request.headers.get('if-match') ?? '')?.[1];
		if (!base)
			throw new ZygasterError('no-precondition', 'Say which revision the edit is based on, such as If-Match: "7".');
		const parsed = editSchema.safeParse(await readJsonBody(request));
		if (!parsed.success) throw new ZygasterError('request', `This is no edit: ${z.prettifyError(parsed.error)}`);
		const { label, patch } = parsed.data;
		const { revision } = await saveEdit((await app()).db, params.id, Number(base), {
			label,
			patch: patch as Patch
		});
		return json({ revision }, { headers: etag(revision) });
	});

export const DELETE: RequestHandler = ({ params }) =>
	answer(async () => {
		await deleteProject((await app()).db, params.id);
		return new Response(null, { status: 204 });
	});

import { json } from '@sveltejs/kit';
import { ZygasterError } from '$core/errors.ts';
import { paramsOf, readPart, type Method } from '$lib/server/api/operation.ts';
import { OPERATIONS } from '$lib/server/api/operations.ts';
import { openApi } from '$lib/server/api/openapi.ts';
import { app } from '$lib/server/app.ts';
import { PROGRAM } from '$lib/server/actor.ts';
import { answer, readJsonBody } from '$lib/server/respond.ts';
import { actorOfToken } from '$lib/server/tokens.ts';
import type { RequestHandler } from './$types';

/** Everything of the interface for programs goes through the list of operations. */
const handle: RequestHandler = ({ params, request, url }) =>
	answer(async () => {
		const path = `/${params.path}`;
		if (path === '/openapi.json' && request.method === 'GET') return json(openApi(url.origin));
		const there = OPERATIONS.flatMap((operation) => {
			const found = paramsOf(operation.path, path);
			return found ? [{ operation, params: found }] : [];
		});
		if (there.length === 0)
			throw new ZygasterError(
				'not-found',
				`There is nothing at ${path.slice(0, 80)}; openapi.json lists what there is.`
			);
		const match = there.find((t) => t.operation.method === (request.method as Method));
		if (!match) {
			const methods = there.map((t) => t.operation.method).join(', ');
			throw new ZygasterError('method', `${request.method} is not possible here; right would be ${methods}.`);
		}
		const { operation, params: parts } = match;
		const running = await app();
		const actor = operation.open ? PROGRAM : await actorOfToken(running.db, request.headers.get('authorization'));
		const asked = Object.fromEntries(url.searchParams);
		const query = operation.query ? readPart(operation.query, 'query', asked) : {};
		const body =
			operation.body && operation.body !== 'bytes'
				? readPart(operation.body, 'body', await readJsonBody(request))
				: undefined;
		return operation.run({ ...running, actor, params: parts, query: query as never, body: body as never, request });
	});

export const GET = handle;
export const POST = handle;
export const PUT = handle;
export const PATCH = handle;
export const DELETE = handle;

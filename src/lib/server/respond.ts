import { json } from '@sveltejs/kit';
import { ZygasterError } from '../../core/errors.ts';
import { StaleError } from './edits.ts';
import { toZygasterError } from './knownError.ts';

/** HTTP status for each code of our errors; anything else is 500. RFC 9110. */
const STATUS: Readonly<Record<string, number>> = {
	'not-found': 404,
	method: 405,
	conflict: 409,
	stale: 412,
	clash: 409,
	forbidden: 403,
	'no-token': 401,
	text: 422,
	content: 422,
	'too-large': 413,
	json: 422,
	project: 422,
	'too-new': 422,
	kit: 422,
	request: 400,
	options: 400,
	empty: 409,
	'no-precondition': 428,
	misdirected: 421,
	'too-many': 429,
	length: 411,
	'database-away': 503,
	quota: 403,
	timeout: 408,
	'no-room': 507
};

/** What kinds of errors are called, by status. RFC 9110. */
const TITLES: Readonly<Record<number, string>> = {
	400: 'Bad request',
	401: 'Unauthorized',
	403: 'Forbidden',
	404: 'Not found',
	405: 'Method not allowed',
	408: 'Request timeout',
	409: 'Conflict',
	412: 'Precondition failed',
	411: 'Length required',
	413: 'Content too large',
	421: 'Misdirected request',
	422: 'Unprocessable content',
	428: 'Precondition required',
	429: 'Too many requests',
	500: 'Internal server error',
	503: 'Service unavailable',
	507: 'Insufficient storage'
};

/** Runs an API handler and puts any error into status and words: problem details, RFC 9457, with our code and place beside. */
export async function answer(handle: () => Promise<Response>): Promise<Response> {
	try {
		return await handle();
	} catch (cause) {
		return problemOf(toZygasterError(cause));
	}
}

/** An error as an answer. */
export function problemOf(error: ZygasterError): Response {
	const status = statusOf(error);
	const problem = { type: 'about:blank', title: TITLES[status] ?? 'Error', status, detail: error.message };
	const body = { ...problem, code: error.code, message: error.message, place: error.place };
	const extra =
		error instanceof StaleError ? { revision: error.revision, edits: error.edits, clashes: error.clashes } : {};
	// RFC 9110, 11.6.1: whoever is refused for want of a token is told which kind.
	const headers = new Headers({ 'content-type': 'application/problem+json' });
	if (status === 401) headers.set('www-authenticate', 'Bearer');
	return json({ ...body, ...extra }, { status, headers });
}

export const statusOf = (error: ZygasterError) => STATUS[error.code] ?? 500;

/** Bytes of a body of JSON at most; meshes are sent by themselves. */
const MOST_JSON_BYTES = 64 * 2 ** 20;

/** Reads a JSON body. Throws a ZygasterError with code `json` or `too-large`. */
export async function readJsonBody(request: Request): Promise<unknown> {
	if (Number(request.headers.get('content-length')) > MOST_JSON_BYTES)
		throw new ZygasterError(
			'too-large',
			`This has more than ${MOST_JSON_BYTES / 2 ** 20} MB; right would be several smaller edits.`
		);
	const text = await request.text();
	try {
		return JSON.parse(text);
	} catch (cause) {
		throw new ZygasterError('json', `The body is not JSON: ${(cause as Error).message}.`);
	}
}

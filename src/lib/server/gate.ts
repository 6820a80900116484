import { randomUUID } from 'node:crypto';
import type { Handle } from '@sveltejs/kit';
import { ZygasterError } from '../../core/errors.ts';
import { checkBody, countRequest, tooSlow } from './limits.ts';
import { log } from './log.ts';
import { requestSeconds } from './metrics.ts';
import { problemOf } from './respond.ts';
import { toZygasterError } from './knownError.ts';

const LOOPBACK = new Set(['localhost', '127.0.0.1', '[::1]']);

/** Names that the server answers to: its own, those that are named besides (with commas between), and loopback. */
function isOurs(host: string | null, { ORIGIN, HOSTS }: NodeJS.ProcessEnv): boolean {
	if (host === null) return false;
	const name = /^(\[[0-9a-f:]+\]|[^:]+)(:\d+)?$/i.exec(host)?.[1]?.toLowerCase();
	if (name === undefined) return false;
	const own = [...(ORIGIN ? [new URL(ORIGIN).hostname] : []), ...(HOSTS ?? '').split(',').map((h) => h.trim())];
	return LOOPBACK.has(name) || own.some((h) => h.toLowerCase() === name);
}

/** What every answer says: nothing of it is for other pages, to be guessed at, or to be kept. */
const HEADERS = {
	'x-content-type-options': 'nosniff',
	'referrer-policy': 'same-origin',
	'cross-origin-opener-policy': 'same-origin',
	'cross-origin-resource-policy': 'same-origin',
	'permissions-policy': 'camera=(), microphone=(), geolocation=(), payment=(), usb=()'
} as const;
/** Answers that are no pages load nothing and stand in no frame. */
const NO_PAGE = "default-src 'none'; frame-ancestors 'none'";
const YEAR_SECONDS = 31_536_000;

/** A refusal after which the line cannot be used again: what is still on its way is not read (RFC 9110, 15.5.14). */
function closing(cause: unknown): Response {
	const refused = problemOf(toZygasterError(cause));
	refused.headers.set('connection', 'close');
	return refused;
}

/**
 * Stands before everything: refuses requests that come under another name, so that a page elsewhere cannot reach a server on
 * loopback by having its own name lead here (RFC 9110, 421), those of callers who ask too much, and bodies that are too large;
 * puts the headers on that keep answers to those who asked; and writes down what was asked, by which route, and how it ended.
 */
export const gate: Handle = async ({ event, resolve }) => {
	const begun = performance.now();
	const id = randomUUID();
	const { request, url, route } = event;
	const response = await answered();
	const { headers } = response;
	for (const [name, value] of Object.entries(HEADERS)) headers.set(name, value);
	headers.set('x-request-id', id);
	if (!headers.has('content-security-policy')) headers.set('content-security-policy', NO_PAGE);
	if (!headers.has('cache-control')) headers.set('cache-control', 'no-store');
	if (url.protocol === 'https:') headers.set('strict-transport-security', `max-age=${YEAR_SECONDS}`);
	const ms = performance.now() - begun;
	// The route as it is known here, never the path as it was sent.
	const told = { method: request.method, route: route.id ?? 'none', status: response.status };
	requestSeconds.observe({ ...told, status: String(told.status) }, ms / 1000);
	log[response.status >= 500 ? 'error' : 'info']({ id, ...told, ms: Math.round(ms) });
	return response;

	async function answered(): Promise<Response> {
		if (!isOurs(request.headers.get('host'), process.env))
			return problemOf(
				new ZygasterError(
					'misdirected',
					'This server does not answer to that name; right would be the address that it was started with.'
				)
			);
		const wait = await countRequest(event.getClientAddress());
		if (wait !== undefined) {
			const refused = problemOf(
				new ZygasterError('too-many', `There were too many requests; right would be to wait ${wait} s.`)
			);
			refused.headers.set('retry-after', String(wait));
			return refused;
		}
		try {
			checkBody(request, route.id, url.pathname);
		} catch (cause) {
			return closing(cause);
		}
		return withoutSlow();
	}

	/** The answer, or that the body does not come. */
	async function withoutSlow(): Promise<Response> {
		const req = event.platform?.req;
		if (!req || request.method === 'GET' || request.method === 'HEAD') return resolve(event);
		const done = new AbortController();
		try {
			return await Promise.race([resolve(event), tooSlow(req, done.signal).then(closing)]);
		} finally {
			done.abort();
		}
	}
};

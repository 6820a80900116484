import type { Handle } from '@sveltejs/kit';

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

/**
 * Refuses requests that come under another name, so that a page elsewhere cannot reach a server on loopback by having its own
 * name lead here (RFC 9110, 421), and puts the headers on that keep answers to those who asked.
 */
export const gate: Handle = async ({ event, resolve }) => {
	const { request, url } = event;
	if (!isOurs(request.headers.get('host'), process.env))
		return Response.json(
			{
				type: 'about:blank',
				title: 'Misdirected request',
				status: 421,
				detail: 'This server does not answer to that name; right would be the address that it was started with.'
			},
			{ status: 421, headers: { ...HEADERS, 'content-type': 'application/problem+json' } }
		);
	const response = await resolve(event);
	const { headers } = response;
	for (const [name, value] of Object.entries(HEADERS)) headers.set(name, value);
	if (!headers.has('content-security-policy')) headers.set('content-security-policy', NO_PAGE);
	if (!headers.has('cache-control')) headers.set('cache-control', 'no-store');
	if (url.protocol === 'https:') headers.set('strict-transport-security', `max-age=${YEAR_SECONDS}`);
	return response;
};

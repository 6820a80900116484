import type { Cookies } from '@sveltejs/kit';
import { getRequestEvent } from '$app/server';
import type { Actor } from './actor.ts';

const NAME = 'zygaster_owner';
const TEN_YEARS_S = 10 * 365 * 24 * 3600;

/**
 * Who the browser is, as long as nobody signs in: a random number in a cookie of its own, which with TLS no other host and
 * no plain connection can set (RFC 6265bis, `__Host-`).
 */
export function actorOf(cookies: Cookies): Actor {
	const secure = getRequestEvent().url.protocol === 'https:';
	const name = secure ? `__Host-${NAME}` : NAME;
	const known = cookies.get(name);
	if (known && /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/.test(known)) return { id: known };
	const id = crypto.randomUUID();
	cookies.set(name, id, { path: '/', httpOnly: true, sameSite: 'lax', secure, maxAge: TEN_YEARS_S });
	return { id };
}

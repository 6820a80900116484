import type { Cookies } from '@sveltejs/kit';
import type { Actor } from './actor.ts';

const NAME = 'zygaster_owner';
const TEN_YEARS_S = 10 * 365 * 24 * 3600;

/** Who the browser is, as long as nobody signs in: a random number in a cookie of its own. */
export function actorOf(cookies: Cookies): Actor {
	const known = cookies.get(NAME);
	if (known && /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/.test(known)) return { id: known };
	const id = crypto.randomUUID();
	cookies.set(NAME, id, { path: '/', httpOnly: true, sameSite: 'lax', secure: false, maxAge: TEN_YEARS_S });
	return { id };
}

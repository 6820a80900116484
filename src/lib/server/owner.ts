import type { Cookies } from '@sveltejs/kit';

const NAME = 'zygaster_owner';
const TEN_YEARS_S = 10 * 365 * 24 * 3600;

/** Who the browser is, as long as nobody signs in: a random number in a cookie of its own. */
export function ownerOf(cookies: Cookies): string {
	const known = cookies.get(NAME);
	if (known && /^[0-9a-f-]{36}$/.test(known)) return known;
	const made = crypto.randomUUID();
	cookies.set(NAME, made, { path: '/', httpOnly: true, sameSite: 'lax', secure: false, maxAge: TEN_YEARS_S });
	return made;
}

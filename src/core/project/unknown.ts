/** Names listed at most, where one is not known. */
const MOST_NAMES = 20;

/** What is told where a name is not known: those that are. */
export function unknown(what: string, name: string, known: Iterable<string>): string {
	const names = [...known];
	const more = names.length > MOST_NAMES ? ` and ${names.length - MOST_NAMES} more` : '';
	return `there is no ${what} “${name}”; known: ${names.slice(0, MOST_NAMES).join(', ') || 'none'}${more}`;
}

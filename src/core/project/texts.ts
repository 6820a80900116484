import { ZygasterError } from '../errors.ts';

/** Half a surrogate pair, or a NUL: no text of Unicode, and nothing that a database keeps. */
const UNKEEPABLE = /[\0\p{Surrogate}]/u;

/**
 * Throws a ZygasterError with code `text` where a value of JSON has a text, or a name, that cannot be kept. O(characters).
 */
export function checkTexts(value: unknown): void {
	if (typeof value === 'string') return checkText(value);
	if (typeof value !== 'object' || value === null) return;
	if (Array.isArray(value)) return value.forEach(checkTexts);
	for (const [name, inner] of Object.entries(value)) {
		checkText(name);
		checkTexts(inner);
	}
}

function checkText(text: string): void {
	const at = text.search(UNKEEPABLE);
	if (at < 0) return;
	const what = text[at] === '\0' ? 'a NUL' : 'half a character';
	throw new ZygasterError(
		'text',
		`“${text.slice(0, at)}…” holds ${what} behind its character ${at}, which cannot be saved; right would be the text without it.`
	);
}

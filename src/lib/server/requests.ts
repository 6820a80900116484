import { z } from 'zod';
import { ZygasterError } from '../../core/errors.ts';
import type { Patch } from '../../core/project/patch.ts';
import type { NewEdit } from './edits.ts';

/** A revision at most: PostgreSQL’s integer. */
const MOST = 2 ** 31 - 1;
const OPERATIONS = 100_000;

const pointer = z.string().regex(/^(\/.*)?$/s, 'must be a JSON Pointer such as /name');
const revision = z.int().min(0).max(MOST);

/** An edit of a project. */
export const editSchema = z.strictObject({
	/** Given by whoever made the edit, so that it is taken once however often it is sent. */
	id: z.uuid().optional(),
	/** The revision that it was made on; may stand in If-Match instead, which then must be the present one. */
	base: revision.optional(),
	label: z
		.string()
		.trim()
		.min(1)
		.max(200)
		.regex(/^\P{Cc}*$/u, 'must have no control characters'),
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
		.max(OPERATIONS)
});

/** A whole number of a request, from 0 to the greatest revision. Throws a ZygasterError with code `request`. */
export function wholeNumber(name: string, text: string): number {
	const number = /^\d{1,10}$/.test(text) ? Number(text) : NaN;
	if (!(number <= MOST))
		throw new ZygasterError(
			'request',
			`“${name}” is “${text.slice(0, 40)}”; right would be a whole number from 0 to ${MOST}.`
		);
	return number;
}

/**
 * An edit of a request. With If-Match (RFC 9110) the project must be at that revision; with `base` in the body alone it
 * may have moved on. Throws a ZygasterError with code `request` or `no-precondition`.
 */
export function readEdit(body: unknown, ifMatch: string | null): NewEdit {
	const parsed = editSchema.safeParse(body);
	if (!parsed.success) throw new ZygasterError('request', `This is no edit: ${z.prettifyError(parsed.error)}`);
	const { id = crypto.randomUUID(), base, label, patch } = parsed.data;
	const match = ifMatch === null ? undefined : /^"(\d{1,10})"$/.exec(ifMatch)?.[1];
	if (match === undefined && (base === undefined || ifMatch !== null))
		throw new ZygasterError(
			'no-precondition',
			'Say which revision the edit is based on, such as If-Match: "7", or "base": 7 in the edit.'
		);
	const on = match === undefined ? base! : wholeNumber('If-Match', match);
	return { id, base: on, label, patch: patch as Patch, strict: match !== undefined };
}

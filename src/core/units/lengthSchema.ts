import { z } from 'zod';
import { parseLength } from './length.ts';

/** Schemas that take a length as a text, too, for the published JSON Schema. */
const known = new WeakSet<object>();

/**
 * A length of a document, mm: a number, or a text with its unit such as `"1.5 m"` or `"5' 0\""`, which is read into mm
 * and so written back. A text without a unit is mm.
 */
export function lengthOr(schema: z.ZodType<number, number>): z.ZodType<number, number | string> {
	const either = z.preprocess((raw, context) => {
		if (typeof raw !== 'string') return raw;
		const read = parseLength(raw, 'mm');
		if ('mm' in read) return read.mm;
		context.addIssue({ code: 'custom', message: read.error, input: raw });
		return z.NEVER;
	}, schema);
	known.add(either);
	return either as unknown as z.ZodType<number, number | string>;
}

export const takesLengthText = (schema: object): boolean => known.has(schema);

/** A text with feet or inches, such as `5' 6"`, as mm; any other text stays what it is. */
export function feetOrText(text: string): number | string {
	if (!/^\s*[-−]?\s*\d[\d\s./-]*['"′″]/.test(text)) return text;
	const read = parseLength(text, 'mm');
	return 'mm' in read ? read.mm : text;
}

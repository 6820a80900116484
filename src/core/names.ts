import { z } from 'zod';

/** Ids and step names: a letter, then letters, digits or hyphens. */
export const nameSchema = z
	.string()
	.regex(/^[A-Za-z][A-Za-z0-9-]*$/, 'must start with a letter and hold only letters, digits and hyphens')
	.max(60);

/** What formulas can mention: a letter, then letters, digits or low lines. */
export const wordSchema = z
	.string()
	.regex(
		/^[A-Za-z][A-Za-z0-9_]*$/,
		'must start with a letter and hold only letters, digits and _, so that formulas can name it'
	)
	.max(60);

/** What people read: one line, composed (Unicode, form C), so that what looks alike is alike. */
export const labelSchema = z
	.string()
	.normalize('NFC')
	.trim()
	.min(1, 'must not be empty')
	.max(120)
	.regex(/^\P{Cc}*$/u, 'must have no control characters');

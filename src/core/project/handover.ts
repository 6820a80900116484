import { z } from 'zod';
import { nameSchema } from '../names.ts';
import { sheetSchema } from './sheets.ts';

/** What is handed over together. */
export const handoverSchema = z.strictObject({
	/** Files by their formats; of schedules of the project's own with the table. */
	files: z
		.array(
			z.strictObject({
				format: z.string().regex(/^[a-z0-9]+$/, 'must be the name of a format'),
				table: nameSchema.optional()
			})
		)
		.max(200)
		.default([]),
	/** Drawings on paper, in their order. */
	sheets: z.array(sheetSchema).max(100).default([])
});
export type Handover = z.output<typeof handoverSchema>;
export type HandoverFile = Handover['files'][number];

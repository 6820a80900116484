import { z } from 'zod';
import { labelSchema, nameSchema } from '../names.ts';

/** Sizes of paper, mm, upright. Source: ISO 216, series A. */
export const PAPERS = {
	A4: [210, 297],
	A3: [297, 420],
	A2: [420, 594],
	A1: [594, 841],
	A0: [841, 1189]
} as const;
export type Paper = keyof typeof PAPERS;
const papers = Object.keys(PAPERS) as [Paper, ...Paper[]];

/** 1 to so many. Source: ISO 5455, with 25 and 250 as is practice. */
export const SCALES = [1, 2, 5, 10, 20, 25, 50, 100, 200, 250, 500, 1000, 2000, 5000, 10_000] as const;

/** Radians clockwise from the north, which is along y. */
const bearing = z.number().min(-10).max(10).default(0);
const coordinate = z.number().min(-1e9).max(1e9);
/** Keys of faces; all of them where none is named. */
const faces = z.array(z.string().max(121)).max(500).default([]);

/** What a sheet shows. */
const viewSchema = z.discriminatedUnion('kind', [
	/** Faces laid flat side by side. */
	z.strictObject({ kind: z.literal('developed'), faces }),
	/** Looking at what faces a bearing. */
	z.strictObject({ kind: z.literal('elevation'), bearing, faces }),
	/** Looking down, on all of it or on what lies below a height, mm. */
	z.strictObject({ kind: z.literal('plan'), height: coordinate.optional(), faces }),
	/** Cut upright, seen from a bearing; `at` is how far before the middle of the model, mm. */
	z.strictObject({ kind: z.literal('section'), bearing, at: coordinate.default(0), faces }),
	/** The pieces by type, the first ones of a role or of all. */
	z.strictObject({
		kind: z.literal('types'),
		role: z.string().max(60).optional(),
		most: z.int().min(1).max(500).default(24),
		/** Pieces on a page. */
		perPage: z.union([z.literal(1), z.literal(4), z.literal(12)]).default(12)
	}),
	/** A schedule of the project's own. */
	z.strictObject({ kind: z.literal('schedule'), table: nameSchema })
]);
export type SheetView = z.output<typeof viewSchema>;

export const sheetSchema = z.strictObject({
	id: nameSchema,
	name: labelSchema,
	view: viewSchema,
	paper: z.enum(papers).default('A3'),
	/** Its long side lies across. */
	across: z.boolean().default(true),
	/** 1 to so many; the largest usual one that fits where none is given. */
	scale: z.int().min(1).max(10_000).optional(),
	/** Marks of cells where there is room. */
	marks: z.boolean().default(true),
	levels: z.boolean().default(true),
	/** Sizes over all. */
	sizes: z.boolean().default(true),
	/** Cells in the colours of their kits, or of a reading by its name. */
	colour: z.string().max(60).default('none')
});
export type Sheet = z.output<typeof sheetSchema>;

/** What a view is called. */
export const VIEW_WORDS: Readonly<Record<SheetView['kind'], string>> = {
	developed: 'Developed',
	elevation: 'Elevation',
	plan: 'Plan',
	section: 'Section',
	types: 'Types of pieces',
	schedule: 'Schedule'
};

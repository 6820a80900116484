import { z } from 'zod';
import { labelSchema, nameSchema } from '../../names.ts';
import { ROW_SOURCES } from './columns.ts';

/** What stands below a column: of all rows, and of each group. */
export const SUMMARIES = ['none', 'sum', 'least', 'greatest', 'mean', 'spread', 'count'] as const;
export type Summary = (typeof SUMMARIES)[number];

/** Units that a column of lengths, areas or volumes may have of its own. */
export const COLUMN_UNITS = { mm: 1, cm: 10, m: 1000, in: 25.4, ft: 304.8 } as const;
export type ColumnUnit = keyof typeof COLUMN_UNITS;
const columnUnits = Object.keys(COLUMN_UNITS) as [ColumnUnit, ...ColumnUnit[]];

const formula = z.string().trim().min(1).max(300);

const valueColumn = z
	.strictObject({
		kind: z.literal('value'),
		/** A column of the table by its name, or a formula over such. */
		show: formula,
		label: labelSchema.optional(),
		unit: z.enum(columnUnits).optional(),
		decimals: z.int().min(0).max(6).optional(),
		summary: z.enum(SUMMARIES).default('none'),
		/** Figures beyond are marked; mm, mm2, radians or plain numbers. */
		least: z.number().optional(),
		greatest: z.number().optional(),
		/** Pixels. */
		width: z.int().min(40).max(800).optional()
	})
	.refine(({ least = -Infinity, greatest = Infinity }) => least <= greatest, {
		path: ['least'],
		message: 'must not be above the greatest one'
	});

/** A column that people write into, row by row. */
const noteColumn = z.strictObject({
	kind: z.literal('note'),
	id: nameSchema,
	label: labelSchema,
	width: z.int().min(40).max(800).optional()
});

export const ownColumnSchema = z.discriminatedUnion('kind', [valueColumn, noteColumn]);
export type OwnColumn = z.output<typeof ownColumnSchema>;
export type ValueColumn = Extract<OwnColumn, { kind: 'value' }>;

/** A schedule of the project's own: which rows, what of them, in which order. */
export const ownTableSchema = z.strictObject({
	id: nameSchema,
	name: labelSchema,
	/** The table that its rows are from. */
	of: z.enum(ROW_SOURCES),
	/** All must hold. */
	where: z.array(formula).max(20).default([]),
	columns: z.array(ownColumnSchema).min(1).max(60),
	/** Columns of words, the outer one first, by which rows stand together with their own totals. */
	groups: z.array(formula).max(4).default([]),
	/** The rows of groups are left out: one line a group. */
	folded: z.boolean().default(false),
	/** Within groups; the first decides. */
	sort: z
		.array(z.strictObject({ by: formula, descending: z.boolean().default(false) }))
		.max(8)
		.default([])
});
export type OwnTable = z.output<typeof ownTableSchema>;

/** What somebody has written beside a row. */
export const noteSchema = z.strictObject({
	/** Id of the column. */
	column: nameSchema,
	/** What the row is known by. */
	row: z.string().min(1).max(400),
	text: z
		.string()
		.normalize('NFC')
		.trim()
		.min(1)
		.max(500)
		.regex(/^[^\p{Cc}]*$/u, 'must have no control characters')
});
export type Note = z.output<typeof noteSchema>;

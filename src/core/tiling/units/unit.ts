import { z } from 'zod';
import { SAME_FIELD } from '../../tolerances.ts';

const coordinate = z.number().min(-64, 'must be at least −64').max(64, 'must be at most 64');

/** One cell of a unit: its corners in fields from the unit's lower start corner; they may reach beyond the unit. */
const unitCellSchema = z.strictObject({
	/** What kind of cell it is, such as `hexagon`. */
	role: z
		.string()
		.trim()
		.min(1, 'needs a role')
		.max(24, 'must have at most 24 characters')
		.regex(/^[\p{L}\p{N} .-]+$/u, 'may hold letters, digits, spaces, points and hyphens'),
	corners: z
		.array(z.tuple([coordinate, coordinate]))
		.min(3, 'needs at least three corners')
		.max(64)
});

/** A tiling as data: a unit of so many fields of the grid that is repeated across and up. */
export const unitSchema = z.strictObject({
	width: z.int('must be a whole number').min(1, 'must be at least 1').max(32, 'must be at most 32'),
	height: z.int('must be a whole number').min(1, 'must be at least 1').max(32, 'must be at most 32'),
	/** Parts of the unit are left without a cell, and meant to be. */
	open: z.boolean().default(false),
	cells: z.array(unitCellSchema).min(1, 'needs at least one cell').max(200)
});
export type TilingUnit = z.output<typeof unitSchema>;
export type UnitCell = TilingUnit['cells'][number];
export type UnitPoint = readonly [number, number];

/** A coordinate that is a whole number but for rounding becomes one. */
export const tidy = (x: number) => (Math.abs(x - Math.round(x)) < SAME_FIELD ? Math.round(x) + 0 : x);

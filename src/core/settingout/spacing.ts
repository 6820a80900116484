import { z } from 'zod';
import { nameSchema, wordSchema } from '../names.ts';
import { lengthOr } from '../units/lengthSchema.ts';

const module = lengthOr(z.number().min(1, 'must be at least 1 mm').max(10_000_000, 'must be at most 10 km'));
const wholeFrom = (least: number, most: number) =>
	z.int('must be a whole number').min(least, `must be at least ${least}`).max(most, `must be at most ${most}`);
const coordinate = lengthOr(z.number().min(-10_000_000).max(10_000_000));

/** Where the part that whole modules do not fill goes: beside the start edge, the end edge, both, or into all modules. */
export const remainderSchema = z.enum(['start', 'end', 'both', 'shared']);
export type Remainder = z.output<typeof remainderSchema>;

/** Places along a measure: evenly from a first one on, or each by itself. In mm, or radians for angles. */
const laySchema = z.discriminatedUnion('kind', [
	z.strictObject({
		kind: z.literal('every'),
		first: coordinate,
		every: lengthOr(z.number().positive('must be above 0'))
	}),
	z.strictObject({ kind: z.literal('list'), at: z.array(coordinate).min(1, 'needs at least one place').max(10_000) })
]);
export type Lay = z.output<typeof laySchema>;

/** How one direction of a face is divided. Lengths in mm, angles in radians. */
export const spacingSchema = z.discriminatedUnion('kind', [
	/** Equal divisions. */
	z.strictObject({ kind: z.literal('count'), count: wholeFrom(1, 1_000_000) }),
	/** Whole modules of one width; the rest is the remainder. */
	z.strictObject({ kind: z.literal('module'), module, remainder: remainderSchema.default('end') }),
	/** As few equal modules as are no wider than this. */
	z.strictObject({ kind: z.literal('at-most'), module }),
	/** Widths one after the other. */
	z.strictObject({
		kind: z.literal('list'),
		modules: z
			.array(z.strictObject({ times: wholeFrom(1, 10_000), width: module }))
			.min(1, 'needs at least one width')
			.max(1000),
		remainder: remainderSchema.default('end')
	}),
	/** Horizontal planes at levels (at all of them when none is named), with even divisions between two levels. */
	z.strictObject({
		kind: z.literal('levels'),
		levels: z.array(nameSchema).max(500).default([]),
		divisions: wholeFrom(1, 1000).default(1)
	}),
	/** Parallel planes: upright ones square to a bearing (clockwise from north, +y), or horizontal ones. */
	z.strictObject({
		kind: z.literal('planes'),
		upright: z.boolean().default(true),
		bearing: z.number().min(-10).max(10).default(0),
		lay: laySchema
	}),
	/** Upright planes through an upright axis, at bearings. */
	z.strictObject({ kind: z.literal('radial'), x: coordinate, y: coordinate, lay: laySchema }),
	/** Lines through the points that divide a line drawn on the developed view into equal lengths. */
	z.strictObject({
		kind: z.literal('curve'),
		points: z
			.array(z.tuple([coordinate, coordinate]))
			.min(2, 'needs at least two points')
			.max(1000),
		divisions: wholeFrom(1, 10_000)
	}),
	/** Not divided: strips. */
	z.strictObject({ kind: z.literal('off') })
]);
export type Spacing = z.output<typeof spacingSchema>;
export type SpacingKind = Spacing['kind'];

/** One direction of a setting-out. */
export const directionSchema = z.strictObject({
	spacing: spacingSchema,
	/** The edge that modules are laid from and that rows or columns are counted from. */
	from: z.enum(['start', 'end']).default('start'),
	/** Shares of true length along each row (or column), or of the surface's parameter. */
	measure: z.enum(['length', 'parameter']).default('length'),
	/** The row (or column) on which modules have their true width, where they differ. */
	along: z.enum(['longest', 'start', 'middle', 'end']).default('longest'),
	/** Lines move on by this length, mm, and by this share of a module. */
	shift: coordinate.default(0),
	shiftShare: z.number().min(-1000).max(1000).default(0),
	/** A narrower first or last module becomes one with its neighbour, mm. */
	leastRemainder: lengthOr(z.number().min(0).max(1_000_000)).default(0),
	/** Counts are multiples of this. */
	multiple: wholeFrom(1, 1000).default(1),
	/** Where a closed face begins: share of the way around. */
	seam: z.number().min(0, 'must be at least 0 %').max(1, 'must be at most 100 %').default(0)
});
export type Direction = z.output<typeof directionSchema>;

const layerDistance = lengthOr(z.number().min(-100_000).max(100_000));

export const settingOutSchema = z.strictObject({
	across: directionSchema,
	up: directionSchema,
	/** The face is turned by a quarter: what ran up runs across. */
	swap: z.boolean().default(false),
	/** The grid is turned about the middle of the face as it lies flat, radians anticlockwise. */
	turn: z.number().min(-Math.PI, 'must be at least −180°').max(Math.PI, 'must be at most 180°').default(0),
	/** Rounds of evening out lengths and angles. */
	fair: wholeFrom(0, 200).default(0),
	/** A second layer this far outside (above 0) or inside, mm; none when 0. By a field, node by node. */
	layer: z
		.union([
			layerDistance,
			z.strictObject({ kind: z.literal('field'), field: wordSchema, from: layerDistance, to: layerDistance })
		])
		.default(0)
});
export type SettingOut = z.output<typeof settingOutSchema>;

/** A direction with nothing special about it. */
export const directionOf = (spacing: Spacing): Direction => directionSchema.parse({ spacing });

/** A setting-out with nothing special about it. */
export const settingOutOf = (across: Spacing, up: Spacing): SettingOut =>
	settingOutSchema.parse({ across: directionOf(across), up: directionOf(up) });

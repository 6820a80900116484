import { z } from 'zod';
import { labelSchema, nameSchema } from '../../names.ts';
import { lengthOr } from '../../units/lengthSchema.ts';

const coordinate = lengthOr(z.number().min(-10_000_000).max(10_000_000));
const size = lengthOr(z.number().min(1, 'must be at least 1 mm').max(1_000_000, 'must be at most 1 km'));
const points = z
	.array(z.tuple([coordinate, coordinate]))
	.min(3, 'needs at least three points')
	.max(1000);

/** The line around an opening, mm, seen from its place: x across (or east), y up (or north). */
const outlineSchema = z.discriminatedUnion('kind', [
	/** Its place is the middle of its lower side. */
	z.strictObject({ kind: z.literal('rectangle'), width: size, height: size }),
	/** Its place is its centre. */
	z.strictObject({ kind: z.literal('circle'), diameter: size }),
	z.strictObject({ kind: z.literal('polygon'), points }),
	/** A smooth closed line through points. */
	z.strictObject({ kind: z.literal('spline'), points })
]);
export type OpeningOutline = z.output<typeof outlineSchema>;

/** Where an opening is, mm. */
const placeSchema = z.discriminatedUnion('kind', [
	/** On the developed view, from the face's lower start corner. */
	z.strictObject({ kind: z.literal('face'), across: coordinate, up: coordinate }),
	/** On the developed view across, and at a height above a level up. */
	z.strictObject({ kind: z.literal('level'), across: coordinate, level: nameSchema, above: coordinate.default(0) }),
	/** In plan, projected straight up (or down) onto the face. */
	z.strictObject({ kind: z.literal('plan'), x: coordinate, y: coordinate }),
	/** In an upright plane seen along a bearing, projected level onto the face. */
	z.strictObject({
		kind: z.literal('elevation'),
		x: coordinate,
		y: coordinate,
		z: coordinate,
		bearing: z.number().min(-10).max(10)
	})
]);
export type OpeningPlace = z.output<typeof placeSchema>;

const repeat = z.strictObject({
	times: z.int('must be a whole number').min(1, 'must be at least 1').max(200, 'must be at most 200').default(1),
	spacing: coordinate.default(0)
});

export const openingSchema = z.strictObject({
	id: nameSchema,
	name: labelSchema,
	/** A hole in the face, or a border outside of which the face is cut off. */
	role: z.enum(['opening', 'border']).default('opening'),
	outline: outlineSchema,
	place: placeSchema,
	/** Turned about its place, radians anticlockwise. */
	turn: z.number().min(-10).max(10).default(0),
	/** Cells stop this far before it, mm, so that a frame has room. */
	frame: lengthOr(z.number().min(0, 'must be at least 0').max(10_000)).default(0),
	/** What stands in it, for building models. */
	filling: z.enum(['nothing', 'window', 'door']).default('nothing'),
	/** Copies at even distances. */
	across: repeat.prefault({}),
	up: repeat.prefault({})
});
export type Opening = z.output<typeof openingSchema>;

/** What becomes of cells at openings and borders. */
export const bordersSchema = z.strictObject({
	/** Cut cells narrower, mm, or smaller, mm2, than this are slivers. */
	leastWidth: lengthOr(z.number().min(0).max(100_000)).default(0),
	leastArea: z.number().min(0).max(1e12).default(0),
	/** Slivers are marked, made one with the neighbour along their longest side, or left out. */
	slivers: z.enum(['mark', 'merge', 'drop']).default('mark'),
	/** Nodes this near to an outline move onto it, mm. */
	snap: lengthOr(z.number().min(0).max(100_000)).default(0)
});
export type Borders = z.output<typeof bordersSchema>;

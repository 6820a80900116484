import { z } from 'zod';
import { lengthOr } from '../units/lengthSchema.ts';
import { nameSchema, wordSchema } from '../names.ts';
import { EVEN_OCTAGON } from './units/regular.ts';

const whole = (least: number, most: number) =>
	z.int('must be a whole number').min(least, `must be at least ${least}`).max(most, `must be at most ${most}`);
const share = (least: number, most: number) =>
	z
		.number()
		.min(least, `must be at least ${least * 100} %`)
		.max(most, `must be at most ${most * 100} %`);
const seed = z
	.int('must be a whole number')
	.min(0, 'must be at least 0')
	.max(4_294_967_295, 'must be at most 4294967295')
	.default(1);
const coordinate = lengthOr(z.number().min(-10_000_000).max(10_000_000));

/** Where cells are smaller: near a point or a line of the developed view, mm, or by a field. */
export const gradingSchema = z.discriminatedUnion('kind', [
	z.strictObject({ kind: z.literal('even') }),
	z.strictObject({
		kind: z.literal('point'),
		x: coordinate,
		y: coordinate,
		reach: lengthOr(z.number().min(1).max(10_000_000)),
		share: share(0.05, 1)
	}),
	z.strictObject({
		kind: z.literal('line'),
		points: z
			.array(z.tuple([coordinate, coordinate]))
			.min(2, 'needs at least two points')
			.max(1000),
		reach: lengthOr(z.number().min(1).max(10_000_000)),
		share: share(0.05, 1)
	}),
	/** From the share of the mean size where the field is least to that where it is greatest. */
	z.strictObject({ kind: z.literal('field'), field: wordSchema, from: share(0.05, 10), to: share(0.05, 10) })
]);
export type Grading = z.output<typeof gradingSchema>;

const cutRule = z.enum(['cut', 'whole']).default('cut');
const plain = (
	kind:
		| 'hexagons'
		| 'trihexagons'
		| 'dodecagons'
		| 'snub-square'
		| 'rhombs'
		| 'pentagons'
		| 'turned-inside'
		| 'two-squares'
		| 'mixed-squares'
		| 'staggered'
		| 'fans'
) => z.strictObject({ kind: z.literal(kind), border: cutRule });

/** How nodes become cells. Offsets and rises are shares of a field. */
export const tilingSchema = z.discriminatedUnion('kind', [
	z.strictObject({ kind: z.literal('rectangular') }),
	z.strictObject({ kind: z.literal('running-bond'), offset: share(0.05, 0.95).default(0.5), border: cutRule }),
	/** Leaning by so many fields in so many rows. */
	z.strictObject({
		kind: z.literal('rhomb'),
		fields: whole(1, 8).default(1),
		rows: whole(1, 12).default(2),
		border: cutRule
	}),
	/** Every n-th left open, or only those filled. */
	z.strictObject({
		kind: z.literal('part'),
		pattern: z.enum(['checker', 'columns', 'rows']).default('checker'),
		every: whole(2, 12).default(2),
		filled: z.boolean().default(false)
	}),
	z.strictObject({
		kind: z.literal('triangles'),
		diagonal: z.enum(['rising', 'falling', 'alternating', 'shorter', 'flatter']).default('rising')
	}),
	plain('staggered'),
	plain('fans'),
	z.strictObject({ kind: z.literal('diamonds'), border: z.enum(['cut', 'halves', 'whole']).default('cut') }),
	plain('hexagons'),
	plain('trihexagons'),
	/** Half the diagonal of the squares, as a share of a field; all sides are equal when left out. */
	z.strictObject({ kind: z.literal('octagons'), corner: share(0.05, 0.45).default(EVEN_OCTAGON), border: cutRule }),
	plain('dodecagons'),
	plain('snub-square'),
	plain('rhombs'),
	plain('pentagons'),
	z.strictObject({ kind: z.literal('herringbone'), length: whole(2, 6).default(2), border: cutRule }),
	z.strictObject({ kind: z.literal('basket-weave'), length: whole(2, 6).default(2), border: cutRule }),
	z.strictObject({ kind: z.literal('undulating'), rise: share(0.02, 0.48).default(0.2), border: cutRule }),
	plain('turned-inside'),
	plain('two-squares'),
	plain('mixed-squares'),
	/** The grid's fields thrown together at random, between least and greatest numbers of them. */
	z.strictObject({
		kind: z.literal('random'),
		leastAcross: whole(1, 1000).default(1),
		leastUp: whole(1, 1000).default(1),
		mostAcross: whole(1, 1000).default(4),
		mostUp: whole(1, 1000).default(3),
		seed
	}),
	/** Each cell is nearer to its own seed than to any other. */
	z.strictObject({
		kind: z.literal('voronoi'),
		/** Mean side of a cell, mm. */
		size: lengthOr(z.number().min(1, 'must be at least 1 mm').max(10_000_000)).default(1500),
		/** Rounds of moving seeds to the middles of their cells. */
		rounds: whole(0, 50).default(2),
		grading: gradingSchema.default({ kind: 'even' }),
		/** How far corners are rounded, as a share of the way to the middle of a side. */
		rounding: share(0, 0.9).default(0),
		seed
	}),
	/** Triangles of a ball: the sides of an icosahedron in so many parts. */
	z.strictObject({ kind: z.literal('icosahedral'), frequency: whole(1, 64).default(4), border: cutRule }),
	/** A tiling of the project's own. */
	z.strictObject({ kind: z.literal('own'), tiling: nameSchema, border: cutRule })
]);
export type Tiling = z.output<typeof tilingSchema>;
export type TilingKind = Tiling['kind'];

import { z } from 'zod';
import { contentNameSchema } from '../../content.ts';
import { labelSchema, wordSchema } from '../../names.ts';
import { faceAddress, line } from '../rules/addresses.ts';
import { lengthOr } from '../../units/lengthSchema.ts';

const coordinate = lengthOr(z.number().min(-1e8).max(1e8));
const seed = z.int().min(0).max(4_294_967_295).default(1);

/** Points, or a line through points, in space, mm. */
const shape = z.strictObject({
	kind: z.enum(['points', 'line', 'curve']),
	points: z
		.array(z.tuple([coordinate, coordinate, coordinate]))
		.min(1)
		.max(1000),
	closed: z.boolean().default(false)
});

/** Points of a picture, across or up. */
const side = z.int().min(1).max(4096);

const source = z.discriminatedUnion('kind', [
	z.strictObject({
		kind: z.literal('distance'),
		to: z.array(shape).min(1).max(50),
		combine: z.enum(['least', 'sum', 'smooth']).default('least'),
		/** Of a smooth least: within about this the nearest ones are blended, mm. */
		blend: lengthOr(z.number().positive().max(1e6)).default(1000),
		/** Straight through space, or along the face as it lies flat. */
		along: z.enum(['straight', 'face']).default('straight')
	}),
	z.strictObject({ kind: z.literal('height') }),
	/** From the starting border of the face, as it lies flat, mm. */
	z.strictObject({ kind: z.literal('along'), way: z.enum(['across', 'up']) }),
	/** Angle between the outward normal and a direction. */
	z
		.strictObject({ kind: z.literal('direction'), x: z.number(), y: z.number(), z: z.number() })
		.refine(({ x, y, z }) => x !== 0 || y !== 0 || z !== 0, { message: 'has no length, so that it points nowhere' }),
	z.strictObject({ kind: z.literal('reading'), reading: z.string().max(60) }),
	z.strictObject({ kind: z.literal('random'), seed }),
	/** Smooth noise whose hills are about so large, from 0 to 1. */
	z.strictObject({ kind: z.literal('noise'), seed, size: lengthOr(z.number().positive().max(1e7)) }),
	/** Brightness or a channel of a picture laid over the flat face. */
	z.strictObject({
		kind: z.literal('picture'),
		/** As people know it. */
		file: z.string().trim().max(200).default(''),
		/** Content: red, green and blue of each point, a byte each, row by row from the upper left one on. */
		pixels: contentNameSchema,
		width: side,
		height: side,
		channel: z.enum(['brightness', 'red', 'green', 'blue']).default('brightness'),
		/** Over the whole face, or again and again, so wide in mm. */
		lay: z.enum(['fit', 'repeat']).default('fit'),
		size: lengthOr(z.number().positive().max(1e7)).default(5000),
		/** Anticlockwise about the lower start corner of the face where it repeats, about the middle where it fits; radians. */
		turn: z.number().min(-10).max(10).default(0)
	}),
	/** By hand: on each face runs of row, first and last column, counted from 0, and a value from 0 to 1; 0 elsewhere. */
	z.strictObject({
		kind: z.literal('painted'),
		parts: z
			.array(
				z.strictObject({
					face: faceAddress,
					runs: z.array(z.tuple([line, line, line, z.number().min(0).max(1)])).max(200_000)
				})
			)
			.max(500)
			.default([])
	}),
	/** Of other fields, readings and the project's numbers. */
	z.strictObject({ kind: z.literal('formula'), formula: z.string().trim().min(1).max(300) })
]);

/** A number for every point of a face, and how it is brought to 0 to 1. */
export const fieldSchema = z.strictObject({
	id: wordSchema,
	name: labelSchema,
	source,
	/** Values that count as 0 and as 1; what occurs, least and greatest, where left out. Beyond them it stays. */
	range: z.tuple([z.number(), z.number()]).optional(),
	/** Between them: through these points from (0, y) to (1, y), rising along x. Even where left out. */
	ease: z
		.array(z.tuple([z.number().min(0).max(1), z.number().min(0).max(1)]))
		.min(2)
		.max(20)
		.refine((points) => points.every((p, k) => k === 0 || p[0] > points[k - 1]![0]), {
			error: 'must run from left to right'
		})
		.optional(),
	/** In so many steps instead of smoothly. */
	steps: z.int().min(2).max(100).optional()
});

export type Field = z.output<typeof fieldSchema>;
export type FieldShape = z.output<typeof shape>;

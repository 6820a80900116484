import { z } from 'zod';
import { labelSchema, nameSchema } from '../../names.ts';
import { lengthOr } from '../../units/lengthSchema.ts';
import { faceAddress, line } from '../rules/addresses.ts';

const coordinate = lengthOr(z.number().min(-1e8).max(1e8));
/** A node by the cell that owns it: row and column from 0, piece of a cut cell, and which of its corners, from 1. */
const node = z.tuple([line, line, z.int().min(0).max(255), z.int().min(1).max(4095)]);
/** A place of the face laid flat, mm. */
const flat = z.tuple([coordinate, coordinate]);
const space = z.tuple([coordinate, coordinate, coordinate]);
const steps = z.int().min(-10_000).max(10_000);

const source = z.discriminatedUnion('kind', [
	/** Node after node. */
	z.strictObject({ kind: z.literal('picked'), nodes: z.array(node).max(5000) }),
	/** From a node so many places of the grid up and across, again and again, until the border or for so many steps. */
	z.strictObject({
		kind: z.literal('traced'),
		from: node,
		up: steps.default(1),
		across: steps.default(0),
		most: z.int().min(1).max(10_000).optional(),
		/** Backwards from the node as well. */
		both: z.boolean().default(false)
	}),
	/** The shortest way along the face. */
	z.strictObject({ kind: z.literal('geodesic'), from: flat, to: flat }),
	/** Where a plane cuts the face. */
	z.strictObject({
		kind: z.literal('cut'),
		point: space,
		normal: z.tuple([z.number(), z.number(), z.number()]).refine(([x, y, z]) => x !== 0 || y !== 0 || z !== 0, {
			message: 'has no length, so that the plane lies nowhere'
		})
	}),
	/** A line drawn on the face laid flat: straight from point to point, or smooth. */
	z.strictObject({
		kind: z.literal('curve'),
		points: z.array(flat).min(2, 'needs at least two points').max(1000),
		smooth: z.boolean().default(true)
	}),
	/** Points in space. */
	z.strictObject({ kind: z.literal('free'), points: z.array(space).min(2, 'needs at least two points').max(1000) })
]);

const array = z.discriminatedUnion('kind', [
	/** About an upright axis through a point in plan; `angle` from one copy to the next, radians, or all around evenly. */
	z.strictObject({
		kind: z.literal('around'),
		x: coordinate.default(0),
		y: coordinate.default(0),
		count: z.int().min(2).max(720),
		angle: z.number().min(-7).max(7).optional()
	}),
	/** So many places of the grid further on each time. */
	z.strictObject({
		kind: z.literal('along'),
		way: z.enum(['across', 'up']),
		every: z.int().min(1).max(10_000).default(1),
		count: z.int().min(2).max(5000).optional()
	})
]);

/** A chain of points of the designer's own, which kits for paths stand on. */
export const pathSchema = z.strictObject({
	id: nameSchema,
	name: labelSchema,
	/** Copies bear a number behind it. */
	mark: z
		.string()
		.trim()
		.min(1, 'must not be empty')
		.max(20)
		.regex(/^[\p{L}\p{N}_.-]*$/u, 'may hold letters, digits, dots, hyphens and low lines'),
	face: faceAddress,
	source,
	/** The last point is joined to the first. */
	closed: z.boolean().default(false),
	/** Off the face along its normals, mm. */
	lift: coordinate.default(0),
	/** Points of lines that follow the face are at most so far from each other, mm. */
	spacing: lengthOr(z.number().min(10, 'must be at least 10 mm').max(1e6)).default(500),
	/** With a mirrored twin: steps across the other way, or mirrored in the upright plane through the axis of its array. */
	mirrored: z.boolean().default(false),
	array: array.optional(),
	/** Where it crosses its twins it goes over and under them in turn, so far from their middles, mm; none at 0. */
	weave: lengthOr(z.number().min(0).max(100_000)).default(0)
});

export type DrawnPath = z.output<typeof pathSchema>;
export type NodeKey = z.output<typeof node>;

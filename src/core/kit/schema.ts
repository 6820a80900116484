import { z } from 'zod';
import { labelSchema as label, nameSchema as name } from '../names.ts';

/** A plain number, or the name of one of the kit's parameters. */
const value = z.union([z.number(), name]);

const parameter = z
	.strictObject({
		name,
		label,
		/** Lengths are mm, angles radians. */
		quantity: z.enum(['length', 'angle', 'ratio', 'count']),
		default: z.number(),
		least: z.number(),
		greatest: z.number(),
		help: z.string().max(300).default('')
	})
	.refine((p) => p.least <= p.default && p.default <= p.greatest, {
		message: 'the default must lie between least and greatest',
		path: ['default']
	});

const line = { name };
const part = {
	name,
	role: z.enum(['pane', 'frame', 'reveal', 'mullion', 'louver', 'connector']),
	/** Id of one of the project's materials. */
	material: name,
	/** Thickness for the weight, mm; a thin part is drawn without it. */
	thickness: value,
	/** Whether the part counts in the schedule. */
	scheduled: z.boolean().default(true)
};

export const stepSchema = z.discriminatedUnion('kind', [
	/** Closed line through the host's corners. */
	z.strictObject({ kind: z.literal('outline'), ...line }),
	/** Closed line at a distance inside another, measured square to each edge. */
	z.strictObject({ kind: z.literal('inset'), ...line, of: name, distance: value }),
	/** A line moved along the host's normal. */
	z.strictObject({
		kind: z.literal('lift'),
		...line,
		of: name,
		distance: value,
		towards: z.enum(['outside', 'inside'])
	}),
	/** Thin fill of a closed line, with an optional hole of as many corners. */
	z.strictObject({ kind: z.literal('sheet'), ...part, outline: name, hole: name.optional() }),
	/** Strip between two closed lines of as many corners. */
	z.strictObject({ kind: z.literal('ribbon'), ...part, from: name, to: name })
]);

export const kitSchema = z.strictObject({
	id: name,
	name: label,
	version: z.int().min(1).default(1),
	host: z.strictObject({
		kind: z.literal('cell'),
		/** Corner counts that the kit fits. */
		leastCorners: z.int().min(3).max(64),
		greatestCorners: z.int().min(3).max(64)
	}),
	parameters: z.array(parameter).max(100),
	steps: z.array(stepSchema).min(1).max(200)
});

export type Kit = z.output<typeof kitSchema>;
export type KitParameter = Kit['parameters'][number];
export type Step = z.output<typeof stepSchema>;
export type StepKind = Step['kind'];
export type PartStep = Extract<Step, { role: string }>;
export type PartRole = PartStep['role'];

import { z } from 'zod';
import { baySize } from './baySize.ts';
import { MOST_CORNERS } from './corners.ts';
import { labelSchema as label, nameSchema as id, wordSchema } from '../names.ts';
import { lengthOr } from '../units/lengthSchema.ts';
import { STEP_SCHEMA } from './stepKinds.ts';

const described = {
	name: wordSchema,
	label,
	/** Parameters of one group stand together. */
	group: z.string().trim().max(60).default(''),
	help: z.string().max(300).default('')
};
const length = lengthOr(z.number());
const formula = z.string().trim().min(1).max(300).optional();

const numeric = {
	...described,
	default: z.number(),
	least: z.number(),
	greatest: z.number(),
	/** Where nothing is given, the value follows from this. */
	formula,
	/** One value for all hosts, or one for each. */
	scope: z.enum(['kit', 'host']).default('kit')
};

const parameter = z
	.discriminatedUnion('quantity', [
		/** Lengths are mm, angles radians. */
		z.strictObject({ quantity: z.literal('length'), ...numeric, default: length, least: length, greatest: length }),
		z.strictObject({ quantity: z.enum(['angle', 'ratio']), ...numeric }),
		z.strictObject({ quantity: z.literal('count'), ...numeric, default: z.int(), least: z.int(), greatest: z.int() }),
		/** 1 is yes. */
		z.strictObject({
			quantity: z.literal('yesno'),
			...numeric,
			default: z.literal([0, 1]),
			least: z.literal(0).default(0),
			greatest: z.literal(1).default(1)
		}),
		/** Numbered from 0, in the order of `choices`. */
		z.strictObject({
			quantity: z.literal('choice'),
			...described,
			choices: z.array(z.string().trim().min(1).max(60)).min(1).max(50),
			default: z.int().min(0),
			scope: z.enum(['kit', 'host']).default('kit')
		}),
		/** Id of one of the project's materials. */
		z.strictObject({ quantity: z.literal('material'), ...described, default: id }),
		z.strictObject({ quantity: z.literal('text'), ...described, default: z.string().max(120).default('') })
	])
	.superRefine((p, context) => {
		const report = (path: string, message: string) =>
			context.addIssue({ code: 'custom', path: [path], message, input: p });
		if ('least' in p && !(p.least <= p.default && p.default <= p.greatest))
			report('default', 'the default must lie between least and greatest');
		if (p.quantity === 'choice' && p.default >= p.choices.length)
			report('default', `there are ${p.choices.length} choices, counted from 0`);
	});

/** A length among the parameters: how thick the kit is at nodes, so that bars end before it. */
const section = wordSchema.optional();
const corners = z.int().min(3).max(MOST_CORNERS);
const host = z
	.discriminatedUnion('kind', [
		/** A field of the tiling, of any of these numbers of corners. */
		z.strictObject({ kind: z.literal('cell'), leastCorners: corners, greatestCorners: corners }),
		/** A cell with depth, from the face to its second layer. */
		z.strictObject({ kind: z.literal('box'), leastCorners: corners, greatestCorners: corners }),
		/** The line between two cells, or at a border. */
		z.strictObject({
			kind: z.literal('edge'),
			edges: z
				.array(z.enum(['across', 'up', 'diagonal', 'border']))
				.max(4)
				.default([]),
			/** Where it lies: on the face, on the second layer, there between the middles of neighbouring cells, or from one to the other. */
			on: z.enum(['face', 'layer', 'middles', 'rising', 'falling']).default('face'),
			section
		}),
		/** A point of the setting-out, with the edges that meet there. */
		z.strictObject({ kind: z.literal('node'), nodes: z.enum(['all', 'inside', 'border']).default('all'), section }),
		/** A chain of nodes. */
		z.strictObject({
			kind: z.literal('path'),
			along: z.enum(['across', 'up']).default('across'),
			every: z.int().min(1).max(1000).default(1),
			/** A kit that is made for so many points, no more and no fewer. */
			points: z.int().min(2).max(1000).optional()
		}),
		/** So many fields of the grid together, with all their points. */
		z.strictObject({ kind: z.literal('bay'), ...baySize })
	])
	.refine((h) => !('leastCorners' in h) || h.leastCorners <= h.greatestCorners, {
		path: ['leastCorners'],
		message: 'must not exceed greatestCorners'
	});

const steps = z.array(STEP_SCHEMA).min(1).max(200);

export const kitSchema = z
	.strictObject({
		id,
		name: label,
		version: z.int().min(1).default(1),
		/** What it is for, in a line. */
		help: z.string().max(300).default(''),
		host,
		parameters: z.array(parameter).max(100),
		steps,
		/** Other steps for hosts of these numbers of corners. */
		variants: z
			.array(z.strictObject({ corners: z.array(corners).min(1).max(62), steps }))
			.max(20)
			.default([])
	})
	.refine(
		({ host, parameters }) =>
			!('section' in host) ||
			host.section === undefined ||
			parameters.some((p) => p.name === host.section && p.quantity === 'length'),
		{ path: ['host', 'section'], message: 'must name a parameter of the kit that is a length' }
	);

export type Kit = z.output<typeof kitSchema>;
/** The steps of a kit with those of all its variants. */
export const allSteps = (kit: Kit): Step[] => [...kit.steps, ...kit.variants.flatMap((v) => v.steps)];

export type KitInput = z.input<typeof kitSchema>;
export type KitHost = Kit['host'];
export type KitParameter = Kit['parameters'][number];
export type Step = z.output<typeof STEP_SCHEMA>;
export type PartStep = Extract<Step, { role: string }>;

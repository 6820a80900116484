import { z } from 'zod';
import { BESIDE_READINGS } from '../../kit/hostReadings.ts';
import { baySize } from '../../kit/baySize.ts';
import { labelSchema, nameSchema, wordSchema } from '../../names.ts';
import { READINGS } from '../../readings/faceReadings.ts';
import { lengthOr } from '../../units/lengthSchema.ts';
import { faceAddress, line } from './addresses.ts';

/** What the rules of a set stand on: cells are those with depth, too. */
export const SET_HOSTS = ['cell', 'edge', 'node', 'path', 'bay'] as const;
export type SetHost = (typeof SET_HOSTS)[number];

/** Rules of which the first that holds takes the host; sets add to each other. */
export const setSchema = z
	.strictObject({
		id: nameSchema,
		name: labelSchema,
		host: z.enum(SET_HOSTS),
		/** Of bays: their size, by which they step over a face. */
		bay: z.strictObject(baySize).optional()
	})
	.refine(({ host, bay }) => (host === 'bay') === (bay !== undefined), {
		path: ['bay'],
		message: 'must be there for bays, and for nothing else'
	});

/** What is wrong with bounds that are none. */
const outOfOrder = { path: ['from'], message: 'wants a least or a greatest value, the least one first' };
const formula = z.string().trim().min(1).max(300);
const bound = z.number().optional();
const place = z.int().min(1).max(100_000);
const seed = z.int().min(0).max(4_294_967_295).default(1);
const readings = new Set([
	...Object.keys(READINGS).map((name) => name.slice(name.indexOf('.') + 1)),
	...Object.keys(BESIDE_READINGS)
]);
const reading = z
	.string()
	.max(60)
	.refine((name) => readings.has(name) || name === 'points', { error: 'is no reading' });

/** States of cells at borders; of edges and nodes those that they touch. The last two are borders at which another face, or one that stands earlier, meets. */
export const BORDER_STATES = ['whole', 'cut', 'border', 'opening', 'face', 'earlier'] as const;

const plain = [
	z.strictObject({ kind: z.literal('zone'), zone: nameSchema }),
	z.strictObject({ kind: z.literal('face'), faces: z.array(faceAddress).min(1).max(500) }),
	/** Of the tiling's kinds of cells. */
	z.strictObject({ kind: z.literal('role'), role: z.string().trim().min(1).max(60) }),
	/** In that state, or within so many cells of one that is. */
	z.strictObject({
		kind: z.literal('border'),
		state: z.enum(BORDER_STATES),
		within: z.int().min(0).max(1000).default(0)
	}),
	/** Rows or columns, counted from 1 as marks count them: every n-th from the first one on. */
	z
		.strictObject({
			kind: z.literal('lines'),
			of: z.enum(['row', 'column']),
			from: place.default(1),
			to: place.optional(),
			every: place.default(1)
		})
		.refine(({ from, to }) => to === undefined || from <= to, {
			path: ['to'],
			message: 'must not be before the first one'
		}),
	/** Row and column together odd, or even. */
	z.strictObject({ kind: z.literal('checker'), odd: z.boolean().default(false) }),
	z.strictObject({ kind: z.literal('reading'), reading, from: bound, to: bound }).refine(inOrder, outOfOrder),
	/** Among so many that have the least, or greatest, on their face. */
	z.strictObject({
		kind: z.literal('rank'),
		reading,
		most: z.enum(['least', 'greatest']),
		count: z.int().min(1).max(1_000_000)
	}),
	/** A share that the seed chooses, together in clumps of about a size. */
	z.strictObject({
		kind: z.literal('share'),
		share: z.number().min(0).max(1),
		seed,
		/** mm; 0 lets every host by itself. */
		clump: lengthOr(z.number().min(0).max(1_000_000)).default(0)
	}),
	/** Within so many hosts of those that an earlier rule has taken. */
	z.strictObject({ kind: z.literal('beside'), rule: nameSchema, within: z.int().min(1).max(1000).default(1) }),
	z.strictObject({ kind: z.literal('field'), field: wordSchema, from: bound, to: bound }).refine(inOrder, outOfOrder),
	/** Drawn by one of these paths; rules without this condition take none that is drawn. */
	z.strictObject({ kind: z.literal('path'), paths: z.array(nameSchema).min(1).max(500) }),
	z.strictObject({ kind: z.literal('formula'), formula })
] as const;

function inOrder({ from, to }: { from?: number | undefined; to?: number | undefined }): boolean {
	return (from !== undefined || to !== undefined) && (from ?? -Infinity) <= (to ?? Infinity);
}

/** A part of where a rule holds. Readings and fields are mm, mm2, radians or plain numbers. */
export type Condition =
	z.output<(typeof plain)[number]> | { kind: 'any'; of: Condition[] } | { kind: 'not'; of: Condition };

const condition: z.ZodType<Condition> = z.discriminatedUnion('kind', [
	...plain,
	z.strictObject({
		kind: z.literal('any'),
		get of() {
			return z.array(condition).min(1).max(20);
		}
	}),
	z.strictObject({
		kind: z.literal('not'),
		get of() {
			return condition;
		}
	})
]) as z.ZodType<Condition>;

/** Conditions stand so deep within each other at most. */
const DEEPEST = 8;

const isTooDeep = (value: unknown, depth = 0): boolean => {
	if (typeof value !== 'object' || value === null) return false;
	const { of } = value as { of?: unknown };
	return depth > DEEPEST || [of].flat().some((inner) => isTooDeep(inner, depth + 1));
};

/** All of these must hold. How deep they go is looked at first, so that a hostile document does not use up the stack. */
const whereSchema = z.preprocess((raw, context) => {
	if (Array.isArray(raw) && raw.some((c) => isTooDeep(c))) {
		context.addIssue({
			code: 'custom',
			message: `conditions stand at most ${DEEPEST} deep within each other`,
			input: raw
		});
		return z.NEVER;
	}
	return raw;
}, z.array(condition).max(20));

const plainValue = z.union([z.number(), z.string().max(120)]);

/** A value of a kit's parameter that differs from host to host. */
const varyingValue = z.discriminatedUnion('kind', [
	/** Over the host's readings, fields and the project's numbers. */
	z.strictObject({ kind: z.literal('formula'), formula }),
	/** From the value where the field is least to that where it is greatest. */
	z.strictObject({ kind: z.literal('field'), field: wordSchema, from: z.number(), to: z.number() }),
	/** One of several, in as many equal steps of the field. */
	z.strictObject({ kind: z.literal('steps'), field: wordSchema, values: z.array(plainValue).min(1).max(50) }),
	/** One after the other along rows or columns, again and again. */
	z.strictObject({
		kind: z.literal('list'),
		along: z.enum(['row', 'column']),
		values: z.array(plainValue).min(1).max(200)
	}),
	/** As the seed chooses, the more often the greater its weight. */
	z.strictObject({
		kind: z.literal('choice'),
		seed,
		values: z
			.array(z.strictObject({ value: plainValue, weight: z.number().positive().max(1_000_000).default(1) }))
			.min(1)
			.max(50)
	})
]);

/** Values that differ from the kit's defaults, by parameter name: numbers, or texts for texts and materials. */
const valuesSchema = z.record(wordSchema, z.union([plainValue, varyingValue])).default({});

const coordinate = lengthOr(z.number().min(-1e8).max(1e8));
const far = { x: z.number(), y: z.number(), z: z.number() };

/** Left and right change over, as in a mirror; the first side stays the first. */
const mirrored = z.boolean().optional();

/** Which corner of a cell a kit begins at. */
export const turnSchema = z.discriminatedUnion('kind', [
	/** So many corners further on. */
	z.strictObject({ kind: z.literal('quarters'), quarters: z.int().min(0).max(63), mirrored }),
	/** At the lowest corner. */
	z.strictObject({ kind: z.literal('lowest'), mirrored }),
	/** The side across from the first one looks this way. */
	z
		.strictObject({ kind: z.literal('direction'), ...far, mirrored })
		.refine(({ x, y, z }) => x !== 0 || y !== 0 || z !== 0, { message: 'has no length, so that it points nowhere' }),
	/** The side across from the first one looks to a point, mm. */
	z.strictObject({ kind: z.literal('point'), x: coordinate, y: coordinate, z: coordinate, mirrored })
]);

/** "Where this holds, place that kit with these values." */
export const ruleSchema = z.strictObject({
	id: nameSchema,
	/** Otherwise it is called by its sentence. */
	name: labelSchema.optional(),
	set: nameSchema,
	/** On which faces; on all where none is named. */
	faces: z.array(faceAddress).max(500).default([]),
	/** All of these must hold; without any it takes all others. */
	where: whereSchema.default([]),
	/** Nothing where hosts are left open. */
	kit: nameSchema.nullable(),
	values: valuesSchema,
	turn: turnSchema.optional(),
	/** On cells that are cut the kit stands as on the whole cell, and the opening takes off its parts what it takes off the cell; without it the kit fits itself to what is left. */
	trim: z
		.strictObject({
			/** mm; pieces of cut parts that are narrower, or bars that are shorter, are left out. */
			least: lengthOr(z.number().min(0).max(100_000)).default(0)
		})
		.optional()
});

/**
 * What is set by hand on hosts of one face, above all rules of a set. Hosts are runs along rows: row, first and last
 * column, piece of a cut cell, and of edges and nodes the side or corner that they are named by (else 0).
 */
export const overrideSchema = z.strictObject({
	id: nameSchema,
	set: nameSchema,
	face: faceAddress,
	hosts: z
		.array(z.tuple([line, line, line, z.int().min(0).max(255), z.int().min(0).max(4095)]))
		.min(1)
		.max(200_000),
	/** Another kit; nothing where they are left open. Where left out, the rule's stands. */
	kit: nameSchema.nullable().optional(),
	values: valuesSchema,
	turn: turnSchema.optional()
});

/** A number that rules share, by the name that formulas call it. */
export const numberSchema = z.strictObject({
	id: wordSchema,
	name: labelSchema,
	quantity: z.enum(['length', 'angle', 'ratio', 'count']),
	/** mm, radians or plain. */
	value: z.number()
});

export type RuleSet = z.output<typeof setSchema>;
export type Rule = z.output<typeof ruleSchema>;
export type Override = z.output<typeof overrideSchema>;
export type SharedNumber = z.output<typeof numberSchema>;
export type Turn = z.output<typeof turnSchema>;
export type VaryingValue = z.output<typeof varyingValue>;
export type RuleValue = Rule['values'][string];
export const varies = (value: RuleValue): value is VaryingValue => typeof value === 'object';

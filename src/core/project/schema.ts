import { z } from 'zod';
import { kitSchema, NAME } from '../kit/schema.ts';
import { checkProject } from './check.ts';

export const FORMAT = 'zygaster-project';
export const VERSION = 1;

const id = z
	.string()
	.regex(NAME, 'must start with a letter and hold only letters, digits and hyphens')
	.max(60);
const label = z.string().trim().min(1, 'must not be empty').max(120);
/** Lengths stay within 100 km, so that a mistyped figure is caught before it is computed. */
const length = z.number().min(-1e8).max(1e8);
const positive = z.number().min(1, 'must be at least 1 mm').max(1e8);

const loftSection = z.strictObject({
	at: z.number().min(0).max(1),
	span: positive,
	rise: length,
	lean: length.default(0),
	shift: length.default(0),
	startHeight: length.default(0),
	endHeight: length.default(0)
});

const loft = z.strictObject({
	kind: z.literal('loft'),
	length: positive,
	sections: z.array(loftSection).min(2, 'needs at least two sections').max(50)
});

const spacing = z.strictObject({
	kind: z.literal('count'),
	count: z
		.int('must be a whole number')
		.min(1, 'must be at least 1')
		.max(1_000_000, 'must be at most 1 000 000')
});

const face = z.strictObject({
	id,
	name: label,
	/** What the marks of its panels start with. */
	mark: z
		.string()
		.trim()
		.regex(/^[A-Za-z0-9]{1,12}$/, 'must be 1 to 12 letters or digits'),
	settingOut: z.strictObject({ across: spacing, up: spacing }),
	tiling: z.strictObject({ kind: z.literal('rectangular') })
});

const mass = z.strictObject({
	id,
	name: label,
	shape: z.discriminatedUnion('kind', [loft]),
	faces: z.array(face).min(1).max(500)
});

const material = z.strictObject({
	id,
	name: label,
	/** kg/m3 */
	density: z.number().positive().max(30_000),
	colour: z.string().regex(/^#[0-9a-fA-F]{6}$/, 'must be a colour such as #2B7A73'),
	/** 0 lets everything through, 1 nothing. */
	opacity: z.number().min(0).max(1).default(1)
});

const rule = z.strictObject({
	id,
	/** `mass/face`, by ids. */
	face: z.string().max(121),
	kit: id,
	/** Values that differ from the kit's defaults, by parameter name. */
	values: z.record(id, z.number()).default({})
});

/** The saved project: what is wanted, never the geometry that follows from it. */
export const projectSchema = z
	.strictObject({
		format: z.literal(FORMAT),
		version: z.literal(VERSION),
		name: label,
		units: z.enum(['mm', 'm', 'ft-in']),
		materials: z.array(material).max(500),
		kits: z.array(kitSchema).max(500),
		masses: z.array(mass).max(500),
		/** Placement: the last rule that names a face places its kit there. */
		rules: z.array(rule).max(5000)
	})
	.superRefine(checkProject);

export type Project = z.output<typeof projectSchema>;
export type Mass = Project['masses'][number];
export type Face = Mass['faces'][number];
export type Rule = Project['rules'][number];
export type Material = Project['materials'][number];

/** Address of a face within a project. */
export const faceKey = (mass: Pick<Mass, 'id'>, face: Pick<Face, 'id'>) => `${mass.id}/${face.id}`;

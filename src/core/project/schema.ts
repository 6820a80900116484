import { pathSchema } from '../placement/drawn/schema.ts';
import { z } from 'zod';
import { contentNameSchema } from '../content.ts';
import { kitSchema } from '../kit/schema.ts';
import { labelSchema as label, nameSchema as id } from '../names.ts';
import { length } from '../mass/fields.ts';
import { frameSchema, STANDING_FRAME } from '../mass/frame.ts';
import { shapeSchema } from '../mass/shapes.ts';
import { fieldSchema } from '../placement/fields/schema.ts';
import { numberSchema, overrideSchema, ruleSchema, setSchema } from '../placement/rules/schema.ts';
import { costsSchema } from '../schedule/cost/schema.ts';
import { noteSchema, ownTableSchema } from '../schedule/own/schema.ts';
import { typeSettingsSchema } from '../schedule/types/schema.ts';
import { handoverSchema } from './handover.ts';
import { settingOutSchema } from '../settingout/spacing.ts';
import { markSchema } from '../tiling/marks.ts';
import { bordersSchema, openingSchema } from '../tiling/openings/schema.ts';
import { orderSchema } from '../tiling/order.ts';
import { tilingSchema } from '../tiling/schema.ts';
import { unitSchema } from '../tiling/units/unit.ts';
import { checkProject } from './check.ts';
import { remembered } from './sound.ts';

export const FORMAT = 'zygaster-project';
export const VERSION = 8;

const face = remembered(
	z.strictObject({
		id,
		name: label,
		/** What the marks of its panels start with. */
		mark: z
			.string()
			.trim()
			.regex(/^[A-Za-z0-9]{1,12}$/, 'must be 1 to 12 letters or digits'),
		/** Not drawn. */
		hidden: z.boolean().default(false),
		/** The outside is the other side. */
		insideOut: z.boolean().default(false),
		/** Divided and clad; otherwise a mere surface of the mass. */
		facade: z.boolean().default(true),
		/** What it is in building models; `auto` goes by how it leans. */
		element: z.enum(['auto', 'curtainWall', 'roof', 'covering', 'proxy']).default('auto'),
		settingOut: settingOutSchema,
		openings: remembered(z.array(remembered(openingSchema)).max(500)).default([]),
		/** What becomes of cells at openings and borders. */
		borders: bordersSchema.prefault({}),
		tiling: tilingSchema,
		/** How the marks of its cells are written. */
		marks: markSchema,
		/** In which order its cells are counted. */
		order: orderSchema.prefault({})
	})
);

const mass = remembered(
	z.strictObject({
		id,
		name: label,
		shape: remembered(shapeSchema),
		frame: frameSchema.default(STANDING_FRAME),
		faces: remembered(z.array(face).min(1).max(500))
	})
);

const level = remembered(z.strictObject({ id, name: label, height: length }));

/** Neighbouring buildings, ground: shown grey, never divided. */
const reference = remembered(
	z.strictObject({
		id,
		name: label,
		hidden: z.boolean().default(false),
		/** Content: Float32 coordinates in mm, little endian. */
		positions: contentNameSchema,
		/** Content: Uint32 indices, three a triangle, little endian. */
		triangles: contentNameSchema
	})
);

export const materialSchema = remembered(
	z.strictObject({
		id,
		name: label,
		/** kg/m3 */
		density: z.number().positive().max(30_000),
		colour: z.string().regex(/^#[0-9a-fA-F]{6}$/, 'must be a colour such as #2B7A73'),
		/** Of its surface, such as “anodised, natural”; for people. */
		finish: z.string().trim().max(120).optional(),
		/** 0 lets everything through, 1 nothing. */
		opacity: z.number().min(0).max(1).default(1)
	})
);

/** A mesh from a file, for modules: in a box from 0 to 1 along each axis. */
export const moduleSchema = remembered(
	z.strictObject({
		id,
		name: label,
		/** Content: Float32 coordinates, little endian. */
		positions: contentNameSchema,
		/** Content: Uint32 indices, three a triangle, little endian. */
		triangles: contentNameSchema
	})
);

/** Cells of one face that belong to a zone, as runs along rows: row, first and last column, counted from 0. */
const zonePart = remembered(
	z.strictObject({
		face: z.string().max(121),
		runs: remembered(z.array(remembered(z.tuple([z.int().min(0), z.int().min(0), z.int().min(0)]))).max(200_000))
	})
);

/** A named set of cells painted by hand. */
const zone = remembered(
	z.strictObject({
		id,
		name: label,
		colour: z.string().regex(/^#[0-9a-fA-F]{6}$/, 'must be a colour such as #2B7A73'),
		parts: remembered(z.array(zonePart).max(5000)).default([])
	})
);

/** A tiling of the project's own, as its repeating unit. */
export const ownTiling = remembered(z.strictObject({ id, name: label, unit: unitSchema }));

/** The saved project: what is wanted, never the geometry that follows from it. */
export const projectSchema = z
	.strictObject({
		format: z.literal(FORMAT),
		version: z.literal(VERSION),
		name: label,
		/** By which its pieces are told from those of other projects, in files that want ids unlike all others. */
		uid: id.optional(),
		units: z.enum(['mm', 'm', 'ft-in']),
		materials: remembered(z.array(materialSchema).max(500)),
		kits: remembered(z.array(remembered(kitSchema)).max(500)),
		/** Meshes that modules of kits are made of. */
		modules: remembered(z.array(moduleSchema).max(200)).default([]),
		/** Named heights that shapes hang on. */
		levels: remembered(z.array(level).max(500)).default([]),
		masses: remembered(z.array(mass).max(500)),
		zones: remembered(z.array(zone).max(200)).default([]),
		/** Tilings of the project's own. */
		tilings: remembered(z.array(ownTiling).max(200)).default([]),
		references: remembered(z.array(reference).max(100)).default([]),
		/** Numbers that rules share. */
		numbers: remembered(z.array(remembered(numberSchema)).max(200)).default([]),
		/** Numbers for every point of a face, which rules and values follow. */
		fields: remembered(z.array(remembered(fieldSchema)).max(200)).default([]),
		/** Chains of points that kits stand on beside the lines of the setting-out. */
		paths: remembered(z.array(remembered(pathSchema)).max(2000)).default([]),
		/** Sets of rules, in the order in which their parts are made. */
		sets: remembered(z.array(remembered(setSchema)).max(100)).default([]),
		/** Placement: within a set the first rule that holds takes the host. */
		rules: remembered(z.array(remembered(ruleSchema)).max(5000)).default([]),
		/** What is set by hand, above all rules; later ones above earlier ones. */
		overrides: remembered(z.array(remembered(overrideSchema)).max(50_000)).default([]),
		/** Schedules of the project's own. */
		tables: remembered(z.array(remembered(ownTableSchema)).max(100)).default([]),
		/** What people have written beside rows of them. */
		notes: remembered(z.array(remembered(noteSchema)).max(50_000)).default([]),
		/** What pieces are priced by. */
		costs: remembered(costsSchema).prefault({}),
		/** How pieces are sorted into types. */
		types: remembered(typeSettingsSchema).prefault({}),
		/** What is handed over together. */
		handover: remembered(handoverSchema).prefault({})
	})
	.superRefine(checkProject);

export type Project = z.output<typeof projectSchema>;
export type Mass = Project['masses'][number];
export type Face = Mass['faces'][number];
export type OwnTiling = Project['tilings'][number];
export type Zone = Project['zones'][number];
export type Level = Project['levels'][number];
export type Material = Project['materials'][number];
export type ModuleMesh = Project['modules'][number];

/** Address of a face within a project. */
export const faceKey = (mass: Pick<Mass, 'id'>, face: Pick<Face, 'id'>) => `${mass.id}/${face.id}`;

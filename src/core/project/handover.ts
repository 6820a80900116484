import { z } from 'zod';
import { ROLES } from '../kit/fields.ts';
import { nameSchema } from '../names.ts';
import { sheetSchema } from './sheets.ts';

const metres = z.number().min(-1e8).max(1e8);

/** Where the project's origin is on a map. */
const mapPlaceSchema = z.strictObject({
	/** The map's coordinate reference system, such as EPSG:25832. */
	crs: z.string().trim().min(1).max(60),
	/** Of the origin, m. */
	eastings: metres,
	northings: metres,
	height: metres.default(0),
	/** From the map's north to the project's, which is along y, radians clockwise. */
	turn: z.number().min(-10).max(10).default(0)
});
export type MapPlace = z.output<typeof mapPlaceSchema>;

/** What a code of a classification may be given to: roles of parts, and what faces are. */
export const CLASSIFIED = [...ROLES, 'curtainWall', 'roof', 'covering', 'proxy', 'opening', 'window', 'door'] as const;
export type Classified = (typeof CLASSIFIED)[number];

/** The client's system of classes, for building models. */
const classificationSchema = z.strictObject({
	name: z.string().trim().min(1, 'must have a name').max(120),
	/** Who publishes it. */
	source: z.string().trim().max(120).default(''),
	edition: z.string().trim().max(60).default(''),
	codes: z
		.array(
			z.strictObject({
				of: z.enum(CLASSIFIED),
				code: z.string().trim().min(1, 'must have a code').max(60),
				title: z.string().trim().max(120).default('')
			})
		)
		.max(CLASSIFIED.length)
		.default([])
});

/** What is handed over together. */
export const handoverSchema = z.strictObject({
	/** Of the set, such as Tender. */
	name: z.string().trim().max(60).default(''),
	/** Files by their formats; of schedules of the project's own with the table. */
	files: z
		.array(
			z.strictObject({
				format: z.string().regex(/^[a-z0-9]+$/, 'must be the name of a format'),
				table: nameSchema.optional()
			})
		)
		.max(200)
		.default([]),
	/** What is chosen for files: by format, or by the name of those that are set together. */
	options: z
		.record(
			z.string().max(40),
			z.record(
				z.string().max(40),
				z.union([
					z.boolean(),
					z.number(),
					z.string().max(120),
					z.array(z.union([z.number(), z.string().max(60)])).max(60)
				])
			)
		)
		.default({}),
	/** For building models; left out where nobody knows it. */
	place: mapPlaceSchema.optional(),
	/** For building models; left out where there is none. */
	classification: classificationSchema.optional(),
	/** Drawings on paper, in their order. */
	sheets: z.array(sheetSchema).max(100).default([])
});
export type Handover = z.output<typeof handoverSchema>;
export type HandoverFile = Handover['files'][number];

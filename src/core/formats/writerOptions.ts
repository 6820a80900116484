import { z } from 'zod';
import { ROLES } from '../kit/fields.ts';
import { nameSchema } from '../names.ts';
import { MAIN_CELL_READINGS, type MainCellReading } from '../readings/cellReadings.ts';
import { TABLE_UNITS } from '../units/tableUnits.ts';

// What may be chosen for files, by their writers; all of it has defaults.

export const noOptions = z.strictObject({});
export const tableOptions = z.strictObject({
	/** Of lengths; areas follow. */
	units: z.enum(TABLE_UNITS).default('mm')
});

export const ownOptions = z.strictObject({
	...tableOptions.shape,
	/** Id of the table. */
	table: nameSchema
});

export const drawingOptions = z.strictObject({
	/** Id of a sheet whose drawing it is to be; all faces laid flat where none is named. */
	sheet: nameSchema.optional()
});
export const svgOptions = z.strictObject({
	...drawingOptions.shape,
	/** 1 to so many. */
	scale: z.int().min(1).max(10_000).default(100)
});

export const cutSheetOptions = z.strictObject({
	/** Only pieces of this role. */
	role: z.enum(ROLES).optional(),
	/** Only so many types, the most frequent of each role first. */
	most: z.int().min(1).max(1_000_000).optional()
});

export const meshOptions = z.strictObject({
	units: z.enum(['mm', 'm']).default('mm')
});

const mainReadings = Object.keys(MAIN_CELL_READINGS) as [MainCellReading, ...MainCellReading[]];
export const ifcOptions = z.strictObject({
	/** Voids of openings, with the windows and doors in them. */
	openings: z.boolean().default(true),
	/** Grid lines and setting-out nodes. */
	grid: z.boolean().default(false),
	/** What is told of the cells that pieces stand on. */
	readings: z.array(z.enum(mainReadings)).max(mainReadings.length).default(['area', 'warp', 'tilt'])
});

export const glbOptions = z.strictObject({
	/** Equal bodies once, put up by `EXT_mesh_gpu_instancing`. */
	instances: z.boolean().default(false),
	/** Positions in 16 bits (`KHR_mesh_quantization`). */
	quantised: z.boolean().default(false)
});

const bought = z.number().positive().max(100_000);
export const cutOptions = z.strictObject({
	...tableOptions.shape,
	/** mm: lengths that bars are delivered in, what a cut takes away, and what is cut off both ends together. */
	lengths: z.array(bought).min(1).max(20).default([6000]),
	kerf: z.number().min(0).max(100).default(4),
	trim: z.number().min(0).max(1000).default(20)
});

export const pdfOptions = z.strictObject({
	/** Ids of sheets; all of them where nothing is said. */
	sheets: z.array(nameSchema).min(1).max(100).optional()
});

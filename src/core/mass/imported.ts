import { z } from 'zod';
import { contentNameSchema, contentOf, float64sOf, hasContent } from '../content.ts';
import { fitSurface } from '../geometry/fitted.ts';
import { labelSchema, nameSchema } from '../names.ts';
import type { ShapeKind } from './shapeKind.ts';

const fraction = z.number().min(0);

const importedFace = z.strictObject({
	id: nameSchema,
	name: labelSchema,
	columns: z.int().min(4).max(1000),
	rows: z.int().min(4).max(1000),
	/** The face closes on itself across; a row then does not repeat its first point. */
	closedAcross: z.boolean(),
	/** Content: Float64 coordinates in mm, little endian: x, y, z of each point, row by row. */
	points: contentNameSchema,
	/** What was found when it was laid over: area of the mesh in mm2, ... */
	meshArea: fraction,
	/** ... how much longer one direction is laid than the other at worst, as a ratio, ... */
	stretch: fraction,
	/** ... and the greatest distance between the mesh and the face, mm. */
	deviation: fraction,
	/** Points around each hole of the mesh, mm; a new face takes them over as openings. */
	holes: z
		.array(
			z
				.array(z.tuple([z.number(), z.number(), z.number()]))
				.min(3)
				.max(1000)
		)
		.max(500)
		.default([])
});

/** Faces that were brought in from a file, each through a grid of points on the file's mesh. */
export const importedSchema = z.strictObject({
	kind: z.literal('imported'),
	/** Where it came from, for the reader. */
	file: z.string().trim().min(1).max(255),
	faces: z.array(importedFace).min(1).max(500)
});

export type ImportedShape = z.output<typeof importedSchema>;
export type ImportedFace = ImportedShape['faces'][number];

export const imported: ShapeKind<ImportedShape> = {
	label: 'From a file',
	help: 'Faces brought in from a model file',
	faces: ({ faces }) => faces.map(({ id, name }) => ({ id, name })),
	surfaces: ({ faces }) =>
		faces.map(({ columns, rows, closedAcross, points }) =>
			fitSurface({ columns, rows, closedAcross, points: float64sOf(points) })
		),
	holes: ({ faces }) => faces.map((f) => f.holes),
	check: ({ faces }, report) =>
		faces.forEach((face, k) => {
			const wanted = face.columns * face.rows * 24;
			// Where it is not here, whoever makes the face tells.
			const bytes = hasContent(face.points) ? contentOf(face.points).length : wanted;
			if (bytes !== wanted)
				report(
					['faces', k, 'points'],
					`${face.columns} × ${face.rows} points take ${wanted} bytes; there are ${bytes}`
				);
		})
};

import { z } from 'zod';
import { block, blockSchema } from './block.ts';
import { controlNet, controlNetSchema } from './controlNet.ts';
import { dome, domeSchema } from './dome.ts';
import { extrusion, extrusionSchema } from './extrusion.ts';
import { hypar, hyparSchema } from './hypar.ts';
import { imported, importedSchema } from './imported.ts';
import { loft, loftSchema } from './loft.ts';
import { revolution, revolutionSchema } from './revolution.ts';
import { ruled, ruledSchema } from './ruled.ts';
import type { Settled, ShapeKind } from './shapeKind.ts';
import { tower, towerSchema } from './tower.ts';
import { translation, translationSchema } from './translation.ts';
import { vault, vaultSchema } from './vault.ts';

export const shapeSchema = z.discriminatedUnion('kind', [
	vaultSchema,
	loftSchema,
	towerSchema,
	blockSchema,
	extrusionSchema,
	revolutionSchema,
	domeSchema,
	translationSchema,
	hyparSchema,
	ruledSchema,
	controlNetSchema,
	importedSchema
]);

export type Shape = z.output<typeof shapeSchema>;
export type ShapeName = Shape['kind'];
/** A shape whose heights are numbers. */
export type SettledShape = Settled<Shape>;

/** Everything that the pipeline needs of a kind of shape; a new kind is one file and two lines here. */
const SHAPES: { readonly [K in ShapeName]: ShapeKind<Extract<Shape, { kind: K }>> } = {
	vault,
	loft,
	tower,
	block,
	extrusion,
	revolution,
	dome,
	translation,
	hypar,
	ruled,
	'control-net': controlNet,
	imported
};

/** The kind of a shape, ready to be asked about it. */
export const kindOf = (shape: { readonly kind: ShapeName }) => SHAPES[shape.kind] as ShapeKind<Shape>;

export const SHAPE_NAMES = Object.keys(SHAPES) as ShapeName[];

import type { Surface } from '../geometry/surface.ts';
import { loftSurface, type LoftShape } from './loft.ts';

export type Shape = LoftShape;

interface ShapeKind<S> {
	readonly label: string;
	/** Ids of the faces that a shape of this kind has, in order. */
	readonly faces: readonly string[];
	/** Surface of each face, in the same order. */
	readonly surfaces: (shape: S) => Surface[];
}

/** Everything that the pipeline needs of a kind of shape; a new kind is one file and one line here. */
export const SHAPES: { readonly [K in Shape['kind']]: ShapeKind<Extract<Shape, { kind: K }>> } = {
	loft: { label: 'Loft', faces: ['skin'], surfaces: (shape) => [loftSurface(shape)] }
};

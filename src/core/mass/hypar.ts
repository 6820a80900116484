import { z } from 'zod';
import { createSurface } from '../geometry/surface.ts';
import { point } from './fields.ts';
import { ONE_FACE, type ShapeKind } from './shapeKind.ts';

/** The ruled face through four corners: a hyperbolic paraboloid unless they lie in one plane. */
export const hyparSchema = z.strictObject({
	kind: z.literal('hypar'),
	/** Anticlockwise seen from outside. */
	corners: z.array(point).length(4, 'needs four corners')
});

export type HyparShape = z.output<typeof hyparSchema>;

export const hypar: ShapeKind<HyparShape> = {
	label: 'Hypar',
	help: 'A face of straight lines through four corners',
	faces: () => ONE_FACE,
	surfaces: ({ corners }) => {
		const [a, b, c, d] = corners.map((p) => [p.x, p.y, p.z] as const);
		return [
			createSurface({
				degreeU: 1,
				degreeV: 1,
				knotsU: [0, 0, 1, 1],
				knotsV: [0, 0, 1, 1],
				points: [
					[a!, b!],
					[d!, c!]
				]
			})
		];
	}
};

import { z } from 'zod';
import { mapCurve, unit, type Curve } from '../geometry/curve.ts';
import { extrudeCurve } from '../geometry/skin.ts';
import { height, length } from './fields.ts';
import { checkRoof, flatRoof, roofFaces, roofSchema } from './flatRoof.ts';
import { profileCurve, profileSchema, sidesOf } from './profile.ts';
import { numberedFaces, type ShapeKind } from './shapeKind.ts';

/** A profile drawn in plan, moved straight up to a height; it may lean. */
export const extrusionSchema = z.strictObject({
	kind: z.literal('extrusion'),
	profile: profileSchema,
	base: height,
	top: height,
	/** How far the top stands to the east and north of the base. */
	leanX: length.default(0),
	leanY: length.default(0),
	roof: roofSchema
});

export type ExtrusionShape = z.output<typeof extrusionSchema>;

export const extrusion: ShapeKind<ExtrusionShape> = {
	label: 'Extrusion',
	help: 'A line drawn in plan, raised to a height; it may lean',
	faces: (shape) => [
		...numberedFaces(sidesOf(profileCurve(shape.profile)).length, 'side', 'Side'),
		...roofFaces(shape)
	],
	surfaces: (shape) => {
		const { profile, base, top, leanX, leanY } = shape;
		const sides = sidesOf(profileCurve(profile)).map((side) =>
			extrudeCurve(
				mapCurve(unit(side), ([x, y]) => [x, y, base]),
				[leanX, leanY, top - base]
			)
		);
		const atTop = (curve: Curve) => mapCurve(curve, ([x, y]) => [x + leanX, y + leanY, top]);
		return [...sides, ...flatRoof(shape, profile, atTop)];
	},
	check: ({ base, top, roof, profile }, report) => {
		if (!(top > base)) report(['top'], `the top at ${top} mm is not above the base at ${base} mm`);
		checkRoof(roof, profile, report);
	}
};

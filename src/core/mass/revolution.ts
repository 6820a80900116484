import { z } from 'zod';
import { ZygasterError } from '../errors.ts';
import { evaluateCurve, mapCurve, reverseCurve, unit, type Curve } from '../geometry/curve.ts';
import { revolveCurve } from '../geometry/skin.ts';
import { COINCIDENT_MM } from '../tolerances.ts';
import { angle, height, zeroOrMore } from './fields.ts';
import { profileCurve, profileSchema, sidesOf } from './profile.ts';
import { numberedFaces, type Settled, type ShapeKind } from './shapeKind.ts';

/** A profile turned about an upright axis: its x is the distance from the axis, its y the height. */
export const revolutionSchema = z.strictObject({
	kind: z.literal('revolution'),
	profile: profileSchema,
	/** Height of the profile's y = 0. */
	base: height,
	/** Distance of the profile's x = 0 from the axis, mm. */
	offset: zeroOrMore.default(0),
	/** Where the sweep starts, anticlockwise from east (+x), radians. */
	start: angle,
	/** How far it goes round, anticlockwise; a full turn closes with a seam. */
	sweep: z
		.number()
		.min(0.001, 'must be above 0°')
		.max(2 * Math.PI, 'must be at most 360°')
});

export type RevolutionShape = z.output<typeof revolutionSchema>;

export const revolution: ShapeKind<RevolutionShape> = {
	label: 'Revolution',
	help: 'A profile turned about an upright axis',
	faces: (shape) => numberedFaces(bands(shape).length, 'band', 'Band'),
	surfaces: (shape) => bands(shape).map((band) => revolveCurve(band, shape.start, shape.sweep))
};

/** The profile's parts between corners, rising, at their distance and height. */
function bands(shape: Settled<RevolutionShape>): Curve[] {
	const profile = profileCurve(shape.profile);
	const sides = sidesOf(profile).map((side) => unit(mapCurve(side, ([x, y]) => [x + shape.offset, y + shape.base, 0])));
	for (const side of sides) {
		const { position } = evaluateCurve(
			side,
			Array.from({ length: 65 }, (_, k) => k / 64)
		);
		for (let o = 0; o < position.length; o += 3)
			if (position[o]! < -COINCIDENT_MM)
				throw new ZygasterError(
					'profile',
					`the profile crosses the axis: x is ${Math.round(position[o]!)} mm at height ${Math.round(position[o + 1]!)} mm; it must be 0 or more`
				);
	}
	if (profile.closed) return sides;
	const end = (side: Curve, at: 0 | -1) =>
		at === 0 ? side.control[1]! / side.control[3]! : side.control.at(-3)! / side.control.at(-1)!;
	const falls = end(sides.at(-1)!, -1) < end(sides[0]!, 0);
	// The outside lies to the right of a profile that rises.
	return falls ? sides.map((s) => unit(reverseCurve(s))).reverse() : sides;
}

import { z } from 'zod';
import { mapCurve } from '../geometry/curve.ts';
import { translateCurve } from '../geometry/skin.ts';
import { height } from './fields.ts';
import { profileCurve, profileSchema } from './profile.ts';
import { ONE_FACE, type ShapeKind } from './shapeKind.ts';

/**
 * An upright section carried along an upright path: the section's x runs east, the path's x north, and
 * both ys are heights that add up.
 */
export const translationSchema = z.strictObject({
	kind: z.literal('translation'),
	section: profileSchema,
	path: profileSchema,
	base: height
});

export type TranslationShape = z.output<typeof translationSchema>;

export const translation: ShapeKind<TranslationShape> = {
	label: 'Translation',
	help: 'A section carried along a path; every cell can be flat',
	faces: () => ONE_FACE,
	surfaces: ({ section, path, base }) => [
		translateCurve(
			mapCurve(profileCurve(section).curve, ([x, y]) => [x, 0, y + base]),
			mapCurve(profileCurve(path).curve, ([x, y]) => [0, x, y])
		)
	]
};

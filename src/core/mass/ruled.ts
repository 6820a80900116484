import { z } from 'zod';
import { polyline, smoothCurve, type Curve, type Point } from '../geometry/curve.ts';
import { byLength } from '../geometry/curveLength.ts';
import { ruledSurface } from '../geometry/skin.ts';
import { point } from './fields.ts';
import { ONE_FACE, type Settled, type ShapeKind } from './shapeKind.ts';

const spaceCurve = z.strictObject({
	/** Smooth through the points, or straight from each to the next. */
	smooth: z.boolean(),
	points: z.array(point).min(2, 'needs at least two points').max(200)
});

/** The face of straight lines between two curves in space. */
export const ruledSchema = z.strictObject({ kind: z.literal('ruled'), lower: spaceCurve, upper: spaceCurve });

export type RuledShape = z.output<typeof ruledSchema>;

export const ruled: ShapeKind<RuledShape> = {
	label: 'Ruled face',
	help: 'Straight lines between two curves in space',
	faces: () => ONE_FACE,
	surfaces: ({ lower, upper }) => [ruledSurface(curveThrough(lower), curveThrough(upper))],
	check: (shape, report) => {
		for (const name of ['lower', 'upper'] as const)
			shape[name].points.forEach((p, k, all) => {
				const q = all[k + 1];
				if (q && p.x === q.x && p.y === q.y && p.z === q.z)
					report([name, 'points', k + 1], `points ${k + 1} and ${k + 2} are at one place`);
			});
	}
};

function curveThrough({ smooth, points }: Settled<RuledShape>['lower']): Curve {
	const at = points.map((p): Point => [p.x, p.y, p.z]);
	return byLength(smooth && at.length > 2 ? smoothCurve(at) : polyline(at));
}

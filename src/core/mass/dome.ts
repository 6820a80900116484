import { z } from 'zod';
import { asin } from '../elementary/index.ts';
import { circularArc, mapCurve, withBreaks } from '../geometry/curve.ts';
import { revolveCurve } from '../geometry/skin.ts';
import { height, positive } from './fields.ts';
import { ONE_FACE, type ShapeKind } from './shapeKind.ts';

/** A sphere or ellipsoid about an upright axis, cut by a level below and, if wanted, by a ring above. */
export const domeSchema = z.strictObject({
	kind: z.literal('dome'),
	radiusX: positive,
	radiusY: positive,
	radiusZ: positive,
	/** Height of the middle of the ball. */
	centre: height,
	/** Height of the cut below. */
	bottom: height,
	/** Height of the ring above; none runs to the crown. */
	ring: height.nullable().default(null)
});

export type DomeShape = z.output<typeof domeSchema>;

export const dome: ShapeKind<DomeShape> = {
	label: 'Dome',
	help: 'A ball or ellipsoid, cut below and, if wanted, open at the crown',
	faces: () => ONE_FACE,
	surfaces: ({ radiusX, radiusY, radiusZ, centre, bottom, ring }) => {
		const latitude = (z: number) => asin(Math.max(-1, Math.min(1, (z - centre) / radiusZ)));
		const from = latitude(bottom);
		const to = ring === null ? Math.PI / 2 : latitude(ring);
		const arc = circularArc([0, 0], 1, from, to - from);
		const pieces = arc.breaks.length - 1;
		const meridian = mapCurve(
			withBreaks(
				arc,
				arc.breaks.map((b) => b / pieces)
			),
			([x, y]) => [x * radiusX, centre + y * radiusZ, 0]
		);
		return [revolveCurve(meridian, -Math.PI / 4, 2 * Math.PI, radiusY / radiusX)];
	},
	check: ({ radiusZ, centre, bottom, ring }, report) => {
		const range = `between ${centre - radiusZ} and ${centre + radiusZ} mm`;
		if (bottom < centre - radiusZ || bottom >= centre + radiusZ)
			report(['bottom'], `the cut at ${bottom} mm misses the ball; right would be ${range}`);
		if (ring !== null && (ring <= bottom || ring > centre + radiusZ))
			report(['ring'], `the ring at ${ring} mm must lie above the cut and ${range}`);
	}
};

import { z } from 'zod';
import { createSurface, type Surface } from '../geometry/surface.ts';
import { point } from './fields.ts';
import { ONE_FACE, type ReportFault, type Settled, type ShapeKind } from './shapeKind.ts';

const degree = z.int().min(1).max(5);

/** A face pulled towards a net of points, a B-spline with even knots. */
export const controlNetSchema = z.strictObject({
	kind: z.literal('control-net'),
	degreeAcross: degree,
	degreeUp: degree,
	/** The face closes on itself in this direction. */
	closedAcross: z.boolean().default(false),
	closedUp: z.boolean().default(false),
	/** Rows of points, each from the start border to the end border; the first row is the lowest. */
	points: z.array(z.array(point).min(2).max(60)).min(2, 'needs at least two rows').max(60)
});

export type ControlNetShape = z.output<typeof controlNetSchema>;

export const controlNet: ShapeKind<ControlNetShape> = {
	label: 'Control net',
	help: 'A face pulled towards a net of points',
	faces: () => ONE_FACE,
	surfaces: (shape) => [netSurface(shape)],
	check: (shape, report) => {
		const width = shape.points[0]!.length;
		shape.points.forEach((row, k) => {
			if (row.length !== width)
				report(['points', k], `row ${k + 1} has ${row.length} points, row 1 has ${width}; all must have as many`);
		});
		checkCount(width, shape.degreeAcross, shape.closedAcross, ['degreeAcross'], 'across', report);
		checkCount(shape.points.length, shape.degreeUp, shape.closedUp, ['degreeUp'], 'up', report);
	}
};

function checkCount(count: number, degree: number, closed: boolean, path: string[], word: string, report: ReportFault) {
	const needed = closed ? Math.max(3, degree) : degree + 1;
	if (count < needed) report(path, `degree ${degree} needs at least ${needed} points ${word}; there are ${count}`);
}

function netSurface(shape: Settled<ControlNetShape>): Surface {
	const { degreeAcross, degreeUp, closedAcross, closedUp } = shape;
	const wrap = <T>(list: readonly T[], closed: boolean, degree: number) =>
		closed ? [...list, ...list.slice(0, degree)] : list;
	const rows = wrap(shape.points, closedUp, degreeUp).map((row) => wrap(row, closedAcross, degreeAcross));
	return createSurface({
		degreeU: degreeAcross,
		degreeV: degreeUp,
		knotsU: evenKnots(rows[0]!.length, degreeAcross, closedAcross),
		knotsV: evenKnots(rows.length, degreeUp, closedUp),
		points: rows.map((row) => row.map((p) => [p.x, p.y, p.z] as const))
	});
}

/** Even knots whose domain is [0, 1]: clamped at the ends, or running on where the net is closed. */
function evenKnots(count: number, degree: number, closed: boolean): number[] {
	const spans = count - degree;
	return Array.from({ length: count + degree + 1 }, (_, k) => {
		const at = (k - degree) / spans;
		return closed ? at : Math.max(0, Math.min(1, at));
	});
}

import { atan2, cos, sin } from '../elementary/index.ts';
import type { Point } from '../geometry/curve.ts';
import { dot } from '../geometry/vectors.ts';
import type { FaceModel } from '../project/faceResult.ts';
import type { SheetView } from '../project/sheets.ts';

/** How a picture looks at the model: what lies to the right, up, and towards the eye, each 1 long. */
export interface Eye {
	readonly right: Point;
	readonly up: Point;
	readonly towards: Point;
}

/** Looking straight at what faces a bearing, radians clockwise from the north. */
export const eyeAt = (bearing: number): Eye => ({
	right: [-cos(bearing), sin(bearing), 0],
	up: [0, 0, 1],
	towards: [sin(bearing), cos(bearing), 0]
});

/** Looking down, with the north up. */
export const FROM_ABOVE: Eye = { right: [1, 0, 0], up: [0, 1, 0], towards: [0, 0, 1] };

/** The eye of a view, and what is nearest to it: `at` of a section is counted from the middle of the model. */
export function eyeOf(
	view: Extract<SheetView, { kind: 'elevation' | 'plan' | 'section' }>,
	middle: Point
): { readonly eye: Eye; readonly nearest: number } {
	if (view.kind === 'plan') return { eye: FROM_ABOVE, nearest: view.height ?? Infinity };
	const eye = eyeAt(view.bearing);
	return { eye, nearest: view.kind === 'section' ? dot(middle, eye.towards) + view.at : Infinity };
}

/** A point as it is seen: to the right, up and towards the eye. */
export const seenFrom = ({ right, up, towards }: Eye, p: Point): Point => [dot(p, right), dot(p, up), dot(p, towards)];

/** The bearing that a face looks at in the mean, radians clockwise from the north; 0 of one that looks straight up or down. */
export function bearingOf({ cells, readings }: Pick<FaceModel, 'cells' | 'readings'>): number {
	let [x, y] = [0, 0];
	for (let c = 0; c < cells.count; c++) {
		const area = readings.columns.area[c]!;
		x += readings.normal[c * 3]! * area;
		y += readings.normal[c * 3 + 1]! * area;
	}
	return x === 0 && y === 0 ? 0 : atan2(x, y);
}

import { averagedKnots, interpolateCyclic, interpolateValues } from './interpolate.ts';
import type { Surface } from './surface.ts';

/** Points of a face in rows, evenly spread over the unit square. */
export interface PointGrid {
	/** Points in a row; a closed row does not repeat its first point. */
	readonly columns: number;
	readonly rows: number;
	readonly closedAcross: boolean;
	/** mm, stride 3, index `row * columns + column`. */
	readonly points: Float64Array;
}

/**
 * The bicubic surface through a grid of points; in a closed direction it runs on smoothly over the seam.
 * At least 4 rows and columns. Source: The NURBS Book, section 9.2.5.
 */
export function fitSurface({ columns, rows, closedAcross, points }: PointGrid): Surface {
	// Along each row first: one tuple a column, holding that column's points of all rows.
	const byColumn = Array.from({ length: columns }, (_, i) => {
		const tuple = new Float64Array(rows * 3);
		for (let j = 0; j < rows; j++) tuple.set(points.subarray((j * columns + i) * 3, (j * columns + i) * 3 + 3), j * 3);
		return tuple;
	});
	const evenly = (n: number) => Array.from({ length: n }, (_, k) => k / (n - 1));
	const knotsU = closedAcross
		? Array.from({ length: columns + 7 }, (_, k) => (k - 3) / columns)
		: averagedKnots(evenly(columns), 3);
	const across = closedAcross ? interpolateCyclic(byColumn) : interpolateValues(evenly(columns), byColumn, 3, knotsU);
	const countU = across.length;
	const byRow = Array.from({ length: rows }, (_, j) => {
		const tuple = new Float64Array(countU * 3);
		across.forEach((column, i) => tuple.set(column.subarray(j * 3, j * 3 + 3), i * 3));
		return tuple;
	});
	const knotsV = averagedKnots(evenly(rows), 3);
	const net = interpolateValues(evenly(rows), byRow, 3, knotsV);
	const control = new Float64Array(countU * rows * 4);
	net.forEach((row, j) => {
		for (let i = 0; i < countU; i++) {
			const o = (j * countU + i) * 4;
			control.set(row.subarray(i * 3, i * 3 + 3), o);
			control[o + 3] = 1;
		}
	});
	return {
		degreeU: 3,
		degreeV: 3,
		countU,
		countV: rows,
		knotsU: Float64Array.from(knotsU),
		knotsV: Float64Array.from(knotsV),
		control,
		rational: false
	};
}

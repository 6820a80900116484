import { square } from '../../elementary/index.ts';
import { ZygasterError } from '../../errors.ts';
import type { Point } from '../../geometry/curve.ts';
import { evaluateGridPoints } from '../../geometry/evaluate.ts';
import { PatchCursor } from '../../geometry/patches.ts';
import { surfacePatches } from '../../geometry/surfacePatches.ts';
import { cross } from '../../geometry/vectors.ts';
import type { ChartedFace } from '../../settingout/development.ts';
import { COINCIDENT_MM } from '../../tolerances.ts';
import type { Located } from './faceLine.ts';

const MOST_STEPS = 40;

/**
 * Finds what of a face is seen at a point of the plane at `origin` with the axes `right` and `up`, square to it: of several
 * layers the one whose outside looks at the plane's. Points a little beyond the face's borders land where its surface would
 * go on. What it answers throws a ZygasterError with code `opening` for a point that the face is nowhere near.
 */
export function projectedOnto(
	face: ChartedFace,
	name: string,
	origin: Point,
	right: Point,
	up: Point
): (x: number, y: number) => Located {
	const { us, vs } = face.chart.shares;
	const points = evaluateGridPoints(face.surface, us, vs);
	const towards = cross(right, up);
	const seen = Array.from({ length: points.count }, (_, k) => k).filter(
		(k) => towards.reduce((sum, axis, c) => sum + points.normal[k * 3 + c]! * axis, 0) > 0
	);
	const known = seen.length ? seen : Array.from({ length: points.count }, (_, k) => k);
	const along = (axis: Point) =>
		Float64Array.from(known, (k) =>
			axis.reduce((sum, a, c) => sum + (points.position[k * 3 + c]! - origin[c]!) * a, 0)
		);
	const [px, py] = [along(right), along(up)];
	const nearest = (x: number, y: number): [number, number] => {
		let best = 0;
		let least = Infinity;
		for (let k = 0; k < px.length; k++) {
			const far = square(px[k]! - x) + square(py[k]! - y);
			if (far < least) [least, best] = [far, k];
		}
		return [us[known[best]! % us.length]!, vs[Math.floor(known[best]! / us.length)]!];
	};
	const surface = new PatchCursor(surfacePatches(face.surface));
	const [rangeU, rangeV] = [us.at(-1)! - us[0]!, vs.at(-1)! - vs[0]!];
	/** Turns around a closed face that a parameter is beyond its first one. */
	const turnsOf = (u: number) => (face.ends.closedAcross ? Math.floor((u - us[0]!) / rangeU) : 0);
	const evaluate = (u: number, v: number) => surface.evaluate(u - turnsOf(u) * rangeU, v);
	const near = ([u, v]: [number, number]) =>
		Math.abs(u - (us[0]! + us.at(-1)!) / 2) <= rangeU && Math.abs(v - (vs[0]! + vs.at(-1)!) / 2) <= rangeV;
	let last: [number, number] | undefined;
	return (x, y) => {
		const from = (u: number, v: number) => search(evaluate, surface.out, origin, right, up, x, y, u, v);
		const next = last && from(...last);
		const found = next && near(next) ? next : from(...nearest(x, y));
		if (!found || !near(found))
			throw new ZygasterError(
				'opening',
				`“${name}”: its point (${Math.round(x)}, ${Math.round(y)}) does not fall onto the face. Right would be an outline in front of (or below) it.`,
				name
			);
		const turns = turnsOf(found[0]);
		last = [found[0] - turns * rangeU, found[1]];
		return { u: last[0], v: last[1], turns };
	};
}

/** Newton's method for the parameters whose point is seen at (x, y). */
function search(
	evaluate: (u: number, v: number) => void,
	h: Float64Array,
	origin: Point,
	right: Point,
	up: Point,
	x: number,
	y: number,
	u0: number,
	v0: number
): [number, number] | undefined {
	let [u, v] = [u0, v0];
	for (let step = 0; step < MOST_STEPS; step++) {
		evaluate(u, v);
		const w = 1 / h[3]!;
		const seen = (axis: Point) => {
			let [at, byU, byV] = [0, 0, 0];
			for (let c = 0; c < 3; c++) {
				const p = h[c]! * w;
				at += (p - origin[c]!) * axis[c]!;
				byU += (h[4 + c]! - h[7]! * p) * w * axis[c]!;
				byV += (h[8 + c]! - h[11]! * p) * w * axis[c]!;
			}
			return { at, byU, byV };
		};
		const [a, b] = [seen(right), seen(up)];
		const [r, q] = [x - a.at, y - b.at];
		if (Math.abs(r) + Math.abs(q) < COINCIDENT_MM / 10) return [u, v];
		const scale = 1 / (a.byU * b.byV - a.byV * b.byU);
		u += (r * b.byV - q * a.byV) * scale;
		v += (q * a.byU - r * b.byU) * scale;
		if (!Number.isFinite(u + v)) return undefined;
	}
	return undefined;
}

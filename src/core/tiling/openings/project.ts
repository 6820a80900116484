import { hypot, square } from '../../elementary/index.ts';
import { ZygasterError } from '../../errors.ts';
import type { Point } from '../../geometry/curve.ts';
import { evaluateGridPoints } from '../../geometry/evaluate.ts';
import { PatchCursor } from '../../geometry/patches.ts';
import { surfacePatches } from '../../geometry/surfacePatches.ts';
import { developmentOf, moveOverSeam, type ChartedFace } from '../../settingout/development.ts';
import { COINCIDENT_MM } from '../../tolerances.ts';
import type { Ring } from './rings.ts';

/** Sides of a projected line are followed in steps of this, mm. */
const STEP = 300;
const MOST_STEPS = 40;

/**
 * Projects a line from the plane at `origin` with the axes `right` and `up`, square to it, onto a face, and
 * lays it flat. Points a little beyond the face's borders land where its surface would go on. Throws a
 * ZygasterError with code `opening` for a point that the face is nowhere near.
 */
export function projectRing(face: ChartedFace, name: string, ring: Ring, origin: Point, right: Point, up: Point): Ring {
	const { us, vs } = face.chart.shares;
	const points = evaluateGridPoints(face.surface, us, vs);
	const along = (axis: Point) =>
		Float64Array.from({ length: points.count }, (_, k) =>
			[0, 1, 2].reduce((sum, c) => sum + (points.position[k * 3 + c]! - origin[c]!) * axis[c]!, 0)
		);
	const [px, py] = [along(right), along(up)];
	const surface = new PatchCursor(surfacePatches(face.surface));
	const development = developmentOf(face);
	const flat = new PatchCursor(development.patches);
	const [rangeU, rangeV] = [us.at(-1)! - us[0]!, vs.at(-1)! - vs[0]!];
	/** Turns around a closed face that a parameter is beyond its first one. */
	const turnsOf = (u: number) => (face.ends.closedAcross ? Math.floor((u - us[0]!) / rangeU) : 0);
	const evaluate = (u: number, v: number) => surface.evaluate(u - turnsOf(u) * rangeU, v);
	let last: [number, number] | undefined;
	return followed(ring).map(([x, y]) => {
		const start = last ?? nearest(px, py, us, vs, x, y);
		const from = (u: number, v: number) => search(evaluate, surface.out, origin, right, up, x, y, u, v);
		const found = from(...start) ?? from(...nearest(px, py, us, vs, x, y));
		if (
			!found ||
			Math.abs(found[0] - (us[0]! + us.at(-1)!) / 2) > rangeU ||
			Math.abs(found[1] - (vs[0]! + vs.at(-1)!) / 2) > rangeV
		)
			throw new ZygasterError(
				'opening',
				`“${name}”: its point (${Math.round(x)}, ${Math.round(y)}) does not fall onto the face. Right would be an outline in front of (or below) it.`,
				name
			);
		last = found;
		const turns = turnsOf(found[0]);
		flat.evaluate(found[0] - turns * rangeU, found[1]);
		let place: [number, number] = [flat.out[0]!, flat.out[1]!];
		for (let k = 0; k < Math.abs(turns); k++) place = moveOverSeam(development, ...place, turns > 0 ? 1 : -1);
		return place;
	});
}

/** The line with points at most a step apart. */
function followed(ring: Ring): Ring {
	return ring.flatMap((a, k) => {
		const b = ring[(k + 1) % ring.length]!;
		const parts = Math.max(1, Math.ceil(hypot(b[0] - a[0], b[1] - a[1]) / STEP));
		return Array.from({ length: parts }, (_, p): [number, number] => [
			a[0] + ((b[0] - a[0]) * p) / parts,
			a[1] + ((b[1] - a[1]) * p) / parts
		]);
	});
}

function nearest(
	px: Float64Array,
	py: Float64Array,
	us: Float64Array,
	vs: Float64Array,
	x: number,
	y: number
): [number, number] {
	let best = 0;
	let least = Infinity;
	for (let k = 0; k < px.length; k++) {
		const far = square(px[k]! - x) + square(py[k]! - y);
		if (far < least) [least, best] = [far, k];
	}
	return [us[best % us.length]!, vs[Math.floor(best / us.length)]!];
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

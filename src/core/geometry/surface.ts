import { ZygasterError } from '../errors.ts';
import { mapCurve, type Point } from './curve.ts';

/**
 * A B-spline surface, rational or not, with lengths in mm.
 * `u` runs across the face and `v` up it; the outward normal is `d/du x d/dv`.
 */
export interface Surface {
	readonly degreeU: number;
	readonly degreeV: number;
	readonly countU: number;
	readonly countV: number;
	readonly knotsU: Float64Array;
	readonly knotsV: Float64Array;
	/** Homogeneous control points (xw, yw, zw, w), stride 4, index `v * countU + u`. */
	readonly control: Float64Array;
	/** False when every weight is 1, so that evaluation can leave the division out. */
	readonly rational: boolean;
}

export interface SurfaceInput {
	readonly degreeU: number;
	readonly degreeV: number;
	readonly knotsU: readonly number[] | Float64Array;
	readonly knotsV: readonly number[] | Float64Array;
	/** `points[v][u]` = [x, y, z] in mm. */
	readonly points: readonly (readonly (readonly [number, number, number])[])[];
	/** `weights[v][u]`, all above zero; 1 everywhere when left out. */
	readonly weights?: readonly (readonly number[])[];
}

/** Checks and packs a surface. Throws a ZygasterError with code `surface` on bad knots, counts or numbers. */
export function createSurface(input: SurfaceInput): Surface {
	const { degreeU, degreeV, points, weights } = input;
	const countV = points.length;
	const countU = points[0]?.length ?? 0;
	const knotsU = Float64Array.from(input.knotsU);
	const knotsV = Float64Array.from(input.knotsV);
	checkKnots('across', knotsU, degreeU, countU);
	checkKnots('up', knotsV, degreeV, countV);
	const control = new Float64Array(countU * countV * 4);
	let rational = false;
	for (let v = 0; v < countV; v++) {
		const row = points[v]!;
		if (row.length !== countU) throw fault(`row ${v + 1} has ${row.length} control points, the first row ${countU}`);
		for (let u = 0; u < countU; u++) {
			const w = weights?.[v]?.[u] ?? 1;
			const [x, y, z] = row[u]!;
			if (!(w > 0) || !Number.isFinite(w + x + y + z))
				throw fault(
					`control point ${u + 1} of row ${v + 1} is (${x}, ${y}, ${z}) with weight ${w}; needed are finite numbers and a weight above 0`
				);
			if (w !== 1) rational = true;
			control.set([x * w, y * w, z * w, w], (v * countU + u) * 4);
		}
	}
	return { degreeU, degreeV, countU, countV, knotsU, knotsV, control, rational };
}

function checkKnots(direction: string, knots: Float64Array, degree: number, count: number): void {
	if (!Number.isInteger(degree) || degree < 1 || count <= degree)
		throw fault(
			`degree ${degree} ${direction} with ${count} control points; needed is at least one more point than the degree`
		);
	if (knots.length !== count + degree + 1)
		throw fault(`${knots.length} knots ${direction}; needed are ${count + degree + 1}`);
	for (let k = 0; k < knots.length; k++) {
		if (!Number.isFinite(knots[k]!) || (k > 0 && knots[k]! < knots[k - 1]!))
			throw fault(`knot ${k + 1} ${direction} is ${knots[k]}; knots must not decrease`);
	}
	if (!(knots[degree]! < knots[count]!)) throw fault(`the knots ${direction} span nothing`);
}

function fault(message: string): ZygasterError {
	return new ZygasterError('surface', `This surface cannot be built: ${message}.`);
}

/** The same surface with across and up changed over (its outside turns to the other side). */
export function swapDirections(surface: Surface): Surface {
	const { countU, countV, control } = surface;
	const swapped = new Float64Array(control.length);
	for (let v = 0; v < countV; v++)
		for (let u = 0; u < countU; u++)
			for (let k = 0; k < 4; k++) swapped[(u * countV + v) * 4 + k] = control[(v * countU + u) * 4 + k]!;
	return {
		degreeU: surface.degreeV,
		degreeV: surface.degreeU,
		countU: countV,
		countV: countU,
		knotsU: surface.knotsV,
		knotsV: surface.knotsU,
		control: swapped,
		rational: surface.rational
	};
}

/** First and last parameter of a direction. */
export function domainOf(knots: Float64Array, degree: number): [number, number] {
	return [knots[degree]!, knots[knots.length - degree - 1]!];
}

/** The same surface with across run the other way, so that its outside turns to the other side. */
export function turnInsideOut(surface: Surface): Surface {
	const { countU, countV, control, knotsU } = surface;
	const turned = new Float64Array(control.length);
	for (let v = 0; v < countV; v++)
		for (let u = 0; u < countU; u++) {
			const from = (v * countU + u) * 4;
			turned.set(control.subarray(from, from + 4), (v * countU + countU - 1 - u) * 4);
		}
	const ends = knotsU[0]! + knotsU[knotsU.length - 1]!;
	return { ...surface, knotsU: knotsU.map((k) => ends - k).reverse(), control: turned };
}

/** Moves every point by an affine map. Exact. */
export function mapSurface(surface: Surface, map: (p: Point) => Point): Surface {
	return { ...surface, control: mapCurve({ degree: 1, breaks: EMPTY, control: surface.control }, map).control };
}

const EMPTY = new Float64Array(0);

/** Surfaces one above the other, with one degree, meeting along whole borders, as one. Exact. */
export function stackSurfaces(surfaces: readonly Surface[]): Surface {
	const [first, ...others] = surfaces;
	if (others.length === 0) return first!;
	const { degreeV } = first!;
	const rows = surfaces.map((s, k) => s.control.subarray(k === 0 ? 0 : s.countU * 4));
	const knots = surfaces.map((s, k) => [...s.knotsV.subarray(k === 0 ? 0 : degreeV + 1, s.knotsV.length - 1)]);
	return {
		...first!,
		countV: surfaces.reduce((n, s) => n + s.countV, 0) - others.length,
		knotsV: Float64Array.from([...knots.flat(), surfaces.at(-1)!.knotsV.at(-1)!]),
		control: Float64Array.from(rows.flatMap((r) => [...r])),
		rational: surfaces.some((s) => s.rational)
	};
}

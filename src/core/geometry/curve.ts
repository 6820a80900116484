import { cos, hypot, norm, sin } from '../elementary/index.ts';
import { ZygasterError } from '../errors.ts';
import { COINCIDENT_MM, SAME_BREAK } from '../tolerances.ts';

/** A point in space, mm. */
export type Point = readonly [number, number, number];

/**
 * A chain of rational Bezier segments of one degree, mm: exact for lines, conic arcs and polynomial
 * splines, and two of them are made alike by nothing more than splitting and raising the degree.
 */
export interface Curve {
	readonly degree: number;
	/** Parameters at the ends of the segments, rising; one more than segments. */
	readonly breaks: Float64Array;
	/** Homogeneous points (xw, yw, zw, w), stride 4; segment `s` uses points `s * degree` to `(s + 1) * degree`. */
	readonly control: Float64Array;
}

export const segmentsOf = (curve: Curve) => curve.breaks.length - 1;

/** The homogeneous control points of segment `s`, a view. */
export const segmentControl = ({ control, degree }: Curve, s: number) =>
	control.subarray(s * degree * 4, ((s + 1) * degree + 1) * 4);

/** A chain of straight lines; breaks at 0, 1, 2, ... Needs two points. */
export function polyline(points: readonly Point[]): Curve {
	return {
		degree: 1,
		breaks: Float64Array.from(points, (_, k) => k),
		control: Float64Array.from(points.flatMap((p) => [...p, 1]))
	};
}

/**
 * A circular arc in the plane z = 0, in pieces of at most 90 degrees; angles in radians from +x, turning
 * to +y when `sweep` is positive. Exact. Source: The NURBS Book, 2nd ed., section 7.3.
 */
export function circularArc(centre: readonly [number, number], radius: number, start: number, sweep: number): Curve {
	const pieces = Math.max(1, Math.ceil(Math.abs(sweep) / (Math.PI / 2) - SAME_BREAK));
	const half = sweep / pieces / 2;
	const weight = cos(half);
	const control: number[] = [];
	for (let k = 0; k <= 2 * pieces; k++) {
		const middle = k % 2 === 1;
		const angle = start + k * half;
		const r = middle ? radius / weight : radius;
		const w = middle ? weight : 1;
		control.push((centre[0] + r * cos(angle)) * w, (centre[1] + r * sin(angle)) * w, 0, w);
	}
	return {
		degree: 2,
		breaks: Float64Array.from({ length: pieces + 1 }, (_, k) => k),
		control: Float64Array.from(control)
	};
}

/**
 * The natural cubic spline through points, or the periodic one when `closed` (the first point is not
 * repeated); parametrised by the chords. Second derivatives are continuous. Needs two points, three when
 * closed. Source: de Boor, A Practical Guide to Splines, ch. IV.
 */
export function smoothCurve(points: readonly Point[], closed = false): Curve {
	const ring = closed ? [...points, points[0]!] : points;
	const widths = ring.slice(1).map((p, k) => Math.max(distance(p, ring[k]!), COINCIDENT_MM));
	const tangents = splineTangents(ring, widths, closed);
	const control: number[] = [];
	widths.forEach((h, k) => {
		const [a, b, ta, tb] = [ring[k]!, ring[k + 1]!, tangents[k]!, tangents[k + 1]!];
		const inner = (p: Point, t: Point, by: number) => p.map((x, c) => x + (t[c]! * h * by) / 3);
		if (k === 0) control.push(...a, 1);
		control.push(...inner(a, ta, 1), 1, ...inner(b, tb, -1), 1, ...b, 1);
	});
	let at = 0;
	return {
		degree: 3,
		breaks: Float64Array.from([0, ...widths.map((h) => (at += h))]),
		control: Float64Array.from(control)
	};
}

/** Derivatives at the points of a cubic spline, by the tridiagonal system for continuous curvature. */
function splineTangents(ring: readonly Point[], h: readonly number[], closed: boolean): Point[] {
	const n = ring.length;
	const slope = (k: number, c: number) => (ring[k + 1]![c]! - ring[k]![c]!) / h[k]!;
	const size = closed ? n - 1 : n;
	// Rows of [below, diagonal, above]; a closed ring wraps around.
	const rows = Array.from({ length: size }, (_, k): [number, number, number] => {
		if (!closed && k === 0) return [0, 2, 1];
		if (!closed && k === n - 1) return [1, 2, 0];
		const before = h[k === 0 ? n - 2 : k - 1]!;
		return [h[k]!, 2 * (before + h[k]!), before];
	});
	const columns = [0, 1, 2].map((c) => {
		const right = rows.map((_, k) => {
			if (!closed && k === 0) return 3 * slope(0, c);
			if (!closed && k === n - 1) return 3 * slope(n - 2, c);
			const b = k === 0 ? n - 2 : k - 1;
			return 3 * (h[k]! * slope(b, c) + h[b]! * slope(k, c));
		});
		return closed ? solveCyclic(rows, right) : solveTridiagonal(rows, right);
	});
	const at = (k: number): Point => [columns[0]![k]!, columns[1]![k]!, columns[2]![k]!];
	return Array.from({ length: n }, (_, k) => at(closed && k === n - 1 ? 0 : k));
}

type Tridiagonal = readonly (readonly [number, number, number])[];

/** Thomas's algorithm; the system is diagonally dominant. O(n). */
function solveTridiagonal(rows: Tridiagonal, right: readonly number[]): number[] {
	const n = rows.length;
	const above = new Float64Array(n);
	const x = [...right];
	for (let k = 0; k < n; k++) {
		const [a, b, c] = rows[k]!;
		const pivot = 1 / (b - (k > 0 ? a * above[k - 1]! : 0));
		above[k] = c * pivot;
		x[k] = (x[k]! - (k > 0 ? a * x[k - 1]! : 0)) * pivot;
	}
	for (let k = n - 2; k >= 0; k--) x[k]! -= above[k]! * x[k + 1]!;
	return x;
}

/** A tridiagonal system whose corners wrap around, by the Sherman-Morrison formula. O(n). */
function solveCyclic(rows: Tridiagonal, right: readonly number[]): number[] {
	const n = rows.length;
	const first = rows[0]!;
	const last = rows[n - 1]!;
	const [corner, other, gamma] = [first[0], last[2], -first[1]];
	const plain = rows.map(([a, b, c], k): [number, number, number] => [
		a,
		k === 0 ? b - gamma : k === n - 1 ? b - (corner * other) / gamma : b,
		c
	]);
	const x = solveTridiagonal(plain, right);
	const z = solveTridiagonal(
		plain,
		right.map((_, k) => (k === 0 ? gamma : k === n - 1 ? other : 0))
	);
	const factor = (x[0]! + (corner * x[n - 1]!) / gamma) / (1 + z[0]! + (corner * z[n - 1]!) / gamma);
	return x.map((v, k) => v - factor * z[k]!);
}

export const distance = (a: Point, b: Point) => hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]);

/** Points and first derivatives at parameters, stride 3. Parameters outside run on with the end segments. */
export function evaluateCurve(curve: Curve, parameters: ArrayLike<number>) {
	const { degree, breaks } = curve;
	const position = new Float64Array(parameters.length * 3);
	const derivative = new Float64Array(parameters.length * 3);
	const last = segmentsOf(curve) - 1;
	for (let k = 0, s = 0; k < parameters.length; k++) {
		const t = parameters[k]!;
		while (s > 0 && t < breaks[s]!) s--;
		while (s < last && t > breaks[s + 1]!) s++;
		const width = breaks[s + 1]! - breaks[s]!;
		const [h, slope] = deCasteljau(segmentControl(curve, s), degree, (t - breaks[s]!) / width);
		for (let c = 0; c < 3; c++) {
			const p = h[c]! / h[3]!;
			position[k * 3 + c] = p;
			derivative[k * 3 + c] = (slope[c]! - slope[3]! * p) / (h[3]! * width);
		}
	}
	return { position, derivative };
}

/** Homogeneous point and derivative of a Bezier segment at `t` from 0 to 1. */
function deCasteljau(control: Float64Array, degree: number, t: number): [Float64Array, Float64Array] {
	const work = Float64Array.from(control);
	for (let r = degree; r > 1; r--) for (let k = 0; k < r * 4; k++) work[k] = work[k]! * (1 - t) + work[k + 4]! * t;
	const slope = new Float64Array(4);
	const value = new Float64Array(4);
	for (let c = 0; c < 4; c++) {
		slope[c] = degree * (work[4 + c]! - work[c]!);
		value[c] = work[c]! * (1 - t) + work[4 + c]! * t;
	}
	return [value, slope];
}

/** Chains curves end to start; each keeps its breaks' widths. Throws when they do not meet. */
export function joinCurves(curves: readonly Curve[]): Curve {
	const degree = Math.max(...curves.map((c) => c.degree));
	const breaks = [0];
	const control: number[] = [];
	for (const curve of curves.map((c) => raiseDegree(c, degree))) {
		if (control.length && gap(control.slice(-4), curve.control) > COINCIDENT_MM)
			throw new ZygasterError('curve', 'These curves do not meet end to end.');
		control.push(...curve.control.subarray(control.length ? 4 : 0));
		const start = breaks.at(-1)!;
		for (const b of curve.breaks.subarray(1)) breaks.push(start + b - curve.breaks[0]!);
	}
	return { degree, breaks: Float64Array.from(breaks), control: Float64Array.from(control) };
}

const gap = (a: readonly number[], b: Float64Array) => norm([0, 1, 2].map((c) => a[c]! / a[3]! - b[c]! / b[3]!));

/** The same curve with a higher degree. Source: The NURBS Book, eq. 5.36, one degree at a time. */
export function raiseDegree(curve: Curve, degree: number): Curve {
	let { control } = curve;
	for (let d = curve.degree; d < degree; d++) {
		const segments = segmentsOf(curve);
		const raised = new Float64Array((segments * (d + 1) + 1) * 4);
		for (let s = 0; s < segments; s++)
			for (let k = 0; k <= d + 1; k++) {
				const share = k / (d + 1);
				for (let c = 0; c < 4; c++) {
					const from = (s * d + k) * 4 + c;
					raised[(s * (d + 1) + k) * 4 + c] =
						(k > 0 ? share * control[from - 4]! : 0) + (k <= d ? (1 - share) * control[from]! : 0);
				}
			}
		control = raised;
	}
	return { degree: Math.max(degree, curve.degree), breaks: curve.breaks, control };
}

/** The same curve with breaks at these parameters too; those outside or there already change nothing. */
export function splitAt(curve: Curve, parameters: ArrayLike<number>): Curve {
	const { degree, breaks } = curve;
	const wanted = Float64Array.from(parameters).sort();
	const range = breaks[breaks.length - 1]! - breaks[0]!;
	const newBreaks = [breaks[0]!];
	const control = [...curve.control.subarray(0, 4)];
	for (let s = 0; s < segmentsOf(curve); s++) {
		let rest = segmentControl(curve, s);
		let start = breaks[s]!;
		const end = breaks[s + 1]!;
		for (const t of wanted) {
			if (t - start < range * SAME_BREAK || end - t < range * SAME_BREAK) continue;
			const [left, right] = splitSegment(rest, degree, (t - start) / (end - start));
			control.push(...left.subarray(4));
			newBreaks.push(t);
			[rest, start] = [right, t];
		}
		control.push(...rest.subarray(4));
		newBreaks.push(end);
	}
	return { degree, breaks: Float64Array.from(newBreaks), control: Float64Array.from(control) };
}

function splitSegment(control: Float64Array, degree: number, t: number): [Float64Array, Float64Array] {
	const left = new Float64Array(control.length);
	const right = Float64Array.from(control);
	for (let r = 0; r <= degree; r++) {
		left.set(right.subarray(0, 4), r * 4);
		for (let k = 0; k < (degree - r) * 4; k++) right[k] = right[k]! * (1 - t) + right[k + 4]! * t;
	}
	return [left, right];
}

/** Segments `from` to `to` (exclusive) as a curve of their own. */
export function partOf(curve: Curve, from: number, to: number): Curve {
	return {
		degree: curve.degree,
		breaks: curve.breaks.slice(from, to + 1),
		control: curve.control.slice(from * curve.degree * 4, (to * curve.degree + 1) * 4)
	};
}

/** The same curve with the domain [0, 1]. */
export function unit(curve: Curve): Curve {
	const [from, to] = [curve.breaks[0]!, curve.breaks[curve.breaks.length - 1]!];
	return { ...curve, breaks: curve.breaks.map((b) => (b - from) / (to - from)) };
}

/** A closed curve that starts at another of its breaks. */
export function startAt(curve: Curve, segment: number): Curve {
	const n = segmentsOf(curve);
	return segment === 0 ? curve : joinCurves([partOf(curve, segment, n), partOf(curve, 0, segment)]);
}

/** The same line run the other way. */
export function reverseCurve(curve: Curve): Curve {
	const n = curve.control.length / 4;
	const end = curve.breaks[curve.breaks.length - 1]!;
	const control = new Float64Array(n * 4);
	for (let k = 0; k < n; k++) control.set(curve.control.subarray((n - 1 - k) * 4, (n - k) * 4), k * 4);
	return { degree: curve.degree, breaks: curve.breaks.map((b) => end - b).reverse(), control };
}

/** Moves every point by an affine map; exact for rational curves too. */
export function mapCurve(curve: Curve, map: (p: Point) => Point): Curve {
	const control = Float64Array.from(curve.control);
	for (let o = 0; o < control.length; o += 4) {
		const w = control[o + 3]!;
		const p = map([control[o]! / w, control[o + 1]! / w, control[o + 2]! / w]);
		control.set([p[0] * w, p[1] * w, p[2] * w], o);
	}
	return { ...curve, control };
}

/** The same curve with the domain from 0 to 1. */
export const withBreaks = (curve: Curve, breaks: ArrayLike<number>): Curve => ({
	...curve,
	breaks: Float64Array.from(breaks)
});

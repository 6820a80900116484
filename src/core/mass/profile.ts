import { z } from 'zod';
import { atan, atan2, cos, hypot, sin, square, tan } from '../elementary/index.ts';
import { ZygasterError } from '../errors.ts';
import {
	circularArc,
	distance,
	evaluateCurve,
	joinCurves,
	mapCurve,
	partOf,
	polyline,
	segmentsOf,
	smoothCurve,
	startAt,
	type Curve,
	type Point
} from '../geometry/curve.ts';
import { byLength } from '../geometry/curveLength.ts';
import { COINCIDENT_MM, SMOOTH_JOIN_SINE } from '../tolerances.ts';
import { length, positive, zeroOrMore } from './fields.ts';
import { crossingOf } from './crossing.ts';

/** A point of a drawn line, mm. */
const drawnPoint = z.strictObject({
	x: length,
	y: length,
	/** The line runs smoothly through this point instead of turning a corner. */
	smooth: z.boolean().default(false),
	/**
	 * The stretch to the next point is an arc: tangent of a quarter of its angle, positive to the left of
	 * the way (DXF's measure for polylines); 0 is straight or smooth.
	 */
	arc: z.number().min(-10).max(10).default(0)
});

/** Lines of the plane that faces are made of. Closed ones run anticlockwise, from the lower right. */
export const profileSchema = z.discriminatedUnion('kind', [
	z.strictObject({ kind: z.literal('circle'), radius: positive }),
	z.strictObject({ kind: z.literal('ellipse'), radiusX: positive, radiusY: positive }),
	z.strictObject({
		kind: z.literal('rectangle'),
		width: positive,
		depth: positive,
		rounding: zeroOrMore.default(0)
	}),
	z.strictObject({
		kind: z.literal('polygon'),
		sides: z.int().min(3).max(64),
		radius: positive,
		rounding: zeroOrMore.default(0)
	}),
	z.strictObject({
		kind: z.literal('drawn'),
		closed: z.boolean(),
		/** Radius at every corner; the line then has straight stretches only. */
		rounding: zeroOrMore.default(0),
		points: z.array(drawnPoint).min(2, 'needs at least two points').max(500)
	})
]);

export type Profile = z.output<typeof profileSchema>;
export type DrawnProfile = Extract<Profile, { kind: 'drawn' }>;
export type DrawnPoint = DrawnProfile['points'][number];

/** A profile as a curve in the plane z = 0 over [0, 1], with where it turns a corner. */
export interface ProfileCurve {
	readonly curve: Curve;
	readonly closed: boolean;
	/** Segments that begin at a corner; a closed profile with corners starts at one. */
	readonly corners: readonly number[];
}

/** Throws a ZygasterError with code `profile` that says what is wrong. */
export function profileCurve(profile: Profile): ProfileCurve {
	const closed = isClosed(profile);
	const chain = chainOf(profile);
	const corners = cornersOf(chain, closed);
	const first = closed ? (corners[0] ?? 0) : 0;
	return {
		curve: byLength(startAt(chain, first)),
		closed,
		corners: corners.map((s) => s - first)
	};
}

export const isClosed = (profile: Profile) => profile.kind !== 'drawn' || profile.closed;

/** The curves between a profile's corners; the whole where it has none. */
export function sidesOf({ curve, corners }: ProfileCurve): Curve[] {
	const borders = [...new Set([0, ...corners, segmentsOf(curve)])];
	return borders.slice(1).map((to, k) => partOf(curve, borders[k]!, to));
}

function chainOf(profile: Profile): Curve {
	switch (profile.kind) {
		case 'circle':
			return circularArc([0, 0], profile.radius, -Math.PI / 4, 2 * Math.PI);
		case 'ellipse':
			return mapCurve(circularArc([0, 0], 1, -Math.PI / 4, 2 * Math.PI), ([x, y]) => [
				x * profile.radiusX,
				y * profile.radiusY,
				0
			]);
		case 'rectangle': {
			const [x, y] = [profile.width / 2, profile.depth / 2];
			return roundedPolygon(
				[
					[x, -y, 0],
					[x, y, 0],
					[-x, y, 0],
					[-x, -y, 0]
				],
				profile.rounding
			);
		}
		case 'polygon':
			return roundedPolygon(regularPolygon(profile.sides, profile.radius), profile.rounding);
		case 'drawn':
			return drawnChain(profile);
	}
}

/** One side faces south; the first corner is its right one. */
const regularPolygon = (sides: number, radius: number) =>
	Array.from({ length: sides }, (_, k): Point => {
		const angle = -Math.PI / 2 + ((2 * k + 1) * Math.PI) / sides;
		return [radius * cos(angle), radius * sin(angle), 0];
	});

/** A closed polygon, each corner replaced by an arc of this radius that touches both sides. */
export function roundedPolygon(corners: readonly Point[], radius: number): Curve {
	const n = corners.length;
	if (radius < COINCIDENT_MM) return polyline([...corners, corners[0]!]);
	const cuts = corners.map((p, k) => cutCorner(corners[(k + n - 1) % n]!, p, corners[(k + 1) % n]!, radius));
	const pieces = cuts.flatMap(({ arc, reach }, k) => {
		const next = cuts[(k + 1) % n]!;
		const side = distance(corners[k]!, corners[(k + 1) % n]!);
		const left = side - reach - next.reach;
		if (left < -COINCIDENT_MM)
			throw new ZygasterError(
				'profile',
				`A rounding of ${radius} mm does not fit side ${k + 1}, which is ${Math.round(side)} mm long; at most ${Math.floor((radius * side) / (reach + next.reach))} mm would`
			);
		const straight = left > COINCIDENT_MM ? [polyline([arc ? endOf(arc) : corners[k]!, next.start])] : [];
		return arc ? [arc, ...straight] : straight;
	});
	return joinCurves(pieces);
}

const endOf = (curve: Curve): Point => {
	const [x, y, z, w] = curve.control.slice(-4);
	return [x! / w!, y! / w!, z! / w!];
};

/** The arc at corner `p`, where it starts, and how much of each side it takes. No arc on a straight line. */
function cutCorner(before: Point, p: Point, after: Point, radius: number) {
	const into = direction(before, p);
	const out = direction(p, after);
	const cross = into[0] * out[1] - into[1] * out[0];
	const turn = atan2(cross, into[0] * out[0] + into[1] * out[1]);
	if (Math.abs(cross) < SMOOTH_JOIN_SINE) return { arc: undefined, start: p, reach: 0 };
	const reach = radius * tan(Math.abs(turn) / 2);
	const start: Point = [p[0] - into[0] * reach, p[1] - into[1] * reach, 0];
	const side = Math.sign(turn);
	const centre = [start[0] - into[1] * radius * side, start[1] + into[0] * radius * side] as const;
	const from = atan2(start[1] - centre[1], start[0] - centre[0]);
	return { arc: circularArc(centre, radius, from, turn), start, reach };
}

function direction(a: Point, b: Point): readonly [number, number] {
	const size = distance(a, b) || 1;
	return [(b[0] - a[0]) / size, (b[1] - a[1]) / size];
}

function drawnChain({ points, closed, rounding }: DrawnProfile): Curve {
	checkDrawn(points, closed);
	const n = points.length;
	if (rounding >= COINCIDENT_MM) {
		if (!closed || points.some((p) => p.smooth || p.arc !== 0))
			throw fault('corners can be rounded on a closed line of straight stretches only');
		return roundedPolygon(
			points.map((_, k) => [points[k]!.x, points[k]!.y, 0]),
			rounding
		);
	}
	const count = closed ? n : n - 1;
	const at = (k: number): Point => [points[k % n]!.x, points[k % n]!.y, 0];
	if (closed && points.every((p) => p.smooth && p.arc === 0))
		return smoothCurve(
			points.map((_, k) => at(k)),
			true
		);
	// Runs between corners and arcs; a closed line begins at one of those, and its start is then turned back.
	const breaksHere = (k: number) =>
		!points[k % n]!.smooth || points[k % n]!.arc !== 0 || points[(k + n - 1) % n]!.arc !== 0;
	const begin = closed ? points.findIndex((_, k) => breaksHere(k)) : 0;
	const pieces: Curve[] = [];
	for (let k = begin; k < begin + count;) {
		const bulge = points[k % n]!.arc;
		let end = k + 1;
		if (bulge !== 0) pieces.push(bulgeArc(at(k), at(end), bulge));
		else {
			while (end < begin + count && !breaksHere(end)) end++;
			const run = Array.from({ length: end - k + 1 }, (_, i) => at(k + i));
			pieces.push(run.length === 2 ? polyline(run) : smoothCurve(run));
		}
		k = end;
	}
	const chain = joinCurves(pieces);
	return begin === 0 ? chain : startAt(chain, segmentsOf(chain) - begin);
}

/** The arc between two points whose `bulge` is the tangent of a quarter of its angle. */
function bulgeArc(a: Point, b: Point, bulge: number): Curve {
	const angle = 4 * atan(bulge);
	const chord = distance(a, b);
	const [dx, dy] = direction(a, b);
	// A positive arc turns left, so that it bulges to the right of the chord.
	const toCentre = (chord / 2) * ((1 - bulge * bulge) / (2 * bulge));
	const centre = [(a[0] + b[0]) / 2 - dy * toCentre, (a[1] + b[1]) / 2 + dx * toCentre] as const;
	const radius = chord / 2 / Math.abs(sin(angle / 2));
	return circularArc(centre, radius, atan2(a[1] - centre[1], a[0] - centre[0]), angle);
}

function checkDrawn(points: readonly DrawnPoint[], closed: boolean): void {
	const n = points.length;
	if (closed && n < 3 && points.some((p) => p.arc === 0))
		throw fault(`a closed line needs at least 3 points, or 2 with arcs between them; this has ${n}`);
	for (let k = 0; k < (closed ? n : n - 1); k++) {
		const [a, b] = [points[k]!, points[(k + 1) % n]!];
		if (hypot(a.x - b.x, a.y - b.y) < COINCIDENT_MM)
			throw fault(`points ${k + 1} and ${((k + 1) % n) + 1} are at one place, ${a.x}, ${a.y}`);
	}
	const crossing = crossingOf(points, closed);
	if (crossing)
		throw fault(
			`the line crosses itself: the stretch after point ${crossing[0] + 1} meets the one after point ${crossing[1] + 1}`
		);
	if (closed && signedArea(points) < 0)
		throw fault('the line runs clockwise; turn it round, so that its inside lies to the left');
}

const fault = (message: string) => new ZygasterError('profile', message);

/** mm2, arcs included; positive when the line runs anticlockwise. */
export function signedArea(points: readonly Pick<DrawnPoint, 'x' | 'y' | 'arc'>[]): number {
	return points.reduce((sum, p, k) => {
		const q = points[(k + 1) % points.length]!;
		return sum + (p.x * q.y - p.y * q.x) / 2 + segmentArea(hypot(q.x - p.x, q.y - p.y), p.arc);
	}, 0);
}

/** Area between an arc and its chord, signed like the arc. */
function segmentArea(chord: number, bulge: number): number {
	if (bulge === 0) return 0;
	const angle = 4 * atan(bulge);
	const radius = chord / 2 / sin(angle / 2);
	return (square(radius) * (angle - sin(angle))) / 2;
}

/** Segments at whose start the tangent turns; ends of an open chain do not count. */
function cornersOf(chain: Curve, closed: boolean): number[] {
	const n = segmentsOf(chain);
	const turns = (s: number) => {
		const before = tangentAt(chain, (s + n - 1) % n, 1);
		const after = tangentAt(chain, s, 0);
		const cross = before[0]! * after[1]! - before[1]! * after[0]!;
		const along = before[0]! * after[0]! + before[1]! * after[1]!;
		return Math.abs(cross) > SMOOTH_JOIN_SINE * hypot(cross, along) || along < 0;
	};
	return Array.from({ length: n }, (_, s) => s).filter((s) => (closed || s > 0) && turns(s));
}

function tangentAt(curve: Curve, segment: number, share: 0 | 1): Float64Array {
	const part = partOf(curve, segment, segment + 1);
	return evaluateCurve(part, [part.breaks[share]!]).derivative;
}

import { z } from 'zod';
import { cos, sin } from '../elementary/index.ts';
import { evaluateCurve, mapCurve, polyline, smoothCurve, unit, type Curve, type Point } from '../geometry/curve.ts';
import { skinCurves } from '../geometry/skin.ts';
import { stackSurfaces, type Surface } from '../geometry/surface.ts';
import { angle, height, share } from './fields.ts';
import { checkRoof, flatRoof, roofFaces, roofSchema } from './flatRoof.ts';
import { profileCurve, profileSchema, sidesOf } from './profile.ts';
import { checkRising, numberedFaces, type Settled, type ShapeKind } from './shapeKind.ts';

const station = z.strictObject({
	/** Share of the height, from 0 to 1. */
	at: share,
	/** Size of the footprint there; 1 is as drawn. */
	scale: z.number().min(0.001).max(1000),
	/** Anticlockwise, radians. */
	turn: angle
});

/** A footprint carried upwards while it is scaled and turned by numbers given at stations of the height. */
export const towerSchema = z.strictObject({
	kind: z.literal('tower'),
	footprint: profileSchema,
	base: height,
	top: height,
	/** How scale and turn run from station to station. */
	along: z.enum(['smooth', 'straight']),
	/** Rising, from 0 to 1. */
	stations: z.array(station).min(2, 'needs at least two stations').max(50),
	roof: roofSchema
});

export type TowerShape = z.output<typeof towerSchema>;

/** A turning tower is held by one section for each turn of this much; off by under 1e-5 of the radius. */
const TURN_STEP = Math.PI / 36;
const MOST_SECTIONS = 96;

export const tower: ShapeKind<TowerShape> = {
	label: 'Tower',
	help: 'A footprint carried upwards with taper and twist',
	faces: (shape) => [
		...numberedFaces(sidesOf(profileCurve(shape.footprint)).length, 'side', 'Side'),
		...roofFaces(shape)
	],
	surfaces: (shape) => {
		const { footprint, stations } = shape;
		const sides = sidesOf(profileCurve(footprint)).map((side) => towerSurface(unit(side), shape));
		const { scale, turn } = stations.at(-1)!;
		return [...sides, ...flatRoof(shape, footprint, (curve) => sectionAt(curve, shape, 1, scale, turn))];
	},
	check: ({ base, top, stations, footprint, roof }, report) => {
		checkRoof(roof, footprint, report);
		if (!(top > base)) report(['top'], `the top at ${top} mm is not above the base at ${base} mm`);
		const path = (k: number) => ['stations', k, 'at'];
		checkRising(
			stations.map((s) => s.at),
			path,
			'station',
			'after',
			report
		);
		if (stations[0]!.at !== 0) report(path(0), 'the first station must stand at 0');
		if (stations.at(-1)!.at !== 1) report(path(stations.length - 1), 'the last station must stand at 1');
	}
};

function towerSurface(side: Curve, shape: Settled<TowerShape>): Surface {
	const { stations, along } = shape;
	// Scale and turn as a curve over the height.
	const points = stations.map((s): Point => [s.at, s.scale, s.turn]);
	const runs = along === 'straight' ? points.slice(1).map((p, k) => polyline([points[k]!, p])) : [smoothCurve(points)];
	const turns = stations.some((s) => s.turn !== stations[0]!.turn);
	return stackSurfaces(
		runs.map((run) => {
			const sections = sampleRun(run, turns ? 3 : 1);
			return skinCurves(
				sections.map(([at, scale, turn]) => sectionAt(side, shape, at, scale, turn)),
				sections.map(([at]) => at),
				'smooth'
			);
		})
	);
}

/** A part of the footprint at a share of the height. */
function sectionAt(part: Curve, { base, top }: Settled<TowerShape>, at: number, scale: number, turn: number): Curve {
	const [cosine, sine] = [cos(turn) * scale, sin(turn) * scale];
	return mapCurve(part, ([x, y]) => [x * cosine - y * sine, x * sine + y * cosine, base + at * (top - base)]);
}

/** Points of a run, dense enough for its turning; `least` + 1 are enough for a straight one. */
function sampleRun(run: Curve, least: number): Point[] {
	const fine = Array.from({ length: 65 }, (_, k) => (run.breaks.at(-1)! * k) / 64);
	const { position } = evaluateCurve(run, fine);
	let turned = 0;
	for (let k = 1; k < fine.length; k++) turned += Math.abs(position[k * 3 + 2]! - position[k * 3 - 1]!);
	const needed = run.degree === 1 ? least : 4 * (run.breaks.length - 1);
	const count = Math.min(MOST_SECTIONS, Math.max(needed, Math.ceil(turned / TURN_STEP)));
	const at = Array.from({ length: count + 1 }, (_, k) => (run.breaks.at(-1)! * k) / count);
	const sampled = evaluateCurve(run, at).position;
	return at.map((_, k): Point => [sampled[k * 3]!, sampled[k * 3 + 1]!, sampled[k * 3 + 2]!]);
}

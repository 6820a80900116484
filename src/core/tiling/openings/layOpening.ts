import { acos, atan2, cos, sin } from '../../elementary/index.ts';
import { ZygasterError } from '../../errors.ts';
import { polygonOf } from '../../geometry/chords.ts';
import { reverseCurve, smoothCurve, type Curve, type Point } from '../../geometry/curve.ts';
import { PatchCursor } from '../../geometry/patches.ts';
import { pointOn } from '../../geometry/pointOn.ts';
import { developmentOf, FlatFinder, type ChartedFace, type Development } from '../../settingout/development.ts';
import type { LevelHeight } from '../../settingout/directions.ts';
import { AT_HEIGHT_MM, CHORD_MM, SAME_FLAT_MM } from '../../tolerances.ts';
import { group } from '../../units/print.ts';
import type { Opening, OpeningOutline, OpeningPlace } from './schema.ts';
import { projectRing } from './project.ts';
import { crossingSides, growRing, ringArea, turnAnticlockwise, type Ring } from './rings.ts';

/** An opening laid flat on its face, one line for each of its copies. */
export interface LaidOpening {
	readonly id: string;
	readonly name: string;
	readonly role: Opening['role'];
	/** Where each copy's place is, mm. */
	readonly places: readonly (readonly [number, number])[];
	readonly rings: readonly Ring[];
	/** Where cells stop: the lines with their frames around them. */
	readonly framed: readonly Ring[];
}

/** Lists what is broken in a laid opening; empty when sound. O(points2). */
export function validateOpening({ name, role, places, rings, framed }: LaidOpening): string[] {
	const faults: string[] = [];
	if (rings.length !== places.length || framed.length !== rings.length)
		faults.push(`${name} has ${places.length} places, ${rings.length} lines and ${framed.length} frames`);
	rings.forEach((ring, k) => {
		if (!ring.flat().every(Number.isFinite)) faults.push(`line ${k} of ${name} has a corner that is none`);
		else if (!(ringArea(ring) > 0)) faults.push(`line ${k} of ${name} does not run anticlockwise`);
		else if (crossingSides(ring)) faults.push(`line ${k} of ${name} crosses itself`);
		const grown = framed[k] ? ringArea(framed[k]) - ringArea(ring) : 0;
		if (role === 'opening' ? grown < -SAME_FLAT_MM : grown > SAME_FLAT_MM)
			faults.push(`the frame of ${name} lies on the wrong side of line ${k}`);
	});
	return faults;
}

/** Lays an opening flat. Throws a ZygasterError with code `opening` where it crosses itself or misses the face. */
export function layOpening(face: ChartedFace, opening: Opening, levels: readonly LevelHeight[]): LaidOpening {
	const { outline, place, role, frame } = opening;
	const local = turned(outlineRing(outline), opening.turn);
	const crossing = outline.kind === 'circle' ? undefined : crossingSides(local);
	if (crossing)
		throw fault(
			opening,
			`its line crosses itself, side ${crossing[0]} and side ${crossing[1]}. Right would be a line that goes around once`
		);
	const laid = placesOf(opening).map((at) => layCopy(face, opening, at, local, levels));
	const rings = laid.map((l) => turnAnticlockwise(l.ring));
	// Around an opening the frame is outside its line, along a border inside.
	const framed = rings.map((r) => growRing(r, role === 'opening' ? frame : -frame));
	return {
		id: opening.id,
		name: opening.name,
		role,
		places: laid.map((l, k) => (place.kind === 'face' || place.kind === 'level' ? l.at : middleOf(rings[k]!))),
		rings,
		framed
	};
}

/** The line of an outline about its place, in chords. */
export function outlineRing(outline: OpeningOutline): Ring {
	switch (outline.kind) {
		case 'rectangle': {
			const [x, y] = [outline.width / 2, outline.height];
			return [
				[-x, 0],
				[x, 0],
				[x, y],
				[-x, y]
			];
		}
		case 'circle':
			return circleRing(outline.diameter / 2);
		case 'polygon':
			return outline.points;
		case 'spline':
			return flatten(
				smoothCurve(
					outline.points.map(([x, y]): Point => [x, y, 0]),
					true
				)
			);
	}
}

/** Corners of a round outline at least, however small it is. */
const LEAST_ROUND = 16;

/** A regular polygon of the circle's area, within CHORD_MM of it: its corners lie a third of a chord's rise outside, its sides' middles two thirds inside. */
function circleRing(radius: number): Ring {
	const corners = Math.max(LEAST_ROUND, Math.ceil(Math.PI / acos(Math.max(0, 1 - (1.4 * CHORD_MM) / radius))));
	const turn = (2 * Math.PI) / corners;
	const out = radius * Math.sqrt(turn / sin(turn));
	return Array.from({ length: corners }, (_, k): [number, number] => [out * cos(k * turn), out * sin(k * turn)]);
}

/** A line drawn clockwise is turned, so that its outside is where its polygon looks for it. */
const flatten = (curve: Curve): Ring => {
	const polygon = polygonOf(curve, CHORD_MM);
	return ringArea(polygon) < 0 ? polygonOf(reverseCurve(curve), CHORD_MM) : polygon;
};

/** The places of an opening and its copies. */
function placesOf({ place, across, up }: Opening): OpeningPlace[] {
	const places: OpeningPlace[] = [];
	for (let m = 0; m < up.times; m++)
		for (let k = 0; k < across.times; k++) {
			const [x, y] = [k * across.spacing, m * up.spacing];
			if (place.kind === 'face') places.push({ ...place, across: place.across + x, up: place.up + y });
			else if (place.kind === 'level') places.push({ ...place, across: place.across + x, above: place.above + y });
			else if (place.kind === 'plan') places.push({ ...place, x: place.x + x, y: place.y + y });
			else {
				const { right } = elevationAxes(place.bearing);
				places.push({ ...place, x: place.x + right[0] * x, y: place.y + right[1] * x, z: place.z + y });
			}
		}
	return places;
}

function layCopy(
	face: ChartedFace,
	opening: Opening,
	place: OpeningPlace,
	local: Ring,
	levels: readonly LevelHeight[]
) {
	if (place.kind === 'plan')
		return {
			at: [0, 0] as const,
			ring: projectRing(face, opening.name, local, [place.x, place.y, 0], [1, 0, 0], [0, 1, 0])
		};
	if (place.kind === 'elevation') {
		const { right } = elevationAxes(place.bearing);
		return {
			at: [0, 0] as const,
			ring: projectRing(face, opening.name, local, [place.x, place.y, place.z], right, [0, 0, 1])
		};
	}
	const development = developmentOf(face);
	const at =
		place.kind === 'face' ? ([place.across, place.up] as const) : levelPlace(face, development, opening, place, levels);
	const angle = rowAngle(development, at[0], at[1]);
	return { at, ring: turned(local, angle).map(([x, y]): [number, number] => [x + at[0], y + at[1]]) };
}

/** What lies to the right when looking at a facade that faces a bearing. */
const elevationAxes = (bearing: number) => ({ right: [-cos(bearing), sin(bearing), 0] as Point });

/** The way of the row through a flat place; level where the place is off the face. */
export function rowAngle(development: Development, x: number, y: number): number {
	const found = new FlatFinder(development).find(x, y);
	if (!found) return 0;
	const cursor = new PatchCursor(development.patches);
	cursor.evaluate(found.u, found.v);
	return atan2(cursor.out[3]!, cursor.out[2]!);
}

/** A line turned about its place, radians anticlockwise. */
export function turned(ring: Ring, angle: number): Ring {
	if (angle === 0) return ring;
	const [cosine, sine] = [cos(angle), sin(angle)];
	return ring.map(([x, y]) => [x * cosine - y * sine, x * sine + y * cosine]);
}

/** Heights that a column is looked at in, and halvings that find the one asked for. */
const SAMPLES = 64;
const HALVINGS = 50;

/** The flat place straight up from the lower side at which the face has a height. */
function levelPlace(
	{ surface }: ChartedFace,
	development: Development,
	opening: Opening,
	place: Extract<OpeningPlace, { kind: 'level' }>,
	levels: readonly LevelHeight[]
): readonly [number, number] {
	const level = levels.find((l) => l.id === place.level);
	if (!level)
		throw fault(opening, `there is no level “${place.level}”; known: ${levels.map((l) => l.id).join(', ') || 'none'}`);
	const wanted = level.height + place.above;
	const finder = new FlatFinder(development);
	const [, low, , high] = development.bounds;
	const heightAt = (y: number) => {
		const at = finder.find(place.across, y);
		return at && pointOn(surface, at.u, at.v).position[2];
	};
	let reached: [number, number] | undefined;
	let before: { y: number; z: number } | undefined;
	for (let k = 0; k <= SAMPLES; k++) {
		const y = low + ((high - low) * k) / SAMPLES;
		const z = heightAt(y);
		if (z === undefined) continue;
		reached = [Math.min(z, reached?.[0] ?? z), Math.max(z, reached?.[1] ?? z)];
		if (Math.abs(z - wanted) < AT_HEIGHT_MM) return [place.across, y];
		if (before && (before.z - wanted) * (z - wanted) <= 0)
			return [place.across, bisect(heightAt, before.y, y, before.z, wanted)];
		before = { y, z };
	}
	throw fault(
		opening,
		reached
			? `${mm(wanted)} above the ground is off the face, which runs from ${mm(reached[0])} to ${mm(reached[1])} there`
			: `${mm(place.across)} across is off the face, which runs from ${mm(development.bounds[0])} to ${mm(development.bounds[2])}`
	);
}

function bisect(
	heightAt: (y: number) => number | undefined,
	from: number,
	to: number,
	start: number,
	wanted: number
): number {
	let [low, high] = [from, to];
	const rising = start < wanted;
	for (let k = 0; k < HALVINGS; k++) {
		const middle = (low + high) / 2;
		if ((heightAt(middle) ?? wanted) < wanted === rising) low = middle;
		else high = middle;
	}
	return (low + high) / 2;
}

function middleOf(ring: Ring): [number, number] {
	const sum = ring.reduce<[number, number]>(([x, y], p) => [x + p[0], y + p[1]], [0, 0]);
	return [sum[0] / ring.length, sum[1] / ring.length];
}

const mm = (length: number) => `${group(length, 0)} mm`;
const fault = ({ name }: Opening, message: string) => new ZygasterError('opening', `“${name}”: ${message}.`, name);

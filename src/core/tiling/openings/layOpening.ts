import { acos, cos, sin } from '../../elementary/index.ts';
import { ZygasterError } from '../../errors.ts';
import { polygonOf } from '../../geometry/chords.ts';
import { reverseCurve, smoothCurve, type Curve, type Point } from '../../geometry/curve.ts';
import { pointOn } from '../../geometry/pointOn.ts';
import { developmentOf, type ChartedFace } from '../../settingout/development.ts';
import type { LevelHeight } from '../../settingout/directions.ts';
import { AT_HEIGHT_MM, CHORD_MM, SAME_FLAT_MM } from '../../tolerances.ts';
import { group } from '../../units/print.ts';
import type { Opening, OpeningOutline, OpeningPlace } from './schema.ts';
import { FaceLines } from './faceLine.ts';
import { layAbout, layFlat, layProjected, type LaidLine } from './layLine.ts';
import { crossingSides, ringArea, turnAnticlockwise, type Ring } from './rings.ts';

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
	/** Width and height of its outline, mm, where it has them on the face. */
	readonly size?: readonly [number, number];
	/** Of each line that goes around the face, as about the point of a dome, the number of its points before it runs up there; 0 of others. */
	readonly around?: readonly number[];
}

/** The lines at which cells stop, each with whether it goes around the face. */
export const framedLines = ({ framed, around }: LaidOpening) =>
	framed.map((ring, k) => [ring, around?.[k] ?? 0] as const);

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
	const { outline, place, role } = opening;
	const local = turned(outlineRing(outline), opening.turn);
	const crossing = outline.kind === 'circle' ? undefined : crossingSides(local);
	if (crossing)
		throw fault(
			opening,
			`its line crosses itself, side ${crossing[0]} and side ${crossing[1]}. Right would be a line that goes around once`
		);
	const lines = new FaceLines(face);
	const laid = placesOf(opening).map((at) => layCopy(face, lines, opening, at, turnAnticlockwise(local), levels));
	const rings = laid.map((l) => turnAnticlockwise(l.ring));
	const onFace = place.kind === 'face' || place.kind === 'level';
	const around = laid.map((l) => l.around);
	return {
		id: opening.id,
		name: opening.name,
		role,
		places: laid.map((l, k) => (onFace ? l.at : middleOf(rings[k]!))),
		rings,
		framed: laid.map((l, k) => (l.framed === l.ring ? rings[k]! : l.framed)),
		...(laid.some((l) => l.sized) ? { size: sizeOf(outline) } : {}),
		...(around.some((n) => n > 0) ? { around } : {})
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
	lines: FaceLines,
	opening: Opening,
	place: OpeningPlace,
	local: Ring,
	levels: readonly LevelHeight[]
): LaidLine & { readonly at: readonly [number, number] } {
	const { role, name, outline } = opening;
	// Around an opening the frame is outside its line, along a border inside.
	const frame = role === 'opening' ? opening.frame : -opening.frame;
	if (place.kind === 'plan')
		return {
			at: [0, 0],
			...layProjected(lines, name, local, frame, [
				[place.x, place.y, 0],
				[1, 0, 0],
				[0, 1, 0]
			])
		};
	if (place.kind === 'elevation') {
		const { right } = elevationAxes(place.bearing);
		return { at: [0, 0], ...layProjected(lines, name, local, frame, [[place.x, place.y, place.z], right, [0, 0, 1]]) };
	}
	const development = developmentOf(face);
	const at = place.kind === 'face' ? ([place.across, place.up] as const) : levelPlace(lines, opening, place, levels);
	// What has a size has that about its place; what is drawn on the face laid flat is as it was drawn there.
	const round = outline.kind === 'circle';
	const sized = role === 'opening' && (round || outline.kind === 'rectangle');
	// A door stands on its level, however its face is bent.
	const level = place.kind === 'level' && !round && opening.turn === 0;
	const about = sized && !development.unrolls && layAbout(lines, name, local, frame, at, { round, level });
	return { at, ...(about || layFlat(lines, turned(local, lines.rowAngle(at)), frame, at)) };
}

/** What lies to the right when looking at a facade that faces a bearing. */
const elevationAxes = (bearing: number) => ({ right: [-cos(bearing), sin(bearing), 0] as Point });

/** A line turned about its place, radians anticlockwise. */
function turned(ring: Ring, angle: number): Ring {
	if (angle === 0) return ring;
	const [cosine, sine] = [cos(angle), sin(angle)];
	return ring.map(([x, y]) => [x * cosine - y * sine, x * sine + y * cosine]);
}

/** Heights that a column is looked at in, and halvings that find the one asked for. */
const SAMPLES = 64;
const HALVINGS = 50;

/** The flat place straight up from the lower side at which the face has a height. */
function levelPlace(
	lines: FaceLines,
	opening: Opening,
	place: Extract<OpeningPlace, { kind: 'level' }>,
	levels: readonly LevelHeight[]
): readonly [number, number] {
	const level = levels.find((l) => l.id === place.level);
	if (!level)
		throw fault(opening, `there is no level “${place.level}”; known: ${levels.map((l) => l.id).join(', ') || 'none'}`);
	const wanted = level.height + place.above;
	const { bounds } = lines.development;
	const [, low, , high] = bounds;
	const heightAt = (y: number) => {
		const at = lines.placeAt(place.across, y);
		return at.beyond ? undefined : pointOn(lines.face.surface, at.u, at.v).position[2];
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
			: `${mm(place.across)} across is off the face, which runs from ${mm(bounds[0])} to ${mm(bounds[2])}`
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

/** How wide and how high an outline is as it was drawn, before it is turned. */
function sizeOf(outline: OpeningOutline): [number, number] {
	if (outline.kind === 'circle') return [outline.diameter, outline.diameter];
	const ring = outlineRing(outline);
	const range = (c: 0 | 1) => Math.max(...ring.map((p) => p[c])) - Math.min(...ring.map((p) => p[c]));
	return [range(0), range(1)];
}

function middleOf(ring: Ring): [number, number] {
	const sum = ring.reduce<[number, number]>(([x, y], p) => [x + p[0], y + p[1]], [0, 0]);
	return [sum[0] / ring.length, sum[1] / ring.length];
}

const mm = (length: number) => `${group(length, 0)} mm`;
const fault = ({ name }: Opening, message: string) => new ZygasterError('opening', `“${name}”: ${message}.`, name);

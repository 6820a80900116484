import { norm } from '../../elementary/index.ts';
import { ZygasterError } from '../../errors.ts';
import type { Point } from '../../geometry/curve.ts';
import { PatchCursor } from '../../geometry/patches.ts';
import { pointOn } from '../../geometry/pointOn.ts';
import { straightAhead } from '../../geometry/straightAhead.ts';
import { domainOf } from '../../geometry/surface.ts';
import type { ChartedFace } from '../../settingout/development.ts';
import type { FaceLine, FaceLines, Located } from './faceLine.ts';
import { followed } from './onFace.ts';
import { projectedOnto } from './project.ts';
import { crossingSides, growRing, soundRing, type Ring } from './rings.ts';

type At = Ring[number];

/** One line of an opening, laid flat. */
export interface LaidLine {
	readonly ring: Ring;
	/** Where cells stop: the line with its frame. */
	readonly framed: Ring;
	/** Of a line that goes around the face the number of its points before it runs up there; 0 of others. */
	readonly around: number;
	/** Whether the outline has its own size on the face. */
	readonly sized: boolean;
}

/** A line seen in a plane, by its origin and its axes, laid on the face. */
export function layProjected(
	lines: FaceLines,
	name: string,
	local: Ring,
	frame: number,
	[origin, right, up]: readonly [Point, Point, Point]
): LaidLine {
	const line = lines.line(local, projectedOnto(lines.face, name, origin, right, up));
	const ring = lines.laid(line);
	return { ...withFrame(lines, line, ring, frame), sized: line.around !== 0 };
}

/**
 * A line laid on the face about one of its flat places, in true lengths and angles from there; nothing where the place is
 * off the face. A `round` one is in chords already; with `level` what is level in the outline is so on the face. Throws a
 * ZygasterError with code `opening` where the face is too round for it.
 */
export function layAbout(
	lines: FaceLines,
	name: string,
	local: Ring,
	frame: number,
	at: At,
	{ round, level }: { readonly round: boolean; readonly level: boolean }
): LaidLine | undefined {
	const from = lines.placeAt(...at);
	if (from.beyond) return undefined;
	const tooRound = () =>
		new ZygasterError(
			'opening',
			`“${name}”: the face is too round for its size there. Right would be a smaller one, or a place in plan.`,
			name
		);
	const straight = aheadOf(lines, from, tooRound);
	const locate = level ? levelled(lines.face, straight) : straight;
	const line = lines.line(local, locate, round);
	const laid = lines.laid(line);
	const crosses = crossingSides(laid) !== undefined;
	if (crosses && !line.points.some((p) => p.beyond)) throw tooRound();
	// Off the face, ways that leave it in different directions may cross.
	const ring = crosses ? (soundRing(laid) ?? laid) : laid;
	return { ...withFrame(lines, line, ring, frame), sized: true };
}

type Locate = (x: number, y: number) => Located;

/** What is straight ahead of a place, so far along the row through it and so far up. */
function aheadOf({ face, development }: FaceLines, from: Located, fault: () => ZygasterError): Locate {
	const cursor = new PatchCursor(development.patches);
	return (x, y) => {
		const found = straightAhead(face.surface, face.ends.closedAcross, from, x, y);
		if (!found) throw fault();
		const { beyond, ...ahead } = found;
		const reached = { ...ahead, turns: ahead.turns + from.turns };
		if (!beyond) return reached;
		const { length, byU, byV } = beyond;
		cursor.evaluate(reached.u, reached.v);
		const by = (c: 0 | 1) => (cursor.out[2 + c]! * byU + cursor.out[4 + c]! * byV) * length;
		return { ...reached, beyond: [by(0), by(1)] };
	};
}

/** Rise of a column, as a ratio of its way, above which it can be followed to a height. */
const STEEP = 0.25;
const MOST_STEPS = 8;

/** Points moved along their columns to the height of that one of them which is straight above the place. */
function levelled({ surface }: ChartedFace, locate: Locate): Locate {
	const [v0, v1] = domainOf(surface.knotsV, surface.degreeV);
	const heights = new Map<number, number | undefined>();
	const heightOf = (y: number) => {
		const { u, v, beyond } = locate(0, y);
		return beyond ? undefined : pointOn(surface, u, v).position[2];
	};
	return (x, y) => {
		const found = locate(x, y);
		if (!heights.has(y)) heights.set(y, heightOf(y));
		const wanted = heights.get(y);
		if (found.beyond || wanted === undefined) return found;
		let { v } = found;
		for (let k = 0; k < MOST_STEPS; k++) {
			const { position, dv } = pointOn(surface, found.u, v);
			if (Math.abs(dv[2]) < STEEP * norm(dv)) return found;
			v += (wanted - position[2]) / dv[2];
			if (v < v0 || v > v1) return found;
		}
		return { ...found, v };
	};
}

/** A line laid on the flat face as it is, with its place there. */
export function layFlat(lines: FaceLines, local: Ring, frame: number, [x0, y0]: At): LaidLine {
	const { unrolls } = lines.development;
	const ring = local.map(([x, y]): [number, number] => [x + x0, y + y0]);
	if (unrolls || frame === 0) return { ring, framed: growRing(ring, frame), around: 0, sized: unrolls };
	return { ...withFrame(lines, lines.lineAt(followed(ring, 0)), ring, frame), sized: false };
}

/** A line with its frame: as it lies flat on a face that unrolls, by its true lengths on others. */
function withFrame(lines: FaceLines, line: FaceLine, ring: Ring, frame: number): Omit<LaidLine, 'sized'> {
	if (line.around !== 0) return { ring, framed: lines.grown(line, frame), around: line.points.length };
	const flat = lines.development.unrolls || frame === 0;
	return { ring, framed: flat ? growRing(ring, frame) : lines.grown(line, frame), around: 0 };
}

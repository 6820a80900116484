import { hypot } from '../elementary/index.ts';
import { endsOf } from '../geometry/borders.ts';
import { evaluateGridPoints } from '../geometry/evaluate.ts';
import { domainOf, swapDirections, type Surface } from '../geometry/surface.ts';
import { STANDING_FRAME } from '../mass/frame.ts';
import { kindOf, type Shape } from '../mass/shapes.ts';
import { settingOutOf } from '../settingout/spacing.ts';
import { DEFAULT_MARK } from '../tiling/marks.ts';
import { orderSchema } from '../tiling/order.ts';
import { bordersSchema, type Opening } from '../tiling/openings/schema.ts';
import { holeOpenings } from './holeOpenings.ts';
import { settleShape } from './settle.ts';
import type { Face, Level, Mass } from './schema.ts';

/** Size that the cells of a new face come near to, mm. */
const MODULE = 1500;
const MOST_DIVISIONS = 60;

interface Naming {
	readonly id: string;
	readonly name: string;
	/** Marks that are taken; the new faces' marks differ from all of them. */
	readonly marks: readonly string[];
	/** What marks start with. */
	readonly letter?: string;
	/** Hears of what could not be taken over, such as a hole that is no opening. */
	readonly note?: (words: string) => void;
}

/** A mass of a shape with all its faces, divided near a module. Throws as the shape's surfaces do. */
export function newMass(shape: Shape, levels: readonly Level[], { id, name, marks, letter = 'M', note }: Naming): Mass {
	const mass: Mass = { id, name, shape, frame: { ...STANDING_FRAME }, faces: [] };
	matchFaces(mass, levels, marks, letter, note);
	return mass;
}

/**
 * Gives a mass the faces that its shape has now: those it had keep everything by their id, new ones are
 * added, others go. Answers the ids of those that went.
 */
export function matchFaces(
	mass: Mass,
	levels: readonly Level[],
	taken: readonly string[],
	letter = 'M',
	note?: Naming['note']
): string[] {
	const shape = settleShape({ levels: [...levels] }, mass);
	const kind = kindOf(shape);
	const wanted = kind.faces(shape);
	const kept = new Map(mass.faces.map((f) => [f.id, f]));
	const marks = [...taken, ...mass.faces.map((f) => f.mark)];
	const surfaces = wanted.some((f) => !kept.has(f.id)) ? kind.surfaces(shape) : [];
	const gone = mass.faces.map((f) => f.id).filter((id) => !wanted.some((w) => w.id === id));
	mass.faces = wanted.map(({ id, name }, k) => {
		const face = kept.get(id);
		if (face) return face;
		const mark = freeMark(letter, marks);
		marks.push(mark);
		const { openings, notes } = holeOpenings(surfaces[k]!, kind.holes?.(shape)[k] ?? []);
		for (const words of notes) note?.(`${name}: ${words}`);
		return newFace(id, name, mark, surfaces[k]!, openings);
	});
	return gone;
}

function newFace(id: string, name: string, mark: string, surface: Surface, openings: Opening[]): Face {
	const ends = endsOf(surface);
	const divisions = (length: number, least: number) =>
		Math.max(least, Math.min(MOST_DIVISIONS, Math.round(length / MODULE)));
	return {
		id,
		name,
		mark,
		hidden: false,
		insideOut: false,
		facade: true,
		element: 'auto',
		settingOut: settingOutOf(
			{ kind: 'count', count: divisions(roughLength(surface), ends.closedAcross ? 8 : 2) },
			{ kind: 'count', count: divisions(roughLength(swapDirections(surface)), ends.closedUp ? 8 : 2) }
		),
		openings,
		borders: bordersSchema.parse({}),
		tiling: { kind: 'rectangular' },
		marks: DEFAULT_MARK,
		order: orderSchema.parse({})
	};
}

/** Points by which a length is guessed. */
const ROUGH = 33;

/** About the longest row of a face: chords along its start, middle and end. Quick, since it decides only a first division. */
function roughLength(surface: Surface): number {
	const even = (count: number, knots: Float64Array, degree: number) => {
		const [from, to] = domainOf(knots, degree);
		return Float64Array.from({ length: count }, (_, k) => from + ((to - from) * k) / (count - 1));
	};
	const { position: p } = evaluateGridPoints(
		surface,
		even(ROUGH, surface.knotsU, surface.degreeU),
		even(3, surface.knotsV, surface.degreeV)
	);
	const lengths = [0, 1, 2].map((row) => {
		let sum = 0;
		for (let o = row * ROUGH * 3; o < (row * ROUGH + ROUGH - 1) * 3; o += 3)
			sum += hypot(p[o + 3]! - p[o]!, p[o + 4]! - p[o + 1]!, p[o + 5]! - p[o + 2]!);
		return sum;
	});
	return Math.max(...lengths);
}

/** The letter with the first number from 1 that is not taken. */
function freeMark(letter: string, taken: readonly string[]): string {
	let n = 1;
	while (taken.includes(`${letter}${n}`)) n++;
	return `${letter}${n}`;
}

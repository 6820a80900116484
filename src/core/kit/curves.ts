import { acos, cos, sin } from '../elementary/index.ts';
import { newell } from '../geometry/newell.ts';
import type { Block, Line } from './program.ts';
import { FINE_ANGLE } from '../tolerances.ts';

/**
 * Straight pieces of a line that stand for a curve. What is measured is the curve that is meant, not the chords that
 * draw it: each chord is taken as that of a circular arc, whose angle follows from how the chords turn. Exact for arcs
 * of circles; of other curves what is left out falls with the fourth power of a piece's angle.
 */
export interface CurveRun {
	/** Number of its first piece, from 0; piece k runs from point k to the next. */
	readonly from: number;
	readonly count: number;
	/** It goes on straight from its ends, as rounded corners do; otherwise its ends are free or make a corner. */
	readonly tangent: boolean;
}

type Way = [number, number, number];

const segmentsOf = ({ count, closed }: Line) => (closed ? count : count - 1);

/** Unit way of a piece, its length behind it; all 0 for one without length. */
function wayOf(
	{ points, stride, from }: Block,
	{ first, count }: Line,
	h: number,
	piece: number
): [number, number, number, number] {
	const base = (from + h) * stride;
	const a = base + (first + piece) * 3;
	const b = base + (first + ((piece + 1) % count)) * 3;
	const [x, y, z] = [points[b]! - points[a]!, points[b + 1]! - points[a + 1]!, points[b + 2]! - points[a + 2]!];
	const length = Math.sqrt(x * x + y * y + z * z);
	return length > 0 ? [x / length, y / length, z / length, length] : [0, 0, 0, 0];
}

const turnBetween = (a: readonly number[], b: readonly number[]) =>
	acos(Math.max(-1, Math.min(1, a[0]! * b[0]! + a[1]! * b[1]! + a[2]! * b[2]!)));

/** A piece of a curve: its number, its chord, the angle of its arc, and the way from the chord towards the arc. */
export interface CurvedPiece {
	readonly piece: number;
	readonly chord: number;
	/** Unit vector along the chord. */
	readonly way: Way;
	readonly angle: number;
	readonly bulge: Way;
}

/** The curved pieces of a line on host `h`. O(pieces). */
export function curvedPieces(block: Block, line: Line, h: number): CurvedPiece[] {
	const all = segmentsOf(line);
	return (line.curves ?? []).flatMap(({ from, count, tangent }) => {
		const around = line.closed && count === all;
		/** The pieces before and behind one, where the curve goes on there. */
		const beside = (k: number, step: -1 | 1) => {
			const next = k + step;
			if (next >= 0 && next < count) return { number: from + next, own: true };
			if (around) return { number: (next + count) % count, own: true };
			if (!tangent || (!line.closed && (from + next < 0 || from + next >= all))) return undefined;
			return { number: (from + next + all) % all, own: false };
		};
		return Array.from({ length: count }, (_, k): CurvedPiece => {
			const way = wayOf(block, line, h, from + k);
			const sides = ([-1, 1] as const).map((step) => {
				const other = beside(k, step);
				if (!other) return undefined;
				const next = wayOf(block, line, h, other.number);
				// Between two chords of one arc each has its part of the turn, by its length; from a straight line all of it is the chord's.
				return {
					half: turnBetween(way, next) * (other.own ? way[3] / (way[3] + next[3] || 1) : 1),
					bend: [0, 1, 2].map((c) => (way[c]! - next[c]!) * -step) as Way
				};
			});
			const known = sides.filter((s) => s !== undefined);
			const angle = known.length === 0 ? 0 : known.length === 2 ? known[0]!.half + known[1]!.half : 2 * known[0]!.half;
			// Towards the outside of the bend, square to the chord.
			const bend = [0, 1, 2].map((c) => -known.reduce((sum, s) => sum + s.bend[c]!, 0)) as Way;
			const along = bend[0] * way[0] + bend[1] * way[1] + bend[2] * way[2];
			const square = bend.map((b, c) => b - along * way[c]!) as Way;
			const size = Math.sqrt(square[0] * square[0] + square[1] * square[1] + square[2] * square[2]);
			return {
				piece: from + k,
				chord: way[3],
				way: [way[0], way[1], way[2]],
				angle: size > 0 ? angle : 0,
				bulge: size > 0 ? [square[0] / size, square[1] / size, square[2] / size] : [0, 0, 0]
			};
		});
	});
}

/** By piece of a line, whether it runs on smoothly at its start and at its end. */
export function smoothEnds(line: Line): [boolean, boolean][] {
	const all = segmentsOf(line);
	const ends = Array.from({ length: all }, (): [boolean, boolean] => [false, false]);
	for (const { from, count, tangent } of line.curves ?? []) {
		const around = line.closed && count === all;
		for (let k = 0; k < count; k++) {
			if (k > 0 || around || tangent) ends[from + k]![0] = true;
			if (k + 1 < count || around || tangent) ends[from + k]![1] = true;
		}
		if (!tangent) continue;
		if (line.closed || from > 0) ends[(from + all - 1) % all]![1] = true;
		if (line.closed || from + count < all) ends[(from + count) % all]![0] = true;
	}
	return ends;
}

/** How much longer an arc is than its chord. */
export const arcOverChord = (angle: number): number => (angle === 0 ? 1 : angle / 2 / sin(angle / 2));

/** The line on host `h` with each curved piece cut finely: stride 3. */
export function fineLine(block: Block, line: Line, h: number): Float64Array {
	const { points, stride, from } = block;
	const start = (from + h) * stride + line.first * 3;
	if (!line.curves?.length) return points.slice(start, start + line.count * 3);
	const curved = new Map(
		curvedPieces(block, line, h)
			.filter((p) => p.angle > 0 && p.chord > 0)
			.map((p) => [p.piece, p])
	);
	const out: number[] = [];
	for (let k = 0; k < line.count; k++) {
		const a = start + k * 3;
		out.push(points[a]!, points[a + 1]!, points[a + 2]!);
		const arc = curved.get(k);
		if (!arc) continue;
		const b = start + ((k + 1) % line.count) * 3;
		const radius = arc.chord / (2 * sin(arc.angle / 2));
		const chords = Math.ceil(arc.angle / FINE_ANGLE);
		for (let f = 1; f < chords; f++) {
			const turn = arc.angle * (f / chords - 0.5);
			const along = 0.5 + sin(turn) / (2 * sin(arc.angle / 2));
			const off = radius * (cos(turn) - cos(arc.angle / 2));
			for (let c = 0; c < 3; c++)
				out.push(points[a + c]! + (points[b + c]! - points[a + c]!) * along + arc.bulge[c]! * off);
		}
	}
	return Float64Array.from(out);
}

/**
 * How much more area a closed line encloses than the chords that draw it, mm2; below 0 where its curves run inwards.
 * Between an arc of angle a and its chord c lies c^2 (a - sin a) / (8 sin^2 (a / 2)).
 */
export function bulgeArea(block: Block, line: Line, h: number): number {
	if (!line.curves?.length) return 0;
	const start = (block.from + h) * block.stride + line.first * 3;
	const n = newell(block.points, line.count, (k) => start + k * 3);
	return curvedPieces(block, line, h).reduce((sum, { chord, angle, way, bulge }) => {
		if (angle === 0) return sum;
		// To the right of the way lies the outside of a ring that runs anticlockwise about its own normal.
		const outwards =
			bulge[0] * (way[1] * n[2] - way[2] * n[1]) +
			bulge[1] * (way[2] * n[0] - way[0] * n[2]) +
			bulge[2] * (way[0] * n[1] - way[1] * n[0]);
		const half = sin(angle / 2);
		return sum + (Math.sign(outwards) * chord * chord * (angle - sin(angle))) / (8 * half * half);
	}, 0);
}

import { asin, hypot, tan } from '../elementary/index.ts';
import { signedArea } from '../mass/profile.ts';
import { ringArea } from '../tiling/openings/rings.ts';
import { SAME_FLAT_MM } from '../tolerances.ts';
import type { Flat } from './flatPattern.ts';

/** A closed line of straight sides and arcs; a circle is two halves. */
export interface ArcLine {
	readonly points: readonly Flat[];
	/** By side: the tangent of a quarter of its angle, above 0 where it turns to the left (DXF’s measure); 0 where it is straight. */
	readonly bulges: readonly number[];
}

/** Fewer chords in a row are sides, whatever circle they happen to lie on. */
const LEAST_CHORDS = 4;
/** A chord that turns by more, about 50 degrees, is a side. */
const MOST_TURN = 0.9;

interface Circle {
	readonly centre: Flat;
	readonly radius: number;
}

/**
 * The lines of a piece with arcs for the chords that stand for them: of outline and holes those with which the piece has the
 * given area, mm2, most nearly; nothing for lines that stay as they are. Chords of a curve enclose less than it, sides that
 * happen to lie on a circle do not.
 */
export function arcLines(cuts: readonly (readonly Flat[])[], area: number): (ArcLine | undefined)[] {
	const found = cuts.map(arcLine);
	const gains = found.map((line, k) => (line ? arcArea(line) - ringArea(cuts[k]!) : 0));
	const lacking = area - cuts.reduce((sum, line) => sum + ringArea(line), 0);
	const outer = gains[0] ?? 0;
	const holes = gains.slice(1).reduce((a, b) => a + b, 0);
	const off = ([o, h]: readonly [boolean, boolean]) => Math.abs(lacking - (o ? outer : 0) - (h ? holes : 0));
	const choices = [[false, false], [false, true], [true, false], [true, true]] as const; // prettier-ignore
	const [o, h] = choices.reduce((best, choice) => (off(choice) < off(best) ? choice : best));
	return found.map((line, k) => ((k === 0 ? o : h) ? line : undefined));
}

/** The area that a line encloses, mm2; above 0 anticlockwise. */
export const arcArea = ({ points, bulges }: ArcLine): number =>
	signedArea(points.map(([x, y], k) => ({ x, y, arc: bulges[k]! })));

/** The same line with arcs where its corners lie on circles; nothing where none do. O(corners squared) at most. */
export function arcLine(line: readonly Flat[]): ArcLine | undefined {
	const n = line.length;
	if (n <= LEAST_CHORDS) return undefined;
	const at = (k: number) => line[((k % n) + n) % n]!;
	const ring = onCircle(line, 0, n - 1);
	if (ring && chordTurn(ring, at(n - 1), at(0)) < MOST_TURN) {
		const [x, y] = at(0);
		const turn = Math.sign(ringArea(line));
		return { points: [[x, y], [2 * ring.centre[0] - x, 2 * ring.centre[1] - y]], bulges: [turn, turn] }; // prettier-ignore
	}
	// Arcs are looked for from a corner on at which none goes on.
	const start = longestSide(line);
	const turned = Array.from({ length: n + 1 }, (_, k) => at(start + k));
	const [points, bulges]: [Flat[], number[]] = [[], []];
	for (let from = 0; from < n;) {
		let [to, circle]: [number, Circle | undefined] = [from + 1, undefined];
		for (let next = from + LEAST_CHORDS; next <= n; next++) {
			const wider = onCircle(turned, from, next);
			if (!wider) break;
			[to, circle] = [next, wider];
		}
		points.push(turned[from]!);
		if (!circle) bulges.push(0);
		else {
			const turn = turnOf(turned[from]!, turned[from + 1]!, turned[from + 2]!);
			const middle = Math.floor((from + to) / 2);
			// In two, so that each is less than half a circle.
			points.push(turned[middle]!);
			bulges.push(
				turn * tan(turnFrom(circle, turned, from, middle) / 4),
				turn * tan(turnFrom(circle, turned, middle, to) / 4)
			);
		}
		from = to;
	}
	return bulges.some((b) => b !== 0) ? { points, bulges } : undefined;
}

/** The circle that corners lie on from one to another, turning one way by small steps; nothing where there is none. */
function onCircle(line: readonly Flat[], from: number, to: number): Circle | undefined {
	const circle = through(line[from]!, line[Math.floor((from + to) / 2)]!, line[to]!);
	if (!circle) return undefined;
	const turn = turnOf(line[from]!, line[from + 1]!, line[from + 2]!);
	for (let k = from; k <= to; k++) {
		const p = line[k]!;
		if (Math.abs(hypot(p[0] - circle.centre[0], p[1] - circle.centre[1]) - circle.radius) > SAME_FLAT_MM)
			return undefined;
		if (k < to && !(chordTurn(circle, p, line[k + 1]!) < MOST_TURN)) return undefined;
		if (k > from && k < to && turnOf(line[k - 1]!, p, line[k + 1]!) !== turn) return undefined;
	}
	return circle;
}

/** The circle through three points; nothing where they lie in a row. */
function through(a: Flat, b: Flat, c: Flat): Circle | undefined {
	const [bx, by, cx, cy] = [b[0] - a[0], b[1] - a[1], c[0] - a[0], c[1] - a[1]];
	const twice = 2 * (bx * cy - by * cx);
	if (twice === 0) return undefined;
	const [bb, cc] = [bx * bx + by * by, cx * cx + cy * cy];
	const [x, y] = [(cy * bb - by * cc) / twice, (bx * cc - cx * bb) / twice];
	return { centre: [a[0] + x, a[1] + y], radius: hypot(x, y) };
}

/** By how much a chord turns around the centre, radians. */
const chordTurn = ({ radius }: Circle, p: Flat, q: Flat) =>
	2 * asin(Math.min(1, hypot(q[0] - p[0], q[1] - p[1]) / (2 * radius)));

function turnFrom(circle: Circle, line: readonly Flat[], from: number, to: number): number {
	let sum = 0;
	for (let k = from; k < to; k++) sum += chordTurn(circle, line[k]!, line[k + 1]!);
	return sum;
}

/** 1 where the way turns to the left, -1 to the right, 0 where it goes straight on. */
const turnOf = (a: Flat, b: Flat, c: Flat) => Math.sign((b[0] - a[0]) * (c[1] - b[1]) - (b[1] - a[1]) * (c[0] - b[0]));

/** Where the longest side ends. */
function longestSide(line: readonly Flat[]): number {
	let [most, end] = [-1, 0];
	line.forEach((p, k) => {
		const next = (k + 1) % line.length;
		const length = hypot(line[next]![0] - p[0], line[next]![1] - p[1]);
		if (length > most) [most, end] = [length, next];
	});
	return end;
}

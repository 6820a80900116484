import { acos, hypot, norm, sin, tan } from '../../elementary/index.ts';
import { COINCIDENT_MM, PARALLEL_SINE } from '../../tolerances.ts';
import { markFailed } from '../sound.ts';
import type { Builder } from '../builder.ts';
import { flag, option, ref, value, valueOr, whole } from '../fields.ts';
import { lengthOf, trueLength } from '../measures.ts';
import { fineLine } from '../curves.ts';
import type { Block, Line } from '../program.ts';
import { stepKind } from '../stepKind.ts';
import { copyPoint } from './line.ts';

type Points = Float64Array;

/** One side of a line. */
export const side = stepKind({
	kind: 'side',
	group: 'lines',
	makes: 'line',
	label: 'Side',
	help: 'One side of a line, by its number: side 1 runs from corner 1 to corner 2',
	fields: {
		of: ref(['line'], 'Of'),
		side: whole(-64, 1000, 1, 'Number', 'From 1; −1 is the last'),
		reversed: flag(false, 'Turned round', 'From its end to its start')
	},
	compile({ of, side, reversed }, b) {
		const source = b.line(of, 2);
		const sides = source.closed ? source.count : source.count - 1;
		const number = side < 0 ? sides + 1 + side : side;
		if (number < 1 || number > sides) throw b.fail(`“${of}” has ${sides} sides; there is no side ${side}`);
		const ends = [number - 1, number % source.count];
		if (reversed) ends.reverse();
		const target = b.make(2);
		b.op(({ points, stride, from, count }) => {
			for (let h = 0; h < count; h++)
				ends.forEach((k, e) =>
					copyPoint(points, (from + h) * stride + (source.first + k) * 3, (from + h) * stride + (target.first + e) * 3)
				);
		});
	}
});

/** A line that follows the face. */
export const alongFace = stepKind({
	kind: 'alongFace',
	group: 'lines',
	makes: 'line',
	label: 'Along the face',
	help: 'A line cut into pieces, each point of which is brought onto the face',
	fields: { of: ref(['line'], 'Of'), pieces: whole(2, 64, 8, 'Pieces', 'From point to point') },
	compile({ of, pieces }, b) {
		const source = b.line(of, 2);
		const spans = source.closed ? source.count : source.count - 1;
		const curves = Array.from({ length: spans }, (_, k) => ({ from: k * pieces, count: pieces, tangent: false }));
		const target = b.make(spans * pieces + (source.closed ? 0 : 1), source.closed, {
			bent: true,
			curves,
			free: source.free === true
		});
		b.op(({ hosts, points, stride, from, count }) => {
			for (let h = 0; h < count; h++) {
				const base = (from + h) * stride;
				for (let k = 0; k < target.count; k++) {
					const span = Math.min(spans - 1, Math.floor(k / pieces));
					const t = k / pieces - span;
					const [p, q] = [base + (source.first + span) * 3, base + (source.first + ((span + 1) % source.count)) * 3];
					const to = base + (target.first + k) * 3;
					for (let c = 0; c < 3; c++) points[to + c] = points[p + c]! + (points[q + c]! - points[p + c]!) * t;
					if (hosts.onFace) hosts.onFace(points, to);
				}
			}
		});
	}
});

/** Corners of a line rounded by arcs. */
export const round = stepKind({
	kind: 'round',
	group: 'lines',
	makes: 'line',
	label: 'Round corners',
	help: 'The corners of a line rounded by arcs of a radius',
	fields: {
		of: ref(['line'], 'Of'),
		radius: value('length', 'Radius', '', 50),
		pieces: whole(1, 32, 6, 'Pieces', 'Straight pieces of each arc')
	},
	compile({ of, radius, pieces }, b) {
		roundLine(b, b.line(of, 3), radius, pieces);
	}
});

/** Adds a line with rounded corners as what the present step makes. */
export function roundLine(b: Builder, source: Line, radius: number | string, pieces: number): Line {
	const { count: n, closed } = source;
	const slot = b.slot(radius, 'length', 'Radius');
	const corners = closed ? n : n - 2;
	const curves = Array.from({ length: corners }, (_, k) => ({
		from: k * (pieces + 1) + (closed ? 0 : 1),
		count: pieces,
		tangent: true
	}));
	const target = b.make(corners * (pieces + 1) + (closed ? 0 : 2), closed, {
		bent: true,
		curves,
		free: source.free === true
	});
	const code = b.fault('the arcs are longer than the sides between them; right would be a smaller radius');
	b.op((block) => {
		const { points, stride, from, count } = block;
		for (let h = 0; h < count; h++) {
			const base = (from + h) * stride;
			const r = block.columns[slot]![h]!;
			const at = (k: number, c: number) => points[base + (source.first + ((k + n) % n)) * 3 + c]!;
			/** How far the arc of corner k begins before it. */
			const reach: number[] = [];
			let to = base + target.first * 3;
			if (!closed) {
				copyPoint(points, base + source.first * 3, to);
				to += 3;
			}
			for (let i = 0; i < corners; i++) {
				const k = closed ? i : i + 1;
				const u = [0, 1, 2].map((c) => at(k - 1, c) - at(k, c));
				const v = [0, 1, 2].map((c) => at(k + 1, c) - at(k, c));
				const [lu, lv] = [norm(u), norm(v)];
				const cosine = Math.min(1, Math.max(-1, (u[0]! * v[0]! + u[1]! * v[1]! + u[2]! * v[2]!) / (lu * lv)));
				const half = acos(cosine) / 2;
				const back = r / tan(half);
				reach.push(back);
				// Centre on the bisector, at r / sin(half) from the corner.
				const bisector = [0, 1, 2].map((c) => u[c]! / lu + v[c]! / lv);
				const size = norm(bisector);
				const turn = Math.PI - 2 * half;
				for (let p = 0; p <= pieces; p++, to += 3)
					for (let c = 0; c < 3; c++) {
						if (!(size > PARALLEL_SINE)) points[to + c] = at(k, c);
						else {
							const centre = at(k, c) + (bisector[c]! / size) * (r / sin(half));
							const first = at(k, c) + (u[c]! / lu) * back - centre;
							const last = at(k, c) + (v[c]! / lv) * back - centre;
							const a = (turn * p) / pieces;
							// From one end of the arc to the other along the circle (spherical interpolation).
							const value =
								sin(turn) > PARALLEL_SINE
									? (first * sin(turn - a) + last * sin(a)) / sin(turn)
									: first + (last - first) * (p / pieces);
							points[to + c] = centre + value;
						}
					}
			}
			if (!closed) copyPoint(points, base + (source.first + n - 1) * 3, to);
			const sides = closed ? n : n - 1;
			for (let k = 0; k < sides; k++) {
				const length = hypot(at(k + 1, 0) - at(k, 0), at(k + 1, 1) - at(k, 1), at(k + 1, 2) - at(k, 2));
				const used = closed ? reach[k]! + reach[(k + 1) % n]! : (reach[k - 1] ?? 0) + (reach[k] ?? 0);
				if (!(used <= length + COINCIDENT_MM) || r < 0) markFailed(block, h, target.mask, code);
			}
		}
	});
	return target;
}

/** An open line made shorter, or longer, at its ends. */
export const cut = stepKind({
	kind: 'cut',
	group: 'lines',
	makes: 'line',
	label: 'Cut back',
	help: 'An open line made shorter at its ends; below 0 makes it longer',
	fields: {
		of: ref(['line'], 'Of'),
		start: valueOr('length', 0, 'At the start'),
		end: valueOr('length', 0, 'At the end')
	},
	compile({ of, start, end }, b) {
		const source = openLine(b, of);
		const [s, e] = [b.slot(start, 'length', 'At the start'), b.slot(end, 'length', 'At the end')];
		shorten(
			b,
			source,
			(block, h) => [block.columns[s]![h]!, block.columns[e]![h]!],
			'less than nothing is left between both ends; right would be to cut less'
		);
	}
});

/** An open line brought to a fixed length. */
export const fixed = stepKind({
	kind: 'fixed',
	group: 'lines',
	makes: 'line',
	label: 'Fixed length',
	help: 'An open line shortened to a length, centred or from one end: centred, both ends are set back by (span − length) / 2',
	fields: {
		of: ref(['line'], 'Of'),
		length: value('length', 'Length', '', 200),
		place: option({ middle: 'Centred', start: 'From the start', end: 'From the end' }, 'Place')
	},
	compile({ of, length, place }, b) {
		const source = openLine(b, of);
		const slot = b.slot(length, 'length', 'Length');
		shorten(
			b,
			source,
			(block, h) => {
				const spare = (isOneCurve(source) ? trueLength : lengthOf)(block, source, h) - block.columns[slot]![h]!;
				return place === 'middle' ? [spare / 2, spare / 2] : place === 'start' ? [0, spare] : [spare, 0];
			},
			'the line is shorter than the length wanted',
			true
		);
	}
});

function openLine(b: Builder, name: string): Line {
	const source = b.line(name, 2);
	if (source.closed) throw b.fail(`“${name}” is closed and has no ends; right would be an open line or one side`);
	return source;
}

/** Whether a line is one curve from its start to its end. */
const isOneCurve = ({ curves, count }: Line) => curves?.length === 1 && curves[0]!.count === count - 1;

/** Moves both ends of a line along it; points that lie beyond them gather there. */
function shorten(
	b: Builder,
	source: Line,
	by: (block: Block, h: number) => readonly [number, number],
	reason: string,
	never = false
): void {
	const target = b.make(source.count, false, source);
	const code = b.fault(reason);
	// What is left of one curve is a curve of as many pieces.
	const curve = isOneCurve(source);
	b.op((block) => {
		const { points, stride, from, count } = block;
		for (let h = 0; h < count; h++) {
			const base = (from + h) * stride;
			const [start, end] = by(block, h);
			const length = curve ? trueLength(block, source, h) : lengthOf(block, source, h);
			if (!(length - start - end > COINCIDENT_MM) || (never && (start < -COINCIDENT_MM || end < -COINCIDENT_MM)))
				markFailed(block, h, target.mask, code);
			if (curve) {
				const fine = fineLine(block, source, h);
				const along = { first: 0, count: fine.length / 3 };
				const total = runOf(fine);
				for (let k = 0; k < source.count; k++)
					placeOn(
						fine,
						0,
						along,
						(start + ((length - start - end) * k) / (source.count - 1)) * (total / length),
						points,
						base + (target.first + k) * 3
					);
				continue;
			}
			let run = 0;
			for (let k = 0; k < source.count; k++) {
				if (k > 0) run += segment(points, base + (source.first + k - 1) * 3);
				const place = Math.min(
					length - end,
					Math.max(start, k === 0 ? start : k === source.count - 1 ? length - end : run)
				);
				placeOn(points, base, source, place, points, base + (target.first + k) * 3);
			}
		}
	});
}

/** Length of a whole polyline, stride 3. */
function runOf(points: Points): number {
	let sum = 0;
	for (let p = 0; p + 5 < points.length; p += 3) sum += segment(points, p);
	return sum;
}

const segment = (points: Points, p: number) =>
	hypot(points[p + 3]! - points[p]!, points[p + 4]! - points[p + 1]!, points[p + 5]! - points[p + 2]!);

/** The point at a distance along an open line; beyond its ends on its first or last segment drawn on. */
export function placeOn(
	points: Points,
	base: number,
	{ first, count }: Pick<Line, 'first' | 'count'>,
	distance: number,
	out: Points,
	to: number
): void {
	let left = distance;
	for (let k = 0; k < count - 1; k++) {
		const p = base + (first + k) * 3;
		const size = segment(points, p);
		if (left > size && k < count - 2) {
			left -= size;
			continue;
		}
		const t = size > 0 ? left / size : 0;
		const [x, y, z] = [
			points[p]! + (points[p + 3]! - points[p]!) * t,
			points[p + 1]! + (points[p + 4]! - points[p + 1]!) * t,
			points[p + 2]! + (points[p + 5]! - points[p + 2]!) * t
		];
		out[to] = x;
		out[to + 1] = y;
		out[to + 2] = z;
		return;
	}
}

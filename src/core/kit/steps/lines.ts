import { acos, atan2, cos, hypot, norm, sin, square, tan } from '../../elementary/index.ts';
import { COINCIDENT_MM, PARALLEL_SINE } from '../../tolerances.ts';
import { markFailed, type Builder } from '../builder.ts';
import { flag, option, ref, refs, value, valueOr, whole } from '../fields.ts';
import { lengthOf, trueLength } from '../measures.ts';
import { fineLine, type CurveRun } from '../curves.ts';
import type { Block, Line } from '../program.ts';
import { stepKind } from '../stepKind.ts';

type Points = Float64Array;

function copyPoint(points: Points, from: number, to: number): void {
	points[to] = points[from]!;
	points[to + 1] = points[from + 1]!;
	points[to + 2] = points[from + 2]!;
}

/** A line through points. */
export const line = stepKind({
	kind: 'line',
	group: 'lines',
	makes: 'line',
	label: 'Line',
	help: 'Straight from point to point, smooth through them, or an arc through three; lines among them bring all their points; through a path that meets itself it closes',
	fields: {
		through: refs(['point', 'line'], 'Through', 'Points in order', 1),
		closed: flag(false, 'Closed', 'From the last point back to the first'),
		shape: option({ straight: 'Straight', smooth: 'Smooth', arc: 'Arc through three' }, 'Shape'),
		pieces: whole(
			2,
			64,
			8,
			'Pieces',
			'Straight pieces that draw it: of a smooth line so many from each point to the next, of an arc so many in all; lengths and weights are those of the curve'
		)
	},
	compile({ through, closed: asked, shape, pieces }, b) {
		const sources = through.map((name) => b.line(name));
		// A line through a whole path that meets itself does so, too.
		const closed = asked || (b.shape.closed === true && sources.length === 1 && sources[0]!.closed);
		const total = sources.reduce((n, s) => n + s.count, 0);
		if (total < 2) throw b.fail('a line needs two points or more');
		if (closed && total < 3) throw b.fail('a closed line needs three points or more');
		const direct = shape === 'straight';
		const knots = direct ? b.make(total, closed, { curves: joinedCurves(sources, closed) }) : b.take(total, closed);
		b.op(({ points, stride, from, count }) => {
			for (let h = 0; h < count; h++) {
				let to = (from + h) * stride + knots.first * 3;
				for (const s of sources)
					for (let k = 0; k < s.count; k++, to += 3) copyPoint(points, (from + h) * stride + (s.first + k) * 3, to);
			}
		});
		if (shape === 'smooth') smooth(b, knots, pieces);
		if (shape === 'arc') {
			if (total !== 3) throw b.fail(`an arc goes through three points; given are ${total}`);
			if (closed) throw b.fail('an arc is open; right would be a smooth closed line');
			arc(b, knots, pieces);
		}
	}
});

/** The curves of lines one after the other; one that closes by itself keeps the piece back to its start. */
function joinedCurves(sources: readonly Line[], closed: boolean): CurveRun[] {
	let first = 0;
	return sources.flatMap((source) => {
		const at = first;
		first += source.count;
		const last = sources.length === 1 && closed ? source.count : source.count - 1;
		return (source.curves ?? []).flatMap(({ from, count, tangent }) =>
			from < last ? [{ from: at + from, count: Math.min(count, last - from), tangent }] : []
		);
	});
}

/** Through all knots, by centripetal Catmull-Rom pieces (Barry & Goldman 1988), which neither loop nor overshoot. */
function smooth(b: Builder, knots: Line, pieces: number): void {
	const { count: n, closed } = knots;
	const spans = closed ? n : n - 1;
	const target = b.make(closed ? spans * pieces : spans * pieces + 1, closed, {
		bent: true,
		curves: [{ from: 0, count: spans * pieces, tangent: false }]
	});
	b.op(({ points, stride, from, count }) => {
		for (let h = 0; h < count; h++) {
			const base = (from + h) * stride;
			const at = (k: number, c: number): number => {
				if (closed) return points[base + (knots.first + ((k + n) % n)) * 3 + c]!;
				// Beyond its ends an open line runs straight on.
				if (k < 0) return 2 * at(0, c) - at(1, c);
				if (k >= n) return 2 * at(n - 1, c) - at(n - 2, c);
				return points[base + (knots.first + k) * 3 + c]!;
			};
			const gap = (k: number) =>
				Math.max(
					Math.sqrt(hypot(at(k + 1, 0) - at(k, 0), at(k + 1, 1) - at(k, 1), at(k + 1, 2) - at(k, 2))),
					COINCIDENT_MM
				);
			let to = base + target.first * 3;
			for (let k = 0; k < spans; k++) {
				const [a, m, z] = [gap(k - 1), gap(k), gap(k + 1)];
				for (let p = 0; p < pieces; p++, to += 3)
					for (let c = 0; c < 3; c++) {
						const [x0, x1, x2, x3] = [at(k - 1, c), at(k, c), at(k + 1, c), at(k + 2, c)];
						const t = (m * p) / pieces;
						const a1 = x0 + ((x1 - x0) * (t + a)) / a;
						const a2 = x1 + ((x2 - x1) * t) / m;
						const a3 = x2 + ((x3 - x2) * (t - m)) / z;
						const b1 = a1 + ((a2 - a1) * (t + a)) / (a + m);
						const b2 = a2 + ((a3 - a2) * t) / (m + z);
						points[to + c] = b1 + ((b2 - b1) * t) / m;
					}
			}
			if (!closed) copyPoint(points, base + (knots.first + n - 1) * 3, to);
		}
	});
}

/** The circle through three points, from the first over the second to the third. */
function arc(b: Builder, knots: Line, pieces: number): void {
	const target = b.make(pieces + 1, false, { bent: true, curves: [{ from: 0, count: pieces, tangent: false }] });
	b.op(({ points, stride, from, count }) => {
		for (let h = 0; h < count; h++) {
			const base = (from + h) * stride;
			const p = [0, 1, 2].map((k) => [0, 1, 2].map((c) => points[base + (knots.first + k) * 3 + c]!)) as [
				number[],
				number[],
				number[]
			];
			const u = p[1].map((x, c) => x - p[0][c]!) as [number, number, number];
			const v = p[2].map((x, c) => x - p[0][c]!) as [number, number, number];
			const w = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]] as const;
			const [uu, vv, uv] = [u, v]
				.map((x) => square(x[0]) + square(x[1]) + square(x[2]))
				.concat(u[0] * v[0] + u[1] * v[1] + u[2] * v[2]) as [number, number, number];
			const ww = square(w[0]) + square(w[1]) + square(w[2]);
			const straight = !(ww > PARALLEL_SINE * uu * vv);
			// Circumcentre relative to the first point.
			const [s, t] = straight ? [0, 0] : [(vv * (uu - uv)) / (2 * ww), (uu * (vv - uv)) / (2 * ww)];
			const centre = p[0].map((x, c) => x + s * u[c]! + t * v[c]!);
			const e = p[0].map((x, c) => x - centre[c]!) as [number, number, number];
			const size = Math.sqrt(ww);
			const axis = w.map((x) => x / size) as [number, number, number];
			const f = [
				axis[1] * e[2] - axis[2] * e[1],
				axis[2] * e[0] - axis[0] * e[2],
				axis[0] * e[1] - axis[1] * e[0]
			] as const;
			const end = p[2].map((x, c) => x - centre[c]!) as [number, number, number];
			let sweep = atan2(end[0] * f[0] + end[1] * f[1] + end[2] * f[2], end[0] * e[0] + end[1] * e[1] + end[2] * e[2]);
			if (sweep < 0) sweep += 2 * Math.PI;
			for (let k = 0; k <= pieces; k++) {
				const share = k / pieces;
				const angle = sweep * share;
				for (let c = 0; c < 3; c++)
					points[base + (target.first + k) * 3 + c] = straight
						? p[0][c]! + v[c]! * share
						: centre[c]! + e[c]! * cos(angle) + f[c]! * sin(angle);
			}
		}
	});
}

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
		const target = b.make(spans * pieces + (source.closed ? 0 : 1), source.closed, { bent: true, curves });
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
	const target = b.make(corners * (pieces + 1) + (closed ? 0 : 2), closed, { bent: true, curves });
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

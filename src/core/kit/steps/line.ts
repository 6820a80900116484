import { atan2, cos, hypot, sin, square } from '../../elementary/index.ts';
import { COINCIDENT_MM, PARALLEL_SINE } from '../../tolerances.ts';
import type { Builder } from '../builder.ts';
import { flag, option, refs, whole } from '../fields.ts';
import type { CurveRun } from '../curves.ts';
import type { Line } from '../program.ts';
import { stepKind } from '../stepKind.ts';
import { pointAt, wayAt } from '../../geometry/vectors.ts';

/** Copies a point from one place to another, both offsets into the array. */
export function copyPoint(points: Float64Array, from: number, to: number): void {
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
		const knots = direct
			? b.make(total, closed, { curves: joinedCurves(sources, closed), free: closed })
			: b.take(total, closed);
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
		free: closed,
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
			const o = base + knots.first * 3;
			const p = [pointAt(points, o), pointAt(points, o + 3), pointAt(points, o + 6)] as const;
			const [u, v] = [wayAt(points, o, o + 3), wayAt(points, o, o + 6)];
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

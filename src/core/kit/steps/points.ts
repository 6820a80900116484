import { square } from '../../elementary/index.ts';
import { markFailed } from '../sound.ts';
import { option, ref, refs, value } from '../fields.ts';
import { lengthOf } from '../measures.ts';
import { stepKind } from '../stepKind.ts';
import { COINCIDENT_MM, PARALLEL_SINE } from '../../tolerances.ts';

/** The mean of points. */
export const middle = stepKind({
	kind: 'middle',
	group: 'points',
	makes: 'point',
	label: 'Middle',
	help: 'The mean of points and of the corners of lines: the middle of two points, the centre of a cell',
	fields: { of: refs(['point', 'line'], 'Of', 'Points or lines') },
	compile({ of }, b) {
		const sources = of.map((name) => b.line(name));
		const target = b.make(1);
		const total = sources.reduce((n, s) => n + s.count, 0);
		b.op(({ points, stride, from, count }) => {
			for (let h = 0; h < count; h++) {
				const base = (from + h) * stride;
				let [x, y, z] = [0, 0, 0];
				for (const s of sources)
					for (let k = 0; k < s.count; k++) {
						const o = base + (s.first + k) * 3;
						x += points[o]!;
						y += points[o + 1]!;
						z += points[o + 2]!;
					}
				const t = base + target.first * 3;
				points[t] = x / total;
				points[t + 1] = y / total;
				points[t + 2] = z / total;
			}
		});
	}
});

/** A point on a line. */
export const along = stepKind({
	kind: 'along',
	group: 'points',
	makes: 'point',
	label: 'Along a line',
	help: 'A point on a line, at a share of its length or at a distance, from either end',
	fields: {
		of: ref(['line'], 'Line'),
		by: option({ ratio: 'Share', distance: 'Distance' }, 'By'),
		at: value('ratio', 'At', 'A share from 0 to 1, or a distance', 0.5),
		from: option({ start: 'Start', end: 'End' }, 'From')
	},
	compile({ of, by, at, from: end }, b) {
		const source = b.line(of, 2);
		const slot = b.slot(at, by === 'ratio' ? 'ratio' : 'length', 'At');
		const target = b.make(1);
		const beyond = b.fault(
			`the place lies beyond the ends of “${of}”; right would be ${by === 'ratio' ? 'a share from 0 to 1' : 'a distance from 0 to its length'}`
		);
		const segments = source.closed ? source.count : source.count - 1;
		b.op((block) => {
			const { points, stride, from, count } = block;
			const places = block.columns[slot]!;
			for (let h = 0; h < count; h++) {
				const base = (from + h) * stride;
				const length = lengthOf(block, source, h);
				const place = by === 'ratio' ? places[h]! * length : places[h]!;
				if (!(place >= -COINCIDENT_MM && place <= length + COINCIDENT_MM)) markFailed(block, h, target.mask, beyond);
				let left = end === 'start' ? place : length - place;
				for (let k = 0; k < segments; k++) {
					const p = base + (source.first + k) * 3;
					const q = base + (source.first + ((k + 1) % source.count)) * 3;
					const [x, y, z] = [points[q]! - points[p]!, points[q + 1]! - points[p + 1]!, points[q + 2]! - points[p + 2]!];
					const size = Math.sqrt(x * x + y * y + z * z);
					if (left > size && k < segments - 1) {
						left -= size;
						continue;
					}
					const t = size > 0 ? left / size : 0;
					const o = base + target.first * 3;
					points[o] = points[p]! + x * t;
					points[o + 1] = points[p + 1]! + y * t;
					points[o + 2] = points[p + 2]! + z * t;
					break;
				}
			}
		});
	}
});

/** Where two straight lines come nearest to each other. */
export const crossing = stepKind({
	kind: 'crossing',
	group: 'points',
	makes: 'point',
	label: 'Crossing',
	help: 'Where two lines cross, taken straight from end to end; the point halfway between where they miss, and miss(name) tells by how much',
	fields: { first: ref(['line'], 'First line'), second: ref(['line'], 'Second line') },
	compile({ first, second }, b) {
		const [p, q] = [b.line(first, 2), b.line(second, 2)];
		const target = b.make(1);
		const parallel = b.fault(`“${first}” and “${second}” run parallel and do not cross`);
		const misses = new Float64Array(1);
		const solve = (points: Float64Array, base: number, out?: number): boolean => {
			const at = (line: typeof p, k: number, c: number) => points[base + (line.first + k) * 3 + c]!;
			const d = [0, 1, 2].map((c) => at(p, p.count - 1, c) - at(p, 0, c));
			const e = [0, 1, 2].map((c) => at(q, q.count - 1, c) - at(q, 0, c));
			const r = [0, 1, 2].map((c) => at(q, 0, c) - at(p, 0, c));
			const dot = (a: number[], c: number[]) => a[0]! * c[0]! + a[1]! * c[1]! + a[2]! * c[2]!;
			const [dd, ee, de] = [dot(d, d), dot(e, e), dot(d, e)];
			// The square of the cross product, not dd ee - de de, of which rounding leaves nothing where both are as good as parallel.
			const spread = [0, 1, 2].reduce(
				(sum, c) => sum + square(d[(c + 1) % 3]! * e[(c + 2) % 3]! - d[(c + 2) % 3]! * e[(c + 1) % 3]!),
				0
			);
			if (!(spread > PARALLEL_SINE * PARALLEL_SINE * dd * ee)) return false;
			const s = (dot(r, d) * ee - dot(r, e) * de) / spread;
			const t = (dot(r, d) * de - dot(r, e) * dd) / spread;
			let sum = 0;
			for (let c = 0; c < 3; c++) {
				const [x, y] = [at(p, 0, c) + s * d[c]!, at(q, 0, c) + t * e[c]!];
				sum += square(x - y);
				if (out !== undefined) points[out + c] = (x + y) / 2;
			}
			misses[0] = Math.sqrt(sum);
			return true;
		};
		b.op((block) => {
			for (let h = 0; h < block.count; h++) {
				const base = (block.from + h) * block.stride;
				if (!solve(block.points, base, base + target.first * 3)) markFailed(block, h, target.mask, parallel);
			}
		});
		b.crossings.set(b.step!.name, (block, h) =>
			solve(block.points, (block.from + h) * block.stride) ? misses[0]! : NaN
		);
	}
});

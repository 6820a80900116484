import { norm } from '../../elementary/index.ts';
import type { Point } from '../../geometry/curve.ts';
import { dot, minus, pointAt, scaled } from '../../geometry/vectors.ts';
import type { LooseGeometry } from '../../kit/result.ts';
import type { Turn } from './cluster.ts';
import { cutBar, type CutBar } from './cutBars.ts';
import type { At, Made } from './pieceSizes.ts';

/**
 * Of a bar of `n` profile points: its length, how far each edge of the profile begins and ends before that, and the steps
 * from edge to edge across it. It may be turned end for end, or about itself, where its profile allows it.
 */
export function barSizes(n: number, points: Float64Array, at: At, hosts: readonly number[]): Made {
	const dims = 3 * n + 1;
	const values = new Float64Array(hosts.length * dims);
	hosts.forEach((h, row) =>
		measureBar(
			n,
			points,
			(k) => at(h, k),
			(k) => (k + 1) % n,
			values,
			row * dims
		)
	);
	// Of an even number of points half may be those of an inner line.
	const loops = n % 2 === 0 && n >= 6 ? [n / 2, n] : [n];
	return {
		make: `bar ${n}`,
		dims,
		turns: barTurns(n, loops, false),
		mirrors: barTurns(n, loops, true),
		values,
		rows: Uint32Array.from(hosts)
	};
}

/**
 * The same of bars whose ends are cut to planes, and their volume as a length of their profile: bodies that are equal but for
 * their triangles are alike. Those that are no such bars are left out; `list` has the numbers of the others.
 */
export function cutBarSizes(geometry: LooseGeometry): { readonly list: Uint32Array; readonly made: Made }[] {
	const { positions, positionStart, triangles, triangleStart, rows } = geometry;
	const makes = new Map<string, { readonly piece: number; readonly bar: CutBar }[]>();
	for (let piece = 0; piece < rows.length; piece++) {
		const bar = cutBar({
			positions: positions.subarray(positionStart[piece], positionStart[piece + 1]),
			triangles: triangles.subarray(triangleStart[piece], triangleStart[piece + 1])
		});
		if (!bar) continue;
		const make = `cut bar ${bar.loops.join(' + ')}`;
		const alike = makes.get(make) ?? [];
		makes.set(make, alike);
		alike.push({ piece, bar });
	}
	return [...makes].map(([make, bars]) => {
		const { loops } = bars[0]!.bar;
		const [loop, n] = [loops[0]!, loops[0]! * loops.length];
		const dims = 3 * n + 2;
		const values = new Float64Array(bars.length * dims);
		const next = (k: number) => k - (k % loop) + ((k + 1) % loop);
		bars.forEach(({ bar: { points, mean } }, row) => {
			measureBar(n, points, (k) => k * 3, next, values, row * dims);
			values[(row + 1) * dims - 1] = mean;
		});
		const list = Uint32Array.from(bars, ({ piece }) => piece);
		return {
			list,
			made: {
				make,
				dims,
				turns: barTurns(n, [loop], false, 1),
				mirrors: barTurns(n, [loop], true, 1),
				values,
				rows: list.map((k) => rows[k]!)
			}
		};
	});
}

/** Puts the sizes of a bar into `values` from `o` on; `next` is the edge at the other end of the step from one. */
function measureBar(
	n: number,
	points: Float64Array,
	at: (k: number) => number,
	next: (k: number) => number,
	values: Float64Array,
	o: number
): void {
	const start = Array.from({ length: n }, (_, k) => pointAt(points, at(k)));
	const end = Array.from({ length: n }, (_, k) => pointAt(points, at(n + k)));
	const whole = minus(end[0]!, start[0]!);
	const way = scaled(whole, 1 / norm(whole));
	const along = (list: readonly Point[]) => list.map((p) => dot(minus(p, start[0]!), way));
	const [s, e] = [along(start), along(end)];
	const [first, last] = [Math.min(...s), Math.max(...e)];
	values[o] = last - first;
	for (let k = 0; k < n; k++) {
		values[o + 1 + k] = s[k]! - first;
		values[o + 1 + n + k] = last - e[k]!;
		const step = minus(start[next(k)]!, start[k]!);
		const flat = minus(step, scaled(way, dot(step, way)));
		values[o + 1 + 2 * n + k] = norm(flat);
	}
}

/** Whole profiles, and those of an outer and an inner line, turned about themselves and end for end; or only one of the two, as a mirror does. */
function barTurns(n: number, loops: readonly number[], mirror: boolean, more = 0): Turn[] {
	const turns: Turn[] = [];
	for (const loop of loops)
		for (let by = 0; by < loop && turns.length < MOST_TURNS; by++) {
			const shifted = (k: number) => k - (k % loop) + ((k + by) % loop);
			const mirrored = (k: number) => k - (k % loop) + ((by - (k % loop) + loop) % loop);
			const sides = (k: number) => k - (k % loop) + ((by - (k % loop) - 1 + 2 * loop) % loop);
			turns.push(turnOf(n, mirror, shifted, shifted, more), turnOf(n, !mirror, mirrored, sides, more));
		}
	return turns;
}
const MOST_TURNS = 32;

/** The last `more` numbers of a bar are the same however it lies. */
function turnOf(
	n: number,
	ends: boolean,
	edge: (k: number) => number,
	side: (k: number) => number,
	more: number
): Turn {
	const from = Uint16Array.from({ length: 3 * n + 1 + more }, (_, d) => d);
	for (let k = 0; k < n; k++) {
		from[1 + k] = 1 + (ends ? n : 0) + edge(k);
		from[1 + n + k] = 1 + (ends ? 0 : n) + edge(k);
		from[1 + 2 * n + k] = 1 + 2 * n + side(k);
	}
	return { from };
}

import earcut from 'earcut';
import { cos, hypot, sin, square } from '../elementary/index.ts';
import type { Builder } from './builder.ts';
import { markFailed } from './sound.ts';
import type { Column } from './formula/compile.ts';
import type { Mesh } from './mesh.ts';

/** The cross-section of a bar: x across to the left of its way seen from outside, y outwards, mm. */
export interface Profile {
	/** Points of the outer loop, anticlockwise, then those of the inner one, clockwise. */
	readonly loops: readonly number[];
	readonly count: number;
	/** Three points a triangle, over the whole section. */
	readonly caps: readonly number[];
	/** The same on all hosts of a run. */
	readonly uniform: boolean;
	/** Fills x, y of each point on host `h`. */
	readonly points: (columns: readonly Column[], h: number, out: Float64Array) => void;
	/** mm2 */
	readonly section: (columns: readonly Column[], h: number) => number;
	/** Middle of the section's area, mm. */
	readonly centroid: (columns: readonly Column[], h: number) => Point;
	/** mm, around the outside. */
	readonly around: (columns: readonly Column[], h: number) => number;
}

export interface ProfileStep {
	readonly profile: 'rectangle' | 'hollow' | 'round' | 'tube' | 'tee' | 'angle' | 'channel' | 'drawn';
	readonly width: number | string;
	readonly depth: number | string;
	readonly wall: number | string;
	readonly drawn?: readonly (readonly [number, number])[] | undefined;
}

/** Straight pieces around a round profile. */
export const ROUND_PIECES = 16;

type Point = readonly [number, number];
/** Corners from width, depth and wall. */
type Shape = (
	w: number,
	d: number,
	t: number
) => { readonly outer: readonly Point[]; readonly inner?: readonly Point[] };

const circle = (radius: number): Point[] =>
	Array.from({ length: ROUND_PIECES }, (_, k) => [
		radius * cos((2 * Math.PI * k) / ROUND_PIECES),
		radius * sin((2 * Math.PI * k) / ROUND_PIECES)
	]);

const box = (w: number, d: number): Point[] => [
	[-w / 2, -d / 2],
	[w / 2, -d / 2],
	[w / 2, d / 2],
	[-w / 2, d / 2]
];

const SHAPES: Readonly<Record<Exclude<ProfileStep['profile'], 'drawn'>, Shape>> = {
	rectangle: (w, d) => ({ outer: box(w, d) }),
	hollow: (w, d, t) => ({ outer: box(w, d), inner: box(w - 2 * t, d - 2 * t) }),
	round: (w) => ({ outer: circle(w / 2) }),
	tube: (w, _d, t) => ({ outer: circle(w / 2), inner: circle(w / 2 - t) }),
	// Flange outside, web inwards.
	tee: (w, d, t) => ({
		outer: [
			[-t / 2, -d / 2],
			[t / 2, -d / 2],
			[t / 2, d / 2 - t],
			[w / 2, d / 2 - t],
			[w / 2, d / 2],
			[-w / 2, d / 2],
			[-w / 2, d / 2 - t],
			[-t / 2, d / 2 - t]
		]
	}),
	angle: (w, d, t) => ({
		outer: [
			[-w / 2, -d / 2],
			[-w / 2 + t, -d / 2],
			[-w / 2 + t, d / 2 - t],
			[w / 2, d / 2 - t],
			[w / 2, d / 2],
			[-w / 2, d / 2]
		]
	}),
	channel: (w, d, t) => ({
		outer: [
			[-w / 2, -d / 2],
			[-w / 2 + t, -d / 2],
			[-w / 2 + t, d / 2 - t],
			[w / 2 - t, d / 2 - t],
			[w / 2 - t, -d / 2],
			[w / 2, -d / 2],
			[w / 2, d / 2],
			[-w / 2, d / 2]
		]
	})
};

/** Makes the profile of the present step ready. */
export function profileOf(b: Builder, step: ProfileStep): Profile {
	if (step.profile === 'drawn') return drawnProfile(b, step.drawn ?? []);
	const round = step.profile === 'round' || step.profile === 'tube';
	const walled = step.profile !== 'rectangle' && step.profile !== 'round';
	const shape = SHAPES[step.profile];
	/** The same to both sides, and above as below. */
	const even = round || step.profile === 'rectangle' || step.profile === 'hollow';
	const w = b.slot(step.width, 'length', round ? 'Diameter' : 'Width');
	const d = round ? w : b.slot(step.depth, 'length', 'Depth');
	const t = walled ? b.slot(step.wall, 'length', 'Wall') : w;
	const code = b.fault(
		walled
			? 'its profile needs a width, a depth and a wall above 0, and a wall that fits into it'
			: 'its profile needs a width and a depth above 0'
	);
	const { mask } = b;
	b.op((block) => {
		const [ws, ds, ts] = [block.columns[w]!, block.columns[d]!, block.columns[t]!];
		for (let h = 0; h < block.count; h++)
			if (!(
				ws[h]! > 0 &&
				ds[h]! > 0 &&
				(!walled || (ts[h]! > 0 && ts[h]! * 2 < Math.min(ws[h]!, ds[h]! * 2) && ts[h]! < ds[h]!))
			))
				markFailed(block, h, mask, code);
	});
	const nominal = shape(100, 100, 10);
	const count = nominal.outer.length + (nominal.inner?.length ?? 0);
	const all = remembered(shape);
	const on = (columns: readonly Column[], h: number) => all(columns[w]![h]!, columns[d]![h]!, columns[t]![h]!);
	return {
		loops: [nominal.outer.length, ...(nominal.inner ? [nominal.inner.length] : [])],
		count,
		caps: capsOf(nominal.outer, nominal.inner),
		uniform: [w, d, t].every((s) => b.isUniform(s)),
		points(columns, h, out) {
			const { outer, inner } = on(columns, h);
			put(out, outer, inner);
		},
		section(columns, h) {
			if (round) {
				// The round itself, not the pieces that draw it.
				const r = columns[w]![h]! / 2;
				return Math.PI * (r * r - (step.profile === 'tube' ? square(r - columns[t]![h]!) : 0));
			}
			return on(columns, h).section;
		},
		centroid: (columns, h) => (even ? MIDDLE : centroidOf(on(columns, h).outer)),
		around: (columns, h) => (round ? Math.PI * columns[w]![h]! : on(columns, h).around)
	};
}

interface Measured {
	readonly outer: readonly Point[];
	readonly inner: readonly Point[] | undefined;
	readonly section: number;
	readonly around: number;
}

/** A shape with what is measured of it, of the sizes that were asked for last: most hosts have those of the one before. */
function remembered(shape: Shape): (w: number, d: number, t: number) => Measured {
	let [ofW, ofD, ofT] = [NaN, NaN, NaN];
	let known: Measured | undefined;
	return (w, d, t) => {
		if (known && w === ofW && d === ofD && t === ofT) return known;
		const { outer, inner } = shape(w, d, t);
		[ofW, ofD, ofT] = [w, d, t];
		return (known = {
			outer,
			inner,
			section: Math.abs(areaOf(outer)) - (inner ? Math.abs(areaOf(inner)) : 0),
			around: lengthAround(outer)
		});
	};
}

function drawnProfile(b: Builder, points: readonly Point[]): Profile {
	if (points.length < 3) throw b.fail('a drawn profile needs three corners or more');
	const area = areaOf(points);
	if (area === 0) throw b.fail('the drawn profile has no area');
	const outer = area > 0 ? points : [...points].reverse();
	const centroid = centroidOf(outer);
	return {
		loops: [outer.length],
		count: outer.length,
		caps: capsOf(outer),
		uniform: true,
		points: (_columns, _h, out) => put(out, outer),
		section: () => Math.abs(area),
		centroid: () => centroid,
		around: () => lengthAround(outer)
	};
}

function put(out: Float64Array, outer: readonly Point[], inner: readonly Point[] = []): void {
	let o = 0;
	for (const [x, y] of outer) {
		out[o++] = x;
		out[o++] = y;
	}
	for (let k = inner.length - 1; k >= 0; k--) {
		out[o++] = inner[k]![0];
		out[o++] = inner[k]![1];
	}
}

/** Triangles over a section, anticlockwise. A hollow one has as many corners inside: a strip between both holds for any wall. */
function capsOf(outer: readonly Point[], inner: readonly Point[] = []): number[] {
	const n = outer.length;
	if (inner.length)
		return outer.flatMap((_, k) => {
			const next = (k + 1) % n;
			const [within, nextWithin] = [2 * n - 1 - k, 2 * n - 1 - next];
			return [k, next, nextWithin, k, nextWithin, within];
		});
	const triangles = earcut(outer.flat());
	for (let t = 0; t < triangles.length; t += 3) {
		const [a, b, c] = [outer[triangles[t]!]!, outer[triangles[t + 1]!]!, outer[triangles[t + 2]!]!];
		if (areaOf([a, b, c]) < 0) [triangles[t + 1], triangles[t + 2]] = [triangles[t + 2]!, triangles[t + 1]!];
	}
	return triangles;
}

const areaOf = (points: readonly Point[]) =>
	points.reduce(
		(sum, [x, y], k) => sum + x * points[(k + 1) % points.length]![1] - y * points[(k + 1) % points.length]![0],
		0
	) / 2;

const MIDDLE: Point = [0, 0];

/** Middle of a polygon's area. */
function centroidOf(points: readonly Point[]): Point {
	let [x, y, six] = [0, 0, 0];
	points.forEach(([px, py], k) => {
		const [qx, qy] = points[(k + 1) % points.length]!;
		const cross = px * qy - qx * py;
		x += (px + qx) * cross;
		y += (py + qy) * cross;
		six += 3 * cross;
	});
	return [x / six, y / six];
}

const lengthAround = (points: readonly Point[]) =>
	points.reduce(
		(sum, [x, y], k) => sum + hypot(points[(k + 1) % points.length]![0] - x, points[(k + 1) % points.length]![1] - y),
		0
	);

/** Triangles of a bar whose profile stands at points `start` and `end`, numbered as those of the profile are. */
export function barTriangles(
	{ loops, caps }: Pick<Profile, 'loops' | 'caps'>,
	start: number,
	end: number,
	closedEnds: readonly [boolean, boolean] = [true, true],
	otherDiagonal = false
): number[] {
	const triangles: number[] = [];
	let first = 0;
	for (const n of loops) {
		for (let k = 0; k < n; k++) {
			const [a, b] = [first + k, first + ((k + 1) % n)];
			if (otherDiagonal) triangles.push(start + a, start + b, end + a, start + b, end + b, end + a);
			else triangles.push(start + a, start + b, end + b, start + a, end + b, end + a);
		}
		first += n;
	}
	if (closedEnds[0])
		for (let t = 0; t < caps.length; t += 3)
			triangles.push(start + caps[t]!, start + caps[t + 2]!, start + caps[t + 1]!);
	if (closedEnds[1]) for (const p of caps) triangles.push(end + p);
	return triangles;
}

/** A bar of length 1 along z, its profile in x and y, turned by an angle and moved. */
export function unitBar(
	profile: Profile,
	columns: readonly Column[],
	turn: number,
	offsetX: number,
	offsetY: number
): Mesh {
	const flat = new Float64Array(profile.count * 2);
	profile.points(columns, 0, flat);
	const positions = new Float64Array(profile.count * 6);
	const [cosine, sine] = [cos(turn), sin(turn)];
	for (let k = 0; k < profile.count; k++)
		for (const end of [0, 1]) {
			const o = (end * profile.count + k) * 3;
			positions[o] = flat[k * 2]! * cosine - flat[k * 2 + 1]! * sine + offsetX;
			positions[o + 1] = flat[k * 2]! * sine + flat[k * 2 + 1]! * cosine + offsetY;
			positions[o + 2] = end;
		}
	return { positions, triangles: Uint32Array.from(barTriangles(profile, 0, profile.count)) };
}

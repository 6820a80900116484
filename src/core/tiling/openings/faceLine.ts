import { atan2, hypot, norm } from '../../elementary/index.ts';
import { PatchCursor } from '../../geometry/patches.ts';
import type { Point } from '../../geometry/curve.ts';
import { pointOn, type FacePoint } from '../../geometry/pointOn.ts';
import { cross, dot, minus, plus, scaled } from '../../geometry/vectors.ts';
import {
	developmentOf,
	FlatFinder,
	moveOverSeam,
	type ChartedFace,
	type Development
} from '../../settingout/development.ts';
import { CHORD_MM } from '../../tolerances.ts';
import { ringArea, soundRing, type Ring } from './rings.ts';

type At = Ring[number];

/** A point of a line on a face. */
export interface Located {
	readonly u: number;
	readonly v: number;
	/** Times that the way there went over the seam across. */
	readonly turns: number;
	/** How far it lies beyond the border at (u, v), laid flat. */
	readonly beyond?: At;
}

/** A closed line on a face: it may go around it once, as about a pole, to the right (1) or to the left (-1). */
export interface FaceLine {
	readonly points: readonly Located[];
	readonly around: -1 | 0 | 1;
}

/** Times that a side is halved at most. */
const HALVINGS = 8;
/** Chords of a column between two panel borders. */
const CHORDS = 4;
/** Share of the way around that a line which goes around overlaps itself at each end: more than cells reach over the seam. */
const OVERLAP = 1 / 2;
/** How far a line that goes around reaches out over an open end of the face, mm: more than its chords are off. */
const OUTSIDE_MM = 50;

/** Lines on a face, laid flat. */
export class FaceLines {
	readonly face: ChartedFace;
	readonly development: Development;
	private readonly finder: FlatFinder;
	private readonly cursor: PatchCursor;
	private readonly range: number;

	constructor(face: ChartedFace) {
		this.face = face;
		this.development = developmentOf(face);
		this.finder = new FlatFinder(this.development);
		this.cursor = new PatchCursor(this.development.patches);
		const { us } = this.development.patches;
		this.range = us.at(-1)! - us[0]!;
	}

	/**
	 * A polygon of some plane on the face; `locate` finds a point of that plane. It has as many more points as its sides bend
	 * there, unless they are `chords` of a curve already.
	 */
	line(ring: Ring, locate: (x: number, y: number) => Located, chords = false): FaceLine {
		const found = ring.map(([x, y]) => locate(x, y));
		const points = chords
			? found
			: ring.flatMap((a, k) => {
					const next = (k + 1) % ring.length;
					return this.side(a, found[k]!, ring[next]!, found[next]!, locate, 0);
				});
		for (let k = 1; k < points.length; k++) points[k] = this.beside(points[k]!, points[k - 1]!);
		const around = Math.sign(this.beside(points[0]!, points.at(-1)!).turns - points[0]!.turns) as FaceLine['around'];
		if (around !== 0) return { points: this.fromSeam(points, around), around };
		return { points: ringArea(points.map((p) => this.flat(p))) < 0 ? points.reverse() : points, around };
	}

	/** A line that lies flat, on the face, over its seam, and beyond its borders. */
	lineAt(ring: Ring): FaceLine {
		return this.line(ring, (x, y) => this.placeAt(x, y), true);
	}

	/** A flat place on the face, over its seam, or beyond its border. */
	placeAt(x: number, y: number): Located {
		for (const turns of this.face.ends.closedAcross ? [0, 1, -1] : [0]) {
			const found = this.finder.find(...this.turned([x, y], -turns));
			if (found) return { ...found, turns };
		}
		const near = { ...this.finder.nearest(x, y), turns: 0 };
		const [onX, onY] = this.flat(near);
		return { ...near, beyond: [x - onX, y - onY] };
	}

	/** The way of the row through a flat place, radians; level where the place is off the face. */
	rowAngle(at: At): number {
		const place = this.placeAt(...at);
		if (place.beyond) return 0;
		this.cursor.evaluate(place.u, place.v);
		const [x, y, byX, byY] = this.cursor.out as unknown as [number, number, number, number];
		const [from, to] = [this.turned([x, y], place.turns), this.turned([x + byX, y + byY], place.turns)];
		return atan2(to[1] - from[1], to[0] - from[0]);
	}

	/** A side from its start on, in chords that stay within CHORD_MM of it laid flat; without its end. */
	private side(
		a: At,
		p: Located,
		b: At,
		q: Located,
		locate: (x: number, y: number) => Located,
		halved: number
	): Located[] {
		const at = (t: number): At => [a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t];
		const seen = (l: Located) => this.flat(this.beside(l, p));
		const [from, to] = [seen(p), seen(q)];
		const straight = (t: number) => {
			const [x, y] = seen(locate(...at(t)));
			return hypot(x - from[0] - (to[0] - from[0]) * t, y - from[1] - (to[1] - from[1]) * t) < CHORD_MM;
		};
		// Not in the middle, where a bend may turn over.
		if (halved === HALVINGS || (straight(0.35) && straight(0.65))) return [p];
		const middle = locate(...at(0.5));
		return [
			...this.side(a, p, at(0.5), middle, locate, halved + 1),
			...this.side(at(0.5), middle, b, q, locate, halved + 1)
		];
	}

	/** A point seen from another: of the places that it has, turn by turn, the one nearest to that. */
	private beside(point: Located, other: Located): Located {
		if (!this.face.ends.closedAcross) return point;
		const turns = Math.round(other.turns - point.turns + (other.u - point.u) / this.range);
		return turns === 0 ? point : { ...point, turns: point.turns + turns };
	}

	private flat({ u, v, turns, beyond }: Located): At {
		this.cursor.evaluate(u, v);
		return this.turned([this.cursor.out[0]! + (beyond?.[0] ?? 0), this.cursor.out[1]! + (beyond?.[1] ?? 0)], turns);
	}

	private turned(at: At, turns: number): At {
		let place = at;
		for (let k = 0; k < Math.abs(turns); k++) place = moveOverSeam(this.development, ...place, turns > 0 ? 1 : -1);
		return place;
	}

	/** A line laid flat. One that goes around takes all of the face that lies to its left. */
	laid(line: FaceLine): Ring {
		const laid = line.points.map((p) => this.flat(p));
		return this.closed(line, laid, 0);
	}

	/**
	 * A line laid flat and moved out by a true length, mm (in, where below 0), with sharp corners. What goes around
	 * overlaps itself, so that nothing is left between its ends.
	 */
	grown(line: FaceLine, by: number): Ring {
		const { points, around } = line;
		const n = points.length;
		const places = points.map((p) => this.inSpace(p));
		const out = points.map((p, k): At => {
			const { at, normal } = places[k]!;
			const [before, after] = [places[(k + n - 1) % n]!.at, places[(k + 1) % n]!.at];
			return by === 0 ? this.flat(p) : this.moved(p, mitre(minus(at, before), minus(after, at), normal, by));
		});
		const ring = this.closed(line, out, OVERLAP);
		return around === 0 ? (soundRing(ring) ?? ring) : ring;
	}

	private on({ u, v }: Located): FacePoint {
		const { us, vs } = this.development.patches;
		const inside = (borders: Float64Array, t: number) => Math.max(borders[0]!, Math.min(borders.at(-1)!, t));
		return pointOn(this.face.surface, inside(us, u), inside(vs, v));
	}

	/** A point in space; beyond the border where the face's tangent plane there goes on. */
	private inSpace(p: Located): { at: Point; normal: Point } {
		const { position, normal, du, dv } = this.on(p);
		if (!p.beyond) return { at: position, normal };
		this.cursor.evaluate(p.u, p.v);
		const [, , a, c, b, d] = this.cursor.out as unknown as [number, number, number, number, number, number];
		const [x, y] = p.beyond;
		const det = a * d - b * c;
		return { at: plus(position, plus(scaled(du, (x * d - y * b) / det), scaled(dv, (y * a - x * c) / det))), normal };
	}

	/** Where a point comes to, laid flat, that is moved straight ahead by a vector of its tangent plane: by two terms of Taylor's series. */
	private moved(p: Located, by: Point): At {
		const { du, dv, duu, duv, dvv } = this.on(p);
		const [e, f, g] = [dot(du, du), dot(du, dv), dot(dv, dv)];
		const area = e * g - f * f;
		const parameters = (w: Point): At => [
			(g * dot(w, du) - f * dot(w, dv)) / area,
			(e * dot(w, dv) - f * dot(w, du)) / area
		];
		const [a, b] = parameters(by);
		// What straight lines of the parameters would turn aside by.
		const [aside, up] = parameters(plus(scaled(duu, a * a), plus(scaled(duv, 2 * a * b), scaled(dvv, b * b))));
		const [byU, byV] = [a - aside / 2, b - up / 2];
		// At a point of the face no way has parameters.
		if (!(Math.abs(byU) < this.range)) return this.flat(p);
		if (!p.beyond) return this.flat(this.overSeam({ u: p.u + byU, v: p.v + byV, turns: p.turns }));
		this.cursor.evaluate(p.u, p.v);
		const [, , xu, yu, xv, yv] = this.cursor.out as unknown as [number, number, number, number, number, number];
		return this.flat({ ...p, beyond: [p.beyond[0] + xu * byU + xv * byV, p.beyond[1] + yu * byU + yv * byV] });
	}

	/** A point whose parameter may have run over the seam. */
	private overSeam(p: Located): Located {
		if (!this.face.ends.closedAcross) return p;
		const turns = Math.floor((p.u - this.development.patches.us[0]!) / this.range);
		return turns === 0 ? p : { ...p, u: p.u - turns * this.range, turns: p.turns + turns };
	}

	/** The laid points of a line as a closed ring: where it goes around, by way of that end of the face which lies to its left. */
	private closed({ points, around }: FaceLine, laid: readonly At[], overlap: number): Ring {
		if (around === 0) return laid;
		const first = points[0]!;
		const way = (p: Located) => around * (p.u - first.u + p.turns * this.range);
		/** Points by their number, before the first and beyond the last, too. */
		const at = (k: number) => {
			const [own, turns] = [(k + points.length) % points.length, Math.floor(k / points.length) * around];
			const point = points[own]!;
			return { point: { ...point, turns: point.turns + turns }, flat: this.turned(laid[own]!, turns) };
		};
		let [from, to] = [0, points.length];
		while (from > -points.length && way(at(from).point) > -this.range * overlap) from--;
		while (to < 2 * points.length - 1 && way(at(to).point) < this.range * (1 + overlap)) to++;
		const path = Array.from({ length: to - from + 1 }, (_, k) => at(from + k).flat);
		const [last, begin] = [at(to).point, at(from).point];
		const columns = [this.column(last, around), this.column(begin, around).reverse()] as const;
		return [...path, ...columns[0], ...this.rim(last, begin, around), ...columns[1]];
	}

	/** Back along the end of the face from one column to another; where the face does not run to a point there, a little outside. */
	private rim(from: Located, to: Located, around: 1 | -1): At[] {
		const { bottomPoint, topPoint } = this.face.ends;
		if (around > 0 ? topPoint : bottomPoint) return [];
		const { us, vs } = this.development.patches;
		const v = around > 0 ? vs.at(-1)! : vs[0]!;
		const way = (p: Located) => (p.u - us[0]!) / this.range + p.turns;
		const [start, end] = [way(from), way(to)];
		const chords = (us.length - 1) * CHORDS;
		return Array.from({ length: chords + 1 }, (_, k): At => {
			const along = start + ((end - start) * k) / chords;
			const turns = Math.floor(along);
			const [x, y] = this.flat({ u: us[0]! + (along - turns) * this.range, v, turns });
			return [x, y + around * OUTSIDE_MM];
		});
	}

	/** A line that goes around, begun where it goes over the seam, in a point on it: cells on both sides are cut there. */
	private fromSeam(points: readonly Located[], around: 1 | -1): Located[] {
		const next = Math.max(
			0,
			points.findIndex((p, k) => k > 0 && p.turns === points[k - 1]!.turns + around)
		);
		const rest = points.map((_, k) => {
			const [own, over] = [(next + k) % points.length, next + k >= points.length ? around : 0];
			return { ...points[own]!, turns: points[own]!.turns + over };
		});
		const [b, last] = [rest[0]!, rest.at(-1)!];
		const base = b.turns;
		const { us } = this.development.patches;
		const seam = around > 0 ? us[0]! : us.at(-1)!;
		// The last one lies a turn further on.
		const a = last.u + (last.turns - base - around) * this.range;
		const share = b.u === a ? 0 : (seam - a) / (b.u - a);
		const crossing = { u: seam, v: last.v + (b.v - last.v) * share, turns: 0 };
		return [crossing, ...rest.map((p) => ({ ...p, turns: p.turns - base }))];
	}

	/** A column from a point on to the end of the face. */
	private column({ u, v, turns }: Located, around: 1 | -1): At[] {
		const { vs } = this.development.patches;
		const finer = [...vs].flatMap((low, k) =>
			k + 1 < vs.length ? Array.from({ length: CHORDS }, (_, q) => low + ((vs[k + 1]! - low) * q) / CHORDS) : [low]
		);
		const ahead = (around > 0 ? finer : finer.reverse()).filter((t) => around * (t - v) > 0);
		return ahead.map((t) => this.flat({ u, v: t, turns }));
	}
}

/** Corners are no sharper than what reaches four times as far as the sides: 2 / 4 squared. */
const LEAST_MITRE = 0.125;

/** How a corner moves in the tangent plane when both its sides move out by so much: their ways there and on, and the normal. */
function mitre(there: Point, on: Point, normal: Point, by: number): Point {
	const outs = [there, on].flatMap((way) => {
		const out = cross(way, normal);
		const size = norm(out);
		return size > 0 ? [scaled(out, 1 / size)] : [];
	});
	const [p, q] = [outs[0], outs.at(-1)];
	if (!p || !q) return [0, 0, 0];
	return scaled(plus(p, q), by / Math.max(LEAST_MITRE, 1 + dot(p, q)));
}

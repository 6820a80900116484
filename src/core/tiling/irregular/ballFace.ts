import { hypot, norm, square } from '../../elementary/index.ts';
import { ZygasterError } from '../../errors.ts';
import type { Ends } from '../../geometry/borders.ts';
import { evaluateGrid } from '../../geometry/evaluate.ts';
import { pointOn } from '../../geometry/pointOn.ts';
import { domainOf, type Surface } from '../../geometry/surface.ts';
import { cross, dot, minus } from '../../geometry/vectors.ts';
import type { Direction } from './geodesic.ts';
import { FLAT_SHARE, MET_SHARE } from '../../tolerances.ts';

/** Samples along each direction, from which a ball is fitted and searches start. */
const SAMPLES = 33;
const MOST_STEPS = 25;

/** A face seen from the centre of the ball that it is (or is nearest to). */
export class BallFace {
	readonly centre: Direction;
	readonly radius: number;
	private readonly us: Float64Array;
	private readonly vs: Float64Array;
	private readonly position: Float64Array;
	private readonly surface: Surface;
	private readonly closedAcross: boolean;

	constructor(surface: Surface, { closedAcross }: Pick<Ends, 'closedAcross'>) {
		this.surface = surface;
		this.closedAcross = closedAcross;
		const even = ([from, to]: [number, number]) =>
			Float64Array.from({ length: SAMPLES }, (_, k) => from + ((to - from) * k) / (SAMPLES - 1));
		this.us = even(domainOf(surface.knotsU, surface.degreeU));
		this.vs = even(domainOf(surface.knotsV, surface.degreeV));
		this.position = evaluateGrid(surface, this.us, this.vs).position;
		[this.centre, this.radius] = fitBall(this.position);
	}

	/** Where a ray from the centre meets the face; nothing where it passes by. Newton's method on what it misses by. */
	meet(way: Direction): { u: number; v: number } | undefined {
		const [right, up] = axesBeside(way);
		let { u, v } = this.nearestSample(way);
		const [u0, u1, v0, v1] = [this.us[0]!, this.us.at(-1)!, this.vs[0]!, this.vs.at(-1)!];
		for (let step = 0; step < MOST_STEPS; step++) {
			const at = pointOn(this.surface, u, v);
			const from = minus(at.position, this.centre);
			const [f, g] = [dot(from, right), dot(from, up)];
			if (hypot(f, g) < MET_SHARE * this.radius) return dot(from, way) > 0 ? { u, v } : undefined;
			const [fu, fv, gu, gv] = [dot(at.du, right), dot(at.dv, right), dot(at.du, up), dot(at.dv, up)];
			const scale = 1 / (fu * gv - fv * gu);
			const [nextU, nextV] = [u - (f * gv - g * fv) * scale, v - (g * fu - f * gu) * scale];
			if (!Number.isFinite(nextU + nextV)) return undefined;
			const [wasU, wasV] = [u, v];
			u = this.closedAcross ? u0 + modulo(nextU - u0, u1 - u0) : Math.max(u0, Math.min(u1, nextU));
			v = Math.max(v0, Math.min(v1, nextV));
			// Held at a border and no further along it: the ray passes by.
			if (u === wasU && v === wasV) return undefined;
		}
		return undefined;
	}

	/** The inner sample whose direction is nearest; those on the borders may be points of the face. */
	private nearestSample(way: Direction): { u: number; v: number } {
		let best = 0;
		let most = -Infinity;
		for (let j = 1; j < SAMPLES - 1; j++)
			for (let i = 1; i < SAMPLES - 1; i++) {
				const o = (j * SAMPLES + i) * 3;
				const [x, y, z] = [
					this.position[o]! - this.centre[0],
					this.position[o + 1]! - this.centre[1],
					this.position[o + 2]! - this.centre[2]
				];
				const along = (x * way[0] + y * way[1] + z * way[2]) / Math.sqrt(x * x + y * y + z * z);
				if (along > most) [most, best] = [along, o / 3];
			}
		return { u: this.us[best % SAMPLES]!, v: this.vs[Math.floor(best / SAMPLES)]! };
	}
}

const modulo = (a: number, n: number) => a - Math.floor(a / n) * n;

/** Two axes square to a direction and to each other. */
function axesBeside(way: Direction): [Direction, Direction] {
	const start: Direction = Math.abs(way[2]) < 0.9 ? [0, 0, 1] : [1, 0, 0];
	const first = cross(start, way);
	const size = norm(first);
	const right: Direction = [first[0] / size, first[1] / size, first[2] / size];
	return [right, cross(way, right)];
}

/**
 * Centre and radius by least squares on |p|2 = 2 c p + r2 - c2: about the points' mean the two unknown parts fall apart.
 * Throws a ZygasterError with code `tiling` for points of a plane.
 */
function fitBall(position: Float64Array): [Direction, number] {
	const count = position.length / 3;
	const mean = [0, 1, 2].map((c) => position.reduce((s, x, k) => (k % 3 === c ? s + x / count : s), 0));
	const rows: [number[], number[], number[]] = [
		[0, 0, 0],
		[0, 0, 0],
		[0, 0, 0]
	];
	const right: number[] = [0, 0, 0];
	let squares = 0;
	for (let k = 0; k < count; k++) {
		const p = [0, 1, 2].map((c) => position[k * 3 + c]! - mean[c]!);
		const far = square(p[0]!) + square(p[1]!) + square(p[2]!);
		squares += far / count;
		for (let i = 0; i < 3; i++) {
			for (let j = 0; j < 3; j++) rows[i]![j]! += (2 * p[i]! * p[j]!) / count;
			right[i]! += (p[i]! * far) / count;
		}
	}
	const [a, b, c] = rows as unknown as [Direction, Direction, Direction];
	const r = right as unknown as Direction;
	const whole = dot(a, cross(b, c));
	if (!(Math.abs(whole) > FLAT_SHARE * squares * squares * squares))
		throw new ZygasterError(
			'tiling',
			'This face is flat, and the icosahedral division needs a ball or a dome. Right would be another tiling.'
		);
	// Cramer's rule; the matrix is symmetric, so that its rows are its columns.
	const centre: Direction = [dot(r, cross(b, c)) / whole, dot(a, cross(r, c)) / whole, dot(a, cross(b, r)) / whole];
	return [[centre[0] + mean[0]!, centre[1] + mean[1]!, centre[2] + mean[2]!], Math.sqrt(squares + dot(centre, centre))];
}

import { hypot } from '../elementary/index.ts';
import type { Builder } from './builder.ts';
import { BLOCK, type Named } from './formula/compile.ts';
import { FormulaError } from './formula/parse.ts';
import { AREA, LENGTH } from './formula/dimension.ts';
import { arcOverChord, bulgeArea, curvedPieces } from './curves.ts';
import type { Block, Line } from './program.ts';

/** A reading of steps that a formula asks for; nothing when the name is none. Throws a FormulaError where the steps do not have it. */
export function measureOf(builder: Builder, measure: string, names: readonly string[]): Named | undefined {
	const known = builder.measured.get(`${measure}(${names.join()})`);
	if (known) return known;
	const make = MAKERS[measure];
	if (!make) return undefined;
	const { wanted, dimension, of } = make;
	if (names.length !== wanted)
		throw new FormulaError(
			`“${measure}” takes the ${wanted === 1 ? 'name of one step' : `names of ${wanted} steps`}; given are ${names.length}`
		);
	const slot = builder.ownSlot();
	const value = of(builder, names);
	const out = new Float64Array(BLOCK);
	builder.op((block) => {
		block.columns[slot] = out;
		for (let h = 0; h < block.count; h++) out[h] = value(block, h);
	});
	const named = { slot, dimension, uniform: false };
	builder.measured.set(`${measure}(${names.join()})`, named);
	return named;
}

interface Maker {
	readonly wanted: number;
	readonly dimension: Named['dimension'];
	readonly of: (builder: Builder, names: readonly string[]) => (block: Block, h: number) => number;
}

const MAKERS: Readonly<Record<string, Maker>> = {
	length: {
		wanted: 1,
		dimension: LENGTH,
		of: (builder, [name]) => {
			const line = builder.line(name!, 2);
			return (block, h) => trueLength(block, line, h);
		}
	},
	area: {
		wanted: 1,
		dimension: AREA,
		of: (builder, [name]) => {
			const part = builder.parts.find((p) => p.step.name === name);
			if (part?.area) return part.area;
			if (part)
				throw new FormulaError(
					`the area of “${name}” is not known before it is made; right would be a sheet or a closed line`
				);
			const line = builder.line(name!, 3);
			const triangles = Uint16Array.from(
				{ length: (line.count - 2) * 3 },
				(_, t) => line.first + (t % 3 === 0 ? 0 : Math.floor(t / 3) + (t % 3))
			);
			return (block, h) => areaOf(block, triangles, h) + bulgeArea(block, line, h);
		}
	},
	distance: {
		wanted: 2,
		dimension: LENGTH,
		of: (builder, names) => {
			const [a, b] = names.map((n) => builder.point(n)) as [Line, Line];
			return (block, h) => distanceOf(block, a, b, h);
		}
	},
	miss: {
		wanted: 1,
		dimension: LENGTH,
		of: (builder, [name]) => {
			const pair = builder.crossings.get(name!);
			if (!pair) throw new FormulaError(`“${name}” is no crossing of two lines`);
			return (block, h) => pair(block, h);
		}
	}
};

/** Along the line that is meant, mm: over arcs, not over the chords that draw them. */
export function trueLength(block: Block, line: Line, h: number): number {
	const chords = lengthOf(block, line, h);
	if (!line.curves) return chords;
	return curvedPieces(block, line, h).reduce(
		(sum, { chord, angle }) => sum + chord * (arcOverChord(angle) - 1),
		chords
	);
}

/** The same of all hosts of a block, into a column of the run. */
export function trueLengths(block: Block, line: Line, out: Float64Array): void {
	const { points, stride, from, count } = block;
	const { first, count: length, closed, curves } = line;
	for (let h = 0; h < count; h++)
		out[from + h] = curves
			? trueLength(block, line, h)
			: lengthFrom(points, (from + h) * stride + first * 3, length, closed);
}

/** Along the straight pieces of a line, mm. */
export const lengthOf = ({ points, stride, from }: Block, { first, count, closed }: Line, h: number): number =>
	lengthFrom(points, (from + h) * stride + first * 3, count, closed);

function lengthFrom(points: Float64Array, base: number, count: number, closed: boolean): number {
	let sum = 0;
	let a = closed ? base + (count - 1) * 3 : base;
	for (let b = closed ? base : base + 3; b < base + count * 3; b += 3) {
		const x = points[b]! - points[a]!;
		const y = points[b + 1]! - points[a + 1]!;
		const z = points[b + 2]! - points[a + 2]!;
		sum += Math.sqrt(x * x + y * y + z * z);
		a = b;
	}
	return sum;
}

/** Of triangles over a host's points as they lie in the host's mean plane, mm2: what a plate's thickness is square to. */
export function flatAreaOf({ hosts, points, stride, from }: Block, triangles: Uint16Array, h: number): number {
	const base = (from + h) * stride;
	const n = hosts.ids[from + h]! * 3;
	let twice = 0;
	for (let t = 0; t < triangles.length; t += 3) {
		const a = base + triangles[t]! * 3;
		const b = base + triangles[t + 1]! * 3;
		const c = base + triangles[t + 2]! * 3;
		const [ux, uy, uz] = [points[b]! - points[a]!, points[b + 1]! - points[a + 1]!, points[b + 2]! - points[a + 2]!];
		const [vx, vy, vz] = [points[c]! - points[a]!, points[c + 1]! - points[a + 1]!, points[c + 2]! - points[a + 2]!];
		twice +=
			hosts.normal[n]! * (uy * vz - uz * vy) +
			hosts.normal[n + 1]! * (uz * vx - ux * vz) +
			hosts.normal[n + 2]! * (ux * vy - uy * vx);
	}
	return Math.abs(twice) / 2;
}

/** Of triangles over a host's points, mm2. */
export function areaOf({ points, stride, from }: Block, triangles: Uint16Array, h: number): number {
	const base = (from + h) * stride;
	let twice = 0;
	for (let t = 0; t < triangles.length; t += 3)
		twice += twiceArea(points, base + triangles[t]! * 3, base + triangles[t + 1]! * 3, base + triangles[t + 2]! * 3);
	return twice / 2;
}

/**
 * The same of all hosts of a block, into a column of the run: triangle by triangle, since the roots of different hosts
 * wait for nothing, and two at once where the second goes on along the side that the first ends with.
 */
export function areasOf(block: Block, triangles: Uint16Array, out: Float64Array): void {
	const { from, count } = block;
	out.fill(0, from, from + count);
	for (let t = 0; t < triangles.length;) {
		const [a, b, c, p, q, r] = triangles.subarray(t, t + 6);
		const two = p === a && q === c;
		if (two) addTwoAreas(block, a!, b!, c!, r!, out);
		else addAreas(block, a!, b!, c!, out);
		t += two ? 6 : 3;
	}
	for (let row = from; row < from + count; row++) out[row]! /= 2;
}

/** Adds twice the areas of triangles a b c and a c d. */
function addTwoAreas(
	{ points, stride, from, count }: Block,
	a: number,
	b: number,
	c: number,
	d: number,
	out: Float64Array
): void {
	const [toB, toC, toD] = [(b - a) * 3, (c - a) * 3, (d - a) * 3];
	for (let row = from, o = from * stride + a * 3; row < from + count; row++, o += stride) {
		const ax = points[o]!;
		const ay = points[o + 1]!;
		const az = points[o + 2]!;
		const p = o + toB;
		const ux = points[p]! - ax;
		const uy = points[p + 1]! - ay;
		const uz = points[p + 2]! - az;
		const q = o + toC;
		const vx = points[q]! - ax;
		const vy = points[q + 1]! - ay;
		const vz = points[q + 2]! - az;
		const r = o + toD;
		const wx = points[r]! - ax;
		const wy = points[r + 1]! - ay;
		const wz = points[r + 2]! - az;
		const x = uy * vz - uz * vy;
		const y = uz * vx - ux * vz;
		const z = ux * vy - uy * vx;
		const nextX = vy * wz - vz * wy;
		const nextY = vz * wx - vx * wz;
		const nextZ = vx * wy - vy * wx;
		out[row] = out[row]! + Math.sqrt(x * x + y * y + z * z) + Math.sqrt(nextX * nextX + nextY * nextY + nextZ * nextZ);
	}
}

function addAreas({ points, stride, from, count }: Block, a: number, b: number, c: number, out: Float64Array): void {
	const [toB, toC] = [(b - a) * 3, (c - a) * 3];
	for (let row = from, o = from * stride + a * 3; row < from + count; row++, o += stride)
		out[row]! += twiceArea(points, o, o + toB, o + toC);
}

function twiceArea(points: Float64Array, a: number, b: number, c: number): number {
	const ax = points[a]!;
	const ay = points[a + 1]!;
	const az = points[a + 2]!;
	const ux = points[b]! - ax;
	const uy = points[b + 1]! - ay;
	const uz = points[b + 2]! - az;
	const vx = points[c]! - ax;
	const vy = points[c + 1]! - ay;
	const vz = points[c + 2]! - az;
	const x = uy * vz - uz * vy;
	const y = uz * vx - ux * vz;
	const z = ux * vy - uy * vx;
	return Math.sqrt(x * x + y * y + z * z);
}

function distanceOf({ points, stride, from }: Block, a: Line, b: Line, h: number): number {
	const base = (from + h) * stride;
	const [p, q] = [base + a.first * 3, base + b.first * 3];
	return hypot(points[q]! - points[p]!, points[q + 1]! - points[p + 1]!, points[q + 2]! - points[p + 2]!);
}

import earcut from 'earcut';
import { hypot } from '../elementary/index.ts';
import { axesAlong, axesSquareTo, type Axis } from './axes.ts';
import { markFailed } from './sound.ts';
import type { Builder } from './builder.ts';
import { bulgeArea } from './curves.ts';
import { trueLength } from './measures.ts';
import type { Block, Line, LooseSink, PartPlan } from './program.ts';
import type { PartStep } from './schema.ts';
import { FILL_RESIDUAL } from '../tolerances.ts';

/** Which side of its line a plate lies on; sheets are thin. */
export type FillSide = 'sheet' | 'inside' | 'outside' | 'both';

/** A fill triangulated host by host, as its outline and holes really are: for dented outlines and holes of any number of corners. */
export function looseFill(
	b: Builder,
	step: PartStep,
	outline: Line,
	holes: readonly Line[],
	thick: number,
	side: FillSide
): PartPlan {
	const outside = b.fault('a hole is larger than what it is cut from; right would be a smaller hole');
	const { mask } = b;
	return {
		step,
		mask,
		geometry: {
			kind: 'loose',
			generate(block, out, quantities) {
				for (let h = 0; h < block.count; h++) {
					const row = block.from + h;
					if (block.failed[row] !== 0 || (mask >= 0 && block.masks[mask]![h] === 0)) continue;
					const thickness = block.columns[thick]![h]!;
					const normal = normalAt(block, h);
					const rings = [outline, ...holes].map((line) => ringOf(block, line, h));
					const filled = fillOutline(rings, normal);
					if (!filled) {
						markFailed(block, h, mask, outside);
						continue;
					}
					putFill(out, row, rings, filled.triangles, normal, side === 'sheet' ? 0 : thickness, side);
					const bulge = [outline, ...holes].reduce(
						(sum, line, k) => sum + (k === 0 ? 1 : -1) * bulgeArea(block, line, h),
						0
					);
					quantities.area[row] = filled.area + bulge;
					quantities.length[row] = trueLength(block, outline, h);
					// A plate's thickness is square to the host's mean plane.
					quantities.volume[row] = ((side === 'sheet' ? filled.area : filled.flatArea) + bulge) * thickness;
					quantities.pieces[row] = 1;
				}
			}
		}
	};
}

/** The unit outward normal of a row’s host. */
export function normalAt({ hosts, from }: Block, h: number): Axis {
	const n = hosts.ids[from + h]! * 3;
	return [hosts.normal[n]!, hosts.normal[n + 1]!, hosts.normal[n + 2]!];
}

/** Points of a line on one host, stride 3. */
export function ringOf({ points, stride, from }: Block, { first, count }: Line, h: number): Float64Array {
	const start = (from + h) * stride + first * 3;
	return points.subarray(start, start + count * 3);
}

/** Triangles over all rings' points one after the other, and their area; nothing where holes are larger than the outline. */
export function fillOutline(
	rings: readonly Float64Array[],
	normal: Axis
): { triangles: number[]; area: number; flatArea: number } | undefined {
	const [along, square] = axesAlong(normal, rings[0]!);
	// The package asks which points lie leftmost: of sides that stood upright rounding would choose one.
	const right = slanted(along, 0.8, square, 0.6);
	const up = slanted(square, 0.8, along, -0.6);
	const flat: number[] = [];
	const starts: number[] = [];
	let wanted = 0;
	rings.forEach((ring, r) => {
		if (r > 0) starts.push(flat.length / 2);
		const from = flat.length;
		for (let k = 0; k < ring.length; k += 3) flat.push(dotAt(ring, k, right), dotAt(ring, k, up));
		const area = Math.abs(ringArea(flat, from));
		wanted += r === 0 ? area : -area;
	});
	if (!(wanted > 0)) return undefined;
	const triangles = earcut(flat, starts);
	let flatArea = 0;
	let area = 0;
	const at = (p: number) => {
		let r = 0;
		while (r < starts.length && p >= starts[r]!) r++;
		const k = (p - (r === 0 ? 0 : starts[r - 1]!)) * 3;
		return [rings[r]![k]!, rings[r]![k + 1]!, rings[r]![k + 2]!] as const;
	};
	for (let t = 0; t < triangles.length; t += 3) {
		const [a, b, c] = [triangles[t]!, triangles[t + 1]!, triangles[t + 2]!];
		const turn =
			(flat[b * 2]! - flat[a * 2]!) * (flat[c * 2 + 1]! - flat[a * 2 + 1]!) -
			(flat[b * 2 + 1]! - flat[a * 2 + 1]!) * (flat[c * 2]! - flat[a * 2]!);
		// The package turns its triangles either way; parts turn anticlockwise seen from outside.
		if (turn < 0) [triangles[t + 1], triangles[t + 2]] = [c, b];
		flatArea += Math.abs(turn) / 2;
		const [p, q, s] = [at(a), at(b), at(c)];
		const [u, v] = [q, s].map((x) => [x[0] - p[0], x[1] - p[1], x[2] - p[2]]) as [number[], number[]];
		area += hypot(u[1]! * v[2]! - u[2]! * v[1]!, u[2]! * v[0]! - u[0]! * v[2]!, u[0]! * v[1]! - u[1]! * v[0]!) / 2;
	}
	// A hole that leaves its outline shows in areas that do not add up.
	return Math.abs(flatArea - wanted) > FILL_RESIDUAL * wanted ? undefined : { triangles, area, flatArea };
}

const slanted = (a: Axis, ofA: number, b: Axis, ofB: number): Axis => [
	a[0] * ofA + b[0] * ofB,
	a[1] * ofA + b[1] * ofB,
	a[2] * ofA + b[2] * ofB
];

function ringArea(flat: readonly number[], from: number): number {
	let twice = 0;
	const n = flat.length;
	for (let k = from; k < n; k += 2) {
		const next = k + 2 < n ? k + 2 : from;
		twice += flat[k]! * flat[next + 1]! - flat[next]! * flat[k + 1]!;
	}
	return twice / 2;
}

const dotAt = (points: Float64Array, k: number, a: Axis) =>
	points[k]! * a[0] + points[k + 1]! * a[1] + points[k + 2]! * a[2];

/** Puts a fill into a sink: the face alone, or with its back and the walls along its rings. */
export function putFill(
	out: LooseSink,
	row: number,
	rings: readonly Float64Array[],
	triangles: readonly number[],
	normal: Axis,
	thickness: number,
	side: FillSide
): void {
	out.rows.push(row);
	out.positionStart.push(out.positions.length);
	out.triangleStart.push(out.triangles.length);
	const front = side === 'outside' ? thickness : side === 'both' ? thickness / 2 : 0;
	const layer = (by: number) => {
		for (const ring of rings)
			for (let k = 0; k < ring.length; k += 3)
				out.positions.push3(ring[k]! + normal[0] * by, ring[k + 1]! + normal[1] * by, ring[k + 2]! + normal[2] * by);
	};
	layer(front);
	for (const point of triangles) out.triangles.push(point);
	if (thickness === 0) return;
	const total = rings.reduce((n, r) => n + r.length / 3, 0);
	layer(front - thickness);
	for (let t = 0; t < triangles.length; t += 3)
		out.triangles.push3(triangles[t]! + total, triangles[t + 2]! + total, triangles[t + 1]! + total);
	let first = 0;
	rings.forEach((ring, r) => {
		const n = ring.length / 3;
		// Walls look away from the material: outwards along the outline, into the holes along those.
		const flip = wallTurns(ring, normal) !== (r === 0);
		for (let k = 0; k < n; k++) {
			const [a, b] = [first + k, first + ((k + 1) % n)];
			const quad = [a, a + total, b + total, a, b + total, b];
			if (flip) quad.reverse();
			for (const point of quad) out.triangles.push(point);
		}
		first += n;
	});
}

/** Whether a ring runs anticlockwise seen from outside. */
function wallTurns(ring: Float64Array, normal: Axis): boolean {
	const [right, up] = axesSquareTo(normal);
	const flat: number[] = [];
	for (let k = 0; k < ring.length; k += 3) flat.push(dotAt(ring, k, right), dotAt(ring, k, up));
	return ringArea(flat, 0) > 0;
}

import { FRESH_ARRAYS } from '../arrays.ts';
import { PARALLEL_SINE } from '../tolerances.ts';
import { axesSquareTo, type Axis } from './axes.ts';
import { insetLoop } from './insetLoop.ts';
import type { KitProgram, PartPattern, PointOp, Ring } from './program.ts';

/** Hosts run through all steps together in blocks of this many, so that their points stay in the cache. */
const BLOCK = 256;

/** The cells that a kit is run for, all with as many corners as the program. */
export interface HostColumns {
	/** Cell indices. */
	readonly cells: Uint32Array;
	readonly cornerStart: Uint32Array;
	readonly corners: Uint32Array;
	/** Node positions, mm, stride 3. */
	readonly position: Float64Array;
	/** Cell normals, stride 3. */
	readonly normal: Float64Array;
	/** There is one cell, cut to a shape of its own; these are the loops of nodes around its holes. */
	readonly holes?: readonly Uint32Array[];
}

export interface PartColumns {
	readonly pattern: PartPattern;
	/** mm2, one a host: the triangles that are drawn and exported, added up. */
	readonly area: Float64Array;
	/** mm, one a host: around the part's outline, or along its first line. */
	readonly length: Float64Array;
}

export interface KitResult {
	readonly program: KitProgram;
	/** Cells that the kit stands on, in the order of the hosts. */
	readonly hosts: Uint32Array;
	/** mm, stride 3; `program.pointsPerHost` points a host. */
	readonly points: Float64Array;
	readonly parts: readonly PartColumns[];
	/** Hosts left out, by the step that failed on them. */
	readonly failures: ReadonlyMap<string, Uint32Array>;
}

/** A kit's values after defaults and clamping, by parameter name. */
export type KitValues = Readonly<Record<string, number>>;

/** Runs a kit for a whole column of hosts. O(hosts * steps). */
export function evaluateKit(
	program: KitProgram,
	values: KitValues,
	hosts: HostColumns,
	arrays = FRESH_ARRAYS
): KitResult {
	const count = hosts.cells.length;
	const stride = program.pointsPerHost * 3;
	const points = arrays.float64(count * stride);
	/** 0 when sound, else 1 + the index of the op that failed. */
	const failed = new Uint8Array(count);
	const ops = program.ops.map((op) => ({
		op,
		distance: 'distance' in op ? resolve(op.distance, values) : 0
	}));
	const parts = program.parts.map((pattern) => ({
		pattern,
		area: arrays.float64(count),
		length: arrays.float64(count)
	}));
	for (let from = 0; from < count; from += BLOCK) {
		const to = Math.min(count, from + BLOCK);
		ops.forEach(({ op, distance }, index) => {
			runInPlace(op, distance, hosts, points, stride, from, to, failed, index + 1);
		});
		for (const part of parts) measureInPlace(part, points, stride, from, to);
	}
	const result = { program, hosts: hosts.cells, points, parts, failures: new Map<string, Uint32Array>() };
	return failed.some((f) => f > 0) ? withoutFailed(result, failed) : result;
}

export function resolve(value: number | string, values: KitValues): number {
	return typeof value === 'number' ? value : values[value]!;
}

function runInPlace(
	op: PointOp,
	distance: number,
	hosts: HostColumns,
	points: Float64Array,
	stride: number,
	from: number,
	to: number,
	failed: Uint8Array,
	code: number
): void {
	switch (op.kind) {
		case 'outline':
			return gather(op.to, hosts, points, stride, from, to, failed, code);
		case 'hole':
			return gatherHole(op.to, hosts.holes![op.hole]!, hosts.position, points, stride, from, to);
		case 'inset':
			if (hosts.holes) return insetCut(op.from, op.to, distance, hosts, points, failed, code);
			return inset(op.from, op.to, distance, hosts, points, stride, from, to, failed, code);
		case 'lift':
			return lift(op.from, op.to, distance * op.sign, hosts, points, stride, from, to);
	}
}

/** The corners of each host; a host without area fails. */
function gather(
	ring: Ring,
	hosts: HostColumns,
	points: Float64Array,
	stride: number,
	from: number,
	to: number,
	failed: Uint8Array,
	code: number
): void {
	const { cells, cornerStart, corners, position, normal } = hosts;
	for (let h = from; h < to; h++) {
		const n = cells[h]! * 3;
		// Written so that a number that is no number fails too.
		if (!(Math.abs(normal[n]!) + Math.abs(normal[n + 1]!) + Math.abs(normal[n + 2]!) > 0))
			failed[h] = code;
		const start = cornerStart[cells[h]!]!;
		let o = h * stride + ring.first * 3;
		for (let k = 0; k < ring.count; k++) {
			const p = corners[start + k]! * 3;
			points[o++] = position[p]!;
			points[o++] = position[p + 1]!;
			points[o++] = position[p + 2]!;
		}
	}
}

function gatherHole({ first }: Ring, nodes: Uint32Array, position: Float64Array, points: Float64Array, stride: number, from: number, to: number): void {
	for (let h = from; h < to; h++)
		nodes.forEach((node, k) => {
			for (let c = 0; c < 3; c++) points[h * stride + (first + k) * 3 + c] = position[node * 3 + c]!;
		});
}

function lift(
	source: Ring,
	target: Ring,
	distance: number,
	hosts: HostColumns,
	points: Float64Array,
	stride: number,
	from: number,
	to: number
): void {
	const shift = (target.first - source.first) * 3;
	for (let h = from; h < to; h++) {
		const n = hosts.cells[h]! * 3;
		const x = hosts.normal[n]! * distance;
		const y = hosts.normal[n + 1]! * distance;
		const z = hosts.normal[n + 2]! * distance;
		let o = h * stride + source.first * 3;
		for (let k = 0; k < source.count; k++, o += 3) {
			points[o + shift] = points[o]! + x;
			points[o + shift + 1] = points[o + 1]! + y;
			points[o + shift + 2] = points[o + 2]! + z;
		}
	}
}

/**
 * Each corner moves within the plane of its two edges until it is `distance` from both:
 * p + distance / sin * (next edge - previous edge), with unit edges and the signed sine between them.
 * A host fails when an edge of the inset shrinks to nothing or turns round.
 */
function inset(
	source: Ring,
	target: Ring,
	distance: number,
	hosts: HostColumns,
	points: Float64Array,
	stride: number,
	from: number,
	to: number,
	failed: Uint8Array,
	code: number
): void {
	const n = source.count;
	const edges = new Float64Array(n * 3);
	for (let h = from; h < to; h++) {
		const base = h * stride + source.first * 3;
		const out = h * stride + target.first * 3;
		const c = hosts.cells[h]! * 3;
		const nx = hosts.normal[c]!;
		const ny = hosts.normal[c + 1]!;
		const nz = hosts.normal[c + 2]!;
		for (let k = 0; k < n; k++) {
			const a = base + k * 3;
			const b = k + 1 < n ? a + 3 : base;
			const x = points[b]! - points[a]!;
			const y = points[b + 1]! - points[a + 1]!;
			const z = points[b + 2]! - points[a + 2]!;
			const scale = 1 / Math.sqrt(x * x + y * y + z * z);
			edges[k * 3] = x * scale;
			edges[k * 3 + 1] = y * scale;
			edges[k * 3 + 2] = z * scale;
		}
		for (let k = 0; k < n; k++) {
			const p = (k > 0 ? k - 1 : n - 1) * 3;
			const q = k * 3;
			const px = edges[p]!;
			const py = edges[p + 1]!;
			const pz = edges[p + 2]!;
			const qx = edges[q]!;
			const qy = edges[q + 1]!;
			const qz = edges[q + 2]!;
			const cx = py * qz - pz * qy;
			const cy = pz * qx - px * qz;
			const cz = px * qy - py * qx;
			const size = Math.sqrt(cx * cx + cy * cy + cz * cz);
			const i = base + q;
			const o = out + q;
			if (size < PARALLEL_SINE) {
				// A straight corner moves square to its edge, along normal x edge.
				points[o] = points[i]! + distance * (ny * qz - nz * qy);
				points[o + 1] = points[i + 1]! + distance * (nz * qx - nx * qz);
				points[o + 2] = points[i + 2]! + distance * (nx * qy - ny * qx);
				continue;
			}
			const t = distance / (cx * nx + cy * ny + cz * nz < 0 ? -size : size);
			points[o] = points[i]! + t * (qx - px);
			points[o + 1] = points[i + 1]! + t * (qy - py);
			points[o + 2] = points[i + 2]! + t * (qz - pz);
		}
		for (let k = 0; k < n; k++) {
			const a = out + k * 3;
			const b = k + 1 < n ? a + 3 : out;
			const along =
				(points[b]! - points[a]!) * edges[k * 3]! +
				(points[b + 1]! - points[a + 1]!) * edges[k * 3 + 1]! +
				(points[b + 2]! - points[a + 2]!) * edges[k * 3 + 2]!;
			// Written so that a number that is no number fails too.
			if (!(along > 0) && failed[h] === 0) failed[h] = code;
		}
	}
}

/** Inset of the one cell there is, in its mean plane; sides too short for the distance vanish. Each point keeps its own height off the plane. */
function insetCut(source: Ring, target: Ring, distance: number, hosts: HostColumns, points: Float64Array, failed: Uint8Array, code: number): void {
	const n = hosts.cells[0]! * 3;
	const [right, up] = axesSquareTo([hosts.normal[n]!, hosts.normal[n + 1]!, hosts.normal[n + 2]!]);
	const at = (k: number) => (source.first + k) * 3;
	const along = (k: number, axis: Axis) => points[at(k)]! * axis[0] + points[at(k) + 1]! * axis[1] + points[at(k) + 2]! * axis[2];
	const loop = Array.from({ length: source.count }, (_, k) => [along(k, right), along(k, up)] as const);
	const moved = insetLoop(loop, distance);
	if (!moved && failed[0] === 0) failed[0] = code;
	loop.forEach(([x, y], k) => {
		const [dx, dy] = moved ? [moved[k]![0] - x, moved[k]![1] - y] : [0, 0];
		for (let c = 0; c < 3; c++) points[(target.first + k) * 3 + c] = points[at(k) + c]! + right[c]! * dx + up[c]! * dy;
	});
}

/** The result without the hosts that failed, which are listed by step. */
function withoutFailed(result: KitResult, failed: Uint8Array): KitResult {
	const { program, hosts } = result;
	const stride = program.pointsPerHost * 3;
	const failures = new Map<string, Uint32Array>();
	program.ops.forEach((op, index) => {
		const lost = hosts.filter((_, h) => failed[h] === index + 1);
		if (lost.length) failures.set(op.step, lost);
	});
	const stands = (_: number, h: number) => failed[h] === 0;
	return {
		program,
		hosts: hosts.filter(stands),
		points: result.points.filter((_, k) => failed[Math.floor(k / stride)] === 0),
		parts: result.parts.map(({ pattern, area, length }) => ({
			pattern,
			area: area.filter(stands),
			length: length.filter(stands)
		})),
		failures
	};
}

/** Area and length of a part on the hosts from `from` to `to`. */
function measureInPlace(
	{ pattern, area, length }: PartColumns,
	points: Float64Array,
	stride: number,
	from: number,
	to: number
): void {
	const { offsets, run } = pattern;
	const corners = offsets.length;
	const first = run.first * 3;
	const last = first + (run.count - 1) * 3;
	for (let h = from; h < to; h++) {
		const base = h * stride;
		let sum = 0;
		for (let t = 0; t < corners; t += 3) {
			const a = base + offsets[t]!;
			const b = base + offsets[t + 1]!;
			const c = base + offsets[t + 2]!;
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
			sum += Math.sqrt(x * x + y * y + z * z);
		}
		area[h] = sum / 2;
		let around = 0;
		let px = points[base + last]!;
		let py = points[base + last + 1]!;
		let pz = points[base + last + 2]!;
		for (let k = base + first; k <= base + last; k += 3) {
			const x = points[k]!;
			const y = points[k + 1]!;
			const z = points[k + 2]!;
			around += Math.sqrt((x - px) * (x - px) + (y - py) * (y - py) + (z - pz) * (z - pz));
			px = x;
			py = y;
			pz = z;
		}
		length[h] = around;
	}
}

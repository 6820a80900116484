import { norm, square } from '../../elementary/index.ts';
import { PARALLEL_SINE } from '../../tolerances.ts';
import { axesAlong, type Axis } from '../axes.ts';
import { ringOf } from '../fillOutline.ts';
import { markFailed } from '../sound.ts';
import type { Builder } from '../builder.ts';
import { option, ref, value } from '../fields.ts';
import { insetLoop } from '../insetLoop.ts';
import type { Block, Line } from '../program.ts';
import { stepKind } from '../stepKind.ts';

/** A closed line drawn in, or an open one moved sideways. */
export const inset = stepKind({
	kind: 'inset',
	group: 'lines',
	makes: 'line',
	label: 'Inset',
	help: 'A closed line at a distance inside another, square to each side, or drawn towards its centre by a share; an open line moved to its left',
	fields: {
		of: ref(['line'], 'Of', 'The line that is drawn in'),
		distance: value('length', 'Distance', 'Square to each side, or a share from 0 to 1 of the way to the centre', 50),
		by: option({ distance: 'Distance', ratio: 'Share' }, 'By')
	},
	compile({ of, distance, by }, b) {
		const source = b.line(of, 2);
		const slot = b.slot(distance, by === 'ratio' ? 'ratio' : 'length', 'Distance');
		const target = b.make(source.count, source.closed, source);
		if (by === 'ratio') return towardsCentre(b, source, target, slot);
		if (!source.closed) return sideways(b, source, target, slot);
		const code = b.fault('nothing is left inside; right would be a smaller distance or a larger host');
		if (b.shape.single) b.op((block) => insetSingle(block, source, target, slot, code));
		else insetClosed(b, source, target, slot, code);
	}
});

function towardsCentre(b: Builder, source: Line, target: Line, slot: number): void {
	const code = b.fault('the share leaves nothing; right would be one from 0 to below 1');
	b.op((block) => {
		const { points, stride, from, count } = block;
		const shares = block.columns[slot]!;
		for (let h = 0; h < count; h++) {
			const share = shares[h]!;
			if (!(share < 1)) markFailed(block, h, target.mask, code);
			const s = (from + h) * stride + source.first * 3;
			const t = (from + h) * stride + target.first * 3;
			for (let c = 0; c < 3; c++) {
				let centre = 0;
				for (let k = 0; k < source.count; k++) centre += points[s + k * 3 + c]!;
				centre /= source.count;
				for (let k = 0; k < source.count; k++)
					points[t + k * 3 + c] = points[s + k * 3 + c]! + share * (centre - points[s + k * 3 + c]!);
			}
		}
	});
}

/**
 * Each corner moves within the plane of its two edges until it is `distance` from both:
 * p + distance / sin * (next edge - previous edge), with unit edges and the signed sine between them.
 * A host fails when an edge of the inset shrinks to nothing or turns round.
 */
function insetClosed(b: Builder, source: Line, target: Line, slot: number, code: number): void {
	const n = source.count;
	b.op((block) => {
		const { hosts, points, stride, from, count } = block;
		const { ids, normal } = hosts;
		const distances = block.columns[slot]!;
		for (let h = 0; h < count; h++) {
			const distance = distances[h]!;
			const base = (from + h) * stride + source.first * 3;
			const out = (from + h) * stride + target.first * 3;
			const c = ids[from + h]! * 3;
			const nx = normal[c]!;
			const ny = normal[c + 1]!;
			const nz = normal[c + 2]!;
			const end = base + (n - 1) * 3;
			// The edge before a corner and where the corner before it went, in turn: all of it stays in registers.
			let px = points[base]! - points[end]!;
			let py = points[base + 1]! - points[end + 1]!;
			let pz = points[base + 2]! - points[end + 2]!;
			const before = 1 / Math.sqrt(px * px + py * py + pz * pz);
			px *= before;
			py *= before;
			pz *= before;
			let lastX = 0;
			let lastY = 0;
			let lastZ = 0;
			let stands = true;
			for (let a = base, o = out; a <= end; a += 3, o += 3) {
				const e = a < end ? a + 3 : base;
				const x = points[a]!;
				const y = points[a + 1]!;
				const z = points[a + 2]!;
				let qx = points[e]! - x;
				let qy = points[e + 1]! - y;
				let qz = points[e + 2]! - z;
				const scale = 1 / Math.sqrt(qx * qx + qy * qy + qz * qz);
				qx *= scale;
				qy *= scale;
				qz *= scale;
				const cx = py * qz - pz * qy;
				const cy = pz * qx - px * qz;
				const cz = px * qy - py * qx;
				const size = Math.sqrt(cx * cx + cy * cy + cz * cz);
				let toX: number;
				let toY: number;
				let toZ: number;
				if (size < PARALLEL_SINE) {
					// A straight corner moves square to its edge, along normal x edge.
					toX = x + distance * (ny * qz - nz * qy);
					toY = y + distance * (nz * qx - nx * qz);
					toZ = z + distance * (nx * qy - ny * qx);
				} else {
					const t = distance / (cx * nx + cy * ny + cz * nz < 0 ? -size : size);
					toX = x + t * (qx - px);
					toY = y + t * (qy - py);
					toZ = z + t * (qz - pz);
				}
				points[o] = toX;
				points[o + 1] = toY;
				points[o + 2] = toZ;
				// Written so that a number that is no number fails too.
				if (a > base && !((toX - lastX) * px + (toY - lastY) * py + (toZ - lastZ) * pz > 0)) stands = false;
				lastX = toX;
				lastY = toY;
				lastZ = toZ;
				px = qx;
				py = qy;
				pz = qz;
			}
			const closing = (points[out]! - lastX) * px + (points[out + 1]! - lastY) * py + (points[out + 2]! - lastZ) * pz;
			if (!stands || !(closing > 0)) markFailed(block, h, target.mask, code);
		}
	});
}

/**
 * Inset of the one cell there is, in its mean plane; sides too short for the distance vanish. Each point keeps its own
 * height off the plane; those that have become one take the mean, so that nothing is left of their sides.
 */
function insetSingle(block: Block, source: Line, target: Line, slot: number, code: number): void {
	const { hosts, points, stride, from } = block;
	for (let h = 0; h < block.count; h++) {
		const n = hosts.ids[from + h]! * 3;
		const base = (from + h) * stride;
		const [right, up] = axesAlong(
			[hosts.normal[n]!, hosts.normal[n + 1]!, hosts.normal[n + 2]!],
			ringOf(block, source, h)
		);
		const at = (k: number) => base + (source.first + k) * 3;
		const along = (k: number, axis: Axis) =>
			points[at(k)]! * axis[0] + points[at(k) + 1]! * axis[1] + points[at(k) + 2]! * axis[2];
		const loop = Array.from({ length: source.count }, (_, k) => [along(k, right), along(k, up)] as const);
		const moved = insetLoop(loop, block.columns[slot]![h]!);
		if (!moved) markFailed(block, h, target.mask, code);
		const joined = new Map<readonly [number, number], number[]>();
		(moved ?? loop).forEach((point, k) => joined.set(point, [...(joined.get(point) ?? []), k]));
		for (const [[x, y], from] of joined)
			for (let c = 0; c < 3; c++) {
				let sum = 0;
				for (const k of from) sum += points[at(k) + c]! + right[c]! * (x - loop[k]![0]) + up[c]! * (y - loop[k]![1]);
				for (const k of from) points[base + (target.first + k) * 3 + c] = sum / from.length;
			}
	}
}

/** An open line moved to its left seen from outside, within the planes square to the host's normal. */
function sideways(b: Builder, source: Line, target: Line, slot: number): void {
	const n = source.count;
	const code = b.fault('the line turns back on itself, so that it cannot be moved sideways');
	b.op((block) => {
		const { hosts, points, stride, from, count } = block;
		for (let h = 0; h < count; h++) {
			const base = (from + h) * stride;
			const c = hosts.ids[from + h]! * 3;
			const normal = [hosts.normal[c]!, hosts.normal[c + 1]!, hosts.normal[c + 2]!] as const;
			const distance = block.columns[slot]![h]!;
			/** Unit vector to the left of segment k. */
			const left = (k: number): [number, number, number] => {
				const [p, q] = [base + (source.first + k) * 3, base + (source.first + k + 1) * 3];
				const d = [points[q]! - points[p]!, points[q + 1]! - points[p + 1]!, points[q + 2]! - points[p + 2]!] as const;
				const l = [
					normal[1] * d[2] - normal[2] * d[1],
					normal[2] * d[0] - normal[0] * d[2],
					normal[0] * d[1] - normal[1] * d[0]
				] as const;
				const size = norm(l);
				return [l[0] / size, l[1] / size, l[2] / size];
			};
			for (let k = 0; k < n; k++) {
				const before = left(Math.max(0, k - 1));
				const after = left(Math.min(n - 2, k));
				const sum = [before[0] + after[0], before[1] + after[1], before[2] + after[2]] as const;
				// Halfway between both, as far as keeps the distance to each.
				const scale = (2 * distance) / (square(sum[0]) + square(sum[1]) + square(sum[2]));
				if (!Number.isFinite(scale)) markFailed(block, h, target.mask, code);
				for (let axis = 0; axis < 3; axis++)
					points[base + (target.first + k) * 3 + axis] =
						points[base + (source.first + k) * 3 + axis]! + sum[axis]! * scale;
			}
		}
	});
}

import { norm } from '../../elementary/index.ts';
import { COINCIDENT_MM, ON_SIDE } from '../../tolerances.ts';
import type { Axis } from '../axes.ts';

export type Point2 = readonly [number, number];

export interface ScreenPlane {
	readonly flat: Point2[];
	/** Puts the point of the surface at a place of the plane behind others, stride 3. */
	readonly lift: (points: number[], x: number, y: number) => void;
}

/** The outline in its mean plane, along its first side, and the way back to the surface between its corners. */
export function planeOf(ring: Float64Array, normal: Axis): ScreenPlane {
	const n = ring.length / 3;
	const at = (k: number): [number, number, number] => [ring[k * 3]!, ring[k * 3 + 1]!, ring[k * 3 + 2]!];
	const o = at(0);
	const dot = (a: readonly number[], b: readonly number[]) => a[0]! * b[0]! + a[1]! * b[1]! + a[2]! * b[2]!;
	const first = at(1).map((x, c) => x - o[c]!) as [number, number, number];
	const off = dot(first, normal);
	const along = first.map((x, c) => x - off * normal[c]!) as [number, number, number];
	const size = norm(along);
	const right = along.map((x) => x / size) as [number, number, number];
	const up = [
		normal[1] * right[2] - normal[2] * right[1],
		normal[2] * right[0] - normal[0] * right[2],
		normal[0] * right[1] - normal[1] * right[0]
	] as const;
	const local = Array.from({ length: n }, (_, k) => at(k).map((x, c) => x - o[c]!));
	const flat = local.map((p): Point2 => [dot(p, right), dot(p, up)]);
	const heights = local.map((p) => dot(p, normal));
	const level = Math.max(...heights.map(Math.abs)) < COINCIDENT_MM;
	return {
		flat,
		lift(points, x, y) {
			const height = level ? 0 : meanValue(flat, heights, x, y);
			for (let c = 0; c < 3; c++) points.push(o[c]! + right[c]! * x + up[c]! * y + normal[c]! * height);
		}
	};
}

/**
 * Values at a ring's corners carried over its inside, straight along its sides: mean value coordinates (Floater 2003),
 * with tan(a / 2) = (|p| |q| - p q) / (p x q) for the angle between two corners.
 */
function meanValue(ring: readonly Point2[], values: readonly number[], x: number, y: number): number {
	const n = ring.length;
	let scale = 0;
	for (let k = 0; k < n; k++) scale = Math.max(scale, Math.abs(ring[k]![0] - x) + Math.abs(ring[k]![1] - y));
	let sum = 0;
	let weights = 0;
	let bx = ring[n - 1]![0] - x;
	let by = ring[n - 1]![1] - y;
	let far = Math.sqrt(bx * bx + by * by);
	let before = 0;
	for (let k = 0; k <= n; k++) {
		const at = k % n;
		const cx = ring[at]![0] - x;
		const cy = ring[at]![1] - y;
		const size = Math.sqrt(cx * cx + cy * cy);
		if (size <= scale * ON_SIDE) return values[at]!;
		const cross = bx * cy - by * cx;
		const dot = bx * cx + by * cy;
		const last = (at + n - 1) % n;
		if (Math.abs(cross) <= scale * scale * ON_SIDE && dot <= 0)
			return (values[last]! * size + values[at]! * far) / (size + far);
		const half = (far * size - dot) / cross;
		if (k > 0) {
			// The corner before this one lies between the angle before it and the one just found.
			const weight = (before + half) / far;
			sum += weight * values[last]!;
			weights += weight;
		}
		before = half;
		bx = cx;
		by = cy;
		far = size;
	}
	return sum / weights;
}

import { hypot } from '../elementary/index.ts';
import type { Trial } from './trial.ts';

/** A kit drawn small: filled triangles from the back to the front, in a square from 0 to 1 with y down. */
export interface KitPicture {
	/** Six numbers a triangle. */
	readonly triangles: Float32Array;
	/** Index into `materials` of each triangle. */
	readonly material: Uint8Array;
	readonly materials: readonly string[];
	/** How bright each triangle is, 0 to 1. */
	readonly light: Float32Array;
}

/** Towards the eye, and the picture's right and up: from the right and above, at -y. */
const EYE = unit([0.5, -1, 0.42]);
const RIGHT = unit([1, 0.5, 0]);
const UP = [
	EYE[1] * RIGHT[2] - EYE[2] * RIGHT[1],
	EYE[2] * RIGHT[0] - EYE[0] * RIGHT[2],
	EYE[0] * RIGHT[1] - EYE[1] * RIGHT[0]
] as const;
const LAMP = unit([0.2, -0.7, 0.7]);
/** A picture of this size shows no more. */
const MOST = 6000;

type Triple = readonly [number, number, number];

function unit([x, y, z]: Triple): Triple {
	const size = hypot(x, y, z);
	return [x / size, y / size, z / size];
}

const dot = (a: Triple, b: Triple) => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];

/** Draws what a kit makes of its trial host. O(triangles log triangles). */
export function drawKit({ batches, instances }: Pick<Trial, 'batches' | 'instances'>): KitPicture {
	const materials = [...new Set([...batches, ...instances].map((b) => b.material))];
	const found: { at: number[]; depth: number; light: number; material: number }[] = [];
	const add = (corners: readonly Triple[], material: string) => {
		const [a, b, c] = corners as [Triple, Triple, Triple];
		const u: Triple = [b[0] - a[0], b[1] - a[1], b[2] - a[2]];
		const v: Triple = [c[0] - a[0], c[1] - a[1], c[2] - a[2]];
		const n = unit([u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]]);
		found.push({
			at: corners.flatMap((p) => [dot(p, RIGHT), -dot(p, UP)]),
			depth: (dot(a, EYE) + dot(b, EYE) + dot(c, EYE)) / 3,
			light: 0.35 + 0.65 * Math.abs(dot(n, LAMP)),
			material: materials.indexOf(material)
		});
	};
	for (const { positions, indices, material } of batches) {
		const at = (k: number): Triple => [positions[k * 3]!, positions[k * 3 + 1]!, positions[k * 3 + 2]!];
		for (let t = 0; t < Math.min(indices.length, MOST * 3); t += 3)
			add([at(indices[t]!), at(indices[t + 1]!), at(indices[t + 2]!)], material);
	}
	for (const { positions, indices, matrices, material } of instances)
		for (let m = 0; m < matrices.length && found.length < MOST; m += 16) {
			const at = (k: number): Triple => {
				const [x, y, z] = [positions[k * 3]!, positions[k * 3 + 1]!, positions[k * 3 + 2]!];
				const row = (c: number) =>
					matrices[m + c]! * x + matrices[m + 4 + c]! * y + matrices[m + 8 + c]! * z + matrices[m + 12 + c]!;
				return [row(0), row(1), row(2)];
			};
			for (let t = 0; t < indices.length; t += 3)
				add([at(indices[t]!), at(indices[t + 1]!), at(indices[t + 2]!)], material);
		}
	found.sort((a, b) => a.depth - b.depth);
	const xs = found.flatMap((f) => f.at.filter((_, k) => k % 2 === 0));
	const ys = found.flatMap((f) => f.at.filter((_, k) => k % 2 === 1));
	const ends = (values: readonly number[]) =>
		values.reduce(([least, most], v) => [Math.min(least, v), Math.max(most, v)] as [number, number], [
			Infinity,
			-Infinity
		] as [number, number]);
	const [[x0, x1], [y0, y1]] = [ends(xs), ends(ys)];
	const size = Math.max(x1 - x0, y1 - y0, 1);
	const fitted = found.flatMap((f) =>
		f.at.map((v, k) => (k % 2 === 0 ? 0.5 + (v - (x0 + x1) / 2) / size : 0.5 + (v - (y0 + y1) / 2) / size))
	);
	return {
		triangles: Float32Array.from(fitted),
		material: Uint8Array.from(found, (f) => f.material),
		materials,
		light: Float32Array.from(found, (f) => f.light)
	};
}

import type { Point } from '../../geometry/curve.ts';
import { blendOf, ontoBlend, type Blend } from './blend.ts';
import { RING, type Cage } from './cage.ts';
import type { Joint } from './joints.ts';

/** The skin of a joint with the rings at which its arms go on. */
export interface JointMesh {
	/** mm, stride 3 */
	readonly points: number[];
	readonly triangles: readonly number[];
	/** By arm: the points around its section, anticlockwise about the bar's way from start to end. */
	readonly rings: readonly (readonly number[])[];
}

/** A joint's skin: its cage, each triangle parted into four so many times, brought onto the blended body. O(triangles). */
export function jointMesh(joint: Joint, cage: Cage, level: number): JointMesh {
	const points = [...cage.points];
	let { triangles } = cage;
	let rings = joint.arms.map((_, a) => Array.from({ length: RING }, (_, k) => a * RING + k));
	const open = joint.arms.length > 1;
	const blend = blendOf(joint);
	if (open) bring(points, joint.arms.length * RING, blend);
	for (let l = 0; l < level; l++) {
		const middles = new Map<number, number>();
		const known = points.length / 3;
		const middle = (a: number, b: number): number => {
			const key = Math.min(a, b) * MOST_POINTS + Math.max(a, b);
			const there = middles.get(key);
			if (there !== undefined) return there;
			const made = points.length / 3;
			for (let c = 0; c < 3; c++) points.push((points[a * 3 + c]! + points[b * 3 + c]!) / 2);
			middles.set(key, made);
			return made;
		};
		rings = rings.map((ring, a) => {
			const finer: number[] = [];
			for (let k = 0; k < ring.length; k++) finer.push(ring[k]!, middle(ring[k]!, ring[(k + 1) % ring.length]!));
			for (let k = 1; k < finer.length; k += 2) ontoSection(joint, a, points, finer[k]! * 3);
			return finer;
		});
		const free = points.length / 3;
		triangles = partInFour(triangles, middle);
		// A square end stays flat.
		if (!open) continue;
		bring(points, free, blend);
		even(points, triangles, known, rings);
		bring(points, free, blend);
	}
	return { points, triangles, rings };
}

const MOST_POINTS = 1 << 24;

function partInFour(triangles: readonly number[], middle: (a: number, b: number) => number): number[] {
	const out: number[] = [];
	for (let t = 0; t < triangles.length; t += 3) {
		const [a, b, c] = [triangles[t]!, triangles[t + 1]!, triangles[t + 2]!];
		const [ab, bc, ca] = [middle(a, b), middle(b, c), middle(c, a)];
		out.push(a, ab, ca, ab, b, bc, ca, bc, c, ab, bc, ca);
	}
	return out;
}

/** Points from a number on onto the blended body. */
function bring(points: number[], from: number, blend: Blend): void {
	for (let o = from * 3; o < points.length; o += 3) ontoBlend(blend, points, o);
}

/** A middle of a ring's side onto the circle. */
function ontoSection({ at, arms }: Joint, a: number, points: number[], o: number): void {
	const { way, setBack, radius } = arms[a]!;
	const middle = way.map((w, c) => at[c]! + setBack * w) as unknown as Point;
	const off = [0, 1, 2].map((c) => points[o + c]! - middle[c]!);
	const by = radius / Math.sqrt(off[0]! * off[0]! + off[1]! * off[1]! + off[2]! * off[2]!);
	for (let c = 0; c < 3; c++) points[o + c] = middle[c]! + off[c]! * by;
}

/** New points to the middle of those around them, so that triangles are alike; what lies on rings and what was there stays. */
function even(
	points: number[],
	triangles: readonly number[],
	from: number,
	rings: readonly (readonly number[])[]
): void {
	const sums = new Float64Array(points.length);
	const counts = new Uint32Array(points.length / 3);
	const still = new Uint8Array(counts.length);
	for (const ring of rings) for (const p of ring) still[p] = 1;
	const add = (p: number, q: number) => {
		counts[p]!++;
		for (let c = 0; c < 3; c++) sums[p * 3 + c]! += points[q * 3 + c]!;
	};
	for (let t = 0; t < triangles.length; t += 3) {
		const a = triangles[t]!;
		const b = triangles[t + 1]!;
		const c = triangles[t + 2]!;
		add(a, b);
		add(b, c);
		add(c, a);
	}
	for (let p = from; p < counts.length; p++) {
		if (still[p] === 1) continue;
		for (let c = 0; c < 3; c++) points[p * 3 + c] = sums[p * 3 + c]! / counts[p]!;
	}
}

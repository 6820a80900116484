import { ON_BLEND } from '../../tolerances.ts';
import type { Joint } from './joints.ts';

/*
 * The surface of a joint is that of an implicit body: of each arm's distance d from its round surface a share
 * (1 - d / blend)^2 counts, nothing beyond `blend`, and the surface is where the shares come to 1. Beside one arm alone
 * that is the round bar itself; between arms it is a fillet.
 */

const ROUNDS = 12;

/** A joint as its points are moved: each of them asks all of its arms, round after round. */
export interface Blend {
	readonly at: Joint['at'];
	readonly blend: number;
	/** Way and radius of each arm, stride 4. */
	readonly arms: Float64Array;
	/** By arm, of the point at hand: its way from the arm's axis and how long that is, stride 4. */
	readonly off: Float64Array;
}

export const blendOf = ({ at, arms, blend }: Joint): Blend => ({
	at,
	blend,
	arms: Float64Array.from(arms.flatMap(({ way, radius }) => [...way, radius])),
	off: new Float64Array(arms.length * 4)
});

/** Moves a point (mm, at an offset) onto the surface of a joint, by Newton's method on the root of the sum. In place. O(arms). */
export function ontoBlend({ at, arms, off, blend }: Blend, points: number[], o: number): void {
	const [ax, ay, az] = at;
	for (let round = 0; round < ROUNDS; round++) {
		const px = points[o]! - ax;
		const py = points[o + 1]! - ay;
		const pz = points[o + 2]! - az;
		const nearest = fromArms(arms, off, px, py, pz);
		// Far off, the arms reach further, so that a point between several comes in between them.
		const reach = Math.max(blend, 1.5 * nearest);
		let sum = 0;
		let gx = 0;
		let gy = 0;
		let gz = 0;
		for (let a = 0; a < arms.length; a += 4) {
			const size = off[a + 3]!;
			const share = 1 - (size - arms[a + 3]!) / reach;
			if (share <= 0 || size === 0) continue;
			sum += share * share;
			const slope = (-2 * share) / (reach * size);
			gx += slope * off[a]!;
			gy += slope * off[a + 1]!;
			gz += slope * off[a + 2]!;
		}
		const root = Math.sqrt(sum);
		const steep = (gx * gx + gy * gy + gz * gz) / (4 * sum);
		if (!(steep > 0)) return;
		const step = (1 - root) / steep / (2 * root);
		const size = Math.abs(step) * Math.sqrt(gx * gx + gy * gy + gz * gz);
		const by = size > reach ? reach / size : 1;
		points[o]! += step * by * gx;
		points[o + 1]! += step * by * gy;
		points[o + 2]! += step * by * gz;
		if (size < blend * ON_BLEND && reach === blend) return;
	}
}

/** How far a point lies outside the nearest arm, mm; its ways from the arms' axes, rays that start at the node, go to `off`. */
function fromArms(arms: Float64Array, off: Float64Array, px: number, py: number, pz: number): number {
	let nearest = Infinity;
	for (let a = 0; a < arms.length; a += 4) {
		const along = Math.max(0, px * arms[a]! + py * arms[a + 1]! + pz * arms[a + 2]!);
		const x = px - along * arms[a]!;
		const y = py - along * arms[a + 1]!;
		const z = pz - along * arms[a + 2]!;
		const size = Math.sqrt(x * x + y * y + z * z);
		off[a] = x;
		off[a + 1] = y;
		off[a + 2] = z;
		off[a + 3] = size;
		nearest = Math.min(nearest, size - arms[a + 3]!);
	}
	return nearest;
}

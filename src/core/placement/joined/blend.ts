import { ON_BLEND } from '../../tolerances.ts';
import type { Joint } from './joints.ts';

/*
 * The surface of a joint is that of an implicit body: of each arm's distance d from its round surface a share
 * (1 - d / blend)^2 counts, nothing beyond `blend`, and the surface is where the shares come to 1. Beside one arm alone
 * that is the round bar itself; between arms it is a fillet.
 */

const ROUNDS = 12;

/** Moves a point (mm, at an offset) onto the surface of a joint, by Newton's method on the root of the sum. In place. O(arms). */
export function ontoBlend({ at, arms, blend }: Joint, points: number[] | Float64Array, o: number): void {
	for (let round = 0; round < ROUNDS; round++) {
		const [px, py, pz] = [points[o]! - at[0], points[o + 1]! - at[1], points[o + 2]! - at[2]];
		let nearest = Infinity;
		for (const { way, radius } of arms) nearest = Math.min(nearest, fromAxis(px, py, pz, way) - radius);
		// Far off, the arms reach further, so that a point between several comes in between them.
		const reach = Math.max(blend, 1.5 * nearest);
		let [sum, gx, gy, gz] = [0, 0, 0, 0];
		for (const { way, radius } of arms) {
			const along = Math.max(0, px * way[0] + py * way[1] + pz * way[2]);
			const [x, y, z] = [px - along * way[0], py - along * way[1], pz - along * way[2]];
			const size = Math.sqrt(x * x + y * y + z * z);
			const share = 1 - (size - radius) / reach;
			if (share <= 0 || size === 0) continue;
			sum += share * share;
			const slope = (-2 * share) / (reach * size);
			gx += slope * x;
			gy += slope * y;
			gz += slope * z;
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

/** Distance of a point from a ray that starts at the origin. */
function fromAxis(x: number, y: number, z: number, way: readonly [number, number, number]): number {
	const along = Math.max(0, x * way[0] + y * way[1] + z * way[2]);
	const [a, b, c] = [x - along * way[0], y - along * way[1], z - along * way[2]];
	return Math.sqrt(a * a + b * b + c * c);
}

import { hypot } from '../elementary/index.ts';
import { closestPointFinder } from '../geometry/closestPoint.ts';
import { PatchCursor } from '../geometry/patches.ts';
import type { Surface } from '../geometry/surface.ts';
import type { Hole } from '../mass/shapeKind.ts';
import { chartFace } from '../settingout/chartedFace.ts';
import { developmentOf, moveOverSeam, type Development } from '../settingout/development.ts';
import { openingSchema, type Opening } from '../tiling/openings/schema.ts';

/** Openings for the holes that a face was brought in with: points in space, mm, laid flat by the nearest of the face. */
export function holeOpenings(surface: Surface, holes: readonly Hole[]): Opening[] {
	if (holes.length === 0) return [];
	const nearest = closestPointFinder(surface);
	const development = developmentOf(chartFace(surface));
	const cursor = new PatchCursor(development.patches);
	return holes.map((hole, k) => {
		const ring: [number, number][] = [];
		for (const [x, y, z] of hole) {
			const { u, v } = nearest([x!, y!, z!]);
			cursor.evaluate(u, v);
			ring.push(besideLast(development, [cursor.out[0]!, cursor.out[1]!], ring.at(-1)));
		}
		const middle = [0, 1].map((c) => ring.reduce((sum, p) => sum + p[c]!, 0) / ring.length) as [number, number];
		return openingSchema.parse({
			id: `opening-${k + 1}`,
			name: `Opening ${k + 1}`,
			outline: { kind: 'polygon', points: ring.map(([x, y]) => [x - middle[0], y - middle[1]]) },
			place: { kind: 'face', across: middle[0], up: middle[1] }
		});
	});
}

/** A flat place, or the same over the seam: whichever is nearer to the one before, so that a hole across the seam stays whole. */
function besideLast(
	development: Development,
	place: [number, number],
	last: readonly [number, number] | undefined
): [number, number] {
	if (!last || !development.overSeam) return place;
	const far = (p: readonly [number, number]) => hypot(p[0] - last[0], p[1] - last[1]);
	return [place, moveOverSeam(development, ...place, 1), moveOverSeam(development, ...place, -1)].reduce((best, p) =>
		far(p) < far(best) ? p : best
	);
}

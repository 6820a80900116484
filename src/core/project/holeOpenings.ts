import { hypot } from '../elementary/index.ts';
import { closestPointFinder } from '../geometry/closestPoint.ts';
import { PatchCursor } from '../geometry/patches.ts';
import type { Surface } from '../geometry/surface.ts';
import type { Hole } from '../mass/shapeKind.ts';
import { chartFace } from '../settingout/chartedFace.ts';
import { developmentOf, moveOverSeam, type Development } from '../settingout/development.ts';
import { crossingSides, soundRing } from '../tiling/openings/rings.ts';
import { openingSchema, type Opening } from '../tiling/openings/schema.ts';

/**
 * Openings for the holes that a face was brought in with: points in space, mm, laid flat by the nearest of the face.
 * A line that crosses itself there is mended; a hole that cannot be an opening is left out, and told.
 */
export function holeOpenings(
	surface: Surface,
	holes: readonly Hole[]
): { readonly openings: Opening[]; readonly notes: string[] } {
	const openings: Opening[] = [];
	const notes: string[] = [];
	if (holes.length === 0) return { openings, notes };
	const nearest = closestPointFinder(surface);
	const development = developmentOf(chartFace(surface));
	const cursor = new PatchCursor(development.patches);
	holes.forEach((hole, k) => {
		const ring: [number, number][] = [];
		for (const [x, y, z] of hole) {
			const { u, v } = nearest([x!, y!, z!]);
			cursor.evaluate(u, v);
			ring.push(besideLast(development, [cursor.out[0]!, cursor.out[1]!], ring.at(-1)));
		}
		const name = `Opening ${k + 1}`;
		const opening = openingOf(`opening-${k + 1}`, name, ring);
		if (opening) openings.push(opening);
		else notes.push(`Hole ${k + 1} cannot be made an opening of the face and is left out.`);
	});
	return { openings, notes };
}

/** Nothing where the line, mended where it crosses itself, is none of an opening. */
function openingOf(id: string, name: string, ring: readonly (readonly [number, number])[]): Opening | undefined {
	const sound = soundRing(ring);
	if (!sound) return undefined;
	const middle = [0, 1].map((c) => sound.reduce((sum, p) => sum + p[c]!, 0) / sound.length) as [number, number];
	const points = sound.map(([x, y]): [number, number] => [x - middle[0], y - middle[1]]);
	// As the document will be checked.
	if (crossingSides(points)) return undefined;
	const read = openingSchema.safeParse({
		id,
		name,
		outline: { kind: 'polygon', points },
		place: { kind: 'face', across: middle[0], up: middle[1] }
	});
	return read.success ? read.data : undefined;
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

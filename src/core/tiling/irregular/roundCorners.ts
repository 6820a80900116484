import { SAME_FIELD } from '../../tolerances.ts';
import { square } from '../../elementary/index.ts';
import { openBorders } from '../plane/clip.ts';
import type { PlaneExtent } from '../plane/planeCells.ts';

type Point = readonly [number, number];

/** Points within an arc that takes a corner's place, its two ends not counted. */
const ARC_POINTS = 2;

/**
 * Cells with their corners rounded by parabolas that touch both sides at a share of the way to their middles. The ends are
 * those of the side, whichever cell it is seen from, so that neighbours still share what is left of it. Corners on a border
 * of the face stay. O(corners).
 */
export function roundCorners(rings: readonly (readonly Point[])[], extent: PlaneExtent, share: number): Point[][] {
	const borders = openBorders(extent);
	const onBorder = ([x, y]: Point) => borders.some(({ axis, at }) => Math.abs((axis === 0 ? x : y) - at) < SAME_FIELD);
	/** From the end `a` of a side towards `b`. */
	const along = (a: Point, b: Point): Point => [a[0] + ((b[0] - a[0]) * share) / 2, a[1] + ((b[1] - a[1]) * share) / 2];
	return rings.map((ring) =>
		ring.flatMap((corner, k) => {
			if (onBorder(corner)) return [corner];
			const from = along(corner, ring[(k + ring.length - 1) % ring.length]!);
			const to = along(corner, ring[(k + 1) % ring.length]!);
			const arc = Array.from({ length: ARC_POINTS }, (_, i): Point => {
				const t = (i + 1) / (ARC_POINTS + 1);
				const [p, q, r] = [square(1 - t), 2 * t * (1 - t), t * t];
				return [p * from[0] + q * corner[0] + r * to[0], p * from[1] + q * corner[1] + r * to[1]];
			});
			return [from, ...arc, to];
		})
	);
}

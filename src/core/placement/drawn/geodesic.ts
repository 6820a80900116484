import { sin } from '../../elementary/index.ts';
import { closestPointFinder } from '../../geometry/closestPoint.ts';
import { distance, type Point } from '../../geometry/curve.ts';
import { pointOn } from '../../geometry/pointOn.ts';
import { developmentOf, FlatFinder, type ChartedFace } from '../../settingout/development.ts';
import { GEODESIC_RESIDUAL } from '../../tolerances.ts';

/** Pieces of a way while it is straightened; they are doubled until there are this many. */
const PIECES = 64;
const MOST_ROUNDS = 300;

/**
 * The shortest way along a face between two flat places, as points on it, mm; nothing where a place is off the face. It
 * begins as the straight line of the face laid flat, which is the answer where that is true to length; elsewhere each
 * point goes to the face's nearest point to the middle of its neighbours, first few points and then more, until the way
 * stays (curve shortening).
 */
export function geodesic(
	face: ChartedFace,
	from: readonly [number, number],
	to: readonly [number, number]
): Point[] | undefined {
	const finder = new FlatFinder(developmentOf(face));
	const nearest = closestPointFinder(face.surface);
	const at = (share: number) => {
		const found = finder.find(from[0] + (to[0] - from[0]) * share, from[1] + (to[1] - from[1]) * share);
		return found && pointOn(face.surface, found.u, found.v).position;
	};
	const [first, last] = [at(0), at(1)];
	if (!first || !last) return undefined;
	let way = Array.from({ length: 5 }, (_, k) => at(k / 4) ?? nearest(between(first, last, k / 4)).position);
	for (;;) {
		straighten(way, (p) => nearest(p).position);
		if (way.length > PIECES) return way;
		way = way.flatMap((p, k) => (k === 0 ? [p] : [nearest(between(way[k - 1]!, p, 0.5)).position, p]));
	}
}

function straighten(way: Point[], onFace: (p: Point) => Point): void {
	// Farther than to the middle itself, which brings long ways to rest in rounds as many as they have points
	// (successive over-relaxation, Young 1950; from memory).
	const over = 2 / (1 + sin(Math.PI / (way.length - 1)));
	for (let round = 0; round < MOST_ROUNDS; round++) {
		let most = 0;
		// Every second one and then the others, so that each sees where its neighbours have gone.
		for (const odd of [1, 2])
			for (let k = odd; k + 1 < way.length; k += 2) {
				const next = onFace(between(way[k]!, between(way[k - 1]!, way[k + 1]!, 0.5), over));
				most = Math.max(most, distance(next, way[k]!));
				way[k] = next;
			}
		if (most < distance(way[0]!, way.at(-1)!) * GEODESIC_RESIDUAL) return;
	}
}

const between = (a: Point, b: Point, share: number): Point => [
	a[0] + (b[0] - a[0]) * share,
	a[1] + (b[1] - a[1]) * share,
	a[2] + (b[2] - a[2]) * share
];

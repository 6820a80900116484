import { sin } from '../../elementary/index.ts';
import { closestPointFinder } from '../../geometry/closestPoint.ts';
import { distance, type Point } from '../../geometry/curve.ts';
import { domainOf } from '../../geometry/surface.ts';
import { pointOn } from '../../geometry/pointOn.ts';
import { developmentOf, FlatFinder, type ChartedFace } from '../../settingout/development.ts';
import { GEODESIC_RESIDUAL } from '../../tolerances.ts';

/** Pieces of a way while it is straightened; they are doubled until there are this many. */
const PIECES = 64;
const MOST_ROUNDS = 300;
/** Points that a way begins with. */
const FIRST_POINTS = 5;

/**
 * The shortest way along a face between two flat places, as points on it, mm; nothing where a place is off the face. It
 * begins as the straight line of the face laid flat, which is the answer where that is true to length; elsewhere each
 * point goes to the face's nearest point to the middle of its neighbours, first few points and then more, until the way
 * stays (curve shortening). On a closed face the way over the seam is tried as well, and the shorter one taken.
 */
export function geodesic(
	face: ChartedFace,
	from: readonly [number, number],
	to: readonly [number, number]
): Point[] | undefined {
	const finder = new FlatFinder(developmentOf(face));
	const nearest = closestPointFinder(face.surface);
	const onFace = (p: Point) => nearest(p).position;
	const placed = [from, to].map(([x, y]) => finder.find(x, y));
	const [begin, end] = placed;
	if (!begin || !end) return undefined;
	const at = (u: number, v: number) => pointOn(face.surface, u, v).position;
	const [first, last] = [at(begin.u, begin.v), at(end.u, end.v)];
	const flat = Array.from({ length: FIRST_POINTS }, (_, k) => {
		const share = k / (FIRST_POINTS - 1);
		const found = finder.find(from[0] + (to[0] - from[0]) * share, from[1] + (to[1] - from[1]) * share);
		return found ? at(found.u, found.v) : onFace(between(first, last, share));
	});
	const ways = [flat, ...aroundSeams(face, begin, end)].map((way) => shortened(way, onFace));
	return ways.reduce((best, way) => (lengthOf(way) < lengthOf(best) ? way : best));
}

interface Place {
	readonly u: number;
	readonly v: number;
}

/** Ways between two places that go over each seam of a closed face, in its own parameters. */
function aroundSeams({ surface, ends }: ChartedFace, begin: Place, end: Place): Point[][] {
	const turned = (name: 'u' | 'v') => {
		const [from, to] =
			name === 'u' ? domainOf(surface.knotsU, surface.degreeU) : domainOf(surface.knotsV, surface.degreeV);
		const period = to - from;
		const far = end[name] + (end[name] < begin[name] ? period : -period);
		return Array.from({ length: FIRST_POINTS }, (_, k) => {
			const share = k / (FIRST_POINTS - 1);
			const place = { u: begin.u + (end.u - begin.u) * share, v: begin.v + (end.v - begin.v) * share };
			const along = begin[name] + (far - begin[name]) * share;
			place[name] = from + ((((along - from) % period) + period) % period);
			return pointOn(surface, place.u, place.v).position;
		});
	};
	return [...(ends.closedAcross ? [turned('u')] : []), ...(ends.closedUp ? [turned('v')] : [])];
}

function shortened(start: Point[], onFace: (p: Point) => Point): Point[] {
	let way = start;
	for (;;) {
		straighten(way, onFace);
		if (way.length > PIECES) return way;
		way = way.flatMap((p, k) => (k === 0 ? [p] : [onFace(between(way[k - 1]!, p, 0.5)), p]));
	}
}

const lengthOf = (way: readonly Point[]) => way.reduce((sum, p, k) => sum + (k > 0 ? distance(p, way[k - 1]!) : 0), 0);

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

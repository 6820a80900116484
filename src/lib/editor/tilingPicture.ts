import { geodesic } from '../../core/tiling/irregular/geodesic.ts';
import { randomDivision } from '../../core/tiling/irregular/randomDivision.ts';
import { voronoiCells } from '../../core/tiling/irregular/voronoiCells.ts';
import type { PlaneCells } from '../../core/tiling/plane/planeCells.ts';
import { repeatUnit } from '../../core/tiling/plane/repeatUnit.ts';
import { randomFrom } from '../../core/tiling/random.ts';
import type { Tiling } from '../../core/tiling/schema.ts';
import { prepareUnit } from '../../core/tiling/units/prepareUnit.ts';
import type { TilingUnit } from '../../core/tiling/units/unit.ts';
import { square } from '../../core/tiling/units/library.ts';
import { unitOf } from '../../core/tiling/units/unitOf.ts';

/** A tiling as lines of a drawing, y down, in a box from (0, 0). */
export interface TilingPicture {
	readonly width: number;
	readonly height: number;
	/** One SVG path a role. */
	readonly paths: readonly string[];
}

type Point = readonly [number, number];

/** Fields that a picture shows across, at least, and its height over its width. */
const LEAST_ACROSS = 4;
const SHAPE = 0.75;

/** The picture of a tiling; `own` is the unit of a tiling of the project's own. */
export function tilingPicture(tiling: Tiling, own?: TilingUnit): TilingPicture {
	if (tiling.kind === 'icosahedral') return ball(tiling.frequency);
	if (tiling.kind === 'voronoi') return scattered(tiling.seed);
	if (tiling.kind === 'random')
		return planePicture(
			randomDivision(
				{ across: 8, up: 6, closedAcross: false, closedUp: false },
				{
					...tiling,
					mostAcross: Math.min(4, tiling.mostAcross),
					mostUp: Math.min(3, tiling.mostUp),
					leastAcross: 1,
					leastUp: 1
				}
			),
			8,
			6
		);
	return unitPicture(own ?? unitOf(tiling) ?? square());
}

/** A unit repeated over a few fields. */
function unitPicture(unit: TilingUnit): TilingPicture {
	const across = Math.min(12, Math.max(LEAST_ACROSS, unit.width * 2));
	const up = Math.round(across * SHAPE);
	return planePicture(
		repeatUnit(prepareUnit(unit), { across, up, closedAcross: false, closedUp: false }, 'cut'),
		across,
		up
	);
}

function planePicture(
	{ xy, cornerStart, corners, role, roles }: PlaneCells,
	width: number,
	height: number
): TilingPicture {
	const rings: Point[][][] = roles.map(() => []);
	for (let c = 0; c < role.length; c++) {
		const ring: Point[] = [];
		for (let k = cornerStart[c]!; k < cornerStart[c + 1]!; k++)
			ring.push([xy[corners[k]! * 2]!, height - xy[corners[k]! * 2 + 1]!]);
		rings[role[c]!]!.push(ring);
	}
	return { width, height, paths: rings.map(pathOf) };
}

function scattered(seed: number): TilingPicture {
	const next = randomFrom(seed);
	const [width, height] = [4, 3];
	const seeds = Array.from({ length: 22 }, (): Point => [next() * width, next() * height]);
	return {
		width,
		height,
		paths: [pathOf(voronoiCells(seeds, { width, height, closedAcross: false, closedUp: false }))]
	};
}

/** Seen from the side and a little from above; only what looks this way. */
function ball(frequency: number): TilingPicture {
	const { points, triangles } = geodesic(Math.min(4, frequency));
	const tilt = 0.45;
	const seen = points.map(
		([x, y, z]) =>
			[
				x + 2 / SHAPE / 2,
				1 - (z * Math.cos(tilt) + y * Math.sin(tilt)),
				y * Math.cos(tilt) - z * Math.sin(tilt)
			] as const
	);
	const front = triangles.filter((t) => t.every((p) => seen[p]![2] < 0.25));
	return {
		width: 2 / SHAPE,
		height: 2,
		paths: [pathOf(front.map((t) => t.map((p): Point => [seen[p]![0], seen[p]![1]])))]
	};
}

const pathOf = (rings: readonly (readonly Point[])[]) =>
	rings.map((ring) => `M${ring.map(([x, y]) => `${round(x)} ${round(y)}`).join('L')}Z`).join('');
const round = (x: number) => Math.round(x * 1000) / 1000;

import { ZygasterError } from '../../errors.ts';
import type { ChartedFace } from '../../settingout/development.ts';
import { referenceLength, type LaidDirection } from '../../settingout/directions.ts';
import { group } from '../../units/print.ts';
import { PlaneBuilder, type PlaneCells, type PlaneExtent } from '../plane/planeCells.ts';
import { randomFrom } from '../random.ts';
import type { Tiling } from '../schema.ts';
import { roundCorners } from './roundCorners.ts';
import { seedDensity, type FieldAt, type SeedDensity } from './seedDensity.ts';
import { voronoiCells, type SeedField } from './voronoiCells.ts';
import { LEAST_DENSITY, SAME_FIELD } from '../../tolerances.ts';

type Point = readonly [number, number];
type Options = Extract<Tiling, { kind: 'voronoi' }>;

const MOST_SEEDS = 50_000;

/**
 * Voronoi cells about random seeds on the face's rectangle: as wide as the row that modules are laid on, as high as the
 * column. The key of a cell is its seed's number, as its column. Throws a ZygasterError with code `tiling` for too
 * few or too many seeds.
 */
export function tileVoronoi(
	face: ChartedFace,
	across: LaidDirection,
	up: LaidDirection,
	extent: PlaneExtent,
	options: Options,
	fieldAt?: FieldAt
): PlaneCells {
	const width = across.lines?.at(-1) ?? referenceLength(face, 'across', { along: 'longest' });
	const height = up.lines?.at(-1) ?? referenceLength(face, 'up', { along: 'longest' });
	const density = seedDensity(face, across, up, width, height, options.size, options.grading, fieldAt);
	const count = Math.round(density.total);
	if (count < 1)
		throw new ZygasterError(
			'tiling',
			`Cells of ${group(options.size, 0)} mm are larger than this face. Right would be a smaller size.`
		);
	if (count > MOST_SEEDS)
		throw new ZygasterError(
			'tiling',
			`Cells of ${group(options.size, 0)} mm are ${group(count, 0)} on this face; the limit is ${group(MOST_SEEDS, 0)}. Right would be a larger size.`
		);
	const field: SeedField = { width, height, closedAcross: extent.closedAcross, closedUp: extent.closedUp };
	const cells = relaxedCells(
		drawSeeds(count, density, field, randomFrom(options.seed)),
		field,
		density,
		options.rounds
	);
	const toGrid = (values: Float64Array, way: number, length: number, closed: boolean) =>
		gridPlace(values, way / length, closed);
	const builder = new PlaneBuilder(extent);
	const rings = cells.map((cell) =>
		cell.map(([x, y]): Point => [
			toGrid(across.values, x, width, extent.closedAcross),
			toGrid(up.values, y, height, extent.closedUp)
		])
	);
	const rounded = options.rounding > 0 ? roundCorners(rings, extent, options.rounding) : rings;
	rounded.forEach((ring, seed) =>
		builder.addCell(
			startLow(withoutRepeats(ring)).map(([x, y]) => ({ x, y, straight: false })),
			0,
			0,
			seed
		)
	);
	return builder.finish(['cell']);
}

/** Seeds by rejection: a place is kept with a chance in proportion to the density there. */
function drawSeeds(count: number, density: SeedDensity, { width, height }: SeedField, random: () => number): Point[] {
	const seeds: Point[] = [];
	while (seeds.length < count) {
		const [x, y] = [random(), random()];
		if (random() * density.greatest < density.at(x, y)) seeds.push([x * width, y * height]);
	}
	return seeds;
}

/** Cells after so many rounds of moving each seed to the middle of its cell. Source: Lloyd, IEEE Trans. Information Theory 28 (1982) (from memory). */
function relaxedCells(seeds: Point[], field: SeedField, density: SeedDensity, rounds: number): Point[][] {
	let cells = voronoiCells(seeds, field);
	for (let round = 0; round < rounds; round++) {
		seeds = cells.map((cell, k) => middleOf(cell, seeds[k]!, field, density));
		cells = voronoiCells(seeds, field);
	}
	return cells;
}

/**
 * Centre of the cell's mass, denser parts being heavier, by triangles about its seed: about one of its corners, the sum
 * would depend on which of them the ring happens to begin at.
 */
function middleOf(
	cell: readonly Point[],
	[ox, oy]: Point,
	{ width, height, closedAcross, closedUp }: SeedField,
	density: SeedDensity
): Point {
	let [mass, mx, my] = [0, 0, 0];
	for (let k = 0; k < cell.length; k++) {
		const [b, c] = [cell[k]!, cell[k + 1 < cell.length ? k + 1 : 0]!];
		const [x, y] = [(ox + b[0] + c[0]) / 3, (oy + b[1] + c[1]) / 3];
		const area = ((b[0] - ox) * (c[1] - oy) - (b[1] - oy) * (c[0] - ox)) / 2;
		const weight =
			area *
			(density.at(onFace(x / width, closedAcross), onFace(y / height, closedUp)) + density.greatest * LEAST_DENSITY);
		[mass, mx, my] = [mass + weight, mx + weight * x, my + weight * y];
	}
	return [onFace(mx / mass / width, closedAcross) * width, onFace(my / mass / height, closedUp) * height];
}

/** A share over a seam on this side of it, else within 0 and 1. */
const onFace = (share: number, closed: boolean) =>
	closed ? share - Math.floor(share) : Math.max(0, Math.min(1, share));

/** Where a share lies among the lines of the grid. */
function gridPlace(values: Float64Array, share: number, closed: boolean): number {
	const turns = closed ? Math.floor(share) : 0;
	const at = Math.max(0, Math.min(1, share - turns));
	const last = values.length - 1;
	let [low, high] = [0, last];
	while (high - low > 1) {
		const middle = (low + high) >> 1;
		if (values[middle]! <= at) low = middle;
		else high = middle;
	}
	const place = low + (at - values[low]!) / (values[high]! - values[low]!);
	return turns * last + (Math.abs(place - Math.round(place)) < SAME_FIELD ? Math.round(place) : place);
}

function withoutRepeats(ring: readonly Point[]): readonly Point[] {
	return ring.filter(([x, y], k) => {
		const [px, py] = ring[(k + ring.length - 1) % ring.length]!;
		return Math.abs(x - px) > SAME_FIELD || Math.abs(y - py) > SAME_FIELD;
	});
}

/** Begun at the lowest corner, leftmost among those. */
function startLow(ring: readonly Point[]): readonly Point[] {
	let first = 0;
	ring.forEach(([x, y], k) => {
		if (y < ring[first]![1] || (y === ring[first]![1] && x < ring[first]![0])) first = k;
	});
	return [...ring.slice(first), ...ring.slice(0, first)];
}

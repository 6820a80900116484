import { hypot, square } from '../../elementary/index.ts';
import { PatchCursor } from '../../geometry/patches.ts';
import { developmentOf, type ChartedFace } from '../../settingout/development.ts';
import type { LaidDirection } from '../../settingout/directions.ts';
import { invertChart } from '../../settingout/invertChart.ts';
import { chartOf } from '../../settingout/lengthChart.ts';
import type { Grading } from '../schema.ts';

/** Points of the raster along each side. */
const RASTER = 64;

/** How many seeds an area of the face's rectangle should have, looked up in a raster of shares across and up. */
export interface SeedDensity {
	/** Seeds a mm2 of the rectangle, at shares of its width and height. */
	readonly at: (across: number, up: number) => number;
	readonly greatest: number;
	/** Seeds in all. */
	readonly total: number;
}

/** What a field counts as, 0 to 1, at points of a face by their parameters; throws a ZygasterError with code `tiling` where it has no values there. */
export type FieldAt = (field: string, us: Float64Array, vs: Float64Array) => Float64Array;

/** Density of seeds for cells of a mean size, mm, smaller where the grading says so; the face's true area counts. */
export function seedDensity(
	face: ChartedFace,
	across: LaidDirection,
	up: LaidDirection,
	width: number,
	height: number,
	size: number,
	grading: Grading,
	fieldAt?: FieldAt
): SeedDensity {
	const shares = Float64Array.from({ length: RASTER + 1 }, (_, k) => k / RASTER);
	const { us, vs } = invertChart(chartOf([across.table, up.table], face.chart), shares, shares);
	const flat = flattened(face, us, vs);
	const ofField = grading.kind === 'field' ? fieldAt!(grading.field, us, vs) : undefined;
	const scaleAt = (k: number) =>
		grading.kind === 'field'
			? grading.from + (grading.to - grading.from) * ofField![k]!
			: gradeAt(grading, flat[k * 2]!, flat[k * 2 + 1]!);
	const n = RASTER + 1;
	const values = new Float64Array(n * n);
	const step = [width / RASTER, height / RASTER] as const;
	for (let j = 0; j < n; j++)
		for (let i = 0; i < n; i++) {
			const [i0, i1, j0, j1] = [
				Math.max(0, i - 1),
				Math.min(RASTER, i + 1),
				Math.max(0, j - 1),
				Math.min(RASTER, j + 1)
			];
			const difference = (p: number, q: number, c: number) => flat[q * 2 + c]! - flat[p * 2 + c]!;
			const [a, b, c, d] = [j * n + i0, j * n + i1, j0 * n + i, j1 * n + i];
			const turn = difference(a, b, 0) * difference(c, d, 1) - difference(a, b, 1) * difference(c, d, 0);
			const stretch = Math.max(0, turn / ((i1 - i0) * step[0] * (j1 - j0) * step[1]));
			values[j * n + i] = stretch / square(size * scaleAt(j * n + i));
		}
	let total = 0;
	for (let j = 0; j < RASTER; j++)
		for (let i = 0; i < RASTER; i++)
			total +=
				(values[j * n + i]! + values[j * n + i + 1]! + values[(j + 1) * n + i]! + values[(j + 1) * n + i + 1]!) / 4;
	const at = (x: number, y: number) => {
		const [p, q] = [Math.min(RASTER - 1, Math.floor(x * RASTER)), Math.min(RASTER - 1, Math.floor(y * RASTER))];
		const [fx, fy] = [x * RASTER - p, y * RASTER - q];
		const [low, high] = [q * n + p, (q + 1) * n + p];
		return (
			(values[low]! * (1 - fx) + values[low + 1]! * fx) * (1 - fy) +
			(values[high]! * (1 - fx) + values[high + 1]! * fx) * fy
		);
	};
	return { at, greatest: values.reduce((a, b) => Math.max(a, b), 0), total: total * step[0] * step[1] };
}

/** Where points of the face lie flat. */
function flattened(face: ChartedFace, us: Float64Array, vs: Float64Array): Float64Array {
	const cursor = new PatchCursor(developmentOf(face).patches);
	const flat = new Float64Array(us.length * 2);
	for (let k = 0; k < us.length; k++) {
		cursor.evaluate(us[k]!, vs[k]!);
		flat[k * 2] = cursor.out[0]!;
		flat[k * 2 + 1] = cursor.out[1]!;
	}
	return flat;
}

/** Size of cells at a flat place, as a share of the mean one: least on the point or line, 1 beyond its reach. */
function gradeAt(grading: Exclude<Grading, { kind: 'field' }>, x: number, y: number): number {
	if (grading.kind === 'even') return 1;
	const points =
		grading.kind === 'point' ? [[grading.x, grading.y] as const, [grading.x, grading.y] as const] : grading.points;
	let far = Infinity;
	for (let k = 0; k + 1 < points.length; k++) far = Math.min(far, distanceTo(points[k]!, points[k + 1]!, x, y));
	const way = Math.min(1, far / grading.reach);
	return grading.share + (1 - grading.share) * way * way * (3 - 2 * way);
}

function distanceTo(a: readonly [number, number], b: readonly [number, number], x: number, y: number): number {
	const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
	const length = dx * dx + dy * dy;
	const t = length === 0 ? 0 : Math.max(0, Math.min(1, ((x - a[0]) * dx + (y - a[1]) * dy) / length));
	return hypot(x - a[0] - dx * t, y - a[1] - dy * t);
}

import { FRESH_ARRAYS, type ArraySource } from '../arrays.ts';
import { evaluateGridPoints, evaluatePoints, type SurfacePoints } from '../geometry/evaluate.ts';
import type { Surface } from '../geometry/surface.ts';
import { invertChart } from './invertChart.ts';
import type { LengthChart } from './lengthChart.ts';
import { sharesOf, type Spacing } from './spacing.ts';

/** The setting-out of a face: a grid of points on it. Index `row * columns + column`, from the start borders. */
export interface NodeTable {
	/** Points in a row: divisions across + 1. */
	readonly columns: number;
	/** Rows of points: divisions up + 1. */
	readonly rows: number;
	/** mm, stride 3. */
	readonly position: Float64Array;
	/** Unit outward normals, stride 3; (0, 0, 0) where the face has none. */
	readonly normal: Float64Array;
}

/** Divides a face by true length. O(nodes). */
export function setOut(
	surface: Surface,
	chart: LengthChart,
	across: Spacing,
	up: Spacing,
	arrays = FRESH_ARRAYS
): NodeTable {
	const s = sharesOf(across);
	const t = sharesOf(up);
	const divide = chart.separable ? setOutSeparable : setOutFree;
	const { position, normal } = divide(surface, chart, s, t, arrays);
	return { columns: s.length, rows: t.length, position, normal };
}

type Divide = (
	surface: Surface,
	chart: LengthChart,
	s: Float64Array,
	t: Float64Array,
	arrays: ArraySource
) => SurfacePoints;

/** Where rows share their spacing and columns theirs, one row and one column are enough to find. */
const setOutSeparable: Divide = (surface, chart, s, t, arrays) => {
	const start = Float64Array.of(0);
	const { us } = invertChart(chart, s, start);
	const { vs } = invertChart(chart, start, t);
	return evaluateGridPoints(surface, us, vs, arrays);
};

const setOutFree: Divide = (surface, chart, s, t, arrays) => {
	const { us, vs } = invertChart(chart, s, t, arrays);
	return evaluatePoints(surface, us, vs, arrays);
};

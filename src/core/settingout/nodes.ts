import { evaluateGridPoints, evaluatePoints } from '../geometry/evaluate.ts';
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
	up: Spacing
): NodeTable {
	const s = sharesOf(across);
	const t = sharesOf(up);
	const { position, normal } = chart.separable
		? setOutSeparable(surface, chart, s, t)
		: setOutFree(surface, chart, s, t);
	return { columns: s.length, rows: t.length, position, normal };
}

/** Where rows share their spacing and columns theirs, one row and one column are enough to find. */
function setOutSeparable(surface: Surface, chart: LengthChart, s: Float64Array, t: Float64Array) {
	const start = Float64Array.of(0);
	return evaluateGridPoints(surface, invertChart(chart, s, start).us, invertChart(chart, start, t).vs);
}

function setOutFree(surface: Surface, chart: LengthChart, s: Float64Array, t: Float64Array) {
	const { us, vs } = invertChart(chart, s, t);
	return evaluatePoints(surface, us, vs);
}

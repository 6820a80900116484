import { FRESH_ARRAYS, type ArraySource } from '../arrays.ts';
import { ZygasterError } from '../errors.ts';
import { OPEN_ENDS, type Ends } from '../geometry/borders.ts';
import { evaluateGridPoints, evaluatePoints, type SurfacePoints } from '../geometry/evaluate.ts';
import type { Surface } from '../geometry/surface.ts';
import { invertChart } from './invertChart.ts';
import type { LengthChart } from './lengthChart.ts';
import { sharesOf, type Spacing } from './spacing.ts';

/**
 * The setting-out of a face: a grid of points on it. Index `row * columns + column`, from the start borders.
 * Where the face closes on itself the first column (or row) follows the last one and does not stand twice.
 */
export interface NodeTable {
	/** Points in a row: divisions across, and one more on an open face. */
	readonly columns: number;
	/** Rows of points: divisions up, and one more on an open face. */
	readonly rows: number;
	/** Of a border that has run to a point all nodes are at that point, and only the first is used. */
	readonly ends: Ends;
	/** mm, stride 3. */
	readonly position: Float64Array;
	/** Unit outward normals, stride 3; (0, 0, 0) where the face has none. */
	readonly normal: Float64Array;
}

/** Divides a face by true length. O(nodes). Throws a ZygasterError where a closed direction has too few divisions. */
export function setOut(
	surface: Surface,
	chart: LengthChart,
	across: Spacing,
	up: Spacing,
	ends = OPEN_ENDS,
	arrays = FRESH_ARRAYS
): NodeTable {
	checkClosing(across, ends.closedAcross, ends.startPoint && ends.endPoint, 'across');
	checkClosing(up, ends.closedUp, ends.bottomPoint && ends.topPoint, 'up');
	const s = sharesOf(across, ends.closedAcross);
	const t = sharesOf(up, ends.closedUp);
	const divide = chart.separable ? setOutSeparable : setOutFree;
	const { position, normal } = divide(surface, chart, s, t, arrays);
	return { columns: s.length, rows: t.length, ends, position, normal };
}

function checkClosing({ count }: Spacing, closed: boolean, twoPoints: boolean, direction: string): void {
	const least = closed ? 3 : twoPoints ? 2 : 1;
	if (count < least)
		throw new ZygasterError(
			'setting-out',
			`This face ${closed ? 'closes on itself' : 'runs to a point at both ends'} ${direction}: it needs at least ${least} divisions ${direction}, not ${count}.`
		);
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

import { FRESH_ARRAYS, type ArraySource } from '../arrays.ts';
import { PatchCursor } from '../geometry/patches.ts';
import type { ChartedFace } from './development.ts';
import { exactShares } from './exactShares.ts';
import { ChartSearch } from './invertChart.ts';
import { polishInPlace } from './measures.ts';
import type { SetOut } from './nodes.ts';
import { isTensor, placeParameters } from './places.ts';

/** Places between the lines of a grid: each one's field, by the place of its first corner, and its share of the way across and up there. */
export interface PlacesInFields {
	readonly low: Uint32Array;
	readonly fx: Float64Array;
	readonly fy: Float64Array;
}

/** Writes the parameters of `places` into `us` and `vs` from `first` on; arrays on the way there are of the source. */
export type PlaceFinder = (
	places: PlacesInFields,
	us: Float64Array,
	vs: Float64Array,
	first: number,
	arrays?: ArraySource
) => void;

/**
 * Finds places between the lines of a grid on the measure that it is laid by: a third of the way between two lines is a
 * third of what the spacing counts, true length or parameter or height, not of whatever the surface's parameter is.
 * Nothing for grids whose fields have shrunk or which lie turned on the flat face. O(places).
 */
export function placesBetween(face: ChartedFace, { nodes, across, up, between }: SetOut): PlaceFinder | undefined {
	if (!between || nodes.collapsed) return undefined;
	const { columns, rows } = nodes;
	if (isTensor(nodes)) {
		const shareOf = (values: Float64Array, lines: Float64Array, of: (share: number) => number) => {
			const known = remembered(of);
			return (k: number, f: number) =>
				f === 0 ? lines[k]! : f === 1 ? lines[k + 1]! : known(values[k]! + (values[k + 1]! - values[k]!) * f);
		};
		const u = shareOf(across.values, nodes.us, exactShares(face, 'across', across));
		const v = shareOf(up.values, nodes.vs, exactShares(face, 'up', up));
		return ({ low, fx, fy }, us, vs, first) => {
			for (let k = 0; k < low.length; k++) {
				us[first + k] = u(low[k]! % columns, fx[k]!);
				vs[first + k] = v(Math.floor(low[k]! / columns), fy[k]!);
			}
		};
	}
	const grid = placeParameters(nodes, columns * rows);
	const shares = between.moved
		? sharesOfNodes(between.chart, grid.us, grid.vs)
		: sharesOfLines(across.values, up.values, columns, rows);
	const search = new ChartSearch(between.chart);
	return (places, us, vs, first, arrays = FRESH_ARRAYS) => {
		const at = (values: Float64Array) => blended(values, columns, places, arrays);
		const targets = [at(shares[0]), at(shares[1])] as const;
		const starts = [at(grid.us), at(grid.vs)] as const;
		for (let k = 0; k < places.low.length; k++) {
			search.u = starts[0][k]!;
			search.v = starts[1][k]!;
			search.find(targets[0][k]!, targets[1][k]!);
			us[first + k] = search.u;
			vs[first + k] = search.v;
		}
		if (across.measure || up.measure)
			polishInPlace(
				face.surface,
				between.chart,
				[across.measure, up.measure],
				(k, d) => targets[d][k]!,
				us.subarray(first),
				vs.subarray(first)
			);
		arrays.spare(...targets, ...starts);
	};
}

/** Values at the places of a grid, between those of each field's four. */
function blended(
	values: Float64Array,
	columns: number,
	{ low, fx, fy }: PlacesInFields,
	arrays: ArraySource
): Float64Array {
	const out = arrays.float64(low.length);
	for (let k = 0; k < low.length; k++) {
		const p = low[k]!;
		const a = values[p]!;
		const b = values[p + columns]!;
		const start = a + (values[p + 1]! - a) * fx[k]!;
		const end = b + (values[p + columns + 1]! - b) * fx[k]!;
		out[k] = start + (end - start) * fy[k]!;
	}
	return out;
}

/** The value of its line across and of its line up at every place of a grid. */
function sharesOfLines(
	across: Float64Array,
	up: Float64Array,
	columns: number,
	rows: number
): [Float64Array, Float64Array] {
	const shares: [Float64Array, Float64Array] = [new Float64Array(columns * rows), new Float64Array(columns * rows)];
	for (let j = 0, p = 0; j < rows; j++)
		for (let i = 0; i < columns; i++, p++) {
			shares[0][p] = across[i]!;
			shares[1][p] = up[j]!;
		}
	return shares;
}

/** Shares across and up at the nodes of a grid that was made fair. */
function sharesOfNodes(
	chart: NonNullable<SetOut['between']>['chart'],
	us: Float64Array,
	vs: Float64Array
): [Float64Array, Float64Array] {
	const cursor = new PatchCursor(chart.shares);
	const shares: [Float64Array, Float64Array] = [new Float64Array(us.length), new Float64Array(us.length)];
	for (let k = 0; k < us.length; k++) {
		cursor.evaluate(us[k]!, vs[k]!);
		shares[0][k] = cursor.out[0]!;
		shares[1][k] = cursor.out[1]!;
	}
	return shares;
}

/** A function that works out each value once: the places of a tiling repeat theirs. */
function remembered(of: (share: number) => number): (share: number) => number {
	const known = new Map<number, number>();
	return (share) => {
		let found = known.get(share);
		if (found === undefined) known.set(share, (found = of(share)));
		return found;
	};
}

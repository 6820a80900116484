import { PatchCursor } from '../geometry/patches.ts';
import type { ChartedFace } from './development.ts';
import { exactShares } from './exactShares.ts';
import { ChartSearch } from './invertChart.ts';
import { polishInPlace } from './measures.ts';
import type { SetOut } from './nodes.ts';
import { isTensor, placeParameters } from './places.ts';

/** A place between the lines of a grid: its field, from 0, and its share of the way across and up there. */
export interface PlaceInField {
	readonly i: number;
	readonly j: number;
	readonly fx: number;
	readonly fy: number;
}

/** Writes the parameters of `places` into `us` and `vs` from `first` on. */
export type PlaceFinder = (places: readonly PlaceInField[], us: Float64Array, vs: Float64Array, first: number) => void;

/**
 * Finds places between the lines of a grid on the measure that it is laid by: a third of the way between two lines is a
 * third of what the spacing counts, true length or parameter or height, not of whatever the surface's parameter is.
 * Nothing for grids whose fields have shrunk or which lie turned on the flat face. O(places).
 */
export function placesBetween(face: ChartedFace, { nodes, across, up, between }: SetOut): PlaceFinder | undefined {
	if (!between || nodes.collapsed) return undefined;
	if (isTensor(nodes)) {
		const [u, v] = [remembered(exactShares(face, 'across', across)), remembered(exactShares(face, 'up', up))];
		const share = ({ values }: SetOut['across'], k: number, f: number) =>
			values[k]! + (values[k + 1]! - values[k]!) * f;
		return (places, us, vs, first) =>
			places.forEach(({ i, j, fx, fy }, k) => {
				us[first + k] = fx === 0 ? nodes.us[i]! : fx === 1 ? nodes.us[i + 1]! : u(share(across, i, fx));
				vs[first + k] = fy === 0 ? nodes.vs[j]! : fy === 1 ? nodes.vs[j + 1]! : v(share(up, j, fy));
			});
	}
	const { columns } = nodes;
	const grid = placeParameters(nodes, columns * nodes.rows);
	const shares = between.moved ? sharesOfNodes(between.chart, grid.us, grid.vs) : undefined;
	const at = ({ i, j, fx, fy }: PlaceInField, of: (i: number, j: number) => number) => {
		const [low, high] = [of(i, j), of(i, j + 1)];
		const [start, end] = [low + (of(i + 1, j) - low) * fx, high + (of(i + 1, j + 1) - high) * fx];
		return start + (end - start) * fy;
	};
	const valueOf = shares
		? ([0, 1] as const).map((d) => (i: number, j: number) => shares[d]![j * columns + i]!)
		: [(i: number) => across.values[i]!, (_: number, j: number) => up.values[j]!];
	const search = new ChartSearch(between.chart);
	return (places, us, vs, first) => {
		const targets = [new Float64Array(places.length), new Float64Array(places.length)] as const;
		places.forEach((place, k) => {
			search.u = at(place, (i, j) => grid.us[j * columns + i]!);
			search.v = at(place, (i, j) => grid.vs[j * columns + i]!);
			for (const d of [0, 1] as const) targets[d][k] = at(place, valueOf[d]!);
			search.find(targets[0][k]!, targets[1][k]!);
			us[first + k] = search.u;
			vs[first + k] = search.v;
		});
		if (across.measure || up.measure)
			polishInPlace(
				face.surface,
				between.chart,
				[across.measure, up.measure],
				(k, d) => targets[d][k]!,
				us.subarray(first),
				vs.subarray(first)
			);
	};
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

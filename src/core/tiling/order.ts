import { z } from 'zod';
import { atan2 } from '../elementary/index.ts';
import type { NodeTable } from '../settingout/nodes.ts';
import { isTensor } from '../settingout/places.ts';
import { COINCIDENT_MM, SAME_TURN } from '../tolerances.ts';
import { lengthOr } from '../units/lengthSchema.ts';
import { group } from '../units/print.ts';
import type { CellTable } from './cells.ts';
import type { TilingKind } from './schema.ts';

/** In which order cells are counted for their marks. */
export const orderSchema = z.strictObject({
	/** Rows of the tiling, or cells of about one height; by the tiling's own nature when `auto`. */
	rows: z.enum(['auto', 'tiling', 'height']).default('auto'),
	/** Heights that differ by no more than this from a row's lowest one are in the row, mm. */
	tolerance: lengthOr(z.number().min(0, 'must be at least 0').max(1_000_000)).default(500),
	/** Within a row as the tiling has them, along the row, or by the angle about the face's upright middle axis. */
	columns: z.enum(['auto', 'tiling', 'along', 'angle']).default('auto'),
	/** Bearing from which angles are counted, radians clockwise from north (+y). */
	bearing: z.number().min(-10).max(10).default(0),
	/** Angles are counted clockwise seen from above. */
	clockwise: z.boolean().default(true),
	/** Every second row is counted from its other end. */
	backAndForth: z.boolean().default(false)
});
export type CellOrder = z.output<typeof orderSchema>;

/** Tilings whose cells stand in no rows. */
const IRREGULAR: readonly TilingKind[] = ['voronoi', 'icosahedral'];

/** What `auto` stands for on a face. */
export function settleOrder(order: CellOrder, kind: TilingKind, closedAcross: boolean): CellOrder {
	const irregular = IRREGULAR.includes(kind);
	const rows = order.rows !== 'auto' ? order.rows : irregular ? 'height' : 'tiling';
	const columns =
		order.columns !== 'auto' ? order.columns : rows === 'tiling' ? 'tiling' : closedAcross ? 'angle' : 'along';
	return { ...order, rows, columns };
}

/**
 * Counts cells anew where they are not to be counted as the tiling has them: rows and columns from 0, by cell; nothing
 * where the tiling's own stand. The keys of cells stay what they are. O(n log n).
 */
export function orderCells(
	nodes: NodeTable,
	cells: CellTable,
	order: CellOrder,
	fromEnd: NodeTable['fromEnd']
): CellTable['order'] {
	const own = order.rows === 'tiling' && order.columns === 'tiling';
	if (own && !order.backAndForth && !fromEnd.across && !fromEnd.up) return undefined;
	const middles = middlesOf(nodes, cells);
	const row = order.rows === 'height' ? bandsOf(middles.z, order.tolerance) : flipped(cells.row, fromEnd.up);
	const way =
		order.columns === 'angle'
			? anglesOf(middles, order)
			: order.columns === 'along'
				? middles.u
				: Float64Array.from(cells.column);
	const sign = order.columns !== 'angle' && fromEnd.across ? -1 : 1;
	const sorted = Uint32Array.from({ length: cells.count }, (_, c) => c).sort(
		(a, b) => row[a]! - row[b]! || sign * (way[a]! - way[b]!) || a - b
	);
	const column = new Uint32Array(cells.count);
	for (let k = 0; k < sorted.length;) {
		let end = k;
		while (end < sorted.length && row[sorted[end]!] === row[sorted[k]!]) end++;
		const back = order.backAndForth && row[sorted[k]!]! % 2 === 1;
		for (let i = k; i < end; i++) column[sorted[i]!] = back ? end - 1 - i : i - k;
		k = end;
	}
	return { row, column };
}

interface Middles {
	readonly x: Float64Array;
	readonly y: Float64Array;
	readonly z: Float64Array;
	/** Parameter across. */
	readonly u: Float64Array;
}

/** Means of the cells' corners. */
function middlesOf(nodes: NodeTable, { count, cornerStart, corners, places = corners }: CellTable): Middles {
	const tensor = isTensor(nodes);
	const middles = {
		x: new Float64Array(count),
		y: new Float64Array(count),
		z: new Float64Array(count),
		u: new Float64Array(count)
	};
	for (let c = 0; c < count; c++) {
		const [from, to] = [cornerStart[c]!, cornerStart[c + 1]!];
		for (let k = from; k < to; k++) {
			const o = corners[k]! * 3;
			const share = 1 / (to - from);
			middles.x[c]! += nodes.position[o]! * share;
			middles.y[c]! += nodes.position[o + 1]! * share;
			middles.z[c]! += nodes.position[o + 2]! * share;
			middles.u[c]! += nodes.us[tensor ? places[k]! % nodes.columns : places[k]!]! * share;
		}
	}
	return middles;
}

/** Rows of about one height each: a row takes in what is no higher above its lowest cell than the tolerance. */
function bandsOf(heights: Float64Array, tolerance: number): Uint32Array {
	const sorted = Uint32Array.from({ length: heights.length }, (_, c) => c).sort((a, b) => heights[a]! - heights[b]!);
	const row = new Uint32Array(heights.length);
	let band = -1;
	let lowest = -Infinity;
	for (const c of sorted) {
		if (!(heights[c]! - lowest <= tolerance)) [band, lowest] = [band + 1, heights[c]!];
		row[c] = band;
	}
	return row;
}

/**
 * A note where rows by height have taken in cells that clearly stand in several rows: heights in a row that fall apart
 * into groups, each far narrower than the gaps between them. O(n log n).
 */
export function noteMixedRows(nodes: NodeTable, cells: CellTable, { rows, tolerance }: CellOrder): string | undefined {
	if (rows !== 'height') return undefined;
	const heights = middlesOf(nodes, cells).z;
	const row = bandsOf(heights, tolerance);
	const members = new Map<number, number[]>();
	row.forEach((r, c) => {
		const band = members.get(r);
		if (band) band.push(heights[c]!);
		else members.set(r, [heights[c]!]);
	});
	let [most, parts, widest, nearest] = [0, 0, 0, Infinity];
	for (const band of members.values()) {
		const groups = groupsOf(band.sort((a, b) => a - b));
		if (groups.length < 2) continue;
		most = Math.max(most, band.length);
		parts = Math.max(parts, groups.length);
		widest = Math.max(widest, ...groups.map((g) => g.at(-1)! - g[0]!));
		nearest = Math.min(nearest, ...groups.slice(1).map((g, k) => g[0]! - groups[k]![0]!));
	}
	if (parts < 2) return undefined;
	const right = (widest + nearest) / 2;
	return `Rows by height take ${parts} rows into one, ${group(most, 0)} cells in the longest, since they are only ${group(nearest, 0)} mm apart and the tolerance is ${group(tolerance, 0)} mm. Right would be a tolerance of about ${group(right, right < 10 ? 1 : 0)} mm.`;
}

/** Cells that make a row at least, and how narrow it must be beside half of the widest gap: heights in no order fall apart, too. */
const LEAST_ROW = 3;
const NARROW = 0.25;

/** Rising heights parted at gaps that are wider than any group of them; one group where they do not fall apart. */
function groupsOf(heights: readonly number[]): number[][] {
	const gaps = heights.slice(1).map((h, k) => h - heights[k]!);
	const apart = gaps.reduce((most, gap) => Math.max(most, gap), 0) / 2;
	if (!(apart > COINCIDENT_MM)) return [[...heights]];
	const groups: number[][] = [[heights[0]!]];
	gaps.forEach((gap, k) => {
		if (gap > apart) groups.push([]);
		groups.at(-1)!.push(heights[k + 1]!);
	});
	return groups.every((g) => g.length >= LEAST_ROW && g.at(-1)! - g[0]! < apart * NARROW) ? groups : [[...heights]];
}

/** Angles about the upright axis through the middle of all cells, from 0 to less than a whole turn. */
function anglesOf({ x, y }: Middles, { bearing, clockwise }: CellOrder): Float64Array {
	const [mx, my] = [middleOf(x), middleOf(y)];
	const turn = 2 * Math.PI;
	return x.map((px, c) => {
		const way = atan2(px - mx, y[c]! - my) - bearing;
		const angle = clockwise ? way : -way;
		const from0 = angle - Math.floor(angle / turn + SAME_TURN) * turn;
		return Math.max(0, from0);
	});
}

/** Between the least and the greatest. */
function middleOf(values: Float64Array): number {
	let [least, most] = [Infinity, -Infinity];
	for (const v of values) [least, most] = [Math.min(least, v), Math.max(most, v)];
	return (least + most) / 2;
}

function flipped(rows: Uint32Array, flip: boolean): Uint32Array {
	if (!flip) return rows.slice();
	const last = rows.reduce((a, b) => Math.max(a, b), 0);
	return rows.map((r) => last - r);
}

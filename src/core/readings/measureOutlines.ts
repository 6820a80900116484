import { atan2 } from '../elementary/index.ts';
import type { CellOutlines } from '../tiling/cells.ts';
import type { MainCellReading } from './cellReadings.ts';

export type Columns = Readonly<Record<MainCellReading, Float64Array>>;

/** Cells that follow on each other. */
export interface Range {
	readonly from: number;
	/** One behind the last. */
	readonly to: number;
}

// What goes over all cells stands in functions of arrays alone, which engines compile once, whatever tables they are of.

/** Edges, mean plane and extents of cells with any number of corners; `normal` has stride 3. O(corners). */
export function measureOutlines(
	position: Float64Array,
	cells: CellOutlines,
	range: Range,
	columns: Columns,
	normal: Float64Array
): void {
	measureEdges(position, cells, range, columns);
	measureNormals(position, cells, range, columns, normal);
	measureExtents(position, cells, range, columns, normal);
}

function measureEdges(
	position: Float64Array,
	cells: CellOutlines,
	{ from: first, to: last }: Range,
	columns: Columns
): void {
	const { cornerStart, corners } = cells;
	const { perimeter, elevation } = columns;
	const edges = [columns.edge1, columns.edge2, columns.edge3, columns.edge4];
	for (let c = first; c < last; c++) {
		const from = cornerStart[c]!;
		const n = cornerStart[c + 1]! - from;
		let around = 0;
		let lowest = Infinity;
		for (let k = 0; k < n; k++) {
			const a = corners[from + k]! * 3;
			const b = corners[from + (k + 1 < n ? k + 1 : 0)]! * 3;
			const x = position[b]! - position[a]!;
			const y = position[b + 1]! - position[a + 1]!;
			const z = position[b + 2]! - position[a + 2]!;
			const length = Math.sqrt(x * x + y * y + z * z);
			around += length;
			if (k < 4) edges[k]![c] = length;
			if (position[a + 2]! < lowest) lowest = position[a + 2]!;
		}
		for (let k = n; k < 4; k++) edges[k]![c] = NaN;
		perimeter[c] = around;
		elevation[c] = lowest;
	}
}

/**
 * Mean plane by Newell's method (for four corners its normal is the product of the diagonals): normal,
 * area, and the way it faces.
 */
function measureNormals(
	position: Float64Array,
	cells: CellOutlines,
	{ from: first, to: last }: Range,
	columns: Columns,
	normal: Float64Array
): void {
	const { cornerStart, corners } = cells;
	const { area, tilt, bearing } = columns;
	for (let c = first; c < last; c++) {
		const from = cornerStart[c]!;
		const to = cornerStart[c + 1]!;
		const o = corners[from]! * 3;
		const ox = position[o]!;
		const oy = position[o + 1]!;
		const oz = position[o + 2]!;
		let nx = 0;
		let ny = 0;
		let nz = 0;
		const first = corners[from + 1]! * 3;
		let ax = position[first]! - ox;
		let ay = position[first + 1]! - oy;
		let az = position[first + 2]! - oz;
		for (let k = from + 2; k < to; k++) {
			const b = corners[k]! * 3;
			const bx = position[b]! - ox;
			const by = position[b + 1]! - oy;
			const bz = position[b + 2]! - oz;
			nx += ay * bz - az * by;
			ny += az * bx - ax * bz;
			nz += ax * by - ay * bx;
			ax = bx;
			ay = by;
			az = bz;
		}
		const twice = Math.sqrt(nx * nx + ny * ny + nz * nz);
		const scale = twice === 0 ? 0 : 1 / twice;
		nx *= scale;
		ny *= scale;
		nz *= scale;
		area[c] = twice / 2;
		normal[c * 3] = nx;
		normal[c * 3 + 1] = ny;
		normal[c * 3 + 2] = nz;
		tilt[c] = atan2(Math.sqrt(nx * nx + ny * ny), nz);
		const turn = atan2(nx, ny);
		bearing[c] = turn < 0 ? turn + 2 * Math.PI : turn;
	}
}

/**
 * The overall size along and square to the lower edge within the mean plane, and the spread of the
 * corners off that plane (for four corners exactly the distance of the diagonals). All 0 without area.
 */
function measureExtents(
	position: Float64Array,
	cells: CellOutlines,
	{ from: first, to: last }: Range,
	columns: Columns,
	normal: Float64Array
): void {
	const { cornerStart, corners } = cells;
	const { width, height, warp } = columns;
	for (let c = first; c < last; c++) {
		const from = cornerStart[c]!;
		const to = cornerStart[c + 1]!;
		const nx = normal[c * 3]!;
		const ny = normal[c * 3 + 1]!;
		const nz = normal[c * 3 + 2]!;
		const o = corners[from]! * 3;
		const ox = position[o]!;
		const oy = position[o + 1]!;
		const oz = position[o + 2]!;
		// Direction of the lower edge within the mean plane, and the one square to it.
		const e = corners[from + 1]! * 3;
		let xx = position[e]! - ox;
		let xy = position[e + 1]! - oy;
		let xz = position[e + 2]! - oz;
		const off = xx * nx + xy * ny + xz * nz;
		xx -= off * nx;
		xy -= off * ny;
		xz -= off * nz;
		const length = Math.sqrt(xx * xx + xy * xy + xz * xz);
		const scale = length === 0 ? 0 : 1 / length;
		xx *= scale;
		xy *= scale;
		xz *= scale;
		const yx = ny * xz - nz * xy;
		const yy = nz * xx - nx * xz;
		const yz = nx * xy - ny * xx;
		let leastX = 0;
		let mostX = 0;
		let leastY = 0;
		let mostY = 0;
		let leastN = 0;
		let mostN = 0;
		for (let k = from + 1; k < to; k++) {
			const p = corners[k]! * 3;
			const px = position[p]! - ox;
			const py = position[p + 1]! - oy;
			const pz = position[p + 2]! - oz;
			const x = px * xx + py * xy + pz * xz;
			const y = px * yx + py * yy + pz * yz;
			const h = px * nx + py * ny + pz * nz;
			if (x < leastX) leastX = x;
			if (x > mostX) mostX = x;
			if (y < leastY) leastY = y;
			if (y > mostY) mostY = y;
			if (h < leastN) leastN = h;
			if (h > mostN) mostN = h;
		}
		const flat = nx === 0 && ny === 0 && nz === 0;
		width[c] = flat ? 0 : mostX - leastX;
		height[c] = flat ? 0 : mostY - leastY;
		warp[c] = flat ? 0 : mostN - leastN;
	}
}

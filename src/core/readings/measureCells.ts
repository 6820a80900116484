import type { NodeTable } from '../settingout/nodes.ts';
import type { CellTable } from '../tiling/cells.ts';
import { CELL_READINGS, type CellReading } from './cellReadings.ts';

/** All readings of a face's cells, in columns indexed by cell. */
export interface CellReadings {
	readonly columns: Readonly<Record<CellReading, Float64Array>>;
	/** Unit outward normal of each cell's mean plane (Newell's), stride 3; (0, 0, 0) for a cell without area. */
	readonly normal: Float64Array;
}

/** Measures every cell in one pass. O(corners). */
export function measureCells(nodes: Pick<NodeTable, 'position'>, cells: CellTable): CellReadings {
	const { count } = cells;
	const names = Object.keys(CELL_READINGS) as CellReading[];
	const columns = Object.fromEntries(
		names.map((name) => [name, new Float64Array(count)])
	) as Record<CellReading, Float64Array>;
	const normal = new Float64Array(count * 3);
	for (let c = 0; c < count; c++) {
		columns.row[c] = cells.row[c]! + 1;
		columns.column[c] = cells.column[c]! + 1;
	}
	measureEdges(nodes.position, cells, columns);
	measurePlanes(nodes.position, cells, columns, normal);
	measureDirections(normal, columns);
	return { columns, normal };
}

type Columns = Record<CellReading, Float64Array>;

function measureEdges(position: Float64Array, cells: CellTable, columns: Columns): void {
	const { cornerStart, corners } = cells;
	const edges = [columns.edge1, columns.edge2, columns.edge3, columns.edge4];
	for (let c = 0; c < cells.count; c++) {
		const from = cornerStart[c]!;
		const n = cornerStart[c + 1]! - from;
		let perimeter = 0;
		let lowest = Infinity;
		for (let k = 0; k < n; k++) {
			const a = corners[from + k]! * 3;
			const b = corners[from + (k + 1 < n ? k + 1 : 0)]! * 3;
			const x = position[b]! - position[a]!;
			const y = position[b + 1]! - position[a + 1]!;
			const z = position[b + 2]! - position[a + 2]!;
			const length = Math.sqrt(x * x + y * y + z * z);
			perimeter += length;
			if (k < 4) edges[k]![c] = length;
			if (position[a + 2]! < lowest) lowest = position[a + 2]!;
		}
		for (let k = n; k < 4; k++) edges[k]![c] = NaN;
		columns.perimeter[c] = perimeter;
		columns.elevation[c] = lowest;
	}
}

/**
 * Mean plane by Newell's method (for four corners its normal is the product of the diagonals), then
 * area, the spread of the corners off that plane (for four corners exactly the distance of the
 * diagonals) and the overall size along and square to the lower edge.
 */
function measurePlanes(
	position: Float64Array,
	cells: CellTable,
	columns: Columns,
	normal: Float64Array
): void {
	const { cornerStart, corners } = cells;
	for (let c = 0; c < cells.count; c++) {
		const from = cornerStart[c]!;
		const to = cornerStart[c + 1]!;
		const o = corners[from]! * 3;
		const [ox, oy, oz] = [position[o]!, position[o + 1]!, position[o + 2]!];
		let nx = 0;
		let ny = 0;
		let nz = 0;
		for (let k = from + 1; k + 1 < to; k++) {
			const a = corners[k]! * 3;
			const b = corners[k + 1]! * 3;
			const [ax, ay, az] = [position[a]! - ox, position[a + 1]! - oy, position[a + 2]! - oz];
			const [bx, by, bz] = [position[b]! - ox, position[b + 1]! - oy, position[b + 2]! - oz];
			nx += ay * bz - az * by;
			ny += az * bx - ax * bz;
			nz += ax * by - ay * bx;
		}
		const twice = Math.sqrt(nx * nx + ny * ny + nz * nz);
		columns.area[c] = twice / 2;
		if (twice === 0) continue;
		nx /= twice;
		ny /= twice;
		nz /= twice;
		normal[c * 3] = nx;
		normal[c * 3 + 1] = ny;
		normal[c * 3 + 2] = nz;
		// Direction of the lower edge within the mean plane, and the one square to it.
		const e = corners[from + 1]! * 3;
		let [xx, xy, xz] = [position[e]! - ox, position[e + 1]! - oy, position[e + 2]! - oz];
		const off = xx * nx + xy * ny + xz * nz;
		xx -= off * nx;
		xy -= off * ny;
		xz -= off * nz;
		const scale = 1 / Math.sqrt(xx * xx + xy * xy + xz * xz);
		xx *= scale;
		xy *= scale;
		xz *= scale;
		const [yx, yy, yz] = [ny * xz - nz * xy, nz * xx - nx * xz, nx * xy - ny * xx];
		let [leastX, mostX, leastY, mostY, leastN, mostN] = [0, 0, 0, 0, 0, 0];
		for (let k = from + 1; k < to; k++) {
			const p = corners[k]! * 3;
			const [px, py, pz] = [position[p]! - ox, position[p + 1]! - oy, position[p + 2]! - oz];
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
		columns.width[c] = mostX - leastX;
		columns.height[c] = mostY - leastY;
		columns.warp[c] = mostN - leastN;
	}
}

function measureDirections(normal: Float64Array, columns: Columns): void {
	for (let c = 0; c < columns.tilt.length; c++) {
		const x = normal[c * 3]!;
		const y = normal[c * 3 + 1]!;
		const level = Math.sqrt(x * x + y * y);
		columns.tilt[c] = Math.atan2(level, normal[c * 3 + 2]!);
		const bearing = Math.atan2(x, y);
		columns.bearing[c] = bearing < 0 ? bearing + 2 * Math.PI : bearing;
	}
}

import { atan2 } from '../elementary/index.ts';
import type { CellOutlines } from '../tiling/cells.ts';
import type { Columns, Range } from './measureOutlines.ts';

/**
 * What `measureOutlines` has of cells with four corners, which most are, to the last bit: each corner is read once, and
 * all stays in registers. O(cells).
 */
export function measureQuads(
	position: Float64Array,
	{ cornerStart, corners }: CellOutlines,
	{ from, to }: Range,
	columns: Columns,
	normal: Float64Array
): void {
	const { edge1, edge2, edge3, edge4, perimeter, elevation, area, tilt, bearing, width, height, warp } = columns;
	for (let c = from, start = cornerStart[from]!; c < to; c++, start += 4) {
		const i = corners[start]! * 3;
		const j = corners[start + 1]! * 3;
		const k = corners[start + 2]! * 3;
		const l = corners[start + 3]! * 3;
		const ox = position[i]!;
		const oy = position[i + 1]!;
		const oz = position[i + 2]!;
		const px = position[j]!;
		const py = position[j + 1]!;
		const pz = position[j + 2]!;
		const qx = position[k]!;
		const qy = position[k + 1]!;
		const qz = position[k + 2]!;
		const rx = position[l]!;
		const ry = position[l + 1]!;
		const rz = position[l + 2]!;
		let lowest = Infinity;
		if (oz < lowest) lowest = oz;
		if (pz < lowest) lowest = pz;
		if (qz < lowest) lowest = qz;
		if (rz < lowest) lowest = rz;
		elevation[c] = lowest;
		// From the first corner on.
		const ax = px - ox;
		const ay = py - oy;
		const az = pz - oz;
		const bx = qx - ox;
		const by = qy - oy;
		const bz = qz - oz;
		const dx = rx - ox;
		const dy = ry - oy;
		const dz = rz - oz;
		const first = Math.sqrt(ax * ax + ay * ay + az * az);
		const second = distance(qx - px, qy - py, qz - pz);
		const third = distance(rx - qx, ry - qy, rz - qz);
		const fourth = distance(ox - rx, oy - ry, oz - rz);
		edge1[c] = first;
		edge2[c] = second;
		edge3[c] = third;
		edge4[c] = fourth;
		perimeter[c] = first + second + third + fourth;
		// Sums begin at 0, so that none is -0, which would face the other way.
		let nx = 0 + (ay * bz - az * by) + (by * dz - bz * dy);
		let ny = 0 + (az * bx - ax * bz) + (bz * dx - bx * dz);
		let nz = 0 + (ax * by - ay * bx) + (bx * dy - by * dx);
		const twice = Math.sqrt(nx * nx + ny * ny + nz * nz);
		const scale = twice === 0 ? 0 : 1 / twice;
		nx *= scale;
		ny *= scale;
		nz *= scale;
		area[c] = twice / 2;
		const n = c * 3;
		normal[n] = nx;
		normal[n + 1] = ny;
		normal[n + 2] = nz;
		tilt[c] = atan2(Math.sqrt(nx * nx + ny * ny), nz);
		const turn = atan2(nx, ny);
		bearing[c] = turn < 0 ? turn + 2 * Math.PI : turn;
		if (nx === 0 && ny === 0 && nz === 0) {
			width[c] = 0;
			height[c] = 0;
			warp[c] = 0;
			continue;
		}
		// Along the lower edge within the mean plane, and square to it.
		const rise = ax * nx + ay * ny + az * nz;
		let ux = ax - rise * nx;
		let uy = ay - rise * ny;
		let uz = az - rise * nz;
		const length = Math.sqrt(ux * ux + uy * uy + uz * uz);
		const unit = length === 0 ? 0 : 1 / length;
		ux *= unit;
		uy *= unit;
		uz *= unit;
		width[c] = spread(ax * ux + ay * uy + az * uz, bx * ux + by * uy + bz * uz, dx * ux + dy * uy + dz * uz);
		const vx = ny * uz - nz * uy;
		const vy = nz * ux - nx * uz;
		const vz = nx * uy - ny * ux;
		height[c] = spread(ax * vx + ay * vy + az * vz, bx * vx + by * vy + bz * vz, dx * vx + dy * vy + dz * vz);
		warp[c] = spread(rise, bx * nx + by * ny + bz * nz, dx * nx + dy * ny + dz * nz);
	}
}

const distance = (x: number, y: number, z: number) => Math.sqrt(x * x + y * y + z * z);

/** From the least to the greatest of three numbers and 0. */
function spread(a: number, b: number, c: number): number {
	let least = 0;
	let most = 0;
	if (a < least) least = a;
	if (a > most) most = a;
	if (b < least) least = b;
	if (b > most) most = b;
	if (c < least) least = c;
	if (c > most) most = c;
	return most - least;
}

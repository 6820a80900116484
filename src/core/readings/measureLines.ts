import { FRESH_ARRAYS } from '../arrays.ts';
import { asin, atan2 } from '../elementary/index.ts';
import type { NodeTable } from '../settingout/nodes.ts';
import { NO_CELL, type CellTable } from '../tiling/cells.ts';
import { nodesThrough } from '../tiling/edges.ts';
import { TWISTED_ONLY } from '../tolerances.ts';
import { lengthThrough } from './edgeCurves.ts';
import { edgeKinds } from './edgeKinds.ts';
import type { EdgeReading, NodeReading } from './lineReadings.ts';

/** The middles of cells, by cell. */
type Centres = Readonly<Record<'x' | 'y' | 'z', Float64Array>>;
type Columns<N extends EdgeReading> = Readonly<Record<N, Float64Array>>;

/** All readings of edges, by edge; `normal` and centres by cell. O(edges). */
export function measureEdges(
	nodes: NodeTable,
	cells: CellTable,
	normal: Float64Array,
	centres: Centres,
	arrays = FRESH_ARRAYS
): Record<Exclude<EdgeReading, 'onFace' | 'rise'>, Float64Array> {
	const { edgeCount, edgeBends } = cells;
	const { position } = nodes;
	const column = () => arrays.float64(edgeCount);
	const found = {
		length: column(),
		dihedral: column(),
		slope: column(),
		twist: column(),
		startAngle: column(),
		endAngle: column(),
		kind: edgeKinds(nodes, cells, arrays),
		elevation: column()
	};
	measureWays(position, cells, found);
	measureEnds(nodes, cells, found);
	measureDihedrals(cells, normal, centres, found.dihedral);
	if (edgeBends)
		for (let e = 0; e < edgeCount; e++) {
			const through = nodesThrough(edgeBends, e);
			if (through.length === 0) continue;
			found.length[e] = lengthThrough({ nodes, cells }, e)!;
			for (const n of through) found.elevation[e] = Math.min(found.elevation[e]!, position[n * 3 + 2]!);
		}
	return found;
}

/** From node to node: how long, how steep, and how high the lower end is. */
function measureWays(
	position: Float64Array,
	{ edgeCount, edgeNodes }: CellTable,
	{ length, slope, elevation }: Columns<'length' | 'slope' | 'elevation'>
): void {
	for (let e = 0; e < edgeCount; e++) {
		const a = edgeNodes[e * 2]! * 3;
		const b = edgeNodes[e * 2 + 1]! * 3;
		const x = position[b]! - position[a]!;
		const y = position[b + 1]! - position[a + 1]!;
		const z = position[b + 2]! - position[a + 2]!;
		length[e] = Math.sqrt(x * x + y * y + z * z);
		slope[e] = atan2(Math.abs(z), Math.sqrt(x * x + y * y));
		elevation[e] = Math.min(position[a + 2]!, position[b + 2]!);
	}
}

/** Angles between the cells at each edge, seen from outside; NaN at borders. */
function measureDihedrals(
	{ edgeCount, edgeCells }: CellTable,
	normal: Float64Array,
	{ x, y, z }: Centres,
	dihedral: Float64Array
): void {
	for (let e = 0; e < edgeCount; e++) {
		const p = edgeCells[e * 2]!;
		const q = edgeCells[e * 2 + 1]!;
		if (q === NO_CELL) {
			dihedral[e] = NaN;
			continue;
		}
		const px = normal[p * 3]!;
		const py = normal[p * 3 + 1]!;
		const pz = normal[p * 3 + 2]!;
		const qx = normal[q * 3]!;
		const qy = normal[q * 3 + 1]!;
		const qz = normal[q * 3 + 2]!;
		const cx = py * qz - pz * qy;
		const cy = pz * qx - px * qz;
		const cz = px * qy - py * qx;
		const between = atan2(Math.sqrt(cx * cx + cy * cy + cz * cz), px * qx + py * qy + pz * qz);
		// On a valley each cell lies above the other's plane; where they are only twisted against each other, rounding would choose.
		const wx = x[q]! - x[p]!;
		const wy = y[q]! - y[p]!;
		const wz = z[q]! - z[p]!;
		const above = wx * (px - qx) + wy * (py - qy) + wz * (pz - qz);
		const valley = above > TWISTED_ONLY * between * Math.sqrt(wx * wx + wy * wy + wz * wz);
		dihedral[e] = valley ? Math.PI + between : Math.PI - between;
	}
}

/**
 * How edges stand to the normals of their two nodes. Edges run to the right or upwards, as kits see them. NaN where a node
 * has no normal.
 */
function measureEnds(
	{ position: p, normal: n, columns, rows }: NodeTable,
	{ edgeCount, edgeNodes }: CellTable,
	{ twist, startAngle, endAngle }: Columns<'twist' | 'startAngle' | 'endAngle'>
): void {
	const grid = columns * rows;
	for (let e = 0; e < edgeCount; e++) {
		const a = edgeNodes[e * 2]!;
		const b = edgeNodes[e * 2 + 1]!;
		const back = a < grid && b < grid && a > b;
		const s = (back ? b : a) * 3;
		const t = (back ? a : b) * 3;
		const dx = p[t]! - p[s]!;
		const dy = p[t + 1]! - p[s + 1]!;
		const dz = p[t + 2]! - p[s + 2]!;
		const scale = 1 / Math.sqrt(dx * dx + dy * dy + dz * dz);
		const wx = dx * scale;
		const wy = dy * scale;
		const wz = dz * scale;
		const fx = n[s]!;
		const fy = n[s + 1]!;
		const fz = n[s + 2]!;
		const tx = n[t]!;
		const ty = n[t + 1]!;
		const tz = n[t + 2]!;
		if (!(fx * fx + fy * fy + fz * fz > 0 && tx * tx + ty * ty + tz * tz > 0)) {
			startAngle[e] = endAngle[e] = twist[e] = NaN;
			continue;
		}
		const along = wx * fx + wy * fy + wz * fz;
		const onwards = wx * tx + wy * ty + wz * tz;
		startAngle[e] = asin(Math.max(-1, Math.min(1, along)));
		endAngle[e] = asin(Math.max(-1, Math.min(1, -onwards)));
		// Both normals square to the edge, one seen from the other.
		const ux = fx - wx * along;
		const uy = fy - wy * along;
		const uz = fz - wz * along;
		const vx = tx - wx * onwards;
		const vy = ty - wy * onwards;
		const vz = tz - wz * onwards;
		const turned = (uy * vz - uz * vy) * wx + (uz * vx - ux * vz) * wy + (ux * vy - uy * vx) * wz;
		twist[e] = atan2(turned, ux * vx + uy * vy + uz * vz);
	}
}

/** All readings of nodes, by node; NaN for nodes that no cell has. `known` are the angles by entry of `corners`, where they have been measured. O(corners). */
export function measureNodes(
	{ position }: Pick<NodeTable, 'position'>,
	cells: CellTable,
	known?: Float64Array,
	arrays = FRESH_ARRAYS
): Record<NodeReading, Float64Array> {
	const count = position.length / 3;
	const column = () => arrays.float64(count).fill(0);
	const found = { valence: column(), defect: column(), elevation: column(), cells: column() };
	const { cornerStart, corners, edgeCount, edgeNodes, edgeCells, trim } = cells;
	const angles = column();
	const atBorder = new Uint8Array(count);
	for (let c = 0; c < cells.count; c++) {
		const from = cornerStart[c]!;
		const to = cornerStart[c + 1]!;
		for (let k = from; k < to; k++) {
			const node = corners[k]!;
			found.cells[node]!++;
			angles[node]! += known
				? known[k]!
				: angleAt(position, corners[k > from ? k - 1 : to - 1]!, node, corners[k + 1 < to ? k + 1 : from]!);
		}
	}
	trim?.holes.forEach((loops) =>
		loops.forEach((loop) =>
			loop.forEach((node) => {
				found.cells[node]!++;
				angles[node] = NaN;
			})
		)
	);
	for (let e = 0; e < edgeCount; e++) {
		const a = edgeNodes[e * 2]!;
		const b = edgeNodes[e * 2 + 1]!;
		found.valence[a]!++;
		found.valence[b]!++;
		if (edgeCells[e * 2 + 1] === NO_CELL) atBorder[a] = atBorder[b] = 1;
	}
	for (let n = 0; n < count; n++) {
		const used = found.cells[n]! > 0;
		found.elevation[n] = used ? position[n * 3 + 2]! : NaN;
		found.defect[n] = used && !atBorder[n] ? 2 * Math.PI - angles[n]! : NaN;
		if (!used) found.valence[n] = found.cells[n] = NaN;
	}
	arrays.spare(angles);
	return found;
}

/** Angle at `at` between the ways to two other nodes, 0 to 180 degrees in radians. */
function angleAt(position: Float64Array, before: number, at: number, after: number): number {
	const ax = position[before * 3]! - position[at * 3]!;
	const ay = position[before * 3 + 1]! - position[at * 3 + 1]!;
	const az = position[before * 3 + 2]! - position[at * 3 + 2]!;
	const bx = position[after * 3]! - position[at * 3]!;
	const by = position[after * 3 + 1]! - position[at * 3 + 1]!;
	const bz = position[after * 3 + 2]! - position[at * 3 + 2]!;
	const x = ay * bz - az * by;
	const y = az * bx - ax * bz;
	const z = ax * by - ay * bx;
	return atan2(Math.sqrt(x * x + y * y + z * z), ax * bx + ay * by + az * bz);
}

import { FRESH_ARRAYS } from '../arrays.ts';
import { curvaturesAt, type Curvatures } from '../geometry/curvatures.ts';
import type { Surface } from '../geometry/surface.ts';
import type { NodeTable } from '../settingout/nodes.ts';
import { parameterReaders, periodOf } from '../settingout/places.ts';
import { cutCells, NO_CELL, outlinesOf, type CellTable } from '../tiling/cells.ts';
import type { MoreCellReading } from './cellReadings.ts';

type Centres = Record<Extract<MoreCellReading, 'x' | 'y' | 'z' | 'normalX' | 'normalY' | 'normalZ'>, Float64Array>;

/** Mean of the corners, and the parts of the normal (stride 3, by cell). O(corners). */
export function measureCentres(
	position: Float64Array,
	cells: CellTable,
	normal: Float64Array,
	arrays = FRESH_ARRAYS
): Centres {
	const { count } = cells;
	const { cornerStart, corners } = outlinesOf(cells);
	const column = () => arrays.float64(count);
	const centres: Centres = {
		x: column(),
		y: column(),
		z: column(),
		normalX: column(),
		normalY: column(),
		normalZ: column()
	};
	for (let c = 0; c < count; c++) {
		const from = cornerStart[c]!;
		const to = cornerStart[c + 1]!;
		let x = 0;
		let y = 0;
		let z = 0;
		for (let k = from; k < to; k++) {
			const o = corners[k]! * 3;
			x += position[o]!;
			y += position[o + 1]!;
			z += position[o + 2]!;
		}
		const share = 1 / (to - from);
		centres.x[c] = x * share;
		centres.y[c] = y * share;
		centres.z[c] = z * share;
		centres.normalX[c] = normal[c * 3]!;
		centres.normalY[c] = normal[c * 3 + 1]!;
		centres.normalZ[c] = normal[c * 3 + 2]!;
	}
	return centres;
}

type Surroundings = Record<Extract<MoreCellReading, 'neighbours' | 'border' | 'role'>, Float64Array>;

/** Index of each kind of border reading. */
const AT_BORDER = 1;
const IS_CUT = 2;

/** Neighbours across edges, borders, and what kind of cell each is. O(edges). */
export function measureSurroundings(cells: CellTable, arrays = FRESH_ARRAYS): Surroundings {
	const { count, edgeCount, edgeCells, trim, dented, role } = cells;
	const found: Surroundings = {
		neighbours: arrays.float64(count).fill(0),
		border: arrays.float64(count).fill(0),
		role: arrays.float64(count).fill(0)
	};
	if (role) found.role.set(role);
	// Cut and dented cells may share several edges with one neighbour, which counts once.
	const pairs = new Set<number>();
	const several = trim !== undefined || dented !== undefined;
	for (let e = 0; e < edgeCount; e++) {
		const a = edgeCells[e * 2]!;
		const b = edgeCells[e * 2 + 1]!;
		if (b === NO_CELL) {
			found.border[a] = AT_BORDER;
			continue;
		}
		if (several) {
			const pair = Math.min(a, b) * 67_108_864 + Math.max(a, b);
			if (pairs.has(pair)) continue;
			pairs.add(pair);
		}
		found.neighbours[a]!++;
		found.neighbours[b]!++;
	}
	cutCells(cells)?.forEach((cut, c) => {
		if (cut) found.border[c] = IS_CUT;
	});
	return found;
}

/** Curvatures of the face at the mean of the corners' parameters; over a seam each is seen from its own side. O(cells). */
export function measureCurvatures(
	surface: Surface,
	nodes: NodeTable,
	{ count, cornerStart, corners, places = corners }: CellTable,
	arrays = FRESH_ARRAYS
): Curvatures {
	const period = periodOf(surface, nodes.ends);
	const read = parameterReaders(nodes, period);
	const { us, vs } = nodes;
	const middle = { us: arrays.float64(count), vs: arrays.float64(count) };
	for (let c = 0; c < count; c++) {
		const from = cornerStart[c]!;
		const to = cornerStart[c + 1]!;
		let u = 0;
		let v = 0;
		for (let k = from; k < to; k++) {
			u += read.u(places[k]!);
			v += read.v(places[k]!);
		}
		middle.us[c] = within(u / (to - from), us[0]!, period.across);
		middle.vs[c] = within(v / (to - from), vs[0]!, period.up);
	}
	const found = curvaturesAt(surface, middle.us, middle.vs, arrays);
	arrays.spare(middle.us, middle.vs);
	return found;
}

/** A parameter beyond a seam, back on the face. */
function within(t: number, start: number, period: number): number {
	if (period === 0) return t;
	return t < start ? t + period : t > start + period ? t - period : t;
}

import { FRESH_ARRAYS } from '../arrays.ts';
import { atan2 } from '../elementary/index.ts';
import { outlinesOf, type CellTable } from '../tiling/cells.ts';
import type { MoreCellReading } from './cellReadings.ts';

/** Angles within cells at each corner of their outlines, radians, beside the readings of cells. */
type Shapes = { readonly cornerAngles: Float64Array } & Record<
	Extract<
		MoreCellReading,
		| 'corners'
		| 'leastEdge'
		| 'greatestEdge'
		| 'diagonal1'
		| 'diagonal2'
		| 'warpShare'
		| 'leastAngle'
		| 'greatestAngle'
		| 'angle1'
		| 'angle2'
		| 'angle3'
		| 'angle4'
	>,
	Float64Array
>;

/** Edges, diagonals and corner angles of every cell, by its outline; `warp` (mm) and `normal` (stride 3) by cell. O(corners). */
export function measureShapes(
	position: Float64Array,
	cells: CellTable,
	warp: Float64Array,
	normal: Float64Array,
	arrays = FRESH_ARRAYS
): Shapes {
	const { count } = cells;
	const { cornerStart, corners, round } = outlinesOf(cells);
	const column = () => arrays.float64(count);
	const cornerAngles = arrays.float64(corners.length);
	const shapes: Shapes = {
		cornerAngles,
		corners: column(),
		leastEdge: column(),
		greatestEdge: column(),
		diagonal1: column(),
		diagonal2: column(),
		warpShare: column(),
		leastAngle: column(),
		greatestAngle: column(),
		angle1: column(),
		angle2: column(),
		angle3: column(),
		angle4: column()
	};
	const angles = [shapes.angle1, shapes.angle2, shapes.angle3, shapes.angle4];
	for (let c = 0; c < count; c++) {
		const from = cornerStart[c]!;
		const n = cornerStart[c + 1]! - from;
		const nx = normal[c * 3]!;
		const ny = normal[c * 3 + 1]!;
		const nz = normal[c * 3 + 2]!;
		let least = Infinity;
		let greatest = 0;
		let leastAngle = Infinity;
		let greatestAngle = 0;
		// Along a curve a side goes on, and there is no corner; what lies before the first corner belongs to the last side.
		let turns = 0;
		let side = 0;
		let head = 0;
		const last = corners[from + n - 1]! * 3;
		let o = corners[from]! * 3;
		// Along the edge before the corner, then along the one after it.
		let ax = position[o]! - position[last]!;
		let ay = position[o + 1]! - position[last + 1]!;
		let az = position[o + 2]! - position[last + 2]!;
		for (let k = 0; k < n; k++) {
			const next = corners[from + (k + 1 < n ? k + 1 : 0)]! * 3;
			const bx = position[next]! - position[o]!;
			const by = position[next + 1]! - position[o + 1]!;
			const bz = position[next + 2]! - position[o + 2]!;
			const length = Math.sqrt(bx * bx + by * by + bz * bz);
			const x = ay * bz - az * by;
			const y = az * bx - ax * bz;
			const z = ax * by - ay * bx;
			const turn = atan2(Math.sqrt(x * x + y * y + z * z), ax * bx + ay * by + az * bz);
			// A corner that turns the other way is a dent.
			const angle = x * nx + y * ny + z * nz < 0 ? Math.PI + turn : Math.PI - turn;
			cornerAngles[from + k] = angle;
			if (round === undefined || round[from + k] === 0) {
				if (turns === 0) head = side;
				else {
					if (side < least) least = side;
					if (side > greatest) greatest = side;
				}
				if (angle < leastAngle) leastAngle = angle;
				if (angle > greatestAngle) greatestAngle = angle;
				if (turns < 4) angles[turns]![c] = angle;
				turns++;
				side = length;
			} else side += length;
			ax = bx;
			ay = by;
			az = bz;
			o = next;
		}
		side += head;
		if (side < least) least = side;
		if (side > greatest) greatest = side;
		for (let k = turns; k < 4; k++) angles[k]![c] = NaN;
		shapes.corners[c] = turns;
		shapes.leastEdge[c] = least;
		shapes.greatestEdge[c] = greatest;
		shapes.leastAngle[c] = leastAngle;
		shapes.greatestAngle[c] = greatestAngle;
		const four = n === 4;
		const first = four ? distance(position, corners[from]!, corners[from + 2]!) : NaN;
		const second = four ? distance(position, corners[from + 1]!, corners[from + 3]!) : NaN;
		shapes.diagonal1[c] = first;
		shapes.diagonal2[c] = second;
		shapes.warpShare[c] =
			n === 3 ? 0 : warp[c]! / (four ? (first + second) / 2 : longestDiagonal(position, corners, from, n));
	}
	return shapes;
}

function distance(position: Float64Array, a: number, b: number): number {
	const x = position[b * 3]! - position[a * 3]!;
	const y = position[b * 3 + 1]! - position[a * 3 + 1]!;
	const z = position[b * 3 + 2]! - position[a * 3 + 2]!;
	return Math.sqrt(x * x + y * y + z * z);
}

function longestDiagonal(position: Float64Array, corners: Uint32Array, from: number, n: number): number {
	let longest = 0;
	for (let a = from; a < from + n; a++)
		for (let b = a + 2; b < from + n; b++) longest = Math.max(longest, distance(position, corners[a]!, corners[b]!));
	return longest;
}

import { square } from '../elementary/index.ts';
import { locate, PatchCursor } from '../geometry/patches.ts';
import { surfacePatches } from '../geometry/surfacePatches.ts';
import type { Surface } from '../geometry/surface.ts';
import { AT_DOMAIN_END } from '../tolerances.ts';

/** Share of the way to the middle of its neighbours that a node moves in a round. */
const STEP = 0.5;

/**
 * Evens out a grid: each node moves within the face towards the middle of its four neighbours, those on a
 * border along it, corners not at all. `us` and `vs` hold `columns * rows` parameters. O(nodes * rounds).
 */
export function relaxInPlace(
	surface: Surface,
	us: Float64Array,
	vs: Float64Array,
	columns: number,
	rows: number,
	rounds: number
): void {
	const patches = surfacePatches(surface);
	const cursor = new PatchCursor(patches);
	const beside = [besideBorders(patches.us), besideBorders(patches.vs)] as const;
	const count = columns * rows;
	const position = new Float64Array(count * 3);
	const byU = new Float64Array(count * 3);
	const byV = new Float64Array(count * 3);
	for (let round = 0; round < rounds; round++) {
		for (let k = 0; k < count; k++)
			evaluateInto(cursor, beside[0](us[k]!), beside[1](vs[k]!), k * 3, position, byU, byV);
		// Rows and columns of parameters must stay in order: no node goes past the middle to its neighbour.
		const [oldU, oldV] = [us.slice(), vs.slice()];
		for (let j = 0, k = 0; j < rows; j++)
			for (let i = 0; i < columns; i++, k++) {
				const freeU = i > 0 && i < columns - 1;
				const freeV = j > 0 && j < rows - 1;
				if (!freeU && !freeV) continue;
				const neighbours = [...(freeU ? [k - 1, k + 1] : []), ...(freeV ? [k - columns, k + columns] : [])];
				const o = k * 3;
				let [a, b, c, r, q] = [0, 0, 0, 0, 0];
				for (let x = 0; x < 3; x++) {
					let middle = 0;
					for (const n of neighbours) middle += position[n * 3 + x]!;
					const way = (middle / neighbours.length - position[o + x]!) * STEP;
					a += square(byU[o + x]!);
					b += byU[o + x]! * byV[o + x]!;
					c += square(byV[o + x]!);
					r += byU[o + x]! * way;
					q += byV[o + x]! * way;
				}
				const scale = freeU && freeV ? 1 / (a * c - b * b) : 0;
				const goU = !freeU ? 0 : !freeV ? r / a : (r * c - q * b) * scale;
				const goV = !freeV ? 0 : !freeU ? q / c : (q * a - r * b) * scale;
				if (freeU && Number.isFinite(goU))
					us[k] = between(oldU[k]! + goU, (oldU[k - 1]! + oldU[k]!) / 2, (oldU[k]! + oldU[k + 1]!) / 2);
				if (freeV && Number.isFinite(goV))
					vs[k] = between(oldV[k]! + goV, (oldV[k - columns]! + oldV[k]!) / 2, (oldV[k]! + oldV[k + columns]!) / 2);
			}
	}
}

const between = (x: number, least: number, most: number) => Math.max(least, Math.min(most, x));

/** Puts a point and its slopes, which are the means of those at so many parameters, into arrays from `o` on. */
function evaluateInto(
	cursor: PatchCursor,
	ofU: readonly number[],
	ofV: readonly number[],
	o: number,
	position: Float64Array,
	byU: Float64Array,
	byV: Float64Array
): void {
	for (const column of [position, byU, byV]) column.fill(0, o, o + 3);
	const share = 1 / (ofU.length * ofV.length);
	for (const a of ofU)
		for (const b of ofV) {
			cursor.evaluate(a, b);
			const h = cursor.out;
			const w = 1 / h[3]!;
			for (let c = 0; c < 3; c++) {
				const p = h[c]! * w;
				position[o + c]! += p * share;
				byU[o + c]! += (h[4 + c]! - h[7]! * p) * w * share;
				byV[o + c]! += (h[8 + c]! - h[11]! * p) * w * share;
			}
		}
}

/**
 * Gives a parameter back; one on a border between two panels, where a face may have a slope on either side, as one on
 * each, or rounding would choose. Quickest where each is near the one before.
 */
function besideBorders(borders: Float64Array): (x: number) => readonly number[] {
	const last = borders.length - 1;
	const near = (borders[last]! - borders[0]!) * AT_DOMAIN_END;
	let k = 0;
	return (x) => {
		k = locate(borders, x, k);
		const border = x - borders[k]! <= near ? k : borders[k + 1]! - x <= near ? k + 1 : 0;
		return border > 0 && border < last ? [borders[border]! - near, borders[border]! + near] : [x];
	};
}

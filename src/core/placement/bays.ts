import { norm } from '../elementary/index.ts';
import { newell } from '../geometry/newell.ts';
import { BAY_READINGS, readBay } from '../kit/bayReadings.ts';
import { bayBorder, type BaySize } from '../kit/baySize.ts';
import type { MeasuredFace } from '../readings/faceReadings.ts';
import { isSpecial } from '../tiling/cells.ts';

/** Fields of the grid taken together, each known by its first cell, at the lower left. */
export interface Bays {
	readonly size: BaySize;
	/** By cell: where its points start in `corners`; one more entry than cells, and none for cells that no bay begins at. */
	readonly cornerStart: Uint32Array;
	/** Nodes of each bay row by row, from the lower left. */
	readonly corners: Uint32Array;
	/** 1 for cells that a bay begins at. */
	readonly begins: Uint8Array;
	/** By cell: unit outward normal of its bay's border, stride 3. */
	readonly normal: Float64Array;
	/** Cells that no bay has. */
	readonly left: Uint32Array;
	/** The cells of a bay row by row, by its first one. */
	cellsOf(first: number): number[];
	/** A reading by first cell; nothing where bays have no such reading. */
	reading(name: string): Float64Array | undefined;
}

type BayFace = Pick<MeasuredFace, 'nodes' | 'cells' | 'readings'>;
const known = new WeakMap<BayFace['cells'], Map<string, Bays>>();

/**
 * Bays of so many fields side by side and one over the other, stepping over a face from its first row and column.
 * A bay is there where all of its cells are whole, have four corners and share them; the others are left. O(cells).
 */
export function baysOf(face: BayFace, size: BaySize): Bays {
	const sizes = known.get(face.cells) ?? new Map<string, Bays>();
	known.set(face.cells, sizes);
	const key = `${size.across} ${size.up}`;
	const bays = sizes.get(key) ?? makeBays(face, size);
	sizes.set(key, bays);
	return bays;
}

function makeBays({ nodes, cells, readings }: BayFace, size: BaySize): Bays {
	const { across, up } = size;
	const { count, row, column, cornerStart: from } = cells;
	const firsts = cells.corners;
	/** By row and column: the only cell there, if it is a whole field. */
	const fields = new Map<number, number>();
	const columns = column.subarray(0, count).reduce((n, c) => Math.max(n, c + 1), 0);
	const twice = new Set<number>();
	for (let c = 0; c < count; c++) {
		const place = row[c]! * columns + column[c]!;
		if (fields.has(place)) twice.add(place);
		fields.set(place, c);
	}
	const fieldAt = (r: number, c: number) => {
		const place = r * columns + c;
		const cell = c < columns && !twice.has(place) ? fields.get(place) : undefined;
		return cell !== undefined && from[cell + 1]! - from[cell]! === 4 && !isSpecial(cells, cell) ? cell : undefined;
	};
	const corner = (cell: number, k: number) => firsts[from[cell]! + k]!;
	const cellsFrom = (first: number): number[] | undefined => {
		const found: number[] = [];
		for (let j = 0; j < up; j++)
			for (let i = 0; i < across; i++) {
				const cell = fieldAt(row[first]! + j, column[first]! + i);
				if (cell === undefined) return undefined;
				const [before, below] = [i > 0 ? found.at(-1)! : undefined, j > 0 ? found[found.length - across]! : undefined];
				const meets =
					(before === undefined || (corner(before, 1) === corner(cell, 0) && corner(before, 2) === corner(cell, 3))) &&
					(below === undefined || (corner(below, 3) === corner(cell, 0) && corner(below, 2) === corner(cell, 1)));
				if (!meets) return undefined;
				found.push(cell);
			}
		return found;
	};
	const cornerStart = new Uint32Array(count + 1);
	const corners: number[] = [];
	const begins = new Uint8Array(count);
	const normal = new Float64Array(count * 3);
	const taken = new Uint8Array(count);
	const border = bayBorder(size);
	for (let c = 0; c < count; c++) {
		cornerStart[c] = corners.length;
		if (row[c]! % up !== 0 || column[c]! % across !== 0) continue;
		const own = cellsFrom(c);
		if (!own) continue;
		begins[c] = 1;
		for (const cell of own) taken[cell] = 1;
		for (let j = 0; j <= up; j++)
			for (let i = 0; i <= across; i++) {
				const cell = own[Math.min(j, up - 1) * across + Math.min(i, across - 1)]!;
				corners.push(corner(cell, j < up ? (i < across ? 0 : 1) : i < across ? 3 : 2));
			}
		const sum = newell(nodes.position, border.length, (k) => corners[cornerStart[c]! + border[k]!]! * 3);
		const length = norm(sum);
		for (let x = 0; x < 3; x++) normal[c * 3 + x] = length > 0 ? sum[x]! / length : 0;
	}
	cornerStart[count] = corners.length;
	const all = Uint32Array.from(corners);
	const measured = new Map<string, Float64Array>();
	return {
		size,
		cornerStart,
		corners: all,
		begins,
		normal,
		left: Uint32Array.from([...taken.keys()].filter((c) => taken[c] === 0)),
		cellsOf: (first) => cellsFrom(first) ?? [],
		reading(name) {
			if (name === 'row' || name === 'column') return readings.columns[name];
			if (!Object.hasOwn(BAY_READINGS, name)) return undefined;
			if (!measured.size) {
				for (const reading of Object.keys(BAY_READINGS)) measured.set(reading, new Float64Array(count));
				const points = new Float64Array((across + 1) * (up + 1) * 3);
				for (let c = 0; c < count; c++) {
					if (begins[c] === 0) continue;
					for (let k = 0; k * 3 < points.length; k++) {
						const n = all[cornerStart[c]! + k]! * 3;
						points.set(nodes.position.subarray(n, n + 3), k * 3);
					}
					for (const [reading, value] of Object.entries(readBay(points, size))) measured.get(reading)![c] = value;
				}
			}
			return measured.get(name);
		}
	};
}

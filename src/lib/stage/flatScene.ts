import Flatbush from 'flatbush';
import { withinRing } from '../../core/settingout/flatBorder.ts';
import { edgeSegments } from '../../core/tiling/edges.ts';
import type { FaceView } from '../../core/view/faceView.ts';
import type { FlatView } from '../../core/view/flatView.ts';

export type FlatPoint = readonly [number, number];
/** Row or column and the cell that bears its number. */
interface Numbered {
	readonly rows: readonly [number, number][];
	readonly columns: readonly [number, number][];
}

export type FlatBox = readonly [number, number, number, number];

/** The cells of a face laid flat, with an index of their boxes. Lengths in mm, y up. */
export class FlatScene {
	readonly face: FaceView;
	readonly flat: FlatView;
	/** Mean width and height of a cell. */
	readonly mean: number;
	private readonly index: Flatbush | undefined;
	private numbers: Numbered | undefined;
	private sides: Uint32Array | undefined;

	constructor(face: FaceView, flat: FlatView) {
		this.face = face;
		this.flat = flat;
		const { cellCount } = face;
		const [x0, y0, x1, y1] = flat.bounds;
		this.mean = Math.sqrt(((x1 - x0) * (y1 - y0)) / Math.max(1, cellCount));
		if (cellCount === 0) return;
		this.index = new Flatbush(cellCount);
		for (let c = 0; c < cellCount; c++) this.index.add(...this.boxOf(c));
		this.index.finish();
	}

	/** The edge that each side of a cell lies on, by the entry of its first corner. O(corners), once. */
	get edgeOfSide(): Uint32Array {
		return (this.sides ??= sidesOf(this.face));
	}

	/** The cells that bear the row and column numbers: those nearest to the left and to the bottom. */
	get numbered(): Numbered {
		return (this.numbers ??= { rows: this.nearest(this.face.row, 0), columns: this.nearest(this.face.column, 1) });
	}

	/** For each number the cell whose first corner is the least along an axis, in order. */
	private nearest(numbers: Uint32Array, axis: 0 | 1): [number, number][] {
		const found = new Map<number, number>();
		const at = (c: number) => this.flat.corners[this.face.cornerStart[c]! * 2 + axis]!;
		for (let c = 0; c < this.face.cellCount; c++) {
			const before = found.get(numbers[c]!);
			if (before === undefined || at(c) < at(before)) found.set(numbers[c]!, c);
		}
		return [...found].sort((a, b) => a[0] - b[0]);
	}

	/** Least x and y, greatest x and y of everything there is to see. */
	get bounds(): FlatBox {
		const { corners, bounds } = this.flat;
		let [x0, y0, x1, y1] = bounds;
		for (let k = 0; k < corners.length; k += 2) {
			x0 = Math.min(x0, corners[k]!);
			x1 = Math.max(x1, corners[k]!);
			y0 = Math.min(y0, corners[k + 1]!);
			y1 = Math.max(y1, corners[k + 1]!);
		}
		return [x0, y0, x1, y1];
	}

	boxOf(cell: number): [number, number, number, number] {
		const { corners } = this.flat;
		const { cornerStart } = this.face;
		let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
		for (let k = cornerStart[cell]!; k < cornerStart[cell + 1]!; k++) {
			const x = corners[k * 2]!;
			const y = corners[k * 2 + 1]!;
			if (x < x0) x0 = x;
			if (x > x1) x1 = x;
			if (y < y0) y0 = y;
			if (y > y1) y1 = y;
		}
		return [x0, y0, x1, y1];
	}

	/** Cells whose boxes meet a box. */
	cellsIn([x0, y0, x1, y1]: FlatBox): number[] {
		return this.index?.search(Math.min(x0, x1), Math.min(y0, y1), Math.max(x0, x1), Math.max(y0, y1)) ?? [];
	}

	/** The cell at a point. */
	cellAt([x, y]: FlatPoint): number | undefined {
		return this.cellsIn([x, y, x, y]).find((c) => within(this.ringOf(c), [x, y]));
	}

	ringOf(cell: number): FlatPoint[] {
		const { corners } = this.flat;
		const ring: FlatPoint[] = [];
		for (let k = this.face.cornerStart[cell]!; k < this.face.cornerStart[cell + 1]!; k++)
			ring.push([corners[k * 2]!, corners[k * 2 + 1]!]);
		return ring;
	}

	middleOf(cell: number): FlatPoint {
		const ring = this.ringOf(cell);
		return [ring.reduce((s, p) => s + p[0], 0) / ring.length, ring.reduce((s, p) => s + p[1], 0) / ring.length];
	}

	/** The nearest corner of a cell within a distance, for drawing on the grid. */
	cornerNear([x, y]: FlatPoint, within: number): FlatPoint | undefined {
		let best: FlatPoint | undefined;
		let least = within;
		for (const c of this.cellsIn([x - within, y - within, x + within, y + within]))
			for (const p of this.ringOf(c)) {
				const far = Math.hypot(p[0] - x, p[1] - y);
				if (far < least) [least, best] = [far, p];
			}
		return best;
	}
}

function sidesOf(face: FaceView): Uint32Array {
	const { cellCount, cornerStart, corners } = face;
	// Two nodes as one number; numbers of nodes are well below 2^26.
	const pair = (a: number, b: number) => Math.min(a, b) * 2 ** 26 + Math.max(a, b);
	const edges = new Map<number, number>();
	const { nodes, edge } = edgeSegments(face);
	edge.forEach((e, s) => edges.set(pair(nodes[s * 2]!, nodes[s * 2 + 1]!), e));
	const sides = new Uint32Array(corners.length);
	for (let c = 0; c < cellCount; c++)
		for (let k = cornerStart[c]!; k < cornerStart[c + 1]!; k++)
			sides[k] = edges.get(pair(corners[k]!, corners[k + 1 < cornerStart[c + 1]! ? k + 1 : cornerStart[c]!]!)) ?? 0;
	return sides;
}

/** Whether a point lies within a closed line. */
export const within = (ring: readonly FlatPoint[], [x, y]: FlatPoint) => withinRing(ring, x, y);

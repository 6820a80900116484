import { FRESH_ARRAYS, type ArraySource } from '../../arrays.ts';
import { SAME_FIELD } from '../../tolerances.ts';
import type { PreparedCell, PreparedUnit } from '../units/prepareUnit.ts';
import { ringArea } from '../openings/rings.ts';
import { tidy } from '../units/unit.ts';
import { clipRing, openBorders, splitRing, type HalfPlane } from './clip.ts';
import { PlaneBuilder, type PlaneCells, type PlaneCorner, type PlaneExtent } from './planeCells.ts';

/** What becomes of a unit's cells that a border of the face cuts: their part on the face, two halves of it, or nothing. */
export type CutRule = 'cut' | 'halves' | 'whole';

/**
 * Repeats a unit over the plane of a face, row by row from the start edge. Over a seam it goes on, so that the count
 * must be a multiple of the unit's. O(cells).
 */
export function repeatUnit(unit: PreparedUnit, extent: PlaneExtent, rule: CutRule, arrays = FRESH_ARRAYS): PlaneCells {
	const repeat = new Repeat(unit, extent, rule, arrays);
	const { width, height } = unit;
	const reach = (least: number, most: number, size: number, of: number, closed: boolean): [number, number] =>
		closed ? [0, of / size - 1] : [Math.floor(-most / size), Math.ceil((of - least) / size)];
	const [x0, x1] = reach(
		Math.min(...unit.cells.map((c) => c.box[0])),
		Math.max(...unit.cells.map((c) => c.box[2])),
		width,
		extent.across,
		extent.closedAcross
	);
	const [y0, y1] = reach(
		Math.min(...unit.cells.map((c) => c.box[1])),
		Math.max(...unit.cells.map((c) => c.box[3])),
		height,
		extent.up,
		extent.closedUp
	);
	const bands = Array.from({ length: unit.bands }, (_, b) =>
		unit.cells.filter((c) => c.band === b).sort((p, q) => p.rank - q.rank)
	);
	// Rows are counted by units that their cells' middles are in, which may be some more than the face has.
	const more = (least: number, most: number, closed: boolean): [number, number] =>
		closed ? [least, most] : [least - 2, most + 2];
	const [p0, p1] = more(x0, x1, extent.closedAcross);
	const [q0, q1] = more(y0, y1, extent.closedUp);
	let row = 0;
	for (let q = q0; q <= q1; q++)
		for (const band of bands) {
			let column = 0;
			for (let p = p0; p <= p1; p++)
				for (const cell of band) column += repeat.add(cell, p - cell.rankUnit, q - cell.bandUnit, row, column);
			if (column > 0) row++;
		}
	return repeat.finish();
}

/** One repeating: where the vertices are that have been used already. */
class Repeat {
	private readonly builder: PlaneBuilder;
	private readonly borders: readonly HalfPlane[];
	/** Vertex of the plane for each of the unit's, by the unit it is in; -1 where it has not been used. */
	private readonly made: Int32Array;
	/** Units that the table has before 0, and in a row. */
	private readonly margin: number;
	private readonly rowUnits: number;
	private readonly unit: PreparedUnit;
	private readonly extent: PlaneExtent;
	private readonly rule: CutRule;
	private readonly arrays: ArraySource;

	constructor(unit: PreparedUnit, extent: PlaneExtent, rule: CutRule, arrays: ArraySource) {
		this.unit = unit;
		this.extent = extent;
		this.rule = rule;
		this.builder = new PlaneBuilder(extent, arrays);
		this.borders = openBorders(extent);
		// Cells reach so many units beyond their own, and come from as many beyond the face.
		const reach = Math.max(
			...unit.cells.flatMap((c) => c.corners.flatMap(({ across, up }) => [Math.abs(across), Math.abs(up)]))
		);
		this.margin = 2 * reach + 4;
		this.rowUnits = Math.ceil(extent.across / unit.width) + 2 * this.margin;
		const units = this.rowUnits * (Math.ceil(extent.up / unit.height) + 2 * this.margin);
		this.arrays = arrays;
		this.made = arrays.int32(units * unit.vertices.length).fill(-1);
	}

	finish(): PlaneCells {
		this.arrays.spare(this.made);
		return this.builder.finish(this.unit.roles);
	}

	/** Adds a cell so many units across and up; answers how many cells came of it. */
	add(cell: PreparedCell, p: number, q: number, row: number, column: number): number {
		const { width, height } = this.unit;
		const { across, up, closedAcross, closedUp } = this.extent;
		const x0 = cell.box[0] + p * width;
		const x1 = cell.box[2] + p * width;
		const y0 = cell.box[1] + q * height;
		const y1 = cell.box[3] + q * height;
		if (
			(!closedAcross && (x1 < SAME_FIELD || x0 > across - SAME_FIELD)) ||
			(!closedUp && (y1 < SAME_FIELD || y0 > up - SAME_FIELD))
		)
			return 0;
		const free =
			(closedAcross || (x0 > SAME_FIELD && x1 < across - SAME_FIELD)) &&
			(closedUp || (y0 > SAME_FIELD && y1 < up - SAME_FIELD));
		return free ? this.addFree(cell, p, q, row, column) : this.addAtBorder(cell, p, q, row, column);
	}

	/** A cell that no border comes near. */
	private addFree({ corners, role }: PreparedCell, p: number, q: number, row: number, column: number): number {
		for (let k = 0; k < corners.length; k++) {
			const c = corners[k]!;
			this.builder.addCorner(this.vertexOf(c.vertex, p + c.across, q + c.up), c.straight);
		}
		this.builder.endCell(role, row, column);
		return 1;
	}

	private addAtBorder(cell: PreparedCell, p: number, q: number, row: number, column: number): number {
		const ring = cell.corners.map(({ vertex, across, up, straight }): PlaneCorner => {
			const [x, y] = this.placeOf(vertex, p + across, q + up);
			return { x, y, straight };
		});
		const beyond = ring.some((c) =>
			this.borders.some(({ axis, at, below }) => ((axis === 0 ? c.x : c.y) - at) * (below ? 1 : -1) > SAME_FIELD)
		);
		if (beyond && this.rule === 'whole') return 0;
		let pieces = beyond ? clipRing(ring, this.borders) : [ring];
		if (beyond && this.rule === 'halves') {
			const middle = [
				(cell.box[0] + cell.box[2]) / 2 + p * this.unit.width,
				(cell.box[1] + cell.box[3]) / 2 + q * this.unit.height
			] as const;
			pieces = pieces.flatMap((piece) => this.halve(piece, middle));
		}
		const areaOf = (points: readonly PlaneCorner[]) =>
			Math.abs(ringArea(points.map(({ x, y }): [number, number] => [x, y])));
		const whole = beyond ? areaOf(ring) : 1;
		let added = 0;
		for (const piece of pieces) {
			const known = piece.map((c) => ({ ...c, vertex: this.vertexNear(c.x, c.y) }));
			added += Number(
				this.builder.addCell(
					startLow(this.withoutBorderPoints(known)),
					cell.role,
					row,
					column + added,
					beyond ? areaOf(piece) / whole : 1
				)
			);
		}
		return added;
	}

	/** A cut piece in two, through the middle of the cell and square to the border that cut it. */
	private halve(piece: readonly PlaneCorner[], middle: readonly [number, number]): readonly (readonly PlaneCorner[])[] {
		const cutBy = this.borders.filter(({ axis, at }) =>
			piece.some((c) => Math.abs((axis === 0 ? c.x : c.y) - at) < SAME_FIELD)
		);
		if (cutBy.length !== 1) return [piece];
		const axis = cutBy[0]!.axis === 0 ? 1 : 0;
		return splitRing(piece, axis, middle[axis]);
	}

	/** A neighbour's corner on a side along a border has no neighbour there. */
	private withoutBorderPoints(ring: readonly PlaneCorner[]): readonly PlaneCorner[] {
		if (!ring.some((c) => c.straight)) return ring;
		return ring.filter(
			(c) => !c.straight || !this.borders.some(({ axis, at }) => Math.abs((axis === 0 ? c.x : c.y) - at) < SAME_FIELD)
		);
	}

	private placeOf(vertex: number, p: number, q: number): [number, number] {
		const [x, y] = this.unit.vertices[vertex]!;
		return [tidy(x + p * this.unit.width), tidy(y + q * this.unit.height)];
	}

	/** The vertex of a unit, so many units across and up; made when it is used for the first time. */
	private vertexOf(vertex: number, p: number, q: number): number {
		const slot = ((q + this.margin) * this.rowUnits + p + this.margin) * this.unit.vertices.length + vertex;
		const there = this.made[slot]!;
		if (there >= 0) return there;
		const { width, height, vertices } = this.unit;
		const { across, up, closedAcross, closedUp } = this.extent;
		const wp = closedAcross ? modulo(p, across / width) : p;
		const wq = closedUp ? modulo(q, up / height) : q;
		const [x, y] = vertices[vertex]!;
		const same = wp === p && wq === q ? undefined : this.vertexOf(vertex, wp, wq);
		return (this.made[slot] = this.builder.addVertex(tidy(x + p * width), tidy(y + q * height), same));
	}

	/** The unit's vertex at a place of a cut piece, or another one found by its coordinates. */
	private vertexNear(x: number, y: number): number {
		const { width, height, vertices } = this.unit;
		const [p, q] = [Math.floor(x / width + SAME_FIELD), Math.floor(y / height + SAME_FIELD)];
		for (let k = 0; k < vertices.length; k++) {
			const at = vertices[k]!;
			if (Math.abs(at[0] + p * width - x) < SAME_FIELD && Math.abs(at[1] + q * height - y) < SAME_FIELD)
				return this.vertexOf(k, p, q);
		}
		return this.builder.vertexAt(x, y);
	}
}

const modulo = (a: number, n: number) => ((a % n) + n) % n;

/** Begun at the lowest corner, leftmost among those. */
function startLow(ring: readonly PlaneCorner[]): readonly PlaneCorner[] {
	let first = 0;
	ring.forEach(({ x, y }, k) => {
		const best = ring[first]!;
		if (y < best.y - SAME_FIELD || (Math.abs(y - best.y) < SAME_FIELD && x < best.x)) first = k;
	});
	return [...ring.slice(first), ...ring.slice(0, first)];
}

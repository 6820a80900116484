import { SAME_FIELD } from '../../tolerances.ts';
import { FRESH_ARRAYS } from '../../arrays.ts';
import { Float64List, Uint32List, Uint8List } from '../../lists.ts';
import { PairTable } from '../../pairTable.ts';

/**
 * Cells in the plane of a face's grid: x counts fields across from the start border, y fields up. Everything that
 * tiles a face makes these; `layCells` puts them on the face.
 */
export interface PlaneCells {
	/** By vertex, stride 2. */
	readonly xy: Float64Array;
	/** By vertex: the one that it falls together with over a seam, itself where there is none. */
	readonly same: Uint32Array;
	/** First entry of each cell in `corners`; one more entry than cells. */
	readonly cornerStart: Uint32Array;
	/** Vertices, anticlockwise, from the lowest one, leftmost among those. */
	readonly corners: Uint32Array;
	/** By entry of `corners`: 1 where a side runs straight on. */
	readonly straight: Uint8Array;
	/** Index into `roles`. */
	readonly role: Uint8Array;
	readonly roles: readonly string[];
	readonly row: Uint32Array;
	readonly column: Uint32Array;
	/** Share of each cell that borders have left; all are whole when left out. */
	readonly part?: Float64Array;
}

/** The part of the plane that a face has; where it closes, x (or y) goes on over the seam. */
export interface PlaneExtent {
	readonly across: number;
	readonly up: number;
	readonly closedAcross: boolean;
	readonly closedUp: boolean;
}

/** A corner of a polygon of the plane. */
export interface PlaneCorner {
	readonly x: number;
	readonly y: number;
	readonly straight: boolean;
	/** Vertex of the plane, where it is known already. */
	readonly vertex?: number;
}

/** Collects cells of the plane, each vertex once. */
export class PlaneBuilder {
	private readonly xy: Float64List;
	private readonly same: Uint32List;
	private readonly cornerStart: Uint32List;
	private readonly corners: Uint32List;
	private readonly straight: Uint8List;
	private readonly role: Uint8List;
	private readonly row: Uint32List;
	private readonly column: Uint32List;
	private readonly part: Float64List;
	private parted = false;
	/** Vertices by their place: those nearer than what rounding leaves are one. */
	private readonly found = new PairTable();
	readonly extent: PlaneExtent;

	/** What it finishes is made of arrays of the source. */
	constructor(extent: PlaneExtent, arrays = FRESH_ARRAYS) {
		this.extent = extent;
		this.xy = new Float64List(arrays);
		this.same = new Uint32List(arrays);
		this.cornerStart = new Uint32List(arrays);
		this.corners = new Uint32List(arrays);
		this.straight = new Uint8List(arrays);
		this.role = new Uint8List(arrays);
		this.row = new Uint32List(arrays);
		this.column = new Uint32List(arrays);
		this.part = new Float64List(arrays);
		this.cornerStart.push(0);
	}

	/** A vertex that is known to be new; `same` is the one on the other side of a seam, if there is one. */
	addVertex(x: number, y: number, same = this.same.length): number {
		this.xy.push(x);
		this.xy.push(y);
		this.same.push(same);
		return this.same.length - 1;
	}

	/** The vertex at a place, found again by its coordinates. */
	vertexAt(x: number, y: number): number {
		const [a, b] = [Math.round(x / SAME_FIELD), Math.round(y / SAME_FIELD)];
		const there = this.found.get(a, b);
		if (there >= 0) return there;
		const [wx, wy] = this.wrap(x, y);
		const made = wx === x && wy === y ? this.addVertex(x, y) : this.addVertex(x, y, this.vertexAt(wx, wy));
		this.found.set(a, b, made);
		return made;
	}

	/** The place on this side of all seams. */
	wrap(x: number, y: number): [number, number] {
		const { across, up, closedAcross, closedUp } = this.extent;
		return [closedAcross ? turned(x, across) : x, closedUp ? turned(y, up) : y];
	}

	/** Adds a corner to the cell that `endCell` ends. */
	addCorner(vertex: number, straight: boolean): void {
		this.corners.push(vertex);
		this.straight.push(straight ? 1 : 0);
	}

	/** `part` is the share of the cell that borders have left. */
	endCell(role: number, row: number, column: number, part = 1): void {
		this.cornerStart.push(this.corners.length);
		this.role.push(role);
		this.row.push(row);
		this.column.push(column);
		this.part.push(part);
		this.parted ||= part !== 1;
	}

	/** Adds a cell; corners that are not vertices yet become some, those that repeat count once. A cell of fewer than three is none. */
	addCell(ring: readonly PlaneCorner[], role: number, row: number, column: number, part = 1): boolean {
		const corners = ring.map(({ x, y, straight, vertex }) => ({ vertex: vertex ?? this.vertexAt(x, y), straight }));
		const kept = corners.filter((c, k) => c.vertex !== corners[(k + 1) % corners.length]!.vertex);
		if (kept.length < 3) return false;
		for (const { vertex, straight } of kept) this.addCorner(vertex, straight);
		this.endCell(role, row, column, part);
		return true;
	}

	finish(roles: readonly string[]): PlaneCells {
		const { xy, same, cornerStart, corners, straight, role, row, column, part } = this;
		return {
			xy: xy.array,
			same: same.array,
			cornerStart: cornerStart.array,
			corners: corners.array,
			straight: straight.array,
			role: role.array,
			roles,
			row: row.array,
			column: column.array,
			...(this.parted ? { part: part.array } : {})
		};
	}
}

/** A coordinate on this side of a seam. */
function turned(x: number, length: number): number {
	const turns = Math.floor(x / length + SAME_FIELD / length);
	return turns === 0 ? x : Math.abs(x - turns * length) < SAME_FIELD ? 0 : x - turns * length;
}

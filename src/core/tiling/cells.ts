/** `edgeCells` where an edge has no second cell. */
export const NO_CELL = -1;

/**
 * The cells of a face and the edges between them. A cell's key is its place (face, row, column), never
 * its index nor its mark.
 */
export interface CellTable {
	readonly count: number;
	/** First entry of each cell in `corners`; one more entry than cells. */
	readonly cornerStart: Uint32Array;
	/** Node indices, anticlockwise seen from outside, starting at the lower left corner. */
	readonly corners: Uint32Array;
	/** Place of each corner, which tells where it lies flat (over a seam a node has two); the nodes themselves when left out. */
	readonly places?: Uint32Array;
	/** By entry of `corners`: 1 where a side runs straight on past a neighbour's corner. All turn when left out. */
	readonly straight?: Uint8Array;
	/** By entry of `corners`: 1 for a point of a curve, as along round openings, which is no corner. All are corners when left out. */
	readonly round?: Uint8Array;
	/** 1 for a cell whose line has a dent, so that it is no fan of triangles; none has when left out. */
	readonly dented?: Uint8Array;
	/** Index into `roles`; all are panels when left out. */
	readonly role?: Uint8Array;
	/** What kinds of cells the tiling has, such as hexagon and triangle. */
	readonly roles?: readonly string[];
	/** 0-based, from the starting edge. */
	readonly row: Uint32Array;
	/** 0-based, from the starting border. */
	readonly column: Uint32Array;
	/** How cells are counted for their marks, from 0, where not by `row` and `column`, which are their keys. */
	readonly order?: { readonly row: Uint32Array; readonly column: Uint32Array };
	/** Share of each cell of the tiling that the face's borders leave, before openings; all are whole when left out. */
	readonly part?: Float64Array;
	/** What openings and borders have done; left out where all cells are whole. */
	readonly trim?: CellTrim;
	readonly edgeCount: number;
	/** Two node indices an edge. */
	readonly edgeNodes: Uint32Array;
	/** Two cell indices an edge; the second is NO_CELL along a border. */
	readonly edgeCells: Int32Array;
	/** What edges run through between their ends, where some are curved. */
	readonly edgeBends?: EdgeBends;
}

/** Nodes between the ends of curved edges, from the first end to the second; edge e has those from `start[e]` to `start[e + 1]`. */
export interface EdgeBends {
	readonly start: Uint32Array;
	readonly nodes: Uint32Array;
}

/** Cells by the corners where their lines turn. */
export type CellOutlines = Pick<CellTable, 'cornerStart' | 'corners' | 'round'>;

/** The lines of cells without the corners that they run straight on through: the table's own where all turn. O(corners). */
export function outlinesOf({ count, cornerStart, corners, straight, round }: CellTable): CellOutlines {
	if (!straight) return { cornerStart, corners, ...(round ? { round } : {}) };
	const outlines = { cornerStart: new Uint32Array(count + 1), corners: new Uint32Array(corners.length) };
	const bent = round && new Uint8Array(corners.length);
	let k = 0;
	for (let c = 0; c < count; c++) {
		for (let o = cornerStart[c]!; o < cornerStart[c + 1]!; o++) {
			if (straight[o] !== 0) continue;
			if (bent) bent[k] = round[o]!;
			outlines.corners[k++] = corners[o]!;
		}
		outlines.cornerStart[c + 1] = k;
	}
	return { ...outlines, corners: outlines.corners.subarray(0, k), ...(bent ? { round: bent.subarray(0, k) } : {}) };
}

/** Whether a cell's shape is its own: cut, or dented. */
export const isSpecial = ({ trim, dented }: Pick<CellTable, 'trim' | 'dented'>, c: number): boolean =>
	trim?.cut[c] === 1 || dented?.[c] === 1;

/** 1 for every cell that is cut, by an opening or by a border; nothing where all are whole. O(cells). */
export function cutCells({ count, trim, part }: Pick<CellTable, 'count' | 'trim' | 'part'>): Uint8Array | undefined {
	if (!part) return trim?.cut;
	return Uint8Array.from({ length: count }, (_, c) => (trim?.cut[c] === 1 || part[c]! < 1 ? 1 : 0));
}

/** The outline of a cell that is whole: nodes where it turns, and their places. */
export interface WholeCell {
	readonly corners: Uint32Array;
	readonly places: Uint32Array;
}

/** One number for two nodes in either order. */
export const sideOf = (a: number, b: number) => Math.min(a, b) * 67_108_864 + Math.max(a, b);

/** How the cells of a face were cut by its openings and borders. */
export interface CellTrim {
	/** 1 for a cell that is cut, 0 for a whole one. */
	readonly cut: Uint8Array;
	/** 0 for the only piece of its field, else 1, 2, ... from the lower left on. */
	readonly piece: Uint8Array;
	/** Share of the field's area that is left. */
	readonly share: Float64Array;
	/** 1 for a piece narrower or smaller than what is worth making. */
	readonly sliver: Uint8Array;
	/** Holes in a cell, by its index: loops of nodes, clockwise seen from outside. */
	readonly holes: ReadonlyMap<number, readonly Uint32Array[]>;
	/** Cut cells as they were before, by index: those that are pieces of one cell whose corners are all on the face. */
	readonly wholes: ReadonlyMap<number, WholeCell>;
	/** Sides of pieces that run along an opening where its line has cut them, by `sideOf` their two nodes. */
	readonly alongOpenings: ReadonlySet<number>;
	/** Fields of which nothing is left: row and column, stride 2. */
	readonly lost: Uint32Array;
	/** Slivers that have become one with a neighbour, or were dropped. */
	readonly merged: number;
	readonly dropped: number;
}

/** Lists what is broken in a table; empty when sound. O(cells + edges). */
export function validateCells(cells: CellTable, nodeCount: number): string[] {
	const faults: string[] = [];
	const sides = new Map<string, number>();
	for (let c = 0; c < cells.count; c++) {
		const from = cells.cornerStart[c]!;
		const to = cells.cornerStart[c + 1]!;
		if (to - from < 3) faults.push(`cell ${c} has ${to - from} corners`);
		for (let k = from; k < to; k++) {
			const a = cells.corners[k]!;
			const b = cells.corners[k + 1 < to ? k + 1 : from]!;
			if (a >= nodeCount) faults.push(`cell ${c} names node ${a} of ${nodeCount}`);
			if (a === b) faults.push(`cell ${c} repeats node ${a}`);
			const side = `${a}>${b}`;
			if (sides.has(side)) faults.push(`cells ${sides.get(side)} and ${c} run along ${side} alike`);
			sides.set(side, c);
		}
	}
	let borders = 0;
	const seen = new Set<string>();
	const { edgeBends: bends } = cells;
	let bent = 0;
	for (let e = 0; e < cells.edgeCount; e++) {
		const through = bends ? bends.nodes.subarray(bends.start[e], bends.start[e + 1]) : [];
		bent += through.length;
		const a = through.length ? through[through.length - 1]! : cells.edgeNodes[2 * e]!;
		const b = cells.edgeNodes[2 * e + 1]!;
		const name = a < b ? `${a}-${b}` : `${b}-${a}`;
		if (seen.has(name)) faults.push(`edge ${name} stands twice`);
		seen.add(name);
		const owners = [sides.get(`${a}>${b}`), sides.get(`${b}>${a}`)];
		const named = [cells.edgeCells[2 * e]!, cells.edgeCells[2 * e + 1]!];
		if (named[1] === NO_CELL) borders++;
		if (named.some((c) => c !== NO_CELL && !owners.includes(c)))
			faults.push(`edge ${name} names cells ${named.join(', ')}, found ${owners.join(', ')}`);
	}
	if (cells.corners.length !== 2 * cells.edgeCount - borders + bent)
		faults.push(`${cells.corners.length} sides do not match ${cells.edgeCount} edges`);
	return faults;
}

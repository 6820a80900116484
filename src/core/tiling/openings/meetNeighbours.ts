import type { CellTable } from '../cells.ts';
import { CUT, WHOLE, wholePiece, type CellPiece } from './piece.ts';
import type { TrimNodes } from './trimNodes.ts';

/**
 * Gives the cells beside those that are cut the nodes that these have on the sides between them, where a cut ends on a side
 * without going on: the sides run straight on through these nodes, and both cells have the same edges. A whole cell with
 * such nodes becomes a piece; its entry in `fates` changes. Answers all pieces in the order of their cells. O(cells).
 */
export function meetNeighbours(
	cells: CellTable,
	fates: Uint8Array,
	pieces: readonly CellPiece[],
	made: TrimNodes
): CellPiece[] {
	const ends = new Set<number>();
	for (const { cell, corners } of pieces)
		for (const side of partedSides(cells, cell, made))
			for (const { at } of runsAlong(side, corners)) ends.add(corners[at]!).add(corners[(at + 1) % corners.length]!);
	const all = [...pieces, ...wholeBeside(cells, fates, ends, made)];
	for (const piece of all) for (const side of partedSides(cells, piece.cell, made)) insert(piece, side, ends, made);
	return all.sort((a, b) => a.cell - b.cell || a.piece - b.piece);
}

/** A side of a cell with the nodes on it, in their order, and where its ends lie. */
interface PartedSide {
	readonly nodes: readonly { readonly node: number; readonly share: number }[];
	readonly places: readonly [number, number];
}

function partedSides(
	{ cornerStart, corners, places = corners }: CellTable,
	cell: number,
	made: TrimNodes
): PartedSide[] {
	const [from, to] = [cornerStart[cell]!, cornerStart[cell + 1]!];
	const found: PartedSide[] = [];
	for (let o = from; o < to; o++) {
		if (!made.isParted(corners[o]!)) continue;
		const next = o + 1 < to ? o + 1 : from;
		const [a, b] = [corners[o]!, corners[next]!];
		const between = made.onSideOf(a, b);
		if (between.length > 0)
			found.push({
				nodes: [{ node: a, share: 0 }, ...between, { node: b, share: 1 }],
				places: [places[o]!, places[next]!]
			});
	}
	return found;
}

/** Sides of a line that run along a side of its cell, not back: corner that each begins at, and its ends by their number on the side. */
function runsAlong({ nodes }: PartedSide, corners: readonly number[]): { at: number; from: number; to: number }[] {
	const rankOf = new Map(nodes.map(({ node }, k) => [node, k]));
	return corners.flatMap((node, at) => {
		const [from, to] = [rankOf.get(node), rankOf.get(corners[(at + 1) % corners.length]!)];
		return from !== undefined && to !== undefined && to > from ? [{ at, from, to }] : [];
	});
}

/** The whole cells on whose sides others end. */
function wholeBeside(cells: CellTable, fates: Uint8Array, ends: ReadonlySet<number>, made: TrimNodes): CellPiece[] {
	const { cornerStart, corners } = cells;
	const isMet = ({ nodes }: PartedSide) => nodes.slice(1, -1).some(({ node }) => ends.has(node));
	const found: CellPiece[] = [];
	for (let cell = 0; cell < cells.count; cell++) {
		if (fates[cell] !== WHOLE) continue;
		// Nearly all are far from any cut.
		let near = false;
		for (let o = cornerStart[cell]!; o < cornerStart[cell + 1]! && !near; o++) near = made.isParted(corners[o]!);
		if (!near || !partedSides(cells, cell, made).some(isMet)) continue;
		fates[cell] = CUT;
		found.push(wholePiece(cells, cell));
	}
	return found;
}

/** Puts the nodes of a side at which others end into a piece that runs past them. */
function insert(piece: CellPiece, side: PartedSide, ends: ReadonlySet<number>, made: TrimNodes): void {
	// From the last one back, so that the others keep their numbers.
	for (const { at, from, to } of runsAlong(side, piece.corners).reverse()) {
		const missing = side.nodes.slice(from + 1, to).filter(({ node }) => ends.has(node));
		const nodes = missing.map(({ node }) => node);
		piece.corners.splice(at + 1, 0, ...nodes);
		piece.places.splice(at + 1, 0, ...missing.map((m) => made.placeBetween(m.node, ...side.places, m.share)));
		if (nodes.length > 0) piece.straight = new Set([...(piece.straight ?? []), ...nodes]);
	}
}

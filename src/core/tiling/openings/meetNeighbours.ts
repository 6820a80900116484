import type { CellTable } from '../cells.ts';
import { CUT, WHOLE, type CellPiece } from './piece.ts';
import type { TrimNodes } from './trimNodes.ts';

/**
 * Gives the cells beside those that are cut the nodes that these have on the sides between them, where a cut ends on a side
 * without going on: the sides run straight on through these nodes, and both cells have the same edges. A whole cell with
 * such nodes becomes a piece; its entry in `fates` changes. O(cells).
 */
export function meetNeighbours(cells: CellTable, fates: Uint8Array, pieces: readonly CellPiece[], made: TrimNodes) {
	const { count, cornerStart, corners, places = corners } = cells;
	const all = [...pieces];
	for (let cell = 0; cell < count; cell++) {
		if (fates[cell] !== WHOLE) continue;
		const [from, to] = [cornerStart[cell]!, cornerStart[cell + 1]!];
		let met = false;
		for (let o = from; o < to && !met; o++)
			met = made.isParted(corners[o]!) && made.onSideOf(corners[o]!, corners[o + 1 < to ? o + 1 : from]!).length > 0;
		if (!met) continue;
		fates[cell] = CUT;
		all.push({
			cell,
			corners: [...corners.subarray(from, to)],
			places: [...places.subarray(from, to)],
			holes: [],
			piece: 0,
			cut: false,
			share: 1,
			sliver: false
		});
	}
	for (const piece of all) {
		const [from, to] = [cornerStart[piece.cell]!, cornerStart[piece.cell + 1]!];
		for (let o = from; o < to; o++) {
			const next = o + 1 < to ? o + 1 : from;
			const between = made.onSideOf(corners[o]!, corners[next]!);
			if (between.length > 0) insert(piece, corners[o]!, corners[next]!, between, made, places[o]!, places[next]!);
		}
	}
	return all.sort((a, b) => a.cell - b.cell || a.piece - b.piece);
}

/** Puts the nodes between the ends `a` and `b` of a side of its cell into a piece, between those of them that it has. */
function insert(
	piece: CellPiece,
	a: number,
	b: number,
	between: readonly { readonly node: number; readonly share: number }[],
	made: TrimNodes,
	placeA: number,
	placeB: number
): void {
	const side = [{ node: a, share: 0 }, ...between, { node: b, share: 1 }];
	const rankOf = new Map(side.map(({ node }, k) => [node, k]));
	const [corners, places]: [number[], number[]] = [[], []];
	piece.corners.forEach((node, k) => {
		corners.push(node);
		places.push(piece.places[k]!);
		const from = rankOf.get(node);
		const to = rankOf.get(piece.corners[(k + 1) % piece.corners.length]!);
		if (from === undefined || to === undefined) return;
		for (let r = from + 1; r < to; r++) {
			const { node: missing, share } = side[r]!;
			corners.push(missing);
			places.push(made.placeBetween(missing, placeA, placeB, share));
			(piece.straight ??= new Set()).add(missing);
		}
	});
	piece.corners = corners;
	piece.places = places;
}

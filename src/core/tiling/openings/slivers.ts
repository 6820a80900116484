import Flatbush from 'flatbush';
import { hypot } from '../../elementary/index.ts';
import { SAME_FLAT_MM } from '../../tolerances.ts';
import type { CellTable } from '../cells.ts';
import { CUT, WHOLE, wholePiece, type CellPiece } from './piece.ts';
import { ringArea } from './rings.ts';
import type { Borders } from './schema.ts';
import type { TrimNodes } from './trimNodes.ts';

export interface Handled {
	/** Pieces that are left, in the order of their cells. */
	readonly left: readonly CellPiece[];
	readonly merged: number;
	readonly dropped: number;
}

/**
 * Makes slivers one with a neighbour, leaves them out, or leaves them as they are. A whole cell that takes
 * one in becomes a piece; its entry in `fates` changes.
 */
export function handleSlivers(
	cells: CellTable,
	fates: Uint8Array,
	pieces: readonly CellPiece[],
	made: TrimNodes,
	action: Borders['slivers']
): Handled {
	const slivers = pieces.filter((p) => p.sliver);
	if (action === 'mark' || slivers.length === 0) return { left: pieces, merged: 0, dropped: 0 };
	if (action === 'drop') return { left: pieces.filter((p) => !p.sliver), merged: 0, dropped: slivers.length };
	const beside = wholeBeside(cells, fates, slivers, made);
	const ownerOf = sidesOf([...pieces, ...beside]);
	const gone = new Set<CellPiece>();
	for (const sliver of slivers) {
		const neighbour = bestNeighbour(sliver, ownerOf, made, gone);
		const joined = neighbour && join(neighbour, sliver);
		if (!joined) continue;
		const before = ringArea(made.ringOf(neighbour.places));
		neighbour.corners = joined.corners;
		neighbour.places = joined.places;
		neighbour.share *= ringArea(made.ringOf(joined.places)) / before;
		neighbour.cut = true;
		neighbour.straight = new Set([...(neighbour.straight ?? []), ...(sliver.straight ?? [])]);
		neighbour.joined = true;
		gone.add(sliver);
		// The sliver's other sides are the neighbour's now.
		joined.corners.forEach((a, k) =>
			ownerOf.set(sideKey(a, joined.corners[(k + 1) % joined.corners.length]!), neighbour)
		);
	}
	const taken = beside.filter((p) => p.cut);
	for (const { cell } of taken) fates[cell] = CUT;
	const left = [...pieces.filter((p) => !gone.has(p)), ...taken].sort((a, b) => a.cell - b.cell || a.piece - b.piece);
	return { left, merged: gone.size, dropped: 0 };
}

/** Whole cells whose boxes touch a sliver's, as pieces. */
function wholeBeside(cells: CellTable, fates: Uint8Array, slivers: readonly CellPiece[], made: TrimNodes): CellPiece[] {
	const index = new Flatbush(slivers.length);
	for (const sliver of slivers) {
		const ring = made.ringOf(sliver.places);
		const [xs, ys] = [ring.map((p) => p[0]), ring.map((p) => p[1])];
		index.add(
			Math.min(...xs) - SAME_FLAT_MM,
			Math.min(...ys) - SAME_FLAT_MM,
			Math.max(...xs) + SAME_FLAT_MM,
			Math.max(...ys) + SAME_FLAT_MM
		);
	}
	index.finish();
	const { count, cornerStart, corners, places = corners } = cells;
	const found: CellPiece[] = [];
	for (let cell = 0; cell < count; cell++) {
		if (fates[cell] !== WHOLE) continue;
		const [from, to] = [cornerStart[cell]!, cornerStart[cell + 1]!];
		if (index.search(...made.boxOf(places, from, to)).length === 0) continue;
		found.push(wholePiece(cells, cell));
	}
	return found;
}

const sideKey = (a: number, b: number) => a * 67_108_864 + b;

/** The piece on the left of each side, by the side's nodes in order. */
function sidesOf(pieces: readonly CellPiece[]): Map<number, CellPiece> {
	const owners = new Map<number, CellPiece>();
	for (const p of pieces)
		p.corners.forEach((a, k) => owners.set(sideKey(a, p.corners[(k + 1) % p.corners.length]!), p));
	return owners;
}

/** The neighbour along the longest side. */
function bestNeighbour(
	sliver: CellPiece,
	ownerOf: ReadonlyMap<number, CellPiece>,
	made: TrimNodes,
	gone: ReadonlySet<CellPiece>
): CellPiece | undefined {
	const shared = new Map<CellPiece, number>();
	sliver.corners.forEach((a, k) => {
		const next = (k + 1) % sliver.corners.length;
		const other = ownerOf.get(sideKey(sliver.corners[next]!, a));
		if (!other || other === sliver || gone.has(other)) return;
		const [p, q] = [made.flatAt(sliver.places[k]!), made.flatAt(sliver.places[next]!)];
		shared.set(other, (shared.get(other) ?? 0) + hypot(p[0] - q[0], p[1] - q[1]));
	});
	return [...shared].sort((a, b) => b[1] - a[1])[0]?.[0];
}

/** The line around two neighbours; nothing where they do not make one simple line, or meet over a seam. */
function join(a: CellPiece, b: CellPiece): { corners: number[]; places: number[] } | undefined {
	const sides = (p: CellPiece) =>
		p.corners.map((from, k) => ({ from, place: p.places[k]!, to: p.corners[(k + 1) % p.corners.length]! }));
	const all = [...sides(a), ...sides(b)];
	const keys = new Set(all.map((s) => sideKey(s.from, s.to)));
	const left = all.filter((s) => !keys.has(sideKey(s.to, s.from)));
	const next = new Map(left.map((s) => [s.from, s]));
	const placeOf = new Map(a.corners.map((n, k) => [n, a.places[k]!]));
	if (next.size !== left.length || b.corners.some((n, k) => placeOf.has(n) && placeOf.get(n) !== b.places[k]))
		return undefined;
	const first = next.get(a.corners.find((n) => next.has(n)) ?? -1);
	if (!first) return undefined;
	const loop = [first];
	for (let s = next.get(first.to); s && s !== first && loop.length <= left.length; s = next.get(s.to)) loop.push(s);
	return loop.length === left.length
		? { corners: loop.map((s) => s.from), places: loop.map((s) => s.place) }
		: undefined;
}

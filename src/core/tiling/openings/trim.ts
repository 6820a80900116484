import Flatbush from 'flatbush';
import { developmentOf, flattenPlaces, moveOverSeam, type ChartedFace, type Development } from '../../settingout/development.ts';
import { withinRing } from '../../settingout/flatBorder.ts';
import type { NodeTable } from '../../settingout/nodes.ts';
import type { CellTable } from '../cells.ts';
import { edgesOf } from '../edges.ts';
import type { LaidOpening } from './layOpening.ts';
import { cutRing, leastWidth, ringArea, type Ring } from './rings.ts';
import type { Borders } from './schema.ts';
import { handleSlivers } from './slivers.ts';
import { snapNodes } from './snap.ts';
import { TrimNodes } from './trimNodes.ts';

/** A cell, or a piece of one, on its way to the table: corners, and what the table tells of it. */
export interface CellPiece {
	/** Nodes, and places, anticlockwise from the lower left. */
	corners: number[];
	places: number[];
	readonly holes: readonly number[][];
	readonly row: number;
	readonly column: number;
	piece: number;
	cut: boolean;
	share: number;
	sliver: boolean;
}

/** A face's nodes and cells after its openings and borders have cut them. */
export interface TrimmedCells {
	readonly nodes: NodeTable;
	readonly cells: CellTable;
}

/**
 * Cuts the cells of a face by its openings and borders, laid flat: each is whole, cut into the exact pieces
 * that remain, or lost. New nodes on the line between two cells are shared by both. A corner within a cell
 * takes its place in space from the cell's own corners (mean value coordinates), so that what is flat stays
 * flat. O(cells + cut cells * sides).
 */
export function trimCells(face: ChartedFace, nodes: NodeTable, cells: CellTable, openings: readonly LaidOpening[], borders: Borders, faceBorder?: Ring): TrimmedCells {
	const lines = trimLines(face, openings, faceBorder);
	if (lines.all.length === 0) return { nodes, cells };
	const development = developmentOf(face);
	const snapped = borders.snap > 0 ? snapNodes(face, nodes, flattenPlaces(development, nodes), lines.index, lines.segments, borders.snap) : nodes;
	const flat = flattenPlaces(development, snapped);
	const made = new TrimNodes(face, snapped, flat);
	const pieces: CellPiece[] = [];
	const lost: number[] = [];
	for (let c = 0; c < cells.count; c++) cutCell(c, cells, made, lines, pieces, lost, nodes.onFace !== undefined);
	for (const piece of pieces)
		if (piece.cut) piece.sliver = leastWidth(made.ringOf(piece.places)) < borders.leastWidth || (ringArea(made.ringOf(piece.places)) < borders.leastArea);
	const { left, merged, dropped } = handleSlivers(pieces, made, borders.slivers);
	return { nodes: made.table(), cells: tableOf(left, lost, merged, dropped) };
}

/** Everything that cuts, with an index of its sides. */
interface TrimLines {
	readonly openings: readonly Ring[];
	readonly borders: readonly Ring[];
	/** Openings first, then borders. */
	readonly all: readonly Ring[];
	readonly boxes: readonly Box[];
	/** Line of each side, and its two ends. */
	readonly segments: readonly { readonly line: number; readonly a: readonly [number, number]; readonly b: readonly [number, number] }[];
	readonly index: Flatbush;
}
type Box = readonly [number, number, number, number];

function trimLines(face: ChartedFace, laid: readonly LaidOpening[], faceBorder: Ring | undefined): TrimLines {
	const framed = (role: LaidOpening['role']) => laid.filter((o) => o.role === role).flatMap((o) => o.framed);
	const overSeam = (rings: readonly Ring[]) =>
		rings.length && face.ends.closedAcross ? rings.flatMap((r) => [r, ...seamCopies(developmentOf(face), r)]) : rings;
	const openings = overSeam(framed('opening'));
	const borders = [...overSeam(framed('border')), ...(faceBorder ? [faceBorder] : [])];
	const all = [...openings, ...borders];
	const segments = all.flatMap((ring, line) => ring.map((a, k) => ({ line, a, b: ring[(k + 1) % ring.length]! })));
	const index = new Flatbush(Math.max(1, segments.length));
	for (const { a, b } of segments) index.add(Math.min(a[0], b[0]), Math.min(a[1], b[1]), Math.max(a[0], b[0]), Math.max(a[1], b[1]));
	if (segments.length === 0) index.add(Infinity, Infinity, Infinity, Infinity);
	index.finish();
	return { openings, borders, all, boxes: all.map(boxOf), segments, index };
}

/** What of a line goes on over the seam, seen from the other side. */
function seamCopies(development: Development, ring: Ring): Ring[] {
	return ([1, -1] as const).map((way) => ring.map(([x, y]) => moveOverSeam(development, x, y, way)));
}

const boxOf = (ring: Ring): Box => [
	Math.min(...ring.map((p) => p[0])),
	Math.min(...ring.map((p) => p[1])),
	Math.max(...ring.map((p) => p[0])),
	Math.max(...ring.map((p) => p[1]))
];

function cutCell(c: number, cells: CellTable, made: TrimNodes, lines: TrimLines, pieces: CellPiece[], lost: number[], partial: boolean): void {
	const from = cells.cornerStart[c]!;
	const to = cells.cornerStart[c + 1]!;
	const corners = [...cells.corners.subarray(from, to)];
	const places = [...(cells.places ?? cells.corners).subarray(from, to)];
	const [row, column] = [cells.row[c]!, cells.column[c]!];
	const whole = (): CellPiece => ({ corners, places, holes: [], row, column, piece: 0, cut: false, share: 1, sliver: false });
	const [x0, y0, x1, y1] = made.boxOf(places);
	if (lines.index.search(x0, y0, x1, y1).length === 0) {
		const middle: [number, number] = [(x0 + x1) / 2, (y0 + y1) / 2];
		const within = (ring: Ring, k: number) => meets(lines.boxes[k]!, x0, y0, x1, y1) && withinRing(ring, ...middle);
		const gone = lines.openings.some(within) || !inBorders(lines, within);
		if (gone && (!partial || corners.every((n) => made.stands(n)))) lost.push(row, column);
		else if (!gone) pieces.push(whole());
		return;
	}
	const near = (ring: readonly Ring[], offset: number) => ring.filter((_, k) => meets(lines.boxes[offset + k]!, x0, y0, x1, y1));
	const ring = made.ringOf(places);
	const borders = near(lines.borders, lines.openings.length);
	const left = lines.borders.length && borders.length === 0 ? [] : cutRing(ring, near(lines.openings, 0), borders);
	const area = ringArea(ring);
	const kept = left.filter((p) => ringArea(p.outer) > area * LEAST_SHARE);
	if (kept.length === 0) {
		// A field of a turned grid that lies beside the face was never there.
		if (!partial || corners.some((n) => made.stands(n))) lost.push(row, column);
		return;
	}
	const remains = kept.reduce((sum, p) => sum + ringArea(p.outer) + p.holes.reduce((s, h) => s + ringArea(h), 0), 0);
	if (!partial && remains > area * (1 - LEAST_SHARE)) return void pieces.push(whole());
	made.enter(corners, places, ring);
	const ordered = kept.map((p) => ({ p, from: Math.min(...p.outer.map(([x, y]) => x + y)) })).sort((a, b) => a.from - b.from);
	ordered.forEach(({ p }, k) => {
		const vertices = startLow(p.outer, ring).map(([x, y]) => made.vertexAt(x, y));
		const holes = p.holes.map((h) => h.map(([x, y]) => made.vertexAt(x, y).node));
		const outline = vertices.filter((v, i) => v.node !== vertices[(i + 1) % vertices.length]!.node);
		if (outline.length < 3) return;
		const share = (ringArea(p.outer) + p.holes.reduce((s, h) => s + ringArea(h), 0)) / area;
		pieces.push({ corners: outline.map((v) => v.node), places: outline.map((v) => v.place), holes, row, column, piece: ordered.length > 1 ? k + 1 : 0, cut: share < 1 - LEAST_SHARE || holes.length > 0, share, sliver: false });
	});
}

/** Share of a cell's area below which a piece is nothing: what rounding leaves. */
const LEAST_SHARE = 1e-6;

const meets = (box: Box, x0: number, y0: number, x1: number, y1: number) => box[0] <= x1 && box[2] >= x0 && box[1] <= y1 && box[3] >= y0;

const inBorders = (lines: TrimLines, within: (ring: Ring, k: number) => boolean) =>
	lines.borders.length === 0 || lines.borders.some((ring, k) => within(ring, lines.openings.length + k));

/** The line begun where the cell's lower side begins, as far as that is left, else at its lowest left point. */
function startLow(outer: Ring, cell: Ring): Ring {
	const [a, b] = [cell[0]!, cell[1]!];
	const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
	const length = Math.hypot(dx, dy);
	let best = 0;
	let least = Infinity;
	outer.forEach(([x, y], k) => {
		const along = ((x - a[0]) * dx + (y - a[1]) * dy) / length;
		const off = ((y - a[1]) * dx - (x - a[0]) * dy) / length;
		// Height counts for more, so that a lower side comes first.
		const rank = along + off * 4;
		if (rank < least) [least, best] = [rank, k];
	});
	return [...outer.slice(best), ...outer.slice(0, best)];
}

function tableOf(pieces: readonly CellPiece[], lost: readonly number[], merged: number, dropped: number): CellTable {
	const count = pieces.length;
	const sides = pieces.reduce((n, p) => n + p.corners.length, 0);
	const cells = {
		count,
		cornerStart: new Uint32Array(count + 1),
		corners: new Uint32Array(sides),
		places: new Uint32Array(sides),
		row: new Uint32Array(count),
		column: new Uint32Array(count)
	};
	const trim = {
		cut: new Uint8Array(count),
		piece: new Uint8Array(count),
		share: new Float64Array(count),
		sliver: new Uint8Array(count),
		holes: new Map(pieces.flatMap((p, c) => (p.holes.length ? [[c, p.holes.map((h) => Uint32Array.from(h))] as const] : []))),
		lost: Uint32Array.from(lost),
		merged,
		dropped
	};
	let k = 0;
	pieces.forEach((p, c) => {
		cells.corners.set(p.corners, k);
		cells.places.set(p.places, k);
		cells.cornerStart[c + 1] = k += p.corners.length;
		cells.row[c] = p.row;
		cells.column[c] = p.column;
		trim.cut[c] = Number(p.cut);
		trim.piece[c] = p.piece;
		trim.share[c] = p.share;
		trim.sliver[c] = Number(p.sliver);
	});
	return { ...cells, trim, ...edgesOf(cells) };
}

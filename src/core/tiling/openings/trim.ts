import Flatbush from 'flatbush';
import { hypot } from '../../elementary/index.ts';
import { developmentOf, flattenPlaces, type ChartedFace, type Development } from '../../settingout/development.ts';
import { withinRing } from '../../settingout/flatBorder.ts';
import type { NodeTable } from '../../settingout/nodes.ts';
import { sideOf, type CellTable } from '../cells.ts';
import { framedLines, type LaidOpening } from './layOpening.ts';
import { besideSeam, withCopies, type Way } from './overSeam.ts';
import { meetNeighbours } from './meetNeighbours.ts';
import { BESIDE, CUT, LOST, WHOLE, type CellPiece } from './piece.ts';
import {
	cutRing,
	leastWidth,
	liesOn,
	ringArea,
	ringLength,
	ringNear,
	withoutRings,
	type Piece,
	type Ring
} from './rings.ts';
import type { Borders } from './schema.ts';
import { handleSlivers } from './slivers.ts';
import { snapNodes } from './snap.ts';
import { TrimNodes } from './trimNodes.ts';
import { tableOf } from './trimTable.ts';
import { LEAST_CUT_MM, LEAST_PIECE_SHARE, SAME_FLAT_MM } from '../../tolerances.ts';

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
export function trimCells(
	face: ChartedFace,
	nodes: NodeTable,
	cells: CellTable,
	openings: readonly LaidOpening[],
	borders: Borders,
	faceBorder?: Ring
): TrimmedCells {
	const lines = trimLines(face, openings, faceBorder);
	if (lines.all.length === 0) return { nodes, cells };
	const development = developmentOf(face);
	const snapped =
		borders.snap > 0
			? snapNodes(face, nodes, flattenPlaces(development, nodes), lines.index, lines.segments, borders.snap)
			: nodes;
	const flat = flattenPlaces(development, snapped);
	const made = new TrimNodes(face, snapped, flat);
	const fates = new Uint8Array(cells.count);
	const cut: CellPiece[] = [];
	for (let c = 0; c < cells.count; c++) fates[c] = cutCell(c, cells, made, lines, cut, nodes.onFace !== undefined);
	const pieces = meetNeighbours(cells, fates, cut, made);
	for (const piece of pieces) {
		const ring = made.ringOf(piece.places);
		piece.sliver = piece.cut && (leastWidth(ring) < borders.leastWidth || ringArea(ring) < borders.leastArea);
	}
	const handled = handleSlivers(cells, fates, pieces, made, borders.slivers);
	return { nodes: made.table(), cells: tableOf(cells, fates, handled, made) };
}

/** Everything that cuts, with an index of its sides. */
interface TrimLines {
	readonly openings: readonly Ring[];
	readonly borders: readonly Ring[];
	/** Openings first, then borders. */
	readonly all: readonly Ring[];
	readonly ways: readonly Way[];
	/** The face laid flat, where cells may be cut beside its seam. */
	readonly seam: Development | undefined;
	readonly boxes: readonly Box[];
	/** Line of each side, and its two ends. */
	readonly segments: readonly {
		readonly line: number;
		readonly a: readonly [number, number];
		readonly b: readonly [number, number];
	}[];
	readonly index: Flatbush;
}
type Box = readonly [number, number, number, number];

function trimLines(face: ChartedFace, laid: readonly LaidOpening[], faceBorder: Ring | undefined): TrimLines {
	const framed = (role: LaidOpening['role']) => laid.filter((o) => o.role === role).flatMap(framedLines);
	const seam = laid.length && face.ends.closedAcross ? developmentOf(face) : undefined;
	const openings = withCopies(seam, framed('opening'));
	const borders = [
		...withCopies(seam, framed('border')),
		...withCopies(undefined, faceBorder ? [[faceBorder, 0]] : [])
	];
	const all = [...openings, ...borders].map(([ring]) => ring);
	const ways = [...openings, ...borders].map(([, way]) => way);
	const segments = all.flatMap((ring, line) => ring.map((a, k) => ({ line, a, b: ring[(k + 1) % ring.length]! })));
	const index = new Flatbush(Math.max(1, segments.length));
	for (const { a, b } of segments)
		index.add(Math.min(a[0], b[0]), Math.min(a[1], b[1]), Math.max(a[0], b[0]), Math.max(a[1], b[1]));
	if (segments.length === 0) index.add(Infinity, Infinity, Infinity, Infinity);
	index.finish();
	return {
		openings: all.slice(0, openings.length),
		borders: all.slice(openings.length),
		all,
		ways,
		// Beside the border of the face lies nothing.
		seam: faceBorder ? undefined : seam,
		boxes: all.map(boxOf),
		segments,
		index
	};
}

const boxOf = (ring: Ring): Box => [
	Math.min(...ring.map((p) => p[0])),
	Math.min(...ring.map((p) => p[1])),
	Math.max(...ring.map((p) => p[0])),
	Math.max(...ring.map((p) => p[1]))
];

/** Decides on a cell; its pieces, where it is cut, are added to `pieces`. */
function cutCell(
	c: number,
	cells: CellTable,
	made: TrimNodes,
	lines: TrimLines,
	pieces: CellPiece[],
	partial: boolean
): number {
	const [from, to] = [cells.cornerStart[c]!, cells.cornerStart[c + 1]!];
	const placeOf = cells.places ?? cells.corners;
	const [x0, y0, x1, y1] = made.boxOf(placeOf, from, to);
	const room = lines.seam ? (x1 - x0 + y1 - y0) * SEAM_ROOM : 0;
	const wide: Box = [x0 - room, y0 - room, x1 + room, y1 + room];
	if (lines.borders.length === 0 && !meetsAny(lines.boxes, ...wide)) return WHOLE;
	const gone = () =>
		!partial || made.stands(cells.corners[from]!) || cells.corners.subarray(from, to).some((n) => made.stands(n))
			? LOST
			: BESIDE;
	if (lines.index.search(...wide).length === 0) return isGone(lines, x0, y0, x1, y1) ? gone() : WHOLE;
	const corners = [...cells.corners.subarray(from, to)];
	const places = [...placeOf.subarray(from, to)];
	const own = made.ringOf(places);
	const met = lines.ways.filter((_, k) => meets(lines.boxes[k]!, ...wide));
	const ring = lines.seam ? besideSeam(lines.seam, met, own) : own;
	const [first, low, right, high] = boxOf(ring);
	const near = (rings: readonly Ring[], offset: number) =>
		rings
			.filter((_, k) => meets(lines.boxes[offset + k]!, first, low, right, high))
			.map((r) => ringNear(r, first - BESIDE_MM, low - BESIDE_MM, right + BESIDE_MM, high + BESIDE_MM));
	const borders = near(lines.borders, lines.openings.length);
	const openings = near(lines.openings, 0);
	const left = lines.borders.length && borders.length === 0 ? [] : cutRing(ring, openings, borders);
	const area = ringArea(ring);
	// What lies along the border of the face belongs to it down to what nodes can tell apart.
	const narrow = partial ? SAME_FLAT_MM * 2 : LEAST_CUT_MM;
	const cuts = [...openings, ...borders];
	const kept = left.filter((p) => ringArea(p.outer) > area * LEAST_PIECE_SHARE && !isStrip(p.outer, cuts, narrow));
	if (kept.length === 0) return gone();
	if (!partial && hardlyCut(ring, kept)) return WHOLE;
	made.enter(corners, places, ring, own);
	const rank = (p: Piece) => Math.min(...p.outer.map(([x, y]) => x + y));
	kept
		.sort((p, q) => rank(p) - rank(q))
		.forEach((p, k) => {
			const outer = startLow(p.outer, ring);
			const vertices = outer.map(([x, y]) => made.vertexAt(x, y));
			vertices.forEach(({ node }, i) => {
				const next = (i + 1) % vertices.length;
				const [x, y] = [0, 1].map((c) => (outer[i]![c]! + outer[next]![c]!) / 2) as [number, number];
				if (openings.some((line) => liesOn(line, x, y, SAME_FLAT_MM)))
					made.alongOpenings.add(sideOf(node, vertices[next]!.node));
			});
			const outline = vertices.filter((v, i) => v.node !== vertices[(i + 1) % vertices.length]!.node);
			if (outline.length < 3) return;
			const holes = p.holes.map((h) => h.map(([x, y]) => made.vertexAt(x, y).node));
			const share = pieceArea(p) / area;
			pieces.push({
				cell: c,
				corners: outline.map((v) => v.node),
				places: outline.map((v) => v.place),
				holes,
				piece: kept.length > 1 ? k + 1 : 0,
				cut: share < 1 - LEAST_PIECE_SHARE || holes.length > 0,
				share,
				sliver: false
			});
		});
	return CUT;
}

/** Share of a cell's box by which lines are looked for further off on a face with a seam, over which they are laid less exactly. */
const SEAM_ROOM = 0.1;

/**
 * Whether a line encloses a strip narrower than so much, mm, along others: by what a strip as long as half the line is wide. A tip is as
 * thin, but may reach far away from them.
 */
const isStrip = (ring: Ring, along: readonly Ring[], narrow: number): boolean =>
	ringArea(ring) < (narrow * ringLength(ring)) / 2 &&
	// At a corner a strip is wider than along both sides.
	ring.every(([x, y]) => along.some((line) => liesOn(line, x, y, 2 * narrow)));

/** Whether all that a cell has lost are strips which are less than a cut. */
function hardlyCut(ring: Ring, kept: readonly Piece[]): boolean {
	const area = ringArea(ring);
	const lost = area - kept.reduce((sum, p) => sum + pieceArea(p), 0);
	if (lost < area * LEAST_PIECE_SHARE) return true;
	if (lost > LEAST_CUT_MM * ringLength(ring)) return false;
	const left = kept.flatMap((p) => [p.outer, ...p.holes]);
	return withoutRings([ring], left).every((p) => isStrip(p.outer, left, LEAST_CUT_MM));
}

const pieceArea = (p: Piece) => ringArea(p.outer) + p.holes.reduce((sum, h) => sum + ringArea(h), 0);

/** Whether a cell that no line comes near lies within an opening, or outside of all borders. */
function isGone(lines: TrimLines, x0: number, y0: number, x1: number, y1: number): boolean {
	const within = (ring: Ring, k: number) =>
		meets(lines.boxes[k]!, x0, y0, x1, y1) && withinRing(ring, (x0 + x1) / 2, (y0 + y1) / 2);
	return (
		lines.openings.some(within) ||
		(lines.borders.length > 0 && !lines.borders.some((ring, k) => within(ring, lines.openings.length + k)))
	);
}

/** Length, mm. Lines are cut off no nearer than this to a cell's box, so that clipping's rounding has room. */
const BESIDE_MM = 1;

/** Most cells are far from all lines; they are told quickly. */
function meetsAny(boxes: readonly Box[], x0: number, y0: number, x1: number, y1: number): boolean {
	for (let k = 0; k < boxes.length; k++) if (meets(boxes[k]!, x0, y0, x1, y1)) return true;
	return false;
}

const meets = (box: Box, x0: number, y0: number, x1: number, y1: number) =>
	box[0] <= x1 && box[2] >= x0 && box[1] <= y1 && box[3] >= y0;

/** The line begun where the cell's lower side begins, as far as that is left, else at its lowest left point. */
function startLow(outer: Ring, cell: Ring): Ring {
	const [a, b] = [cell[0]!, cell[1]!];
	const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
	const length = hypot(dx, dy);
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

import { cellMark } from '../../core/tiling/marks.ts';
import { paintColours, type FlatColouring } from './flatColours.ts';
import type { FlatPoint, FlatScene } from './flatScene.ts';

/** Where the flat face is on the canvas: pixel = (x - left) * scale across, (top - y) * scale down. */
export interface FlatFrame {
	readonly left: number;
	readonly top: number;
	/** Pixels a mm. */
	readonly scale: number;
	/** Of the canvas, in pixels of the page. */
	readonly width: number;
	readonly height: number;
}

export interface FlatColours {
	readonly ink: string;
	readonly soft: string;
	readonly sheet: string;
	readonly patina: string;
	readonly wash: string;
	readonly rust: string;
	readonly ochre: string;
	readonly rule: string;
}

/** How lengths and figures are worded. */
export type PrintLength = (mm: number) => string;

export interface FlatZone {
	readonly name: string;
	readonly colour: string;
	/** Whether a field belongs to it. */
	readonly has: (row: number, column: number) => boolean;
}

/** Where cells are narrower, in pixels, only every second, third, ... line is drawn. */
const LEAST_PIXELS = 7;
/** Cells of other tilings than a grid that are all drawn, however small. */
const MOST_OUTLINED = 20_000;
/** Room that a mark, and sizes under it, want. */
const MARK_ROOM = { width: 62, height: 15 };
const SIZE_ROOM = { width: 84, height: 34 };
const FONT = '11px "IBM Plex Mono", monospace';

export const toPixel = ({ left, top, scale }: FlatFrame, [x, y]: FlatPoint): FlatPoint => [
	(x - left) * scale,
	(top - y) * scale
];
export const toFlat = ({ left, top, scale }: FlatFrame, [px, py]: FlatPoint): FlatPoint => [
	left + px / scale,
	top - py / scale
];

/** What is to be painted: cells, and how many lines stand for one where they are too near to be told apart. */
export interface FlatSight {
	readonly cells: readonly number[];
	readonly every: number;
}

/** The cells that are seen; of dense ones, unless all are wanted, those along the lines that are drawn, and those that openings have cut. */
export function cellsSeen(scene: FlatScene, frame: FlatFrame, all = false): FlatSight {
	const [x0, y1] = toFlat(frame, [0, 0]);
	const [x1, y0] = toFlat(frame, [frame.width, frame.height]);
	const found = scene.cellsIn([x0, y0, x1, y1]);
	const { row, column, trim, role } = scene.face;
	// Only of a grid do some lines stand for all; other tilings would fall to pieces.
	const every = role && found.length <= MOST_OUTLINED ? 1 : Math.ceil(LEAST_PIXELS / (scene.mean * frame.scale));
	return every <= 1 || all
		? { cells: found, every: Math.max(1, every) }
		: { cells: found.filter((c) => row[c]! % every === 0 || column[c]! % every === 0 || trim?.cut[c] === 1), every };
}

/** The cells' fill and lines; some thousand at a time, so that the page is not held up. */
export function paintCells(
	ctx: CanvasRenderingContext2D,
	scene: FlatScene,
	frame: FlatFrame,
	{ cells, every }: FlatSight,
	colours: FlatColours,
	zones: readonly FlatZone[],
	colouring?: FlatColouring
): void {
	const { cornerStart, trim, row, column } = scene.face;
	const { corners } = scene.flat;
	const trace = (c: number) => {
		for (let k = cornerStart[c]!; k < cornerStart[c + 1]!; k++) {
			const x = (corners[k * 2]! - frame.left) * frame.scale;
			const y = (frame.top - corners[k * 2 + 1]!) * frame.scale;
			if (k === cornerStart[c]) ctx.moveTo(x, y);
			else ctx.lineTo(x, y);
		}
		ctx.closePath();
	};
	const fill = (which: (c: number) => boolean, colour: string, alpha: number) => {
		ctx.beginPath();
		for (const c of cells) if (which(c)) trace(c);
		ctx.globalAlpha = alpha;
		ctx.fillStyle = colour;
		ctx.fill();
		ctx.globalAlpha = 1;
	};
	if (every === 1) fill(() => true, colours.sheet, 1);
	if (colouring?.host === 'cell') paintColours(ctx, scene, frame, cells, colouring);
	else if (trim) {
		fill((c) => trim.cut[c] === 1 && trim.sliver[c] === 0, colours.wash, 1);
		fill((c) => trim.sliver[c] === 1, colours.ochre, 0.55);
	}
	if (!colouring) for (const zone of zones) fill((c) => zone.has(row[c]!, column[c]!), zone.colour, 0.28);
	/** One side of a cell, counted from its first corner. */
	const side = (c: number, k: number) => {
		const [from, to] = [cornerStart[c]!, cornerStart[c + 1]!];
		const [a, b] = [from + k, k + 1 < to - from ? from + k + 1 : from];
		ctx.moveTo((corners[a * 2]! - frame.left) * frame.scale, (frame.top - corners[a * 2 + 1]!) * frame.scale);
		ctx.lineTo((corners[b * 2]! - frame.left) * frame.scale, (frame.top - corners[b * 2 + 1]!) * frame.scale);
	};
	ctx.beginPath();
	for (const c of cells) {
		if (every === 1 || trim?.cut[c] === 1) trace(c);
		else {
			if (row[c]! % every === 0) side(c, 0);
			if (column[c]! % every === 0) side(c, cornerStart[c + 1]! - cornerStart[c]! - 1);
		}
	}
	ctx.strokeStyle = colours.ink;
	ctx.globalAlpha = Math.min(0.75, 0.25 + scene.mean * frame.scale * every * 0.02);
	ctx.lineWidth = 1;
	ctx.stroke();
	ctx.globalAlpha = 1;
	if (colouring && colouring.host !== 'cell') paintColours(ctx, scene, frame, cells, colouring);
}

/** The face itself, for where its cells are too dense to be filled one by one. */
export function paintGround(
	ctx: CanvasRenderingContext2D,
	scene: FlatScene,
	frame: FlatFrame,
	colours: FlatColours
): void {
	const { border } = scene.flat;
	const line: FlatPoint[] = [];
	for (let k = 0; k < border.length; k += 2) line.push(toPixel(frame, [border[k]!, border[k + 1]!]));
	tracePoints(ctx, line, true);
	ctx.fillStyle = colours.sheet;
	ctx.fill();
}

/** Marks, and sizes where there is room for them too. */
export function paintMarks(
	ctx: CanvasRenderingContext2D,
	scene: FlatScene,
	frame: FlatFrame,
	cells: readonly number[],
	colours: FlatColours,
	print: PrintLength,
	coloured: boolean
): void {
	const { trim } = scene.face;
	// On colours of any darkness, text stands on a strip of paper.
	const write = (text: string, x: number, y: number, ink: string) => {
		ctx.lineWidth = 3;
		ctx.strokeStyle = colours.sheet;
		if (coloured) ctx.strokeText(text, x, y);
		ctx.fillStyle = ink;
		ctx.fillText(text, x, y);
	};
	ctx.font = FONT;
	ctx.textAlign = 'center';
	ctx.textBaseline = 'middle';
	for (const c of cells) {
		const [x0, y0, x1, y1] = scene.boxOf(c);
		const [w, h] = [(x1 - x0) * frame.scale, (y1 - y0) * frame.scale];
		if (w < MARK_ROOM.width || h < MARK_ROOM.height) continue;
		const [x, y] = toPixel(frame, scene.middleOf(c));
		const sized = w >= SIZE_ROOM.width && h >= SIZE_ROOM.height;
		write(cellMark(scene.face, c), x, sized ? y - 8 : y, colours.ink);
		if (!sized) continue;
		const ring = scene.ringOf(c);
		const side = (k: number) =>
			Math.hypot(ring[k]![0] - ring[(k + 1) % ring.length]![0], ring[k]![1] - ring[(k + 1) % ring.length]![1]);
		const text = trim?.cut[c] ? 'cut' : `${print(side(0))} × ${print(side(1))}`;
		if (ctx.measureText(text).width > w - 8) continue;
		write(text, x, y + 8, colours.soft);
	}
}

/** The name of each zone on the cell of it that is nearest to its middle. */
export function paintZoneNames(
	ctx: CanvasRenderingContext2D,
	scene: FlatScene,
	frame: FlatFrame,
	cells: readonly number[],
	colours: FlatColours,
	zones: readonly FlatZone[]
): void {
	const { row, column } = scene.face;
	ctx.font = `600 ${FONT}`;
	ctx.textAlign = 'center';
	ctx.textBaseline = 'bottom';
	for (const zone of zones) {
		const middles = cells.filter((c) => zone.has(row[c]!, column[c]!)).map((c) => scene.middleOf(c));
		if (middles.length === 0) continue;
		const [x, y] = [0, 1].map((k) => middles.reduce((sum, p) => sum + p[k]!, 0) / middles.length) as [number, number];
		const at = middles.reduce((best, p) =>
			Math.hypot(p[0] - x, p[1] - y) < Math.hypot(best[0] - x, best[1] - y) ? p : best
		);
		const [px, py] = toPixel(frame, at);
		paintLabel(ctx, zone.name, px, py + 6, colours.ink, colours.sheet);
	}
}

/** One cell lit up. */
export function paintCell(
	ctx: CanvasRenderingContext2D,
	scene: FlatScene,
	frame: FlatFrame,
	cell: number,
	colour: string,
	width: number
): void {
	tracePoints(
		ctx,
		scene.ringOf(cell).map((p) => toPixel(frame, p)),
		true
	);
	ctx.globalAlpha = 0.22;
	ctx.fillStyle = colour;
	ctx.fill();
	ctx.globalAlpha = 1;
	ctx.strokeStyle = colour;
	ctx.lineWidth = width;
	ctx.stroke();
}

/** The numbers of a cell's corners, inside of them. */
export function paintCorners(
	ctx: CanvasRenderingContext2D,
	scene: FlatScene,
	frame: FlatFrame,
	cell: number,
	colours: FlatColours
): void {
	const ring = scene.ringOf(cell).map((p) => toPixel(frame, p));
	const [mx, my] = toPixel(frame, scene.middleOf(cell));
	ctx.font = `600 ${FONT}`;
	ctx.textAlign = 'center';
	ctx.textBaseline = 'middle';
	ctx.fillStyle = colours.rust;
	ring.forEach(([x, y], k) => {
		const far = Math.hypot(mx - x, my - y);
		if (far < 18) return;
		ctx.fillText(String(k + 1), x + ((mx - x) / far) * 12, y + ((my - y) / far) * 12);
	});
}

/** Row numbers along the left, column numbers along the bottom, as far apart as they can be read. */
export function paintNumbers(
	ctx: CanvasRenderingContext2D,
	scene: FlatScene,
	frame: FlatFrame,
	colours: FlatColours
): void {
	const { rows, columns } = scene.numbered;
	const { row } = scene.face;
	ctx.font = FONT;
	ctx.fillStyle = colours.patina;
	ctx.textBaseline = 'middle';
	ctx.textAlign = 'right';
	let last = Infinity;
	for (const [r, c] of rows) {
		const [x0, y0, , y1] = scene.boxOf(c);
		const [x, y] = toPixel(frame, [x0, (y0 + y1) / 2]);
		if (Math.abs(last - y) < 15) continue;
		last = y;
		ctx.fillText(String(r + 1), Math.max(22, x - 6), y);
	}
	ctx.textAlign = 'center';
	last = -Infinity;
	// Over an opening at the border the number stays where its neighbours’ are.
	const lowest = Math.min(...columns.map(([, c]) => row[c]!));
	let base: number | undefined;
	for (const [q, c] of columns) {
		const [x0, y0, x1] = scene.boxOf(c);
		if (row[c] === lowest || base === undefined) base = y0;
		const [x, y] = toPixel(frame, [(x0 + x1) / 2, row[c] === lowest ? y0 : Math.min(base, y0)]);
		if (Math.abs(x - last) < 24) continue;
		last = x;
		ctx.fillText(String(q + 1), x, Math.min(frame.height - 8, y + 10));
	}
}

/** Where levels cut the face. */
export function paintLevels(
	ctx: CanvasRenderingContext2D,
	scene: FlatScene,
	frame: FlatFrame,
	colours: FlatColours,
	print: PrintLength
): void {
	ctx.font = FONT;
	ctx.textAlign = 'right';
	ctx.textBaseline = 'bottom';
	for (const { name, height, segments } of scene.flat.levels) {
		ctx.setLineDash([7, 4]);
		ctx.strokeStyle = colours.patina;
		ctx.lineWidth = 1;
		ctx.beginPath();
		let end: FlatPoint = [-Infinity, 0];
		for (let k = 0; k < segments.length; k += 4) {
			const [a, b] = [
				toPixel(frame, [segments[k]!, segments[k + 1]!]),
				toPixel(frame, [segments[k + 2]!, segments[k + 3]!])
			];
			ctx.moveTo(...a);
			ctx.lineTo(...b);
			for (const p of [a, b]) if (p[0] > end[0]) end = p;
		}
		ctx.stroke();
		ctx.setLineDash([]);
		paintLabel(
			ctx,
			`${name} ${print(height)}`,
			Math.min(frame.width - 4, end[0]),
			end[1] - 2,
			colours.patina,
			colours.sheet
		);
	}
}

/** Text on a strip of paper, so that lines behind it do not cross it. */
function paintLabel(
	ctx: CanvasRenderingContext2D,
	text: string,
	x: number,
	y: number,
	ink: string,
	paper: string
): void {
	const { width } = ctx.measureText(text);
	const left = ctx.textAlign === 'right' ? x - width : ctx.textAlign === 'center' ? x - width / 2 : x;
	ctx.globalAlpha = 0.8;
	ctx.fillStyle = paper;
	ctx.fillRect(left - 2, y - 12, width + 4, 13);
	ctx.globalAlpha = 1;
	ctx.fillStyle = ink;
	ctx.fillText(text, x, y);
}

/** Openings and their frames; the chosen one strongly. */
export function paintOpenings(
	ctx: CanvasRenderingContext2D,
	scene: FlatScene,
	frame: FlatFrame,
	chosen: string | undefined,
	colours: FlatColours
): void {
	ctx.font = FONT;
	ctx.textAlign = 'center';
	ctx.textBaseline = 'bottom';
	for (const { id, name, rings, framed } of scene.flat.openings) {
		rings.forEach((ring, k) => {
			const line = ring.map((p) => toPixel(frame, p));
			ctx.strokeStyle = id === chosen ? colours.rust : colours.patina;
			ctx.lineWidth = id === chosen ? 2.5 : 1.5;
			tracePoints(ctx, line, true);
			ctx.stroke();
			if (framed[k] !== ring) {
				ctx.lineWidth = 1;
				tracePoints(
					ctx,
					framed[k]!.map((p) => toPixel(frame, p)),
					true
				);
				ctx.stroke();
			}
			const [x0, x1] = [Math.min(...line.map((p) => p[0])), Math.max(...line.map((p) => p[0]))];
			const [y0, y1] = [Math.min(...line.map((p) => p[1])), Math.max(...line.map((p) => p[1]))];
			if (ctx.measureText(name).width < x1 - x0 && y1 - y0 > 14) {
				ctx.fillStyle = id === chosen ? colours.rust : colours.patina;
				ctx.fillText(name, (x0 + x1) / 2, (y0 + y1) / 2 + 6);
			}
		});
	}
}

/** A bar of a round length. */
export function paintScale(
	ctx: CanvasRenderingContext2D,
	frame: FlatFrame,
	colours: FlatColours,
	print: PrintLength
): void {
	const wanted = 110 / frame.scale;
	const power = 10 ** Math.floor(Math.log10(wanted));
	const length = [5, 2, 1].map((f) => f * power).find((l) => l <= wanted)!;
	const [x, y] = [frame.width - 14, frame.height - 12];
	ctx.strokeStyle = ctx.fillStyle = colours.ink;
	ctx.lineWidth = 1.5;
	ctx.beginPath();
	ctx.moveTo(x - length * frame.scale, y - 5);
	ctx.lineTo(x - length * frame.scale, y);
	ctx.lineTo(x, y);
	ctx.lineTo(x, y - 5);
	ctx.stroke();
	ctx.font = FONT;
	ctx.textAlign = 'center';
	ctx.textBaseline = 'bottom';
	paintLabel(ctx, print(length), x - (length * frame.scale) / 2, y - 4, colours.ink, colours.sheet);
}

export function tracePoints(ctx: CanvasRenderingContext2D, points: readonly FlatPoint[], closed: boolean): void {
	ctx.beginPath();
	points.forEach((p, k) => (k === 0 ? ctx.moveTo(...p) : ctx.lineTo(...p)));
	if (closed) ctx.closePath();
}

import { paintColours, type FlatColouring } from './flatColours.ts';
import { FONT, toFlat, toPixel, type FlatColours, type FlatFrame, type FlatZone } from './flatFrame.ts';
import type { FlatPoint, FlatScene } from './flatScene.ts';

/** Where cells are narrower, in pixels, only every second, third, ... line is drawn. */
const LEAST_PIXELS = 7;
/** Cells of other tilings than a grid that are all drawn, however small. */
const MOST_OUTLINED = 20_000;

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
	for (const { id, name, rings, framed, around } of scene.flat.openings) {
		rings.forEach((ring, k) => {
			const line = ring.map((p) => toPixel(frame, p));
			ctx.strokeStyle = id === chosen ? colours.rust : colours.patina;
			ctx.lineWidth = id === chosen ? 2.5 : 1.5;
			tracePoints(ctx, line, true);
			ctx.stroke();
			// What goes around the face overlaps itself with its frame.
			if (framed[k] !== ring && !around?.[k]) {
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

/** Points that can be dragged, or bear numbers, and the line through them. */
export interface PointLine {
	readonly points: readonly FlatPoint[];
	readonly joined: boolean;
	readonly closed: boolean;
	readonly numberedFrom?: number;
}

/** Numbers stand no nearer to each other than this, pixels. */
const NUMBER_PIXELS = 16;

export function paintPoints(
	ctx: CanvasRenderingContext2D,
	frame: FlatFrame,
	{ points, joined, closed, numberedFrom }: PointLine,
	colours: FlatColours
): void {
	const at = points.map((p) => toPixel(frame, p));
	ctx.strokeStyle = colours.rust;
	ctx.lineWidth = 1.5;
	if (joined) {
		tracePoints(ctx, at, closed);
		ctx.stroke();
	}
	ctx.fillStyle = numberedFrom === undefined ? colours.sheet : colours.rust;
	for (const [x, y] of at) {
		ctx.beginPath();
		ctx.arc(x, y, numberedFrom === undefined ? 5 : 2, 0, 2 * Math.PI);
		ctx.fill();
		if (numberedFrom === undefined) ctx.stroke();
	}
	if (numberedFrom === undefined) return;
	ctx.font = FONT;
	ctx.textAlign = 'left';
	ctx.textBaseline = 'bottom';
	let last: readonly [number, number] | undefined;
	at.forEach(([x, y], k) => {
		if (last && Math.hypot(x - last[0], y - last[1]) < NUMBER_PIXELS) return;
		ctx.fillText(String(numberedFrom + k), x + 3, y - 2);
		last = [x, y];
	});
}

export function tracePoints(ctx: CanvasRenderingContext2D, points: readonly FlatPoint[], closed: boolean): void {
	ctx.beginPath();
	points.forEach((p, k) => (k === 0 ? ctx.moveTo(...p) : ctx.lineTo(...p)));
	if (closed) ctx.closePath();
}

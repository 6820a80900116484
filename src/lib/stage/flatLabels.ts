import { cellMark } from '../../core/tiling/marks.ts';
import { FONT, toPixel, type FlatColours, type FlatFrame, type FlatZone, type PrintLength } from './flatFrame.ts';
import type { FlatPoint, FlatScene } from './flatScene.ts';

/** Room that a mark, and sizes under it, want. */
const MARK_ROOM = { width: 62, height: 15 };

const SIZE_ROOM = { width: 84, height: 34 };

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

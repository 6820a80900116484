import { toFlat, toPixel, type FlatColours, type FlatFrame, type FlatZone, type PrintLength } from './flatFrame.ts';
import { paintCorners, paintLevels, paintMarks, paintNumbers, paintScale, paintZoneNames } from './flatLabels.ts';
import {
	cellsSeen,
	paintCell,
	paintCells,
	paintGround,
	paintOpenings,
	paintPoints,
	type PointLine,
	tracePoints
} from './flatPainter.ts';
import { hostCount } from '../../core/view/faceView.ts';
import type { FlatColouring } from './flatColours.ts';
import type { FlatPoint, FlatScene } from './flatScene.ts';

/** What the canvas shows over the cells. */
export interface FlatMarks {
	readonly selection: readonly number[];
	readonly hovered: number | undefined;
	readonly zones: readonly FlatZone[];
	/** Hosts in the colours of a reading. */
	readonly colouring: FlatColouring | undefined;
	readonly opening: string | undefined;
	/** A line being drawn, in mm. */
	readonly line: readonly FlatPoint[];
	readonly lineClosed: boolean;
	/** Points that can be dragged, and the lines through them. */
	readonly points: readonly PointLine[];
}

/** Cells painted in one go; the next ones wait for the next frame. */
const SLICE = 6000;
/** Rest after a move before the cells are painted anew. */
const SETTLE_MS = 90;
/** Room around the face when it is fitted, pixels. */
const MARGIN = { sides: 34, top: 46, bottom: 46 };
const NOTHING: FlatMarks = {
	selection: [],
	hovered: undefined,
	zones: [],
	colouring: undefined,
	opening: undefined,
	line: [],
	lineClosed: false,
	points: []
};

/**
 * Draws a face laid flat. The cells are painted once onto a picture of their own, a slice a frame; panning
 * and zooming move that picture until it is painted anew. Draws only when something has changed.
 */
export class FlatCanvas {
	private scene: FlatScene | undefined;
	private marks = NOTHING;
	private frame: FlatFrame = { left: 0, top: 0, scale: 0.01, width: 1, height: 1 };
	private readonly ctx: CanvasRenderingContext2D;
	/** The cells as they were painted, and the frame they were painted for. */
	private picture: { readonly canvas: HTMLCanvasElement; readonly frame: FlatFrame } | undefined;
	private painting = 0;
	private held = false;
	private settling: ReturnType<typeof setTimeout> | undefined;
	private drawing = 0;
	private readonly observer: ResizeObserver;
	/** The face that the picture was fitted to. */
	private fitted = '';

	private readonly canvas: HTMLCanvasElement;
	private readonly colours: () => FlatColours;
	private readonly print: PrintLength;

	constructor(canvas: HTMLCanvasElement, colours: () => FlatColours, print: PrintLength) {
		this.canvas = canvas;
		this.colours = colours;
		this.print = print;
		this.ctx = canvas.getContext('2d')!;
		this.observer = new ResizeObserver(() => this.resize());
		this.observer.observe(canvas.parentElement!);
		this.resize();
	}

	dispose(): void {
		this.observer.disconnect();
		clearTimeout(this.settling);
		cancelAnimationFrame(this.painting);
		cancelAnimationFrame(this.drawing);
	}

	setScene(scene: FlatScene | undefined): void {
		this.scene = scene;
		if (scene && scene.flat.key !== this.fitted) {
			this.fit();
			this.fitted = scene.flat.key;
		}
		this.paint();
	}

	setMarks(marks: FlatMarks): void {
		const repaint = marks.zones !== this.marks.zones || marks.colouring !== this.marks.colouring;
		this.marks = marks;
		if (repaint) this.paint();
		this.draw();
	}

	at(px: number, py: number): FlatPoint {
		return toFlat(this.frame, [px, py]);
	}

	pixelOf(point: FlatPoint): FlatPoint {
		return toPixel(this.frame, point);
	}

	/** mm a pixel. */
	get grain(): number {
		return 1 / this.frame.scale;
	}

	/** Brings the whole face, or some of its cells, into the picture. */
	fit(cells: readonly number[] = []): void {
		if (!this.scene) return;
		const boxes = cells.length ? cells.map((c) => this.scene!.boxOf(c)) : [this.scene.bounds];
		const [x0, y0] = [Math.min(...boxes.map((b) => b[0])), Math.min(...boxes.map((b) => b[1]))];
		const [x1, y1] = [Math.max(...boxes.map((b) => b[2])), Math.max(...boxes.map((b) => b[3]))];
		const { width, height } = this.frame;
		const scale = Math.min(
			(width - 2 * MARGIN.sides) / Math.max(1, x1 - x0),
			(height - MARGIN.top - MARGIN.bottom) / Math.max(1, y1 - y0)
		);
		this.move({ scale, left: (x0 + x1) / 2 - width / scale / 2, top: (y0 + y1) / 2 + height / scale / 2 });
	}

	/** Brings a cell into the picture when it is out of it. */
	reveal(cell: number): void {
		if (!this.scene) return;
		const middle = this.scene.middleOf(cell);
		const [px, py] = toPixel(this.frame, middle);
		const { width, height, scale } = this.frame;
		if (px > 0 && py > 0 && px < width && py < height) return;
		this.move({ left: middle[0] - width / scale / 2, top: middle[1] + height / scale / 2 });
	}

	/** Moves by pixels. */
	pan(dx: number, dy: number): void {
		const { left, top, scale } = this.frame;
		this.move({ left: left - dx / scale, top: top + dy / scale });
	}

	/** Zooms about a pixel. */
	zoom(by: number, px = this.frame.width / 2, py = this.frame.height / 2): void {
		const [x, y] = toFlat(this.frame, [px, py]);
		const scale = Math.max(1e-5, Math.min(10, this.frame.scale * by));
		this.move({ scale, left: x - px / scale, top: y + py / scale });
	}

	private move(to: Partial<FlatFrame>): void {
		this.frame = { ...this.frame, ...to };
		this.draw();
		// While it goes on moving, the picture that there is will do.
		clearTimeout(this.settling);
		if (!this.held) this.settling = setTimeout(() => this.paint(), this.picture ? SETTLE_MS : 0);
	}

	/** While the picture is held by the pointer it is only moved; it is painted anew when let go. */
	hold(held: boolean): void {
		this.held = held;
		if (held) cancelAnimationFrame(this.painting);
		else this.paint();
	}

	private resize(): void {
		const { clientWidth: width, clientHeight: height } = this.canvas.parentElement!;
		if (!width || !height) return;
		const ratio = Math.min(2, globalThis.devicePixelRatio);
		this.canvas.width = Math.round(width * ratio);
		this.canvas.height = Math.round(height * ratio);
		this.ctx.setTransform(ratio, 0, 0, ratio, 0, 0);
		this.frame = { ...this.frame, width, height };
		if (this.scene) this.fit();
		this.draw();
	}

	/** Paints the cells anew, a slice a frame. */
	private paint(): void {
		cancelAnimationFrame(this.painting);
		const { scene, frame } = this;
		if (!scene) {
			this.picture = undefined;
			return this.draw();
		}
		const canvas = document.createElement('canvas');
		canvas.width = this.canvas.width;
		canvas.height = this.canvas.height;
		const ctx = canvas.getContext('2d')!;
		ctx.setTransform(this.ctx.getTransform());
		// While a new model is on its way, colours of the one before do not fit.
		const colouring =
			this.marks.colouring?.classes.length === hostCount(scene.face, this.marks.colouring?.host ?? 'cell')
				? this.marks.colouring
				: undefined;
		const { cells, every } = cellsSeen(scene, frame, colouring !== undefined);
		if (every > 1) paintGround(ctx, scene, frame, this.colours());
		let done = 0;
		const slice = () => {
			const part = cells.slice(done, done + SLICE);
			paintCells(ctx, scene, frame, { cells: part, every }, this.colours(), this.marks.zones, colouring);
			done += part.length;
			if (done < cells.length) return void (this.painting = requestAnimationFrame(slice));
			paintMarks(
				ctx,
				scene,
				frame,
				cells.length < SLICE ? cells : [],
				this.colours(),
				this.print,
				colouring !== undefined
			);
			paintZoneNames(ctx, scene, frame, cells, this.colours(), this.marks.zones);
			this.picture = { canvas, frame };
			this.draw();
		};
		this.painting = requestAnimationFrame(slice);
	}

	private draw(): void {
		if (this.drawing) return;
		this.drawing = requestAnimationFrame(() => {
			this.drawing = 0;
			this.drawNow();
		});
	}

	private drawNow(): void {
		const { ctx, frame, scene, marks } = this;
		const colours = this.colours();
		ctx.clearRect(0, 0, frame.width, frame.height);
		if (!scene) return;
		if (this.picture) {
			const { canvas, frame: old } = this.picture;
			const by = frame.scale / old.scale;
			const [x, y] = toPixel(frame, [old.left, old.top]);
			ctx.drawImage(canvas, x, y, old.width * by, old.height * by);
		}
		const { border } = scene.flat;
		const line: FlatPoint[] = [];
		for (let k = 0; k < border.length; k += 2) line.push(toPixel(frame, [border[k]!, border[k + 1]!]));
		tracePoints(ctx, line, true);
		ctx.strokeStyle = colours.ink;
		ctx.lineWidth = 1.5;
		ctx.stroke();
		paintLevels(ctx, scene, frame, colours, this.print);
		paintOpenings(ctx, scene, frame, marks.opening, colours);
		for (const c of marks.selection) if (c < scene.face.cellCount) paintCell(ctx, scene, frame, c, colours.rust, 2);
		if (marks.selection.length === 1 && marks.selection[0]! < scene.face.cellCount)
			paintCorners(ctx, scene, frame, marks.selection[0]!, colours);
		if (marks.hovered !== undefined && marks.hovered < scene.face.cellCount)
			paintCell(ctx, scene, frame, marks.hovered, colours.patina, 1.5);
		paintNumbers(ctx, scene, frame, colours);
		paintScale(ctx, frame, colours, this.print);
		for (const line of marks.points) paintPoints(ctx, frame, line, colours);
		if (marks.line.length) {
			tracePoints(
				ctx,
				marks.line.map((p) => toPixel(frame, p)),
				marks.lineClosed
			);
			ctx.strokeStyle = colours.rust;
			ctx.lineWidth = 1.5;
			ctx.setLineDash([5, 3]);
			ctx.stroke();
			ctx.setLineDash([]);
		}
		this.canvas.dataset.drawn = String(Number(this.canvas.dataset.drawn ?? 0) + 1);
		this.canvas.dataset.frame = [frame.left, frame.top, frame.scale].join(' ');
	}
}

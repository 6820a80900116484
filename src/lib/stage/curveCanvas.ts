import Konva from 'konva';

/** What the canvas shows; lengths in mm, y upwards. */
export interface CurvePicture {
	readonly points: readonly { readonly x: number; readonly y: number; readonly smooth: boolean }[];
	/** Points along the line, x and y in turn; nothing while it is unsound. */
	readonly outline: readonly number[] | undefined;
	/** Middles of the stretches, each between its point and the next. */
	readonly middles: readonly { readonly x: number; readonly y: number }[];
	readonly selected: number | undefined;
	readonly closed: boolean;
	/** An axis at x = 0 that the line is turned about. */
	readonly axis: boolean;
}

export interface CurveColours {
	readonly line: string;
	readonly fill: string;
	readonly point: string;
	readonly rule: string;
	readonly paper: string;
	readonly text: string;
}

const LEAST_GRID_PIXELS = 22;
const POINT_RADIUS = 5.5;
/** Name of the shapes that stand for the line's points. */
const POINT = 'point';
/** A pointer that moved less than this has clicked. */
const DRAG_PIXELS = 3;

/** A drawn line on a grid, with points to drag. Draws when it is told to. */
export class CurveCanvas {
	onselect: ((k: number | undefined) => void) | undefined;
	onmove: ((k: number, x: number, y: number, done: boolean) => void) | undefined;
	onarc: ((k: number, x: number, y: number, done: boolean) => void) | undefined;
	/** The line was clicked after point `k`, at (x, y). */
	oninsert: ((k: number, x: number, y: number) => void) | undefined;
	ongrid: ((step: number) => void) | undefined;

	private readonly stage: Konva.Stage;
	private readonly ground = new Konva.Layer({ listening: false });
	private readonly layer = new Konva.Layer();
	private readonly observer: ResizeObserver;
	private picture: CurvePicture | undefined;
	/** Pixels a mm, and where x = 0, y = 0 stands. */
	private scale = 0.02;
	private originX = 0;
	private originY = 0;
	private fitted = false;

	constructor(
		private readonly container: HTMLDivElement,
		private readonly colours: CurveColours
	) {
		this.stage = new Konva.Stage({ container, width: container.clientWidth, height: container.clientHeight });
		this.stage.add(this.ground, this.layer);
		this.stage.on('wheel', (event) => this.zoom(event.evt));
		this.panByDragging();
		container.addEventListener('dblclick', this.ondoubleclick);
		this.observer = new ResizeObserver(() => this.resize());
		this.observer.observe(container);
	}

	show(picture: CurvePicture): void {
		this.picture = picture;
		if (!this.fitted) this.fit();
		else this.draw();
	}

	/** Brings the whole line into the picture. */
	fit(): void {
		const { picture, stage } = this;
		if (!picture || stage.width() === 0) return;
		const xs = [...picture.points.map((p) => p.x), ...(picture.axis ? [0] : [])];
		const ys = picture.points.map((p) => p.y);
		const [x0, x1, y0, y1] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
		this.scale = Math.min((stage.width() - 90) / (x1 - x0 || 1), (stage.height() - 90) / (y1 - y0 || 1));
		this.originX = stage.width() / 2 - ((x0 + x1) / 2) * this.scale;
		this.originY = stage.height() / 2 + ((y0 + y1) / 2) * this.scale;
		this.fitted = true;
		this.draw();
	}

	dispose(): void {
		this.observer.disconnect();
		this.container.removeEventListener('dblclick', this.ondoubleclick);
		this.stage.destroy();
	}

	private pixelOf(x: number, y: number): { x: number; y: number } {
		return { x: this.originX + x * this.scale, y: this.originY - y * this.scale };
	}

	private placeOf(px: number, py: number): { x: number; y: number } {
		return { x: (px - this.originX) / this.scale, y: (this.originY - py) / this.scale };
	}

	private draw(): void {
		const { picture } = this;
		if (!picture) return;
		this.drawGrid(picture.axis);
		this.layer.destroyChildren();
		this.drawLine(picture);
		picture.middles.forEach((m, k) => this.layer.add(this.middleShape(m, k)));
		picture.points.forEach((p, k) => this.layer.add(this.pointShape(p, k, k === picture.selected)));
		// At once, since what can be hit is drawn too.
		this.layer.draw();
		// Where the points are, for whoever drives the page from outside.
		this.container.dataset.points = picture.points
			.map((p) => this.pixelOf(p.x, p.y))
			.map(({ x, y }) => `${Math.round(x)},${Math.round(y)}`)
			.join(' ');
	}

	private drawLine({ outline, points, closed }: CurvePicture): void {
		const line = outline ?? points.flatMap((p) => [p.x, p.y]);
		const pixels = line.map((v, k) => (k % 2 === 0 ? this.originX + v * this.scale : this.originY - v * this.scale));
		const shape = new Konva.Line({
			points: pixels,
			closed,
			stroke: outline ? this.colours.line : this.colours.point,
			strokeWidth: 2,
			dash: outline ? [] : [6, 4],
			hitStrokeWidth: 12,
			...(closed && outline ? { fill: this.colours.fill, opacity: 0.85 } : {}),
			// Only the line itself is to be hit, not what it holds.
			fillEnabled: closed,
			hitFunc: (context, self) => {
				context.beginPath();
				for (let k = 0; k < pixels.length; k += 2) context.lineTo(pixels[k]!, pixels[k + 1]!);
				if (closed) context.closePath();
				context.strokeShape(self);
			}
		});
		this.layer.add(shape);
	}

	/** The browser's own double click keeps to the user's pace, also while the page is busy. */
	private readonly ondoubleclick = (event: MouseEvent) => {
		const box = this.container.getBoundingClientRect();
		const at = { x: event.clientX - box.left, y: event.clientY - box.top };
		const hit = this.layer.getIntersection(at);
		if (hit && hit.name() !== POINT) this.insertAt(at.x, at.y);
	};

	/** A new point on the stretch that is nearest. */
	private insertAt(px: number, py: number): void {
		const { points, closed } = this.picture!;
		const here = this.placeOf(px, py);
		const count = closed ? points.length : points.length - 1;
		const far = (k: number) => {
			const [a, b] = [points[k]!, points[(k + 1) % points.length]!];
			const t = ((here.x - a.x) * (b.x - a.x) + (here.y - a.y) * (b.y - a.y)) / ((b.x - a.x) ** 2 + (b.y - a.y) ** 2);
			const s = Math.max(0, Math.min(1, t));
			return Math.hypot(a.x + (b.x - a.x) * s - here.x, a.y + (b.y - a.y) * s - here.y);
		};
		const nearest = Array.from({ length: count }, (_, k) => k).sort((a, b) => far(a) - far(b))[0]!;
		this.oninsert?.(nearest, here.x, here.y);
	}

	private pointShape(p: CurvePicture['points'][number], k: number, selected: boolean): Konva.Shape {
		const { x, y } = this.pixelOf(p.x, p.y);
		const look = {
			name: POINT,
			x,
			y,
			fill: selected ? this.colours.point : this.colours.paper,
			stroke: this.colours.point,
			strokeWidth: 2,
			hitStrokeWidth: 10
		};
		// Round where the line is smooth, square at a corner.
		const shape: Konva.Shape = p.smooth
			? new Konva.Circle({ ...look, radius: POINT_RADIUS })
			: new Konva.Rect({ ...look, width: 10, height: 10, offsetX: 5, offsetY: 5 });
		shape.on('mousedown touchstart', () => this.onselect?.(k));
		this.follow(shape, (at, done) => this.onmove?.(k, at.x, at.y, done));
		return shape;
	}

	private middleShape(m: { x: number; y: number }, k: number): Konva.Shape {
		const shape = new Konva.RegularPolygon({
			...this.pixelOf(m.x, m.y),
			sides: 4,
			radius: 4.5,
			fill: this.colours.paper,
			stroke: this.colours.line,
			strokeWidth: 1,
			hitStrokeWidth: 8
		});
		this.follow(shape, (at, done) => this.onarc?.(k, at.x, at.y, done));
		return shape;
	}

	/**
	 * Tells where a shape is dragged to. The shape itself is drawn anew meanwhile, so that the pointer is
	 * followed from the window.
	 */
	private follow(shape: Konva.Shape, tell: (at: { x: number; y: number }, done: boolean) => void): void {
		shape.on('mousedown touchstart', () => {
			const start = this.stage.getPointerPosition();
			let moved = false;
			const place = (event: PointerEvent) => {
				const box = this.container.getBoundingClientRect();
				const [x, y] = [event.clientX - box.left, event.clientY - box.top];
				moved ||= !start || Math.hypot(x - start.x, y - start.y) > DRAG_PIXELS;
				return this.placeOf(x, y);
			};
			const onmove = (event: PointerEvent) => {
				const at = place(event);
				if (moved) tell(at, false);
			};
			const onup = (event: PointerEvent) => {
				removeEventListener('pointermove', onmove);
				const at = place(event);
				if (moved) tell(at, true);
			};
			addEventListener('pointermove', onmove);
			addEventListener('pointerup', onup, { once: true });
		});
		shape.on('mouseenter', () => (this.container.style.cursor = 'grab'));
		shape.on('mouseleave', () => (this.container.style.cursor = ''));
	}

	private drawGrid(axis: boolean): void {
		const { stage, colours } = this;
		const step = gridStep(LEAST_GRID_PIXELS / this.scale);
		this.ongrid?.(step);
		this.ground.destroyChildren();
		const [low, high] = [this.placeOf(0, stage.height()), this.placeOf(stage.width(), 0)];
		const line = (points: number[], strong: boolean) =>
			this.ground.add(new Konva.Line({ points, stroke: colours.rule, strokeWidth: strong ? 1.6 : 0.6 }));
		const label = (text: string, x: number, y: number) =>
			this.ground.add(new Konva.Text({ x, y, text, fontSize: 11, fontFamily: 'IBM Plex Mono', fill: colours.text }));
		for (let i = Math.ceil(low.x / step); i * step <= high.x; i++) {
			const { x } = this.pixelOf(i * step, 0);
			line([x, 0, x, stage.height()], i % 5 === 0);
			if (i % 5 === 0) label(metres(i * step), x + 3, stage.height() - 15);
		}
		for (let j = Math.ceil(low.y / step); j * step <= high.y; j++) {
			const { y } = this.pixelOf(0, j * step);
			line([0, y, stage.width(), y], j % 5 === 0);
			if (j % 5 === 0) label(metres(j * step), 3, y + 2);
		}
		const { x } = this.pixelOf(0, 0);
		if (axis)
			this.ground.add(
				new Konva.Line({
					points: [x, 0, x, stage.height()],
					stroke: colours.text,
					strokeWidth: 1.2,
					dash: [12, 4, 2, 4]
				})
			);
		this.ground.batchDraw();
	}

	private panByDragging(): void {
		let last: { x: number; y: number } | undefined;
		let moved = false;
		this.stage.on('mousedown touchstart', (event) => {
			moved = false;
			if (event.target === this.stage) last = this.stage.getPointerPosition() ?? undefined;
		});
		this.stage.on('mousemove touchmove', () => {
			const at = this.stage.getPointerPosition();
			if (!last || !at) return;
			moved = true;
			this.originX += at.x - last.x;
			this.originY += at.y - last.y;
			last = { ...at };
			this.draw();
		});
		// A press on the empty ground that went nowhere lets go of the point.
		this.stage.on('mouseup touchend mouseleave', () => {
			if (last && !moved) this.onselect?.(undefined);
			last = undefined;
		});
	}

	private zoom(event: WheelEvent): void {
		event.preventDefault();
		const at = this.stage.getPointerPosition();
		if (!at) return;
		const by = Math.exp(-event.deltaY / 600);
		this.originX = at.x + (this.originX - at.x) * by;
		this.originY = at.y + (this.originY - at.y) * by;
		this.scale *= by;
		this.draw();
	}

	private resize(): void {
		const { clientWidth: width, clientHeight: height } = this.container;
		if (width === this.stage.width() && height === this.stage.height()) return;
		this.stage.size({ width, height });
		this.fit();
	}
}

/** The smallest of 1, 2, 5, 10, ... that is not below. */
function gridStep(least: number): number {
	const power = 10 ** Math.floor(Math.log10(least));
	return [1, 2, 5, 10].map((f) => f * power).find((s) => s >= least)!;
}

const metres = (mm: number) => `${Number((mm / 1000).toFixed(3))} m`;

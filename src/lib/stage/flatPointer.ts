import { CLICK_PIXELS } from './click.ts';
import type { FlatCanvas } from './flatCanvas.ts';
import { within, type FlatPoint, type FlatScene } from './flatScene.ts';

/** What the pointer does: choose or paint cells, or draw a line of a kind. */
export type FlatAction =
	| { readonly kind: 'choose' }
	| { readonly kind: 'lasso' }
	| { readonly kind: 'paint' }
	/** From one point to another: a rectangle by its corners, a circle by its centre. */
	| { readonly kind: 'drag'; readonly shape: 'rectangle' | 'circle' }
	/** Point after point. */
	/** A line that ends by itself after `most` points. */
	| { readonly kind: 'points'; readonly closed: boolean; readonly most?: number };

/** What a pointer tells of; lengths in mm on the flat face. */
export interface FlatEvents {
	action(): FlatAction;
	scene(): FlatScene | undefined;
	chose(cells: readonly number[], add: boolean): void;
	hovered(cell: number | undefined): void;
	/** Cells painted over since the last call; the last call of a stroke says that it is done. */
	painted(cells: readonly number[], done: boolean): void;
	/** A line under way, to be shown. */
	drawing(points: readonly FlatPoint[], closed: boolean): void;
	drawn(points: readonly FlatPoint[]): void;
	/** The opening under the pointer, taken hold of. */
	grabbed(opening: string): boolean;
	moved(opening: string, way: FlatPoint, done: boolean): void;
	/** The point within a distance of the pointer that can be dragged. */
	pointAt(at: FlatPoint, within: number): number | undefined;
	pointMoved(point: number, at: FlatPoint, done: boolean): void;
}

/** Drawn points go to a cell's corner within so many pixels. */
const SNAP_PIXELS = 9;
const CIRCLE_POINTS = 48;
/** Steps in which a stroke is followed. */
const STROKE_PIXELS = 3;

type Held =
	| { readonly kind: 'pan'; x: number; y: number }
	| { readonly kind: 'box'; readonly from: FlatPoint; readonly x: number; readonly y: number }
	| { readonly kind: 'drag'; readonly from: FlatPoint; readonly x: number; readonly y: number }
	| { readonly kind: 'lasso'; readonly points: FlatPoint[] }
	| { readonly kind: 'paint'; readonly seen: Set<number>; last: FlatPoint }
	| { readonly kind: 'move'; readonly opening: string; readonly from: FlatPoint }
	| { readonly kind: 'point'; readonly point: number };

/** Turns pointer and keys over the flat face into what they mean. */
export class FlatPointer {
	private held: Held | undefined;
	private points: FlatPoint[] = [];
	private readonly release: (() => void)[] = [];

	private readonly element: HTMLCanvasElement;
	private readonly canvas: FlatCanvas;
	private readonly events: FlatEvents;

	constructor(element: HTMLCanvasElement, canvas: FlatCanvas, events: FlatEvents) {
		this.element = element;
		this.canvas = canvas;
		this.events = events;
		this.on('pointerdown', (e) => this.down(e));
		this.on('pointermove', (e) => this.move(e));
		this.on('pointerup', (e) => this.up(e));
		this.on('pointercancel', () => this.cancel());
		this.on('pointerleave', () => this.events.hovered(undefined));
		this.on('dblclick', () => this.finish());
		this.on('contextmenu', (e) => e.preventDefault());
		this.on('wheel', (e) => {
			e.preventDefault();
			this.canvas.zoom(Math.exp(-e.deltaY * 0.0015), e.offsetX, e.offsetY);
		});
		this.on('keydown', (e) => this.key(e));
	}

	dispose(): void {
		this.release.forEach((r) => r());
	}

	/** Drops what is being drawn. */
	cancel(): void {
		if (this.held?.kind === 'pan') this.canvas.hold(false);
		this.held = undefined;
		this.points = [];
		this.events.drawing([], false);
	}

	private on<K extends keyof HTMLElementEventMap>(type: K, listener: (event: HTMLElementEventMap[K]) => void): void {
		this.element.addEventListener(type, listener, { passive: false });
		this.release.push(() => this.element.removeEventListener(type, listener));
	}

	private down(e: PointerEvent): void {
		const at = this.canvas.at(e.offsetX, e.offsetY);
		this.element.setPointerCapture(e.pointerId);
		if (e.button !== 0) {
			this.held = { kind: 'pan', x: e.offsetX, y: e.offsetY };
			return this.canvas.hold(true);
		}
		const action = this.events.action();
		const point = action.kind === 'choose' ? this.events.pointAt(at, SNAP_PIXELS * this.canvas.grain) : undefined;
		const opening = action.kind === 'choose' ? this.openingAt(at) : undefined;
		if (point !== undefined) this.held = { kind: 'point', point };
		else if (opening !== undefined && this.events.grabbed(opening)) this.held = { kind: 'move', opening, from: at };
		else if (action.kind === 'choose') this.held = { kind: 'box', from: at, x: e.offsetX, y: e.offsetY };
		else if (action.kind === 'lasso') this.held = { kind: 'lasso', points: [at] };
		else if (action.kind === 'drag')
			this.held = { kind: 'drag', from: this.snapped(at, e), x: e.offsetX, y: e.offsetY };
		else if (action.kind === 'paint') {
			this.held = { kind: 'paint', seen: new Set(), last: at };
			this.paintAt(at);
		} else if (e.detail < 2) this.points = [...this.points, this.snapped(at, e)];
		if (action.kind === 'points') {
			this.events.drawing(this.points, action.closed);
			if (this.points.length === action.most) this.finish();
		}
	}

	private move(e: PointerEvent): void {
		const at = this.canvas.at(e.offsetX, e.offsetY);
		const { held } = this;
		if (!held) {
			this.events.hovered(this.events.scene()?.cellAt(at));
			const action = this.events.action();
			if (action.kind === 'points' && this.points.length)
				this.events.drawing([...this.points, this.snapped(at, e)], action.closed);
			return;
		}
		if (held.kind === 'pan') {
			this.canvas.pan(e.offsetX - held.x, e.offsetY - held.y);
			[held.x, held.y] = [e.offsetX, e.offsetY];
		} else if (held.kind === 'box') this.events.drawing(rectangle(held.from, at), true);
		else if (held.kind === 'drag') this.events.drawing(this.dragLine(held.from, this.snapped(at, e)), true);
		else if (held.kind === 'lasso') {
			held.points.push(at);
			this.events.drawing(held.points.slice(), true);
		} else if (held.kind === 'paint') this.paintAt(at);
		else if (held.kind === 'point') this.events.pointMoved(held.point, at, false);
		else if (held.kind === 'move') this.events.moved(held.opening, [at[0] - held.from[0], at[1] - held.from[1]], false);
	}

	private up(e: PointerEvent): void {
		const { held } = this;
		this.held = undefined;
		if (held?.kind === 'pan') this.canvas.hold(false);
		if (!held || held.kind === 'pan') return;
		const at = this.canvas.at(e.offsetX, e.offsetY);
		const add = e.shiftKey || e.ctrlKey || e.metaKey;
		if (held.kind === 'point') return this.events.pointMoved(held.point, at, true);
		if (held.kind === 'move')
			return this.events.moved(held.opening, [at[0] - held.from[0], at[1] - held.from[1]], true);
		if (held.kind === 'paint') return this.events.painted([], true);
		this.events.drawing([], false);
		const still = held.kind !== 'lasso' && Math.hypot(e.offsetX - held.x, e.offsetY - held.y) < CLICK_PIXELS;
		if (held.kind === 'drag') {
			if (!still) this.events.drawn([held.from, this.snapped(at, e)]);
		} else if (still) {
			const cell = this.events.scene()?.cellAt(at);
			this.events.chose(cell === undefined ? [] : [cell], add);
		} else this.events.chose(this.inside(held.kind === 'lasso' ? held.points : rectangle(held.from, at)), add);
	}

	private key(e: KeyboardEvent): void {
		const step = 40;
		const action: Record<string, () => void> = {
			ArrowLeft: () => this.canvas.pan(step, 0),
			ArrowRight: () => this.canvas.pan(-step, 0),
			ArrowUp: () => this.canvas.pan(0, step),
			ArrowDown: () => this.canvas.pan(0, -step),
			'+': () => this.canvas.zoom(1.2),
			'-': () => this.canvas.zoom(1 / 1.2),
			...(this.points.length
				? { Enter: () => this.finish(), Escape: () => this.cancel(), Backspace: () => this.stepBack() }
				: {})
		};
		if (!action[e.key] || e.ctrlKey || e.metaKey) return;
		e.preventDefault();
		e.stopPropagation();
		action[e.key]!();
	}

	private stepBack(): void {
		this.points = this.points.slice(0, -1);
		this.events.drawing(this.points, true);
	}

	/** Ends a line of points. */
	private finish(): void {
		const action = this.events.action();
		const { points } = this;
		if (action.kind !== 'points' || points.length < Math.min(action.most ?? Infinity, action.closed ? 3 : 2)) return;
		this.cancel();
		this.events.drawn(points);
	}

	/** Paints the cells on the way from where the stroke was, which a quick pointer jumps over. */
	private paintAt(at: FlatPoint): void {
		const { held } = this;
		const scene = this.events.scene();
		if (held?.kind !== 'paint' || !scene) return;
		const [from, step] = [held.last, STROKE_PIXELS * this.canvas.grain];
		const steps = Math.max(1, Math.ceil(Math.hypot(at[0] - from[0], at[1] - from[1]) / step));
		const cells: number[] = [];
		for (let k = 1; k <= steps; k++) {
			const cell = scene.cellAt([from[0] + ((at[0] - from[0]) * k) / steps, from[1] + ((at[1] - from[1]) * k) / steps]);
			if (cell === undefined || held.seen.has(cell)) continue;
			held.seen.add(cell);
			cells.push(cell);
		}
		held.last = at;
		if (cells.length) this.events.painted(cells, false);
	}

	/** Onto the nearest corner of a cell, unless Alt is held. */
	private snapped(at: FlatPoint, e: PointerEvent): FlatPoint {
		return e.altKey ? at : (this.events.scene()?.cornerNear(at, SNAP_PIXELS * this.canvas.grain) ?? at);
	}

	private dragLine(from: FlatPoint, to: FlatPoint): FlatPoint[] {
		const action = this.events.action();
		if (action.kind !== 'drag' || action.shape === 'rectangle') return rectangle(from, to);
		const radius = Math.hypot(to[0] - from[0], to[1] - from[1]);
		return Array.from({ length: CIRCLE_POINTS }, (_, k) => {
			const angle = (2 * Math.PI * k) / CIRCLE_POINTS;
			return [from[0] + radius * Math.cos(angle), from[1] + radius * Math.sin(angle)];
		});
	}

	/** Cells whose middle lies within a line. */
	private inside(line: readonly FlatPoint[]): number[] {
		const scene = this.events.scene();
		if (!scene) return [];
		const [x0, y0] = [Math.min(...line.map((p) => p[0])), Math.min(...line.map((p) => p[1]))];
		const [x1, y1] = [Math.max(...line.map((p) => p[0])), Math.max(...line.map((p) => p[1]))];
		return scene
			.cellsIn([x0, y0, x1, y1])
			.filter((c) => within(line, scene.middleOf(c)))
			.sort((a, b) => a - b);
	}

	private openingAt(at: FlatPoint): string | undefined {
		return this.events.scene()?.flat.openings.find((o) => o.role === 'opening' && o.rings.some((r) => within(r, at)))
			?.id;
	}
}

const rectangle = (a: FlatPoint, b: FlatPoint): FlatPoint[] => [a, [b[0], a[1]], b, [a[0], b[1]]];

import Konva from 'konva';
import type { Ring } from '../../core/tiling/openings/rings.ts';
import type { TilingUnit, UnitPoint } from '../../core/tiling/units/unit.ts';

/** What the canvas shows; in fields, y upwards. */
export interface UnitSight {
	readonly unit: TilingUnit;
	readonly overlaps: readonly Ring[];
	readonly gaps: readonly Ring[];
	readonly selected: number | undefined;
	/** Index of the chosen corner of the selected cell. */
	readonly corner: number | undefined;
	/** Corners of the cell that is being drawn; nothing while none is. */
	readonly drawing: readonly UnitPoint[] | undefined;
	/** Points snap to so many parts of a field. */
	readonly parts: number;
}

export interface UnitColours {
	readonly ink: string;
	readonly soft: string;
	readonly rule: string;
	readonly paper: string;
	readonly patina: string;
	readonly rust: string;
	readonly ochre: string;
	/** Fills of the roles, in their order. */
	readonly roles: readonly string[];
}

/** Repeats of the unit that are seen around it, in fields. */
const MARGIN = 0.75;
/** A corner within so many pixels is taken. */
const NEAR_PIXELS = 11;
const DRAG_PIXELS = 3;

/** A tiling's unit with its repeats around it: cells to choose, corners to drag, new cells to click. Draws when told to. */
export class UnitCanvas {
	onselect: ((cell: number | undefined) => void) | undefined;
	/** A corner of the selected cell was pressed, and dragged to a place. */
	oncorner: ((corner: number) => void) | undefined;
	onmove: ((corner: number, to: UnitPoint, done: boolean) => void) | undefined;
	/** A corner was clicked while a cell is being drawn. */
	onpoint: ((at: UnitPoint) => void) | undefined;

	private readonly stage: Konva.Stage;
	private readonly layer = new Konva.Layer();
	private readonly observer: ResizeObserver;
	private readonly container: HTMLDivElement;
	private readonly colours: UnitColours;
	private sight: UnitSight | undefined;
	private pointer: UnitPoint | undefined;
	private scale = 1;
	private left = 0;
	private top = 0;

	constructor(container: HTMLDivElement, colours: UnitColours) {
		this.container = container;
		this.colours = colours;
		this.stage = new Konva.Stage({ container, width: container.clientWidth, height: container.clientHeight });
		this.stage.add(this.layer);
		this.stage.on('click tap', () => this.click());
		this.stage.on('mousemove', () => {
			if (!this.sight?.drawing) return;
			this.pointer = this.snappedPointer();
			this.draw();
		});
		this.observer = new ResizeObserver(() => {
			this.stage.size({ width: container.clientWidth, height: container.clientHeight });
			this.draw();
		});
		this.observer.observe(container);
	}

	show(sight: UnitSight): void {
		this.sight = sight;
		if (!sight.drawing) this.pointer = undefined;
		this.draw();
	}

	dispose(): void {
		this.observer.disconnect();
		this.stage.destroy();
	}

	private draw(): void {
		const { sight, stage, layer } = this;
		if (!sight || stage.width() === 0) return;
		const { unit } = sight;
		this.scale = Math.min(stage.width() / (unit.width + 2 * MARGIN), stage.height() / (unit.height + 2 * MARGIN));
		this.left = (stage.width() - unit.width * this.scale) / 2;
		this.top = (stage.height() + unit.height * this.scale) / 2;
		layer.destroyChildren();
		this.drawRepeats(unit);
		this.drawGrid(unit);
		const roles = [...new Set(unit.cells.map((c) => c.role))];
		unit.cells.forEach((cell, k) =>
			this.drawCell(
				cell.corners,
				this.colours.roles[roles.indexOf(cell.role) % this.colours.roles.length]!,
				k,
				k === sight.selected
			)
		);
		for (const ring of sight.gaps)
			layer.add(
				new Konva.Line({
					points: this.pixels(ring),
					closed: true,
					fill: this.colours.ochre,
					opacity: 0.4,
					listening: false
				})
			);
		for (const ring of sight.overlaps)
			layer.add(
				new Konva.Line({
					points: this.pixels(ring),
					closed: true,
					fill: this.colours.rust,
					opacity: 0.6,
					listening: false
				})
			);
		layer.add(
			new Konva.Rect({
				x: this.left,
				y: this.top - unit.height * this.scale,
				width: unit.width * this.scale,
				height: unit.height * this.scale,
				stroke: this.colours.ink,
				strokeWidth: 2,
				dash: [8, 4],
				listening: false
			})
		);
		unit.cells.forEach((cell, k) => this.drawNumber(cell.corners, k));
		if (sight.drawing) this.drawDrawing(sight.drawing);
		else if (sight.selected !== undefined)
			unit.cells[sight.selected]?.corners.forEach((p, k) => this.drawCorner(p, k, k === sight.corner));
		layer.draw();
		// Where the unit stands, for whoever drives the page from outside.
		this.container.dataset.frame = [this.left, this.top, this.scale].join(' ');
	}

	private drawRepeats({ width, height, cells }: TilingUnit): void {
		const most = (size: number, pixels: number) => Math.ceil(pixels / this.scale / size / 2) + 2;
		const [across, up] = [most(width, this.stage.width()), most(height, this.stage.height())];
		for (let p = -across; p <= across; p++)
			for (let q = -up; q <= up; q++)
				if (p || q)
					for (const { corners } of cells)
						this.layer.add(
							new Konva.Line({
								points: this.pixels(corners.map(([x, y]): UnitPoint => [x + p * width, y + q * height])),
								closed: true,
								stroke: this.colours.rule,
								strokeWidth: 1,
								listening: false
							})
						);
	}

	private drawGrid({ width, height }: TilingUnit): void {
		const { parts } = this.sight!;
		const dot = Math.max(0.8, Math.min(1.6, (this.scale / parts) * 0.06));
		if (this.scale / parts > 7)
			for (let i = -Math.floor(MARGIN * parts); i <= (width + MARGIN) * parts; i++)
				for (let j = -Math.floor(MARGIN * parts); j <= (height + MARGIN) * parts; j++) {
					const [x, y] = this.pixel([i / parts, j / parts]);
					const field = i % parts === 0 && j % parts === 0;
					this.layer.add(
						new Konva.Circle({ x, y, radius: field ? dot * 2 : dot, fill: this.colours.soft, listening: false })
					);
				}
	}

	private drawCell(corners: readonly UnitPoint[], fill: string, k: number, selected: boolean): void {
		const shape = new Konva.Line({
			points: this.pixels(corners),
			closed: true,
			fill,
			opacity: selected ? 0.9 : 0.55,
			stroke: selected ? this.colours.rust : this.colours.ink,
			strokeWidth: selected ? 2.5 : 1.2,
			name: 'cell',
			id: String(k),
			lineJoin: 'round'
		});
		shape.on('mouseenter', () => (this.container.style.cursor = this.sight?.drawing ? 'crosshair' : 'pointer'));
		shape.on('mouseleave', () => (this.container.style.cursor = ''));
		this.layer.add(shape);
	}

	private drawNumber(corners: readonly UnitPoint[], k: number): void {
		const [x, y] = this.pixel(middleOf(corners));
		const text = {
			x: x - 20,
			y: y - 6,
			width: 40,
			align: 'center',
			text: String(k + 1),
			fontSize: 12,
			fontStyle: '600',
			fontFamily: 'IBM Plex Mono',
			listening: false
		};
		this.layer.add(
			new Konva.Text({ ...text, stroke: this.colours.paper, strokeWidth: 4, lineJoin: 'round' }),
			new Konva.Text({ ...text, fill: this.colours.ink })
		);
	}

	private drawCorner(point: UnitPoint, k: number, chosen: boolean): void {
		const [x, y] = this.pixel(point);
		const shape = new Konva.Circle({
			x,
			y,
			radius: 6,
			fill: chosen ? this.colours.rust : this.colours.paper,
			stroke: this.colours.rust,
			strokeWidth: 2,
			hitStrokeWidth: 10,
			name: 'corner'
		});
		shape.on('mousedown touchstart', () => {
			this.oncorner?.(k);
			const start = this.stage.getPointerPosition();
			let moved = false;
			const at = (event: PointerEvent): UnitPoint => {
				const box = this.container.getBoundingClientRect();
				const [px, py] = [event.clientX - box.left, event.clientY - box.top];
				moved ||= !start || Math.hypot(px - start.x, py - start.y) > DRAG_PIXELS;
				return this.snapped(px, py);
			};
			const onmove = (event: PointerEvent) => {
				const to = at(event);
				if (moved) this.onmove?.(k, to, false);
			};
			const onup = (event: PointerEvent) => {
				removeEventListener('pointermove', onmove);
				const to = at(event);
				if (moved) this.onmove?.(k, to, true);
			};
			addEventListener('pointermove', onmove);
			addEventListener('pointerup', onup, { once: true });
		});
		shape.on('mouseenter', () => (this.container.style.cursor = 'grab'));
		shape.on('mouseleave', () => (this.container.style.cursor = ''));
		this.layer.add(shape);
	}

	private drawDrawing(points: readonly UnitPoint[]): void {
		const all = this.pointer ? [...points, this.pointer] : points;
		this.layer.add(
			new Konva.Line({
				points: this.pixels(all),
				closed: all.length > 2,
				stroke: this.colours.rust,
				strokeWidth: 2,
				dash: [5, 3],
				fill: this.colours.rust,
				opacity: 0.35,
				listening: false
			})
		);
		for (const p of all) {
			const [x, y] = this.pixel(p);
			this.layer.add(new Konva.Circle({ x, y, radius: 4, fill: this.colours.rust, listening: false }));
		}
	}

	private click(): void {
		const at = this.stage.getPointerPosition();
		if (!at || !this.sight) return;
		if (this.sight.drawing) return this.onpoint?.(this.snapped(at.x, at.y));
		const hit = this.layer.getIntersection(at);
		if (hit?.name() === 'corner') return;
		this.onselect?.(hit?.name() === 'cell' ? Number(hit.id()) : undefined);
	}

	private snappedPointer(): UnitPoint | undefined {
		const at = this.stage.getPointerPosition();
		return at ? this.snapped(at.x, at.y) : undefined;
	}

	/** The nearest corner that there is, in a repeat too; else the nearest part of a field. */
	private snapped(px: number, py: number): UnitPoint {
		const { unit, parts, selected, drawing } = this.sight!;
		const [x, y] = [(px - this.left) / this.scale, (this.top - py) / this.scale];
		let best: UnitPoint | undefined;
		let least = NEAR_PIXELS / this.scale;
		const offer = (p: UnitPoint) => {
			const far = Math.hypot(p[0] - x, p[1] - y);
			if (far < least) [least, best] = [far, p];
		};
		const near = (of: number, at: number, size: number) => of + Math.round((at - of) / size) * size;
		unit.cells.forEach(({ corners }, k) => {
			if (!drawing && k === selected) return;
			for (const [cx, cy] of corners) offer([near(cx, x, unit.width), near(cy, y, unit.height)]);
		});
		drawing?.forEach(offer);
		return best ?? [Math.round(x * parts) / parts, Math.round(y * parts) / parts];
	}

	private pixel([x, y]: UnitPoint): [number, number] {
		return [this.left + x * this.scale, this.top - y * this.scale];
	}

	private pixels(ring: readonly UnitPoint[]): number[] {
		return ring.flatMap((p) => this.pixel(p));
	}
}

const middleOf = (corners: readonly UnitPoint[]): UnitPoint => [
	corners.reduce((s, p) => s + p[0], 0) / corners.length,
	corners.reduce((s, p) => s + p[1], 0) / corners.length
];

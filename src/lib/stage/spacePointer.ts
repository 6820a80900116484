import { Vector3, type Ray, type Raycaster } from 'three';
import { BoxChoice, type PictureBox } from './boxChoice.ts';
import { CLICK_PIXELS } from './click.ts';
import type { HandleLayer, StageHandle } from './handleLayer.ts';
import { METRES_PER_MM } from './previewLayer.ts';
import type { SpaceCamera } from './spaceCamera.ts';

/** A handle in mm of the world. */
export interface SpaceHandle {
	readonly at: readonly [number, number, number];
	readonly directions: readonly (readonly [number, number, number])[];
}

/** From the eye through the pointer, in mm of the world. */
export interface PickRay {
	readonly origin: readonly [number, number, number];
	readonly direction: readonly [number, number, number];
}

/** What a pointer over the model tells of. */
export interface SpaceEvents {
	clicked(ray: PickRay, add: boolean): void;
	/** A rectangle that was dragged with Shift held. */
	boxed(box: PictureBox): void;
	hovered(ray: PickRay | undefined): void;
	/** While a handle is dragged: mm along each of its directions; once more at the end. */
	dragged(handle: number, way: readonly number[], done: boolean): void;
	/** The pointer has come onto a handle, or has left it; pixels. */
	overHandle(handle: number | undefined, x: number, y: number): void;
	/** Something is to be drawn anew. */
	changed(): void;
}

/** Turns the pointer over the model into what it means: handles are dragged, cells clicked and boxed. */
export class SpacePointer {
	/** The model's own origin, mm: the same vector that whoever shows models moves. */
	private readonly origin: Vector3;
	private handles: StageHandle[] = [];
	/** They, and where they stand, as a text. */
	private shown = '';
	/** The handle under the pointer. */
	private lit: number | undefined;
	private held: { readonly handle: number; readonly start: Ray; readonly from: StageHandle } | undefined;
	private readonly release: (() => void)[] = [];

	private readonly canvas: HTMLCanvasElement;
	private readonly camera: SpaceCamera;
	private readonly layer: HandleLayer;
	private readonly events: SpaceEvents;

	constructor(
		canvas: HTMLCanvasElement,
		camera: SpaceCamera,
		layer: HandleLayer,
		origin: Vector3,
		events: SpaceEvents
	) {
		this.canvas = canvas;
		this.camera = camera;
		this.layer = layer;
		this.origin = origin;
		this.events = events;
		this.listen();
		const boxes = new BoxChoice(
			canvas,
			(box) => events.boxed(box),
			(e) => events.clicked(this.rayAt(e), true)
		);
		this.release.push(() => boxes.dispose());
	}

	dispose(): void {
		this.release.forEach((r) => r());
	}

	/** Shows handles in place of those before; the one being dragged goes on being dragged. */
	setHandles(handles: readonly SpaceHandle[]): void {
		const text = JSON.stringify([handles.map(({ at, directions }) => [at, directions]), this.origin]);
		if (text === this.shown) return;
		this.shown = text;
		this.handles = handles.map(({ at, directions }) => ({
			at: new Vector3(...at).sub(this.origin).multiplyScalar(METRES_PER_MM),
			directions: directions.map((d) => new Vector3(...d))
		}));
		this.light(this.held?.handle);
	}

	private light(handle: number | undefined): void {
		this.lit = handle;
		this.layer.show(this.handles, handle);
		this.events.changed();
	}

	private listen(): void {
		let down: { x: number; y: number } | undefined;
		this.on('pointerdown', (e) => {
			down = { x: e.clientX, y: e.clientY };
			if (e.button === 0) this.startDrag(e);
		});
		this.on('pointerup', (e) => {
			if (this.endDrag(e)) return;
			const still = down && Math.hypot(e.clientX - down.x, e.clientY - down.y) < CLICK_PIXELS;
			down = undefined;
			if (still && e.button === 0) this.events.clicked(this.rayAt(e), e.shiftKey || e.ctrlKey || e.metaKey);
		});
		this.on('pointermove', (e) => {
			if (this.drag(e, false) || e.buttons) return;
			const over = this.handleAt(e);
			if (over !== this.lit) this.light(over);
			this.events.overHandle(over, e.offsetX, e.offsetY);
			this.canvas.style.cursor = over === undefined ? '' : 'grab';
			this.events.hovered(over === undefined ? this.rayAt(e) : undefined);
		});
		this.on('pointerleave', () => this.events.hovered(undefined));
	}

	private on<K extends 'pointerdown' | 'pointerup' | 'pointermove' | 'pointerleave'>(
		type: K,
		listener: (event: PointerEvent) => void
	): void {
		this.canvas.addEventListener(type, listener);
		this.release.push(() => this.canvas.removeEventListener(type, listener));
	}

	private handleAt(event: PointerEvent): number | undefined {
		const { width, height } = this.canvas.getBoundingClientRect();
		return this.layer.hit(event.offsetX, event.offsetY, width, height, this.camera.eye);
	}

	private startDrag(event: PointerEvent): void {
		const handle = this.handleAt(event);
		if (handle === undefined) return;
		this.held = { handle, start: this.casterAt(event).ray.clone(), from: this.handles[handle]! };
		this.camera.byHand = false;
		this.canvas.setPointerCapture(event.pointerId);
	}

	/** Tells how far the handle has come; false when none is dragged. */
	private drag(event: PointerEvent, done: boolean): boolean {
		if (!this.held) return false;
		const { handle, start, from } = this.held;
		const way = this.layer.way(from, this.casterAt(event).ray, start).map((d) => d / METRES_PER_MM);
		this.events.dragged(handle, way, done);
		return true;
	}

	private endDrag(event: PointerEvent): boolean {
		const was = this.drag(event, true);
		this.held = undefined;
		this.camera.byHand = true;
		return was;
	}

	private rayAt(event: PointerEvent): PickRay {
		const { origin, direction } = this.casterAt(event).ray;
		const start = origin.divideScalar(METRES_PER_MM).add(this.origin);
		return { origin: [start.x, start.y, start.z], direction: [direction.x, direction.y, direction.z] };
	}

	private casterAt(event: PointerEvent): Raycaster {
		const { left, top, width, height } = this.canvas.getBoundingClientRect();
		return this.camera.casterAt(((event.clientX - left) / width) * 2 - 1, 1 - ((event.clientY - top) / height) * 2);
	}
}

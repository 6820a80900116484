import {
	AmbientLight,
	Box3,
	DirectionalLight,
	Group,
	PerspectiveCamera,
	Raycaster,
	Scene,
	Vector2,
	Vector3,
	WebGLRenderer
} from 'three';
import { OrbitControls } from 'three/addons/controls/OrbitControls.js';
import type { FaceView } from '../../core/view/faceView.ts';
import type { ModelView } from '../../core/view/modelView.ts';
import { watchContext } from './context.ts';
import { ColourLayer, type Colouring } from './colourLayer.ts';
import { DetailChoice, type Detail } from './detail.ts';
import { frameAll } from './frameAll.ts';
import { HandleLayer, type StageHandle } from './handleLayer.ts';
import { Highlight } from './highlight.ts';
import { BoxChoice, cellsInBox } from './boxChoice.ts';
import { OverlayLayer, type OverlayChoice } from './overlayLayer.ts';
import { ModelLayer, type ModelLook } from './modelLayer.ts';
import { METRES_PER_MM, PreviewLayer, type Preview } from './previewLayer.ts';
import { STANDARD_VIEWS, type StandardView } from './standardViews.ts';

export interface CellAddress {
	readonly face: number;
	readonly cell: number;
}

/** A handle in mm of the world. */
export interface SpaceHandle {
	readonly at: readonly [number, number, number];
	readonly directions: readonly (readonly [number, number, number])[];
}

const FIELD_OF_VIEW = 32;
/** Points of all faces together that a fit looks at, and of each at least. */
const MOST_FIT_POINTS = 8000;
const LEAST_FIT_POINTS = 30;
/** A pointer that moved less than this many pixels has clicked, not dragged. */
const CLICK_PIXELS = 4;

/** The model in space. Draws only when something has changed. */
export class SpaceView {
	/** Called with a ray in mm when the pointer clicks or hovers. */
	onclick: ((ray: PickRay, add: boolean) => void) | undefined;
	/** Cells within a rectangle that was dragged with Shift held. */
	onbox: ((cells: CellAddress[]) => void) | undefined;
	onhover: ((ray: PickRay | undefined) => void) | undefined;
	/** Called while a handle is dragged, with mm along each of its directions, and once more at the end. */
	ondrag: ((handle: number, way: readonly number[], done: boolean) => void) | undefined;
	/** Called when cells are to be drawn as panes. */
	onpanes: (() => void) | undefined;
	/** Called when the graphics card has taken the picture away, and when it is there again. */
	oncontext: ((lost: boolean) => void) | undefined;
	/** Called when the pointer comes onto a handle or leaves it. */
	onhandle: ((handle: number | undefined, x: number, y: number) => void) | undefined;

	private readonly renderer: WebGLRenderer;
	private readonly scene = new Scene();
	private readonly camera = new PerspectiveCamera(FIELD_OF_VIEW, 1, 0.1, 10_000);
	private readonly controls: OrbitControls;
	private readonly model = new Group();
	private readonly selected = new Highlight('#B4472E', 3);
	private readonly hovered = new Highlight('#2B7A73', 2);
	private readonly standing = new ModelLayer();
	private readonly preview = new PreviewLayer();
	private readonly layer = new HandleLayer();
	private readonly colours = new ColourLayer();
	private readonly details = new DetailChoice();
	private detail: Detail = 'auto';
	private moving = false;
	private readonly overlay: OverlayLayer;
	private readonly sun = new DirectionalLight(0xffffff, 2);
	private readonly observer: ResizeObserver;
	private readonly release: (() => void)[] = [];
	private faces: readonly FaceView[] = [];
	private bodies: ModelView['bodies'] = [];
	private handles: StageHandle[] = [];
	private dragged: { handle: number; start: Raycaster['ray']; from: StageHandle } | undefined;
	private origin = new Vector3();
	private frame = 0;
	private fitted = false;
	/** What the picture was fitted to, until somebody turns or moves it: it stays so when the picture's shape changes. */
	private fittedTo: { cells: readonly CellAddress[] | undefined; direction: Vector3 } | undefined;

	/** Throws when the browser has no WebGL. */
	constructor(private readonly canvas: HTMLCanvasElement) {
		this.renderer = new WebGLRenderer({ canvas, antialias: true, alpha: true });
		this.renderer.setPixelRatio(Math.min(2, globalThis.devicePixelRatio));
		this.camera.up.set(0, 0, 1);
		this.controls = new OrbitControls(this.camera, canvas);
		this.controls.addEventListener('change', () => this.draw());
		this.controls.addEventListener('start', () => {
			this.fittedTo = undefined;
			this.moving = true;
		});
		this.controls.addEventListener('end', () => {
			// What was left out while it moved is drawn now.
			this.moving = false;
			this.draw();
		});
		this.controls.zoomToCursor = true;
		this.model.scale.setScalar(METRES_PER_MM);
		this.scene.add(
			this.preview.object,
			this.model,
			this.layer.object,
			new AmbientLight(0xffffff, 1.4),
			this.sun,
			this.sun.target
		);
		this.overlay = new OverlayLayer(canvas.parentElement!);
		this.model.add(
			this.standing.object,
			this.selected.object,
			this.hovered.object,
			this.overlay.object,
			this.colours.object
		);
		this.observer = new ResizeObserver(() => this.resize());
		this.observer.observe(canvas.parentElement!);
		this.listen();
		const boxes = new BoxChoice(
			canvas,
			(box) => this.onbox?.(cellsInBox(this.faces, this.camera, box)),
			(e) => this.onclick?.(this.rayAt(e), true)
		);
		this.release.push(
			() => boxes.dispose(),
			watchContext(canvas, (lost) => {
				this.oncontext?.(lost);
				this.draw();
			})
		);
		this.resize();
	}

	/** Shows a model in place of the one before; the camera stays, but for the first model. */
	setModel(view: ModelView, look: ModelLook): void {
		this.faces = view.faces;
		this.origin.set(...view.origin);
		this.bodies = view.bodies;
		this.standing.show(view, look);
		this.details.setModel(view);
		if (!this.fitted && view.bodies.length) {
			this.fitted = true;
			this.look('oblique');
		}
		this.draw();
	}

	/** How much of what stands on faces is drawn. */
	setDetail(detail: Detail): void {
		this.detail = detail;
		this.draw();
	}

	setSelection(cells: readonly CellAddress[]): void {
		this.selected.show(this.faces, cells);
		this.draw();
	}

	setHover(cell: CellAddress | undefined): void {
		this.hovered.show(this.faces, cell ? [cell] : []);
		this.draw();
	}

	/** Shows nodes, numbers, normals, boxes and edges on the face of a face. */
	setOverlay(
		face: FaceView | undefined,
		choice: OverlayChoice,
		cells: readonly number[],
		ink: string,
		accent: string,
		curves?: Float32Array
	): void {
		this.overlay.show(face, choice, cells, ink, accent, curves);
		this.draw();
	}

	/** Shows cells, edges or nodes in the colours of a reading, or no more. */
	setColours(colouring: Colouring | undefined): void {
		this.colours.show(colouring);
		this.draw();
	}

	/** Shows parts in colours instead of the model, or the model again. */
	setPreview(preview: Preview | undefined): void {
		this.model.visible = !preview;
		const resized = this.preview.show(preview, this.origin);
		if (resized) this.fit();
		this.draw();
	}

	/** Lines over the preview, as pairs of points in mm of the world. */
	setPreviewLines(lines: Float32Array, colour: string): void {
		this.preview.showLines(lines, colour);
		this.draw();
	}

	/** Shows handles in place of those before; the one being dragged goes on being dragged. */
	setHandles(handles: readonly SpaceHandle[]): void {
		this.handles = handles.map(({ at, directions }) => ({
			at: new Vector3(...at).sub(this.origin).multiplyScalar(METRES_PER_MM),
			directions: directions.map((d) => new Vector3(...d))
		}));
		this.layer.show(this.handles, this.dragged?.handle);
		this.draw();
	}

	/** Turns to a standard view with everything in the picture. */
	look(name: StandardView): void {
		this.fitAlong(undefined, new Vector3(...STANDARD_VIEWS[name].direction).normalize());
	}

	/** Brings everything, or the cells given, into the picture without turning. */
	fit(cells?: readonly CellAddress[]): void {
		this.fitAlong(
			cells?.length ? cells : undefined,
			this.camera.position.clone().sub(this.controls.target).normalize()
		);
	}

	private fitAlong(cells: readonly CellAddress[] | undefined, direction: Vector3): void {
		this.fitTo(cells ? this.cornersOf(cells) : this.outlinePoints(), direction);
		this.controls.update();
		this.fittedTo = { cells, direction };
	}

	/** Moves the target to a cell when it is out of the picture. */
	reveal(cell: CellAddress): void {
		const centre = this.toScene(new Box3().setFromPoints(this.cornersOf([cell])).getCenter(new Vector3()));
		const onScreen = centre.clone().project(this.camera);
		if (Math.abs(onScreen.x) < 0.95 && Math.abs(onScreen.y) < 0.95 && onScreen.z < 1) return;
		const shift = centre.sub(this.controls.target);
		this.fittedTo = undefined;
		this.controls.target.add(shift);
		this.camera.position.add(shift);
		this.controls.update();
	}

	/** Turns, tilts or zooms by a step of the keyboard. Angles in radians. */
	turn(around: number, over: number, closer = 1): void {
		const offset = this.camera.position.clone().sub(this.controls.target);
		const length = offset.length() * closer;
		const azimuth = Math.atan2(offset.y, offset.x) + around;
		const limit = Math.PI / 2 - 0.01;
		const height = Math.asin(offset.z / offset.length()) + over;
		const rise = Math.max(-limit, Math.min(limit, height));
		offset.set(
			Math.cos(rise) * Math.cos(azimuth) * length,
			Math.cos(rise) * Math.sin(azimuth) * length,
			Math.sin(rise) * length
		);
		this.fittedTo = undefined;
		this.camera.position.copy(this.controls.target).add(offset);
		this.controls.update();
		this.draw();
	}

	dispose(): void {
		cancelAnimationFrame(this.frame);
		this.observer.disconnect();
		this.release.forEach((r) => r());
		this.standing.clear();
		this.layer.dispose();
		this.overlay.dispose();
		this.colours.dispose();
		this.selected.dispose();
		this.hovered.dispose();
		this.controls.dispose();
		this.renderer.dispose();
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
			if (still && e.button === 0) this.onclick?.(this.rayAt(e), e.shiftKey || e.ctrlKey || e.metaKey);
		});
		this.on('pointermove', (e) => {
			if (this.drag(e, false) || e.buttons) return;
			const over = this.handleAt(e);
			this.layer.show(this.handles, over);
			this.onhandle?.(over, e.offsetX, e.offsetY);
			this.canvas.style.cursor = over === undefined ? '' : 'grab';
			if (over !== undefined) this.draw();
			this.onhover?.(over === undefined ? this.rayAt(e) : undefined);
		});
		this.on('pointerleave', () => this.onhover?.(undefined));
	}

	private handleAt(event: PointerEvent): number | undefined {
		const { width, height } = this.canvas.getBoundingClientRect();
		return this.layer.hit(event.offsetX, event.offsetY, width, height, this.camera);
	}

	private startDrag(event: PointerEvent): void {
		const handle = this.handleAt(event);
		if (handle === undefined) return;
		this.dragged = { handle, start: this.casterAt(event).ray.clone(), from: this.handles[handle]! };
		this.controls.enabled = false;
		this.canvas.setPointerCapture(event.pointerId);
	}

	/** Tells how far the handle has come; false when none is dragged. */
	private drag(event: PointerEvent, done: boolean): boolean {
		if (!this.dragged) return false;
		const { handle, start, from } = this.dragged;
		const way = this.layer.way(from, this.casterAt(event).ray, start).map((d) => d / METRES_PER_MM);
		this.ondrag?.(handle, way, done);
		return true;
	}

	private endDrag(event: PointerEvent): boolean {
		const was = this.drag(event, true);
		this.dragged = undefined;
		this.controls.enabled = true;
		return was;
	}

	private on<K extends 'pointerdown' | 'pointerup' | 'pointermove' | 'pointerleave'>(
		type: K,
		listener: (event: PointerEvent) => void
	): void {
		this.canvas.addEventListener(type, listener);
		this.release.push(() => this.canvas.removeEventListener(type, listener));
	}

	private rayAt(event: PointerEvent): PickRay {
		const { origin, direction } = this.casterAt(event).ray;
		const start = origin.divideScalar(METRES_PER_MM).add(this.origin);
		return { origin: [start.x, start.y, start.z], direction: [direction.x, direction.y, direction.z] };
	}

	private casterAt(event: PointerEvent): Raycaster {
		const { left, top, width, height } = this.canvas.getBoundingClientRect();
		const x = ((event.clientX - left) / width) * 2 - 1;
		const y = 1 - ((event.clientY - top) / height) * 2;
		const caster = new Raycaster();
		caster.setFromCamera(new Vector2(x, y), this.camera);
		return caster;
	}

	/** Corners of cells, mm less the origin. */
	private cornersOf(cells: readonly CellAddress[]): Vector3[] {
		return cells.flatMap(({ face, cell }) => {
			const { cornerStart, corners, nodes } = this.faces[face]!;
			return [...corners.subarray(cornerStart[cell], cornerStart[cell + 1])].map((n) =>
				new Vector3().fromArray(nodes, n * 3)
			);
		});
	}

	/** Points that stand for the whole model: some thousands of its surfaces' points. */
	private outlinePoints(): Vector3[] {
		const points: Vector3[] = [];
		if (!this.model.visible) {
			// Seen from the model's own origin, mm.
			const box = new Box3().setFromObject(this.preview.object);
			for (const x of [box.min.x, box.max.x])
				for (const y of [box.min.y, box.max.y])
					for (const z of [box.min.z, box.max.z]) points.push(new Vector3(x, y, z).divideScalar(METRES_PER_MM));
			return points;
		}
		for (const { positions: nodes } of this.bodies) {
			const count = nodes.length / 3;
			const step = Math.ceil(count / Math.max(LEAST_FIT_POINTS, MOST_FIT_POINTS / this.bodies.length));
			for (let n = 0; n < count; n += step) points.push(new Vector3().fromArray(nodes, n * 3));
			points.push(new Vector3().fromArray(nodes, (count - 1) * 3));
		}
		return points;
	}

	/** Stands off along a direction, just as far that all points are in the picture. */
	private fitTo(points: readonly Vector3[], direction: Vector3): void {
		if (points.length === 0) return;
		const seen = points.map((p) => this.toScene(p));
		const { target, distance, radius } = frameAll(seen, direction, this.camera);
		this.controls.target.copy(target);
		this.camera.position.copy(target).addScaledVector(direction, distance);
		this.camera.near = Math.max(0.01, distance / 500);
		this.camera.far = distance + 30 * Math.max(radius, 1);
		this.camera.updateProjectionMatrix();
		this.draw();
	}

	private toScene(point: Vector3): Vector3 {
		return point.clone().multiplyScalar(METRES_PER_MM);
	}

	private resize(): void {
		const { clientWidth, clientHeight } = this.canvas.parentElement!;
		if (!clientWidth || !clientHeight) return;
		this.renderer.setSize(clientWidth, clientHeight, false);
		this.camera.aspect = clientWidth / clientHeight;
		this.camera.updateProjectionMatrix();
		this.overlay.resize(clientWidth, clientHeight);
		this.selected.setResolution(clientWidth, clientHeight);
		this.hovered.setResolution(clientWidth, clientHeight);
		this.colours.setResolution(clientWidth, clientHeight);
		if (this.fittedTo) this.fitAlong(this.fittedTo.cells, this.fittedTo.direction);
		this.draw();
	}

	private draw(): void {
		if (this.frame) return;
		this.frame = requestAnimationFrame(() => {
			this.frame = 0;
			// Drawn when it is seen again: its size changes then.
			if (this.canvas.clientWidth === 0) return;
			// The light comes from over the viewer's left shoulder, so that no side is ever black.
			const offset = new Vector3(-0.5, 0.7, 0.6).applyQuaternion(this.camera.quaternion);
			this.sun.position.copy(this.controls.target).addScaledVector(offset, 100);
			this.sun.target.position.copy(this.controls.target);
			const levels = this.details.levels(this.detail, this.camera, this.canvas.clientHeight, this.moving);
			this.standing.setLevels(levels);
			if ([...levels.values()].includes('panes')) this.onpanes?.();
			this.canvas.dataset.detail = [...new Set(levels.values())].sort().join(' ');
			this.renderer.render(this.scene, this.camera);
			this.overlay.render(this.scene, this.camera);
			const { clientWidth, clientHeight } = this.canvas;
			this.canvas.dataset.handles = this.layer.pixels(clientWidth, clientHeight, this.camera).join(' ');
			this.canvas.dataset.drawn = String(Number(this.canvas.dataset.drawn ?? 0) + 1);
		});
	}
}

export interface PickRay {
	readonly origin: readonly [number, number, number];
	readonly direction: readonly [number, number, number];
}

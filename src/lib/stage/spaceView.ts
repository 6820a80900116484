import { AmbientLight, Box3, DirectionalLight, Group, Scene, Vector3, WebGLRenderer } from 'three';
import type { FaceView } from '../../core/view/faceView.ts';
import type { BodyView, EarlyView, ModelView } from '../../core/view/modelView.ts';
import { cellsInBox } from './boxChoice.ts';
import { ColourLayer, type Colouring } from './colourLayer.ts';
import { watchContext } from './context.ts';
import { DetailChoice, type Detail, type Level } from './detail.ts';
import { DrawClock } from './drawClock.ts';
import { HandleLayer } from './handleLayer.ts';
import { Highlight } from './highlight.ts';
import { ModelLayer, type ModelLook, type Shown } from './modelLayer.ts';
import { OverlayLayer, type Overlay } from './overlayLayer.ts';
import { METRES_PER_MM, PreviewLayer, type Preview } from './previewLayer.ts';
import { SpaceCamera } from './spaceCamera.ts';
import { SpacePointer, type SpaceEvents, type SpaceHandle } from './spacePointer.ts';
import type { StandardView } from './standardViews.ts';
import { TurnPace, type TurnedStep } from './turnPace.ts';

export interface CellAddress {
	readonly face: number;
	readonly cell: number;
}

/** What a picture of the model tells of. */
export interface SpaceViewEvents extends Omit<SpaceEvents, 'boxed' | 'changed'> {
	/** Cells within a rectangle that was dragged with Shift held. */
	boxed(cells: CellAddress[]): void;
	/** Cells are to be drawn as panes. */
	panesWanted(): void;
	/** The model stands still, and the lines of some faces are not drawn since they would cover all. */
	linesLeftOut(some: boolean): void;
	/** The graphics card has taken the picture away, or it is there again. */
	contextLost(lost: boolean): void;
}

/** Points of all faces together that a fit looks at, and of each at least. */
const MOST_FIT_POINTS = 8000;
const LEAST_FIT_POINTS = 30;

/** The model in space. Draws only when something has changed. */
export class SpaceView {
	private readonly canvas: HTMLCanvasElement;
	private readonly events: SpaceViewEvents;
	private readonly renderer: WebGLRenderer;
	private readonly scene = new Scene();
	private readonly camera: SpaceCamera;
	private readonly pointer: SpacePointer;
	private readonly model = new Group();
	private readonly selected = new Highlight('#B4472E', 3);
	private readonly hovered = new Highlight('#2B7A73', 2);
	private readonly standing = new ModelLayer();
	private readonly preview = new PreviewLayer();
	private readonly handles = new HandleLayer();
	private readonly colours = new ColourLayer();
	private readonly overlay: OverlayLayer;
	private readonly details = new DetailChoice();
	private detail: Detail = 'auto';
	private readonly pace = new TurnPace();
	private readonly clock: DrawClock;
	/** The next picture sends a model to the graphics: how long that takes says nothing of how long the others do. */
	private sent = false;
	/** How much of each face is in the picture. */
	private drawnLevels = '';
	private readonly sun = new DirectionalLight(0xffffff, 2);
	private readonly observer: ResizeObserver;
	private readonly unwatch: () => void;
	private faces: readonly FaceView[] = [];
	private bodies: ModelView['bodies'] = [];
	/** Of the model, mm. */
	private readonly origin = new Vector3();
	private frame = 0;
	private fitted = false;

	/** Throws when the browser has no WebGL. */
	constructor(canvas: HTMLCanvasElement, events: SpaceViewEvents) {
		this.canvas = canvas;
		this.events = events;
		const changed = () => this.draw();
		this.renderer = new WebGLRenderer({ canvas, antialias: true, alpha: true });
		this.renderer.setPixelRatio(Math.min(2, globalThis.devicePixelRatio));
		this.clock = new DrawClock(this.renderer.getContext() as WebGL2RenderingContext);
		this.camera = new SpaceCamera(canvas, changed);
		this.model.scale.setScalar(METRES_PER_MM);
		this.scene.add(
			this.preview.object,
			this.model,
			this.handles.object,
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
		this.pointer = new SpacePointer(canvas, this.camera, this.handles, this.origin, {
			...events,
			boxed: (box) => events.boxed(cellsInBox(this.faces, this.camera.eye, box)),
			changed
		});
		this.unwatch = watchContext(canvas, (lost) => {
			events.contextLost(lost);
			this.draw();
		});
		this.resize();
	}

	/** Shows a model in place of the one before; the camera stays, but for the first model and a mass that is out of the picture. */
	setModel(view: ModelView, look: ModelLook): void {
		this.faces = view.faces;
		this.details.setModel(view);
		this.pace.setModel(this.details.turned(look));
		this.stand(view, look);
	}

	/** Shows faces before there is a model of them; what can be chosen is of the model before. */
	setEarly({ origin, bodies, lines }: EarlyView, look: ModelLook): void {
		this.stand({ origin, bodies, faces: [], early: lines }, look);
	}

	private stand(view: Shown, look: ModelLook): void {
		const known = new Set(this.bodies.map(massOf));
		const added = view.bodies.filter((body) => !known.has(massOf(body)));
		this.origin.set(...view.origin);
		this.bodies = view.bodies;
		const changed = this.standing.show(view, look);
		if (changed) this.sent = false;
		if (!this.fitted && view.bodies.length) {
			this.fitted = true;
			this.look('oblique');
		} else if (added.length && !this.camera.sees(outlineOf(added))) this.fit();
		if (changed || this.drawnLevels !== textOf(this.levels())) this.draw();
	}

	/** How much of what stands on faces is drawn. */
	setDetail(detail: Detail): void {
		this.detail = detail;
		this.draw();
	}

	setSelection(cells: readonly CellAddress[]): void {
		this.light(this.selected, cells);
	}

	setHover(cell: CellAddress | undefined): void {
		this.light(this.hovered, cell ? [cell] : []);
	}

	/** Shows nodes, numbers, normals, boxes and edges on the face of a face. */
	setOverlay(overlay: Overlay): void {
		if (this.overlay.show(overlay)) this.draw();
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
		this.pointer.setHandles(handles);
	}

	/** Turns to a standard view with everything in the picture. */
	look(name: StandardView): void {
		this.camera.look(name, () => this.outlinePoints());
	}

	/** Brings everything, or the cells given, into the picture without turning. */
	fit(cells: readonly CellAddress[] = []): void {
		this.camera.fit(() => (cells.length ? this.cornersOf(cells) : this.outlinePoints()));
	}

	/** Moves the target to a cell when it is out of the picture. */
	reveal(cell: CellAddress): void {
		this.camera.reveal(new Box3().setFromPoints(this.cornersOf([cell])).getCenter(new Vector3()));
	}

	/** Turns, tilts or zooms by a step of the keyboard. Angles in radians. */
	turn(around: number, over: number, closer = 1): void {
		this.camera.turn(around, over, closer);
	}

	dispose(): void {
		cancelAnimationFrame(this.frame);
		this.observer.disconnect();
		this.unwatch();
		this.clock.dispose();
		this.pointer.dispose();
		this.standing.clear();
		this.handles.dispose();
		this.overlay.dispose();
		this.colours.dispose();
		this.selected.dispose();
		this.hovered.dispose();
		this.camera.dispose();
		this.renderer.dispose();
	}

	private light(highlight: Highlight, cells: readonly CellAddress[]): void {
		if (!cells.length && !highlight.object.children.length) return;
		highlight.show(this.faces, cells);
		this.draw();
	}

	/** Corners of cells, in the scene. */
	private cornersOf(cells: readonly CellAddress[]): Vector3[] {
		return cells.flatMap(({ face, cell }) => {
			const { cornerStart, corners, nodes } = this.faces[face]!;
			return [...corners.subarray(cornerStart[cell], cornerStart[cell + 1])].map((n) => inScene(nodes, n));
		});
	}

	/** Points that stand for the whole model: some thousands of its surfaces' points. */
	private outlinePoints(): Vector3[] {
		if (!this.model.visible) {
			const { min, max } = new Box3().setFromObject(this.preview.object);
			return [min.x, max.x].flatMap((x) =>
				[min.y, max.y].flatMap((y) => [min.z, max.z].map((z) => new Vector3(x, y, z)))
			);
		}
		return outlineOf(this.bodies);
	}

	private levels(turned: TurnedStep = 'all'): ReadonlyMap<string, Level> {
		return this.details.levels(this.detail, this.camera.eye, this.canvas.clientHeight, turned);
	}

	private resize(): void {
		const { clientWidth, clientHeight } = this.canvas.parentElement!;
		if (!clientWidth || !clientHeight) return;
		this.renderer.setSize(clientWidth, clientHeight, false);
		this.overlay.resize(clientWidth, clientHeight);
		this.selected.setResolution(clientWidth, clientHeight);
		this.hovered.setResolution(clientWidth, clientHeight);
		this.colours.setResolution(clientWidth, clientHeight);
		this.camera.setShape(clientWidth / clientHeight);
		this.draw();
	}

	private draw(): void {
		if (this.frame) return;
		this.frame = requestAnimationFrame(() => {
			this.frame = 0;
			// Drawn when it is seen again: its size changes then.
			if (this.canvas.clientWidth === 0) return;
			// The light comes from over the viewer's left shoulder, so that no side is ever black.
			const offset = new Vector3(-0.5, 0.7, 0.6).applyQuaternion(this.camera.eye.quaternion);
			this.sun.position.copy(this.camera.target).addScaledVector(offset, 100);
			this.sun.target.position.copy(this.camera.target);
			const turned = this.pace.next(this.camera.moving);
			const levels = this.levels(turned);
			this.drawnLevels = textOf(levels);
			this.standing.setLevels(levels);
			const drawn = [...levels.values()];
			this.colours.setCoarse(drawn.some(({ level }) => level === 'coarse'));
			if (drawn.some(({ level }) => level === 'panes')) this.events.panesWanted();
			if (!this.camera.moving) this.events.linesLeftOut(drawn.some(({ lines }) => !lines));
			this.canvas.dataset.detail = detailOf(drawn);
			const begun = performance.now();
			this.renderer.render(this.scene, this.camera.eye);
			const { sent } = this;
			this.sent = true;
			this.clock.time(begun, (ms) => sent && this.pace.drawn(turned, ms));
			this.overlay.render(this.scene, this.camera.eye);
			const { clientWidth, clientHeight } = this.canvas;
			this.canvas.dataset.handles = this.handles.pixels(clientWidth, clientHeight, this.camera.eye).join(' ');
			this.canvas.dataset.drawn = String(Number(this.canvas.dataset.drawn ?? 0) + 1);
		});
	}
}

/** What faces are drawn with, for whoever looks at the page: the parts, and whether lines are among them. */
const detailOf = (drawn: readonly Level[]) =>
	[...new Set(drawn.flatMap(({ level, lines }) => [level, ...(lines ? ['lines'] : [])]))].sort().join(' ');

const textOf = (levels: ReadonlyMap<string, Level>) => JSON.stringify([...levels]);

/** The mass that a face's body is of. */
const massOf = ({ key }: BodyView) => key.split('/')[0]!;

/** Some thousands of the points of bodies, in the scene. */
const outlineOf = (bodies: readonly BodyView[]) =>
	bodies.flatMap(({ positions }) => {
		const count = positions.length / 3;
		const step = Math.ceil(count / Math.max(LEAST_FIT_POINTS, MOST_FIT_POINTS / bodies.length));
		const points = Array.from({ length: Math.ceil(count / step) }, (_, k) => inScene(positions, k * step));
		return [...points, inScene(positions, count - 1)];
	});

/** A point of an array, mm less the origin, in the scene. */
const inScene = (points: ArrayLike<number>, at: number) =>
	new Vector3(points[at * 3], points[at * 3 + 1], points[at * 3 + 2]).multiplyScalar(METRES_PER_MM);

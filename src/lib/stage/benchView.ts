import {
	AmbientLight,
	BufferAttribute,
	BufferGeometry,
	DirectionalLight,
	Group,
	LineSegments,
	PerspectiveCamera,
	Points,
	Raycaster,
	Scene,
	Vector2,
	Vector3,
	WebGLRenderer,
	type Ray
} from 'three';
import { OrbitControls } from 'three/addons/controls/OrbitControls.js';
import { LineMaterial } from 'three/addons/lines/LineMaterial.js';
import { LineSegments2 } from 'three/addons/lines/LineSegments2.js';
import { LineSegmentsGeometry } from 'three/addons/lines/LineSegmentsGeometry.js';
import type { Trial, TrialShape } from '../../core/placement/trial.ts';
import type { TrialPoint } from '../../core/kit/trialHosts.ts';
import { CLICK_PIXELS } from './click.ts';
import { frameAll } from './frameAll.ts';
import { HandleLayer, type StageHandle } from './handleLayer.ts';
import { dotMaterial, lineMaterial, tintMaterial, type MaterialLook } from './materials.ts';
import { meshesOf, partMeshes } from './partMeshes.ts';
import { watchContext } from './context.ts';
import { disposeOf, METRES_PER_MM } from './previewLayer.ts';

export interface BenchColours {
	readonly line: string;
	readonly point: string;
	readonly chosen: string;
	readonly host: string;
}

export interface BenchPicture {
	readonly trial: Trial | undefined;
	/** Corners of the host, mm. */
	readonly corners: readonly TrialPoint[];
	/** The host's own line: pairs of corner numbers. */
	readonly sides: readonly (readonly [number, number])[];
	/** The steps that are lit up. */
	readonly chosen: readonly string[];
	/** Steps that can be picked now; none while nothing is picked. */
	readonly pickable: readonly string[];
	readonly looks: readonly MaterialLook[];
	/** Lines and points of all steps, not only of the chosen one. */
	readonly lines: boolean;
}

/** Pixels around a line or point in which the pointer takes it. */
const REACH = 9;

/** The trial host with what a kit makes of it. Draws only when something has changed. */
export class BenchView {
	/** Called with the step that was clicked; while picking, only those that fit are found. */
	onpick: ((step: string) => void) | undefined;
	/** Called while a corner is dragged, with its way in mm, and once more at the end. */
	oncorner: ((corner: number, way: TrialPoint, done: boolean) => void) | undefined;
	/** Called when the graphics card has taken the picture away, and when it is there again. */
	oncontext: ((lost: boolean) => void) | undefined;
	/** Called when the picture has moved: where the corners are, in pixels. */
	onplaces: ((corners: readonly (readonly [number, number])[]) => void) | undefined;

	private readonly renderer: WebGLRenderer;
	private readonly scene = new Scene();
	private readonly camera = new PerspectiveCamera(18, 1, 0.01, 1000);
	private readonly controls: OrbitControls;
	private readonly content = new Group();
	private readonly layer = new HandleLayer();
	private readonly sun = new DirectionalLight(0xffffff, 2);
	private readonly observer: ResizeObserver;
	private readonly colours: BenchColours;
	private readonly canvas: HTMLCanvasElement;
	private picture: BenchPicture | undefined;
	private handles: StageHandle[] = [];
	private dragged: { corner: number; start: Ray; from: StageHandle } | undefined;
	private down: { x: number; y: number } | undefined;
	private frame = 0;
	private readonly wide = new Map<string, LineMaterial>();
	private readonly unwatch: () => void;

	/** Throws when the browser has no WebGL. */
	constructor(canvas: HTMLCanvasElement, colours: BenchColours) {
		this.canvas = canvas;
		this.colours = colours;
		this.renderer = new WebGLRenderer({ canvas, antialias: true, alpha: true });
		this.renderer.setPixelRatio(Math.min(2, globalThis.devicePixelRatio));
		this.camera.up.set(0, 0, 1);
		this.controls = new OrbitControls(this.camera, canvas);
		this.controls.addEventListener('change', () => this.draw());
		this.scene.add(this.content, this.layer.object, new AmbientLight(0xffffff, 1.5), this.sun, this.sun.target);
		this.content.scale.setScalar(METRES_PER_MM);
		this.observer = new ResizeObserver(() => this.resize());
		this.observer.observe(canvas.parentElement!);
		canvas.addEventListener('pointerdown', this.press);
		canvas.addEventListener('pointermove', this.move);
		canvas.addEventListener('pointerup', this.lift);
		this.unwatch = watchContext(canvas, (lost) => {
			this.oncontext?.(lost);
			this.draw();
		});
		this.resize();
	}

	show(picture: BenchPicture): void {
		this.picture = picture;
		this.clear();
		const { trial, corners, sides, chosen, looks, colours } = { ...picture, colours: this.colours };
		if (trial) {
			const lit = trial.parts.some((p) => chosen.includes(p.step));
			for (const mesh of partMeshes(trial, looks)) this.content.add(mesh);
			// The chosen part in a colour of its own, over the others.
			if (lit)
				for (const mesh of meshesOf(onlySteps(trial, chosen), () => tintMaterial(colours.chosen))) {
					mesh.renderOrder = 5;
					this.content.add(mesh);
				}
			for (const shape of trial.shapes) this.addShape(shape, picture);
		}
		this.content.add(
			segments(
				sides.flatMap(([a, b]) => [...corners[a]!, ...corners[b]!]),
				colours.host,
				0.9
			)
		);
		this.handles = corners.map((at) => ({
			at: new Vector3(...at).multiplyScalar(METRES_PER_MM),
			directions: [new Vector3(1, 0, 0), new Vector3(0, 1, 0), new Vector3(0, 0, 1)]
		}));
		this.layer.show(this.handles, this.dragged?.corner);
		this.draw();
	}

	/** Brings the host and all parts into the picture. */
	fit(direction = new Vector3(0.45, -1, 0.35)): void {
		const points = [...this.handles.map((h) => h.at)];
		this.content.updateMatrixWorld();
		for (const shape of this.picture?.trial?.shapes ?? [])
			for (let o = 0; o < shape.points.length; o += 3)
				points.push(
					new Vector3(shape.points[o], shape.points[o + 1], shape.points[o + 2]).multiplyScalar(METRES_PER_MM)
				);
		if (points.length === 0) return;
		const way = direction.clone().normalize();
		const { target, distance, radius } = frameAll(points, way, this.camera);
		this.controls.target.copy(target);
		this.camera.position.copy(target).addScaledVector(way, distance * 1.12);
		this.camera.near = Math.max(0.005, distance / 200);
		this.camera.far = distance + radius * 20 + 10;
		this.camera.updateProjectionMatrix();
		this.controls.update();
		this.draw();
	}

	dispose(): void {
		cancelAnimationFrame(this.frame);
		this.observer.disconnect();
		this.canvas.removeEventListener('pointerdown', this.press);
		this.canvas.removeEventListener('pointermove', this.move);
		this.canvas.removeEventListener('pointerup', this.lift);
		this.unwatch();
		this.clear();
		for (const material of this.wide.values()) material.dispose();
		this.layer.dispose();
		this.controls.dispose();
		this.renderer.dispose();
	}

	private addShape(shape: TrialShape, { chosen, pickable, lines }: BenchPicture): void {
		const lit = chosen.includes(shape.step);
		const wanted = pickable.includes(shape.step);
		if (!lit && !lines && !wanted) return;
		const colour = lit ? this.colours.chosen : wanted ? this.colours.point : this.colours.line;
		if (shape.points.length === 3) {
			const geometry = new BufferGeometry();
			geometry.setAttribute('position', new BufferAttribute(Float32Array.from(shape.points), 3));
			const points = new Points(geometry, dotMaterial(colour, lit ? 10 : 6, true));
			points.renderOrder = 12;
			points.frustumCulled = false;
			this.content.add(points);
			return;
		}
		this.content.add(
			lit || wanted
				? wide(pairsOf(shape), this.wideMaterial(colour, lit ? 3 : 2))
				: segments(pairsOf(shape), colour, 0.7)
		);
	}

	/** Wide lines know the size of the picture. */
	private wideMaterial(colour: string, width: number): LineMaterial {
		const key = `${colour} ${width}`;
		const there =
			this.wide.get(key) ?? new LineMaterial({ color: colour, linewidth: width, depthTest: false, transparent: true });
		this.wide.set(key, there);
		there.resolution.set(this.canvas.clientWidth, this.canvas.clientHeight);
		return there;
	}

	private readonly press = (event: PointerEvent) => {
		this.down = { x: event.clientX, y: event.clientY };
		if (event.button !== 0) return;
		const { width, height } = this.canvas.getBoundingClientRect();
		const corner = this.layer.hit(event.offsetX, event.offsetY, width, height, this.camera);
		if (corner === undefined) return;
		this.dragged = { corner, start: this.rayAt(event), from: this.handles[corner]! };
		this.controls.enabled = false;
		this.canvas.setPointerCapture(event.pointerId);
	};

	private readonly move = (event: PointerEvent) => {
		if (this.dragged) return this.drag(event, false);
		if (event.buttons) return;
		const { width, height } = this.canvas.getBoundingClientRect();
		const over = this.layer.hit(event.offsetX, event.offsetY, width, height, this.camera);
		this.layer.show(this.handles, over);
		this.canvas.style.cursor = over !== undefined ? 'grab' : this.stepAt(event) !== undefined ? 'pointer' : '';
		this.draw();
	};

	private readonly lift = (event: PointerEvent) => {
		const still = this.down && Math.hypot(event.clientX - this.down.x, event.clientY - this.down.y) < CLICK_PIXELS;
		this.down = undefined;
		if (this.dragged) {
			if (!still) this.drag(event, true);
			this.dragged = undefined;
			this.controls.enabled = true;
			if (!still) return;
		}
		const step = still && event.button === 0 ? this.stepAt(event) : undefined;
		if (step !== undefined) this.onpick?.(step);
	};

	private drag(event: PointerEvent, done: boolean): void {
		const { corner, start, from } = this.dragged!;
		const [x, y, z] = this.layer.way(from, this.rayAt(event), start).map((d) => d / METRES_PER_MM);
		this.oncorner?.(corner, [x!, y!, z!], done);
	}

	/** The step whose line or point is nearest to the pointer. */
	private stepAt(event: PointerEvent): string | undefined {
		const { trial, pickable } = this.picture ?? {};
		const { width, height } = this.canvas.getBoundingClientRect();
		let best: string | undefined;
		let least = REACH;
		for (const shape of trial?.shapes ?? []) {
			if (pickable?.length && !pickable.includes(shape.step)) continue;
			const pixels = Array.from({ length: shape.points.length / 3 }, (_, k) =>
				this.pixelOf(shape.points, k * 3, width, height)
			);
			const point = pixels.length === 1;
			const far = point
				? Math.hypot(pixels[0]![0] - event.offsetX, pixels[0]![1] - event.offsetY)
				: distanceToLine(pixels, shape.closed, event.offsetX, event.offsetY);
			// A point is meant when it lies on a line.
			const weighed = point ? far - 3 : far;
			if (weighed < least) [least, best] = [weighed, shape.step];
		}
		return best;
	}

	private pixelOf(points: ArrayLike<number>, o: number, width: number, height: number): [number, number] {
		const p = new Vector3(points[o], points[o + 1], points[o + 2]).multiplyScalar(METRES_PER_MM).project(this.camera);
		return [((p.x + 1) / 2) * width, ((1 - p.y) / 2) * height];
	}

	private rayAt(event: PointerEvent): Ray {
		const { left, top, width, height } = this.canvas.getBoundingClientRect();
		const caster = new Raycaster();
		caster.setFromCamera(
			new Vector2(((event.clientX - left) / width) * 2 - 1, 1 - ((event.clientY - top) / height) * 2),
			this.camera
		);
		return caster.ray.clone();
	}

	private resize(): void {
		const { clientWidth, clientHeight } = this.canvas.parentElement!;
		if (clientWidth === 0 || clientHeight === 0) return;
		this.renderer.setSize(clientWidth, clientHeight, false);
		this.camera.aspect = clientWidth / clientHeight;
		this.camera.updateProjectionMatrix();
		this.draw();
	}

	private draw(): void {
		cancelAnimationFrame(this.frame);
		this.frame = requestAnimationFrame(() => {
			// Drawn when it is seen again: its size changes then.
			if (this.canvas.clientWidth === 0) return;
			this.sun.position.copy(this.camera.position).add(new Vector3(1, -1, 3));
			this.sun.target.position.copy(this.controls.target);
			this.renderer.render(this.scene, this.camera);
			const { width, height } = this.canvas.getBoundingClientRect();
			this.onplaces?.(this.layer.pixels(width, height, this.camera));
			this.canvas.dataset.drawn = String(Number(this.canvas.dataset.drawn ?? 0) + 1);
		});
	}

	private clear(): void {
		for (const child of [...this.content.children]) {
			this.content.remove(child);
			disposeOf(child);
		}
	}
}

const onlySteps = (trial: Trial, steps: readonly string[]) => ({
	batches: trial.batches.filter((b) => steps.includes(b.step)),
	instances: trial.instances.filter((b) => steps.includes(b.step))
});

function pairsOf({ points, closed }: TrialShape): number[] {
	const n = points.length / 3;
	const at = (k: number) => [...points.subarray((k % n) * 3, (k % n) * 3 + 3)];
	return Array.from({ length: closed ? n : n - 1 }, (_, k) => [...at(k), ...at(k + 1)]).flat();
}

function segments(pairs: readonly number[], colour: string, opacity: number): LineSegments {
	const geometry = new BufferGeometry();
	geometry.setAttribute('position', new BufferAttribute(Float32Array.from(pairs), 3));
	const lines = new LineSegments(geometry, lineMaterial(colour, opacity));
	lines.frustumCulled = false;
	return lines;
}

function wide(pairs: readonly number[], material: LineMaterial): LineSegments2 {
	const geometry = new LineSegmentsGeometry();
	geometry.setPositions([...pairs]);
	const lines = new LineSegments2(geometry, material);
	lines.renderOrder = 11;
	lines.frustumCulled = false;
	return lines;
}

function distanceToLine(pixels: readonly (readonly [number, number])[], closed: boolean, x: number, y: number): number {
	let least = Infinity;
	for (let k = 0; k < (closed ? pixels.length : pixels.length - 1); k++) {
		const [a, b] = [pixels[k]!, pixels[(k + 1) % pixels.length]!];
		const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
		const t = Math.min(1, Math.max(0, ((x - a[0]) * dx + (y - a[1]) * dy) / (dx * dx + dy * dy || 1)));
		least = Math.min(least, Math.hypot(a[0] + t * dx - x, a[1] + t * dy - y));
	}
	return least;
}

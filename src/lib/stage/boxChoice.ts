import { Vector3, type Camera } from 'three';
import { newell } from '../../core/geometry/newell.ts';
import type { FaceView } from '../../core/view/faceView.ts';
import { CLICK_PIXELS } from './click.ts';
import { METRES_PER_MM } from './previewLayer.ts';
import type { CellAddress } from './spaceView.ts';

/** A rectangle of the picture, in its own coordinates: from -1 to 1 to the right and up. */
export interface PictureBox {
	readonly left: number;
	readonly right: number;
	readonly bottom: number;
	readonly top: number;
}

/** Cells that are seen from outside and have their middle within a rectangle of the picture. O(corners). */
export function cellsInBox(faces: readonly FaceView[], camera: Camera, box: PictureBox): CellAddress[] {
	const eye = camera.getWorldPosition(new Vector3());
	const middle = new Vector3();
	return faces.flatMap(({ hidden, cellCount, cornerStart, corners, nodes }, face): CellAddress[] => {
		if (hidden) return [];
		const found: CellAddress[] = [];
		for (let cell = 0; cell < cellCount; cell++) {
			const ring = corners.subarray(cornerStart[cell], cornerStart[cell + 1]);
			middle.set(0, 0, 0);
			for (const n of ring) {
				middle.x += nodes[n * 3]!;
				middle.y += nodes[n * 3 + 1]!;
				middle.z += nodes[n * 3 + 2]!;
			}
			middle.multiplyScalar(METRES_PER_MM / ring.length);
			const [nx, ny, nz] = newell(nodes, ring.length, (k) => ring[k]! * 3);
			if (nx * (eye.x - middle.x) + ny * (eye.y - middle.y) + nz * (eye.z - middle.z) <= 0) continue;
			const { x, y, z } = middle.project(camera);
			if (z < 1 && x >= box.left && x <= box.right && y >= box.bottom && y <= box.top) found.push({ face, cell });
		}
		return found;
	});
}

/** Lets a rectangle be dragged over the picture with Shift held; a mere click with Shift stays one. */
export class BoxChoice {
	private readonly canvas: HTMLCanvasElement;
	private readonly ended: (box: PictureBox) => void;
	private readonly clicked: (event: PointerEvent) => void;
	private readonly mark: HTMLElement;
	private from: PointerEvent | undefined;
	private readonly listeners: readonly (readonly [string, (e: Event) => void])[];

	constructor(canvas: HTMLCanvasElement, ended: (box: PictureBox) => void, clicked: (event: PointerEvent) => void) {
		this.canvas = canvas;
		this.ended = ended;
		this.clicked = clicked;
		this.mark = document.createElement('div');
		this.mark.className = 'box-choice';
		this.mark.hidden = true;
		canvas.parentElement!.append(this.mark);
		this.listeners = [
			['pointerdown', (e) => this.down(e as PointerEvent)],
			['pointermove', (e) => this.move(e as PointerEvent)],
			['pointerup', (e) => this.up(e as PointerEvent)],
			['pointercancel', () => this.drop()]
		];
		// Before those that turn the picture.
		for (const [type, listener] of this.listeners) canvas.addEventListener(type, listener, { capture: true });
	}

	dispose(): void {
		for (const [type, listener] of this.listeners) this.canvas.removeEventListener(type, listener, { capture: true });
		this.mark.remove();
	}

	private down(event: PointerEvent): void {
		if (event.button !== 0 || !event.shiftKey) return;
		event.stopImmediatePropagation();
		this.from = event;
		this.canvas.setPointerCapture(event.pointerId);
	}

	private move(event: PointerEvent): void {
		if (!this.from) return;
		event.stopImmediatePropagation();
		const { left, top } = this.canvas.getBoundingClientRect();
		const [x0, x1] = [Math.min(this.from.clientX, event.clientX), Math.max(this.from.clientX, event.clientX)];
		const [y0, y1] = [Math.min(this.from.clientY, event.clientY), Math.max(this.from.clientY, event.clientY)];
		this.mark.hidden = false;
		Object.assign(this.mark.style, {
			left: `${x0 - left}px`,
			top: `${y0 - top}px`,
			width: `${x1 - x0}px`,
			height: `${y1 - y0}px`
		});
	}

	private up(event: PointerEvent): void {
		const { from } = this;
		if (!from) return;
		event.stopImmediatePropagation();
		this.drop();
		if (Math.hypot(event.clientX - from.clientX, event.clientY - from.clientY) < CLICK_PIXELS)
			return this.clicked(event);
		const { left, top, width, height } = this.canvas.getBoundingClientRect();
		const x = [from, event].map((e) => ((e.clientX - left) / width) * 2 - 1);
		const y = [from, event].map((e) => 1 - ((e.clientY - top) / height) * 2);
		this.ended({ left: Math.min(...x), right: Math.max(...x), bottom: Math.min(...y), top: Math.max(...y) });
	}

	private drop(): void {
		this.from = undefined;
		this.mark.hidden = true;
	}
}

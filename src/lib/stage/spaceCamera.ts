import { PerspectiveCamera, Raycaster, Vector2, Vector3 } from 'three';
import { OrbitControls } from 'three/addons/controls/OrbitControls.js';
import { frameAll } from './frameAll.ts';
import { STANDARD_VIEWS, type StandardView } from './standardViews.ts';

const FIELD_OF_VIEW = 32;
/** Shares of half the picture within which something is seen. */
const SEEN = 0.95;
/** So long after the last movement it counts as moving, ms: each click of a wheel is a movement of its own. */
const SETTLES_AFTER = 200;

/** Points of the scene that are to be in the picture, as they are when they are asked for. */
type Points = () => readonly Vector3[];

/** Where a scene is seen from. It is turned and moved by hand, and stands off so that something is in the picture. Lengths are the scene's. */
export class SpaceCamera {
	readonly eye = new PerspectiveCamera(FIELD_OF_VIEW, 1, 0.1, 10_000);
	/** Whether somebody turns or moves it just now. */
	moving = false;
	private readonly controls: OrbitControls;
	private readonly changed: () => void;
	private settling: ReturnType<typeof setTimeout> | undefined;
	/** What the picture was fitted to, until somebody turns or moves it: it stays so when the picture's shape changes. */
	private fitted: { readonly points: Points; readonly direction: Vector3 } | undefined;

	constructor(canvas: HTMLCanvasElement, changed: () => void) {
		this.changed = changed;
		this.eye.up.set(0, 0, 1);
		this.controls = new OrbitControls(this.eye, canvas);
		this.controls.zoomToCursor = true;
		this.controls.addEventListener('change', changed);
		this.controls.addEventListener('start', () => {
			this.fitted = undefined;
			clearTimeout(this.settling);
			this.moving = true;
		});
		this.controls.addEventListener('end', () => this.settle());
	}

	get target(): Vector3 {
		return this.controls.target;
	}

	/** The hand turns and moves it, or does something else. */
	set byHand(on: boolean) {
		this.controls.enabled = on;
	}

	dispose(): void {
		clearTimeout(this.settling);
		this.controls.dispose();
	}

	/** Turns to a standard view with all points in the picture. */
	look(name: StandardView, points: Points): void {
		this.fitAlong(points, new Vector3(...STANDARD_VIEWS[name].direction).normalize());
	}

	/** Brings points into the picture without turning. */
	fit(points: Points): void {
		this.fitAlong(points, this.eye.position.clone().sub(this.target).normalize());
	}

	/** Whether all points are in the picture. */
	sees(points: readonly Vector3[]): boolean {
		return points.every((point) => {
			const { x, y, z } = point.clone().project(this.eye);
			return Math.abs(x) < SEEN && Math.abs(y) < SEEN && Math.abs(z) < 1;
		});
	}

	/** Moves the target to a point where that is out of the picture. */
	reveal(point: Vector3): void {
		if (this.sees([point])) return;
		const shift = point.clone().sub(this.target);
		this.fitted = undefined;
		this.target.add(shift);
		this.eye.position.add(shift);
		this.controls.update();
	}

	/** Turns, tilts or zooms by a step of the keyboard. Angles in radians. */
	turn(around: number, over: number, closer = 1): void {
		const offset = this.eye.position.clone().sub(this.target);
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
		this.fitted = undefined;
		this.eye.position.copy(this.target).add(offset);
		this.moving = true;
		this.controls.update();
		this.changed();
		this.settle();
	}

	/** The picture has another shape, width over height. */
	setShape(aspect: number): void {
		this.eye.aspect = aspect;
		this.eye.updateProjectionMatrix();
		if (this.fitted) this.fitAlong(this.fitted.points, this.fitted.direction);
	}

	/** The ray through a place of the picture, -1 to 1 to the right and up. */
	casterAt(x: number, y: number): Raycaster {
		const caster = new Raycaster();
		caster.setFromCamera(new Vector2(x, y), this.eye);
		return caster;
	}

	/** What was left out while it moved is drawn soon. */
	private settle(): void {
		clearTimeout(this.settling);
		this.settling = setTimeout(() => {
			this.moving = false;
			this.changed();
		}, SETTLES_AFTER);
	}

	/** Stands off along a direction, just as far that all points are in the picture. */
	private fitAlong(points: Points, direction: Vector3): void {
		const seen = points();
		if (seen.length) {
			const { target, distance, radius } = frameAll(seen, direction, this.eye);
			this.target.copy(target);
			this.eye.position.copy(target).addScaledVector(direction, distance);
			this.eye.near = Math.max(0.01, distance / 500);
			this.eye.far = distance + 30 * Math.max(radius, 1);
			this.eye.updateProjectionMatrix();
			this.changed();
		}
		this.controls.update();
		this.fitted = { points, direction };
	}
}

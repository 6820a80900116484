import {
	BufferAttribute,
	BufferGeometry,
	CanvasTexture,
	Group,
	Plane,
	Points,
	PointsMaterial,
	SRGBColorSpace,
	Vector3,
	type Camera,
	type Ray
} from 'three';

/** A point that can be dragged along one to three directions, in scene units. */
export interface StageHandle {
	readonly at: Vector3;
	/** Unit vectors. */
	readonly directions: readonly Vector3[];
}

/** Pixels around a handle in which the pointer takes it. */
const REACH = 9;
const SIZE = 11;
/** Square of the sine below which a line is looked along. */
const ALONG = 1e-4;

/** Handles drawn over the model, always the same size, and how they follow the pointer. */
export class HandleLayer {
	readonly object = new Group();
	private readonly plain = discMaterial('#FFFFFF', '#B4472E');
	private readonly lit = discMaterial('#B4472E', '#B4472E');
	private handles: readonly StageHandle[] = [];

	show(handles: readonly StageHandle[], lit: number | undefined): void {
		this.handles = handles;
		this.clear();
		const draw = (which: readonly StageHandle[], material: PointsMaterial) => {
			if (which.length === 0) return;
			const geometry = new BufferGeometry();
			geometry.setAttribute(
				'position',
				new BufferAttribute(Float32Array.from(which.flatMap((h) => h.at.toArray())), 3)
			);
			const points = new Points(geometry, material);
			points.renderOrder = 20;
			points.frustumCulled = false;
			this.object.add(points);
		};
		draw(
			handles.filter((_, k) => k !== lit),
			this.plain
		);
		draw(
			handles.filter((_, k) => k === lit),
			this.lit
		);
	}

	/** Where the handles are in the picture; far outside where they are behind the eye. */
	pixels(width: number, height: number, camera: Camera): (readonly [x: number, y: number])[] {
		return this.handles.map(({ at }) => {
			const p = at.clone().project(camera);
			return p.z < 1 ? [Math.round(((p.x + 1) / 2) * width), Math.round(((1 - p.y) / 2) * height)] : [-1000, -1000];
		});
	}

	/** The handle under a point of the picture (pixels), the nearest to it. */
	hit(x: number, y: number, width: number, height: number, camera: Camera): number | undefined {
		let best: number | undefined;
		let least = REACH;
		this.pixels(width, height, camera).forEach(([px, py], k) => {
			const d = Math.hypot(px - x, py - y);
			if (d < least) [least, best] = [d, k];
		});
		return best;
	}

	/** How far a handle has been dragged along each of its directions when the pointer's ray is this. */
	way(handle: StageHandle, ray: Ray, start: Ray): number[] {
		const { at, directions } = handle;
		if (directions.length === 1) {
			const [from, to] = [start, ray].map((r) => alongLine(at, directions[0]!, r));
			return [to! - from!];
		}
		const normal =
			directions.length === 2
				? new Vector3().crossVectors(directions[0]!, directions[1]!).normalize()
				: ray.direction.clone().negate();
		const plane = new Plane().setFromNormalAndCoplanarPoint(normal, at);
		const [from, to] = [start, ray].map((r) => r.intersectPlane(plane, new Vector3()));
		if (!from || !to) return directions.map(() => 0);
		return directions.map((d) => to.clone().sub(from).dot(d));
	}

	dispose(): void {
		this.clear();
		for (const material of [this.plain, this.lit]) {
			material.map?.dispose();
			material.dispose();
		}
	}

	private clear(): void {
		for (const child of [...this.object.children]) {
			this.object.remove(child);
			(child as Points).geometry.dispose();
		}
	}
}

/** Place on a line, from `at` on, that is nearest to a ray. */
function alongLine(at: Vector3, direction: Vector3, ray: Ray): number {
	const between = at.clone().sub(ray.origin);
	const b = direction.dot(ray.direction);
	const scale = 1 - b * b;
	// Looking along the line itself, nothing can be told.
	if (scale < ALONG) return 0;
	return (b * between.dot(ray.direction) - between.dot(direction)) / scale;
}

function discMaterial(fill: string, edge: string): PointsMaterial {
	const canvas = document.createElement('canvas');
	canvas.width = canvas.height = 32;
	const context = canvas.getContext('2d')!;
	context.beginPath();
	context.arc(16, 16, 12, 0, 2 * Math.PI);
	context.fillStyle = fill;
	context.strokeStyle = edge;
	context.lineWidth = 5;
	context.fill();
	context.stroke();
	const map = new CanvasTexture(canvas);
	map.colorSpace = SRGBColorSpace;
	return new PointsMaterial({
		map,
		size: SIZE,
		sizeAttenuation: false,
		transparent: true,
		depthTest: false,
		alphaTest: 0.1
	});
}

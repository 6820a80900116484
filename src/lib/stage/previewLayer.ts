import {
	Box3,
	BufferAttribute,
	BufferGeometry,
	Group,
	InstancedMesh,
	LineSegments,
	Vector3,
	type Mesh,
	type Object3D
} from 'three';
import { plainBody, type PlainSurface } from './bodyMeshes.ts';
import { lineMaterial } from './materials.ts';

/** The scene is in metres. */
export const METRES_PER_MM = 0.001;
/** A preview whose size has changed by this share is fitted anew. */
const RESIZED = 0.01;

/** Parts of a body that is not in the project yet, each in a colour; mm less `origin`. */
export interface Preview {
	readonly origin: readonly [number, number, number];
	readonly parts: readonly (PlainSurface & { readonly colour: string })[];
}

/** What is looked at before it comes into the project, with lines over it. */
export class PreviewLayer {
	readonly object = new Group();
	/** Diagonal of what is shown, in the scene; 0 for nothing. */
	private size = 0;
	private origin: readonly [number, number, number] = [0, 0, 0];

	constructor() {
		this.object.scale.setScalar(METRES_PER_MM);
	}

	/**
	 * Shows parts, or nothing. Answers whether the picture is to be fitted anew: for another body, or the same in
	 * another unit; one parted otherwise stays as it is looked at.
	 */
	show(preview: Preview | undefined, modelOrigin: Vector3): boolean {
		const before = this.size;
		for (const child of [...this.object.children]) this.remove(child);
		this.origin = preview?.origin ?? [0, 0, 0];
		if (preview) {
			this.object.position
				.set(...preview.origin)
				.sub(modelOrigin)
				.multiplyScalar(METRES_PER_MM);
			for (const { colour, ...surface } of preview.parts) this.object.add(plainBody(surface, colour));
		}
		this.size = preview ? new Box3().setFromObject(this.object).getSize(new Vector3()).length() : 0;
		return Math.abs(this.size - before) > RESIZED * this.size || (before > 0 && !preview);
	}

	/** Lines over the parts, as pairs of points in mm of the world. */
	showLines(lines: Float32Array, colour: string): void {
		const old = this.object.children.find((c) => c instanceof LineSegments);
		if (old) this.remove(old);
		if (lines.length === 0) return;
		// The preview's own origin, so that single precision is fine.
		const local = lines.map((v, o) => v - this.origin[o % 3]!);
		const geometry = new BufferGeometry();
		geometry.setAttribute('position', new BufferAttribute(local, 3));
		const segments = new LineSegments(geometry, lineMaterial(colour));
		segments.frustumCulled = false;
		this.object.add(segments);
	}

	private remove(child: Object3D): void {
		this.object.remove(child);
		disposeOf(child);
	}
}

/** Releases what an object holds on the graphics card; materials are kept. */
export function disposeOf(object: Object3D): void {
	object.traverse((part) => {
		(part as Partial<Mesh>).geometry?.dispose();
		if (part instanceof InstancedMesh) part.dispose();
	});
}

import {
	BufferAttribute,
	BufferGeometry,
	Group,
	LineSegments,
	Mesh,
	type LineBasicMaterial,
	type Object3D
} from 'three';
import { edgeSegments } from '../../core/tiling/edges.ts';
import type { CellMesh } from '../../core/project/cellMesh.ts';
import type { FaceView } from '../../core/view/faceView.ts';
import type { ModelView } from '../../core/view/modelView.ts';
import { geometryOf, plainBody, twoSidedBody, type BodyColours, type PlainSurface } from './bodyMeshes.ts';
import { mainMaterial, type Level } from './detail.ts';
import { followingLineMaterial, lineMaterial, partMaterial, type MaterialLook } from './materials.ts';
import { partMeshes } from './partMeshes.ts';
import { disposeOf } from './previewLayer.ts';

/** How a model is shown. */
export interface ModelLook {
	readonly materials: readonly MaterialLook[];
	readonly line: string;
	/** Faces as bare surfaces with their outside tinted, instead of what stands on them. */
	readonly bare: boolean;
	/** Edges as they follow their faces, by the hash of the face: surfaces without parts show these where they are there. */
	readonly curves: ReadonlyMap<string, Float32Array>;
	/** Faces that are shown in the colours of a reading, by key; the others are then plain. */
	readonly coloured: ReadonlySet<string> | undefined;
	readonly body: BodyColours;
	/** Surfaces that are not part of the facade. */
	readonly plain: string;
	/** Cells of faces as surfaces, by the hash of the face, where they have been asked for. */
	readonly panes: ReadonlyMap<string, CellMesh>;
	/** Shown grey, in mm of the world. */
	readonly references: readonly PlainSurface[];
	readonly reference: string;
}

/** What stands in space. An object is kept for as long as what it was made from stays the same. */
export class ModelLayer {
	readonly object = new Group();
	private readonly objects = new Map<string, Object3D>();
	private style = '';
	/** Numbers of surfaces that come from elsewhere, so that each has a name. */
	private readonly numbers = new WeakMap<object, number>();
	private count = 0;

	/** Makes what is not there yet, and takes away what is not wanted any more. O(what has changed). */
	show(view: ModelView, look: ModelLook): void {
		const style = JSON.stringify([look.materials, look.line, look.body, look.plain, look.reference]);
		if (style !== this.style) this.clear();
		this.style = style;
		const wanted = wantedOf(view, look, (surface) => this.numberOf(surface));
		for (const [name, object] of this.objects)
			if (!wanted.has(name)) {
				this.object.remove(object);
				disposeOf(object);
				this.objects.delete(name);
			}
		for (const [name, make] of wanted) {
			if (this.objects.has(name)) continue;
			const made = make();
			this.objects.set(name, made);
			this.object.add(made);
		}
	}

	/** Shows of each face, by its hash, as much as is said; panes that have not come yet are outlines until then. */
	setLevels(levels: ReadonlyMap<string, Level>): void {
		for (const [name, object] of this.objects) {
			const [kind, hash] = [name.slice(0, name.indexOf(' ')), name.slice(name.indexOf(' ') + 1)];
			const drawn = levels.get(hash);
			if (kind === 'parts') object.visible = drawn?.level === 'full';
			if (kind === 'panes') object.visible = drawn?.level === 'panes';
			if (kind === 'surface') object.visible = drawn?.level === 'surface';
			if (kind === 'lines' || kind === 'curves') object.visible = drawn?.lines ?? true;
		}
	}

	clear(): void {
		for (const object of this.objects.values()) {
			this.object.remove(object);
			disposeOf(object);
		}
		this.objects.clear();
	}

	private numberOf(surface: object): number {
		const number = this.numbers.get(surface) ?? ++this.count;
		this.numbers.set(surface, number);
		return number;
	}
}

/** What is to be there, by names that tell what it is made from. */
function wantedOf(
	view: ModelView,
	look: ModelLook,
	numberOf: (surface: object) => number
): Map<string, () => Object3D> {
	const wanted = new Map<string, () => Object3D>();
	const parts = !look.bare && !look.coloured;
	const bodies = new Map(view.bodies.map((body) => [body.key, body]));
	for (const face of view.faces) {
		if (face.hidden) continue;
		if (parts) wanted.set(`parts ${face.hash}`, () => grouped(partMeshes(face, look.materials)));
		const panes = parts ? look.panes.get(face.hash) : undefined;
		if (panes) wanted.set(`panes ${face.hash}`, () => paneMesh(face, panes, look.materials));
		const body = parts ? bodies.get(face.key) : undefined;
		if (body) wanted.set(`surface ${face.hash}`, () => meshOf(geometryOf(body), face, look.materials));
		const bare = look.bare || (look.coloured && !look.coloured.has(face.key));
		const curves = bare ? look.curves.get(face.hash) : undefined;
		if (curves) wanted.set(`curves ${face.hash}`, () => curvedLines(curves, look.line));
		else wanted.set(`lines ${face.hash}`, () => edgeLines(face, look.line));
	}
	for (const body of view.bodies)
		if (look.bare) wanted.set(`bare ${body.hash}`, () => twoSidedBody(body, look.body));
		else if (!body.facade || (look.coloured && !look.coloured.has(body.key)))
			wanted.set(`plain ${body.hash}`, () => plainBody(body, look.plain));
	for (const reference of look.references)
		wanted.set(`reference ${numberOf(reference)} ${view.origin.join()}`, () => {
			const mesh = plainBody(reference, look.reference);
			mesh.position.set(...view.origin).negate();
			return mesh;
		});
	return wanted;
}

function grouped(meshes: readonly Object3D[]): Group {
	const group = new Group();
	for (const mesh of meshes) group.add(mesh);
	return group;
}

/** The cells of a face in the material that most of it shows. */
function paneMesh(face: FaceView, { positions }: CellMesh, looks: readonly MaterialLook[]): Mesh {
	const geometry = new BufferGeometry();
	geometry.setAttribute('position', new BufferAttribute(positions, 3));
	return meshOf(geometry, face, looks);
}

/** A surface in what most of its face shows. */
function meshOf(geometry: BufferGeometry, face: FaceView, looks: readonly MaterialLook[]): Mesh {
	const main = mainMaterial(face);
	const mesh = new Mesh(geometry, partMaterial(looks.find((l) => l.id === main)));
	mesh.frustumCulled = false;
	return mesh;
}

function edgeLines(face: FaceView, colour: string): LineSegments {
	const geometry = new BufferGeometry();
	geometry.setAttribute('position', new BufferAttribute(face.nodes, 3));
	geometry.setIndex(new BufferAttribute(edgeSegments(face).nodes, 1));
	return linesOf(geometry, lineMaterial(colour, LINE_OPACITY));
}

function curvedLines(segments: Float32Array, colour: string): LineSegments {
	const geometry = new BufferGeometry();
	geometry.setAttribute('position', new BufferAttribute(segments, 3));
	return linesOf(geometry, followingLineMaterial(colour, LINE_OPACITY));
}

const LINE_OPACITY = 0.55;

function linesOf(geometry: BufferGeometry, material: LineBasicMaterial): LineSegments {
	const lines = new LineSegments(geometry, material);
	lines.frustumCulled = false;
	return lines;
}

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
import type { NearAndFar } from '../../core/project/coarseCells.ts';
import type { FaceView } from '../../core/view/faceView.ts';
import type { FaceLines } from '../../core/view/faceLines.ts';
import type { ModelView } from '../../core/view/modelView.ts';
import { plainBody, twoSidedBody, type BodyColours, type PlainSurface } from './bodyMeshes.ts';
import type { Level } from './detail.ts';
import { followingLineMaterial, lineMaterial, partMaterial, type MaterialLook } from './materials.ts';
import { mixedLook } from './mixedLook.ts';
import { partMeshes } from './partMeshes.ts';
import { disposeOf } from './previewLayer.ts';

/** How a model is shown. */
export interface ModelLook {
	readonly materials: readonly MaterialLook[];
	readonly line: string;
	/** Faces as bare surfaces with their outside tinted, instead of what stands on them. */
	readonly bare: boolean;
	/** Edges as they follow their faces, by the hash of these lines: surfaces without parts show them where they are there. */
	readonly curves: ReadonlyMap<string, Float32Array>;
	/** Faces that are shown in the colours of a reading, by key; the others are then plain. */
	readonly coloured: ReadonlySet<string> | undefined;
	readonly body: BodyColours;
	/** Surfaces that are not part of the facade. */
	readonly plain: string;
	/** Cells of faces as surfaces, by the hash of the face, where they have been asked for. */
	readonly panes: ReadonlyMap<string, NearAndFar>;
	/** Shown grey, in mm of the world. */
	readonly references: readonly PlainSurface[];
	readonly reference: string;
}

/** What is shown: a model, or faces with their lines before there is one. */
export interface Shown extends Pick<ModelView, 'origin' | 'bodies' | 'faces'> {
	readonly early?: readonly FaceLines[];
}

/** Something to be drawn: of which face, as which part of what is drawn of it, and how it is made. */
interface Wanted {
	readonly face?: string;
	readonly kind: 'parts' | 'panes' | 'coarse' | 'lines' | 'other';
	readonly make: () => Object3D;
}

/** What stands in space. An object is kept for as long as what it was made from stays the same. */
export class ModelLayer {
	readonly object = new Group();
	private readonly objects = new Map<string, Wanted & { readonly object: Object3D }>();
	private style = '';
	/** Numbers of surfaces that come from elsewhere, so that each has a name. */
	private readonly numbers = new WeakMap<object, number>();
	private count = 0;

	/** Makes what is not there yet, and takes away what is not wanted any more; whether there was any. O(what has changed). */
	show(view: Shown, look: ModelLook): boolean {
		let changed = false;
		const style = JSON.stringify([look.materials, look.line, look.body, look.plain, look.reference]);
		if (style !== this.style) this.clear();
		this.style = style;
		const wanted = wantedOf(view, look, (surface) => this.numberOf(surface));
		for (const [name, { object }] of this.objects)
			if (!wanted.has(name)) {
				this.object.remove(object);
				disposeOf(object);
				this.objects.delete(name);
				changed = true;
			}
		for (const [name, what] of wanted) {
			if (this.objects.has(name)) continue;
			const object = what.make();
			this.objects.set(name, { ...what, object });
			this.object.add(object);
			changed = true;
		}
		return changed;
	}

	/** Shows of each face, by its key, as much as is said; panes that have not come yet are outlines until then. */
	setLevels(levels: ReadonlyMap<string, Level>): void {
		const facesWith = (kind: Wanted['kind']) =>
			new Set([...this.objects.values()].flatMap((o) => (o.kind === kind ? [o.face] : [])));
		const [withParts, withPanes] = [facesWith('parts'), facesWith('panes')];
		for (const { face, kind, object } of this.objects.values()) {
			const drawn = face === undefined ? undefined : levels.get(face);
			const awaited = drawn && drawn.level !== 'full' && withParts.has(face) && !withPanes.has(face);
			if (kind === 'parts') object.visible = drawn?.level === 'full';
			if (kind === 'panes' || kind === 'coarse') object.visible = drawn?.level === kind;
			if (kind === 'lines') object.visible = awaited || (drawn?.lines ?? true);
		}
	}

	clear(): void {
		for (const { object } of this.objects.values()) {
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
function wantedOf(view: Shown, look: ModelLook, numberOf: (surface: object) => number): Map<string, Wanted> {
	const wanted = new Map<string, Wanted>();
	const parts = !look.bare && !look.coloured;
	/** Lines as they follow a face that is shown bare, or straight ones. */
	const addLines = (face: string, hash: string, straight?: () => Object3D) => {
		const follows = view.early || look.bare || (look.coloured && !look.coloured.has(face));
		const curves = follows && look.curves.get(hash);
		if (curves) wanted.set(`curves ${hash}`, { face, kind: 'lines', make: () => curvedLines(curves, look.line) });
		else if (straight) wanted.set(`lines ${hash}`, { face, kind: 'lines', make: straight });
	};
	for (const face of view.faces) {
		if (face.hidden) continue;
		const { key, hash } = face;
		if (parts)
			wanted.set(`parts ${hash}`, { face: key, kind: 'parts', make: () => grouped(partMeshes(face, look.materials)) });
		const panes = parts ? look.panes.get(hash) : undefined;
		if (panes)
			for (const [kind, mesh] of [
				['panes', panes],
				['coarse', panes.far]
			] as const)
				wanted.set(`${kind} ${hash}`, { face: key, kind, make: () => paneMesh(face, mesh, look.materials) });
		addLines(key, face.linesHash, () => edgeLines(face, look.line));
	}
	for (const { face, hash } of view.early ?? []) addLines(face, hash);
	const add = (name: string, make: () => Object3D) => wanted.set(name, { kind: 'other', make });
	for (const body of view.bodies)
		if (look.bare) add(`bare ${body.hash}`, () => twoSidedBody(body, look.body));
		else if (!body.facade || view.early || (look.coloured && !look.coloured.has(body.key)))
			add(`plain ${body.hash}`, () => plainBody(body, look.plain));
	for (const reference of look.references)
		add(`reference ${numberOf(reference)} ${view.origin.join()}`, () => {
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

/** The cells of a face, each as one surface, in the colour that the face has from afar. */
function paneMesh(face: FaceView, { positions }: CellMesh, looks: readonly MaterialLook[]): Mesh {
	const geometry = new BufferGeometry();
	geometry.setAttribute('position', new BufferAttribute(positions, 3));
	const mesh = new Mesh(geometry, partMaterial(mixedLook(face, looks)));
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

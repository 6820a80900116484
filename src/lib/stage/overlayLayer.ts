import { BufferAttribute, BufferGeometry, Group, LineSegments, Points, type Camera, type Scene } from 'three';
import { CSS2DObject, CSS2DRenderer } from 'three/addons/renderers/CSS2DRenderer.js';
import { cellsAround, edgeMark, nodeMark } from '../../core/tiling/marks.ts';
import type { FaceView } from '../../core/view/faceView.ts';
import { dotMaterial, lineMaterial } from './materials.ts';

/** What is shown of a face's grid besides its lines. */
export interface OverlayChoice {
	readonly nodes: boolean;
	/** Corner numbers of the chosen cells. */
	readonly corners: boolean;
	/** Row and column numbers along the borders. */
	readonly numbers: boolean;
	/** Edges as they follow the face. */
	readonly curves: boolean;
	/** Marks of the edges and nodes of the chosen cells. */
	readonly marks: boolean;
	readonly normals: boolean;
	/** The boxes between the two layers. */
	readonly boxes: boolean;
}

/** What is shown of which face, and in which colours. */
export interface Overlay {
	readonly face: FaceView | undefined;
	readonly choice: OverlayChoice;
	/** The chosen cells. */
	readonly cells: readonly number[];
	readonly ink: string;
	readonly accent: string;
	/** Lines over the face, such as its edges as they follow it: segments, stride 6. */
	readonly curves: Float32Array | undefined;
}

/** Share of a cell's size that a normal is drawn with. */
const NORMAL_SHARE = 0.5;
const MOST_NUMBERS = 60;
/** Cells whose corners are numbered at most. */
const MOST_NUMBERED = 24;
/** Cells whose edges and nodes bear their marks at most. */
const MOST_MARKED = 4;

/** Nodes, normals, boxes and numbers of one face. Text is plain HTML over the picture. */
export class OverlayLayer {
	/** In mm, beside the model's parts. */
	readonly object = new Group();
	private readonly labels = new CSS2DRenderer();
	private readonly text = new Group();

	constructor(parent: HTMLElement) {
		const { domElement } = this.labels;
		domElement.className = 'overlay-labels';
		domElement.dataset.testid = 'overlay-labels';
		parent.append(domElement);
		this.object.add(this.text);
	}

	resize(width: number, height: number): void {
		this.labels.setSize(width, height);
	}

	render(scene: Scene, camera: Camera): void {
		if (this.labels.domElement.childElementCount || this.text.children.length) this.labels.render(scene, camera);
	}

	/** Shows what is chosen of a face, nothing without one; whether there is, or was, anything. */
	show({ face, choice, cells, ink, accent, curves }: Overlay): boolean {
		const before = this.count;
		this.clear();
		if (!face) return before > 0;
		// Only when asked for: on large faces this is work that the interface would feel.
		const used = choice.nodes || choice.normals ? [...new Set(face.corners)] : [];
		if (choice.nodes) this.object.add(dots(face, used, ink));
		if (curves) this.object.add(lines(curves, accent));
		if (choice.normals) this.object.add(lines(normalLines(face, used), accent));
		if (choice.boxes && face.lifted) this.object.add(lines(boxLines(face, face.lifted), accent));
		if (choice.numbers) this.addNumbers(face);
		if (choice.marks) this.addMarks(face, cells.slice(0, MOST_MARKED));
		if (choice.corners) for (const cell of cells.slice(0, MOST_NUMBERED)) this.addCorners(face, cell);
		return before + this.count > 0;
	}

	/** Things that are shown. */
	private get count(): number {
		// The group of texts is one of the children.
		return this.object.children.length - 1 + this.text.children.length;
	}

	dispose(): void {
		this.clear();
		this.labels.domElement.remove();
	}

	private addNumbers(face: FaceView): void {
		for (const [kind, along, other] of [
			['row', face.row, face.column],
			['column', face.column, face.row]
		] as const) {
			const first = new Map<number, number>();
			for (let c = 0; c < face.cellCount; c++) {
				const known = first.get(along[c]!);
				if (known === undefined || other[c]! < other[known]!) first.set(along[c]!, c);
			}
			const every = Math.ceil(first.size / MOST_NUMBERS);
			for (const [number, cell] of first)
				if (number % every === 0)
					this.addLabel(String(number + 1), middleOf(face, cell), `overlay-label overlay-${kind}`);
		}
	}

	private addMarks(face: FaceView, cells: readonly number[]): void {
		const { edgeNodes, edgeCells, edgeCount, cornerStart, corners, nodes } = face;
		const wanted = new Set(cells);
		const place = (n: number) => [nodes[n * 3]!, nodes[n * 3 + 1]!, nodes[n * 3 + 2]!];
		for (let e = 0; e < edgeCount; e++) {
			if (!wanted.has(edgeCells[e * 2]!) && !wanted.has(edgeCells[e * 2 + 1]!)) continue;
			const [a, b] = [place(edgeNodes[e * 2]!), place(edgeNodes[e * 2 + 1]!)];
			this.addLabel(
				edgeMark(face, e),
				a.map((x, c) => (x + b[c]!) / 2),
				'overlay-label overlay-edge'
			);
		}
		const around = cellsAround(
			face,
			new Set(cells.flatMap((c) => [...corners.subarray(cornerStart[c], cornerStart[c + 1])]))
		);
		for (const [node, at] of around) this.addLabel(nodeMark(face, node, at), place(node), 'overlay-label overlay-node');
	}

	private addCorners(face: FaceView, cell: number): void {
		const middle = middleOf(face, cell);
		for (let k = face.cornerStart[cell]!, n = 1; k < face.cornerStart[cell + 1]!; k++, n++) {
			const o = face.corners[k]! * 3;
			// A little inside of the corner.
			const at = [0, 1, 2].map((c) => face.nodes[o + c]! * 0.82 + middle[c]! * 0.18);
			this.addLabel(String(n), at, 'overlay-label overlay-corner');
		}
	}

	private addLabel(text: string, at: readonly number[], className: string): void {
		const element = document.createElement('span');
		element.textContent = text;
		element.className = className;
		const label = new CSS2DObject(element);
		label.position.set(at[0]!, at[1]!, at[2]!);
		this.text.add(label);
	}

	private clear(): void {
		for (const child of [...this.object.children]) {
			if (child === this.text) continue;
			this.object.remove(child);
			(child as LineSegments).geometry.dispose();
		}
		for (const label of [...this.text.children]) {
			this.text.remove(label);
			(label as CSS2DObject).element.remove();
		}
	}
}

function middleOf({ cornerStart, corners, nodes }: FaceView, cell: number): number[] {
	const from = cornerStart[cell]!;
	const count = cornerStart[cell + 1]! - from;
	return [0, 1, 2].map((c) => {
		let sum = 0;
		for (let k = from; k < from + count; k++) sum += nodes[corners[k]! * 3 + c]!;
		return sum / count;
	});
}

function dots({ nodes }: FaceView, used: readonly number[], colour: string): Points {
	const geometry = new BufferGeometry();
	geometry.setAttribute(
		'position',
		new BufferAttribute(Float32Array.from(used.flatMap((n) => [...nodes.subarray(n * 3, n * 3 + 3)])), 3)
	);
	const points = new Points(geometry, dotMaterial(colour, 4));
	points.frustumCulled = false;
	return points;
}

function normalLines({ nodes, normals, cornerStart, corners, cellCount }: FaceView, used: readonly number[]): number[] {
	let size = 0;
	for (let c = 0; c < cellCount; c++) {
		const [a, b] = [corners[cornerStart[c]!]! * 3, corners[cornerStart[c]! + 1]! * 3];
		size += Math.hypot(nodes[a]! - nodes[b]!, nodes[a + 1]! - nodes[b + 1]!, nodes[a + 2]! - nodes[b + 2]!) / cellCount;
	}
	const length = size * NORMAL_SHARE;
	return used.flatMap((n) => {
		const at = [...nodes.subarray(n * 3, n * 3 + 3)];
		return [...at, ...at.map((x, c) => x + normals[n * 3 + c]! * length)];
	});
}

/** The second layer's cells, and the lines from each corner to its own there. */
function boxLines({ nodes, cornerStart, corners, cellCount }: FaceView, lifted: Float32Array): number[] {
	const found: number[] = [];
	const point = (from: Float32Array, n: number) => [from[n * 3]!, from[n * 3 + 1]!, from[n * 3 + 2]!];
	for (let c = 0; c < cellCount; c++)
		for (let k = cornerStart[c]!; k < cornerStart[c + 1]!; k++) {
			const [a, b] = [corners[k]!, corners[k + 1 < cornerStart[c + 1]! ? k + 1 : cornerStart[c]!]!];
			found.push(...point(lifted, a), ...point(lifted, b), ...point(nodes, a), ...point(lifted, a));
		}
	return found;
}

function lines(points: ArrayLike<number>, colour: string): LineSegments {
	const geometry = new BufferGeometry();
	geometry.setAttribute('position', new BufferAttribute(Float32Array.from(points), 3));
	const segments = new LineSegments(geometry, lineMaterial(colour));
	segments.frustumCulled = false;
	return segments;
}

import {
	BufferAttribute,
	BufferGeometry,
	Color,
	DataTexture,
	DoubleSide,
	Group,
	Mesh,
	MeshBasicMaterial,
	Points,
	PointsMaterial,
	SRGBColorSpace,
	type Material
} from 'three';
import { LineMaterial } from 'three/addons/lines/LineMaterial.js';
import { LineSegments2 } from 'three/addons/lines/LineSegments2.js';
import { LineSegmentsGeometry } from 'three/addons/lines/LineSegmentsGeometry.js';
import { edgeSegments } from '../../core/tiling/edges.ts';
import type { HostKind } from '../../core/readings/definition.ts';
import type { CellMesh } from '../../core/project/cellMesh.ts';
import type { NearAndFar } from '../../core/project/coarseCells.ts';
import type { FaceView } from '../../core/view/faceView.ts';
import { spreadOver } from './spread.ts';

/** A face and the class of each of its hosts. */
export interface ColouredFace {
	readonly face: FaceView;
	readonly mesh: NearAndFar;
	readonly classes: Uint8Array;
}

export interface Colouring {
	readonly host: HostKind;
	readonly faces: readonly ColouredFace[];
	/** By class. */
	readonly palette: readonly string[];
	/** Of hosts without a value, and of cells while edges or nodes are coloured. */
	readonly none: string;
}

/** Texels of the palette: one a class, the last one for hosts without a value. */
const TEXELS = 256;
const LINE_PIXELS = 4;
const NODE_PIXELS = 9;
/** Edges or nodes of a face that are enough to see how their colours lie. */
const MOST_FAR = 4000;

/** Cells, edges or nodes in the colours of a reading. In mm, beside the model's parts. */
export class ColourLayer {
	readonly object = new Group();
	private readonly near = new Group();
	/** The same as it is seen while turning it is too slow. */
	private readonly far = new Group();
	private readonly texture = new DataTexture(new Uint8Array(TEXELS * 4), TEXELS, 1);
	private readonly cellMaterial: MeshBasicMaterial;
	private readonly plainMaterial = new MeshBasicMaterial({
		side: DoubleSide,
		polygonOffset: true,
		polygonOffsetFactor: 1,
		polygonOffsetUnits: 1
	});
	private readonly lineMaterial = new LineMaterial({ linewidth: LINE_PIXELS, vertexColors: true });
	private readonly pointMaterial = new PointsMaterial({
		size: NODE_PIXELS,
		sizeAttenuation: false,
		vertexColors: true
	});
	/** Meshes by the triangles that they show, so that other colours need no other mesh. */
	private readonly meshes = new Map<CellMesh, Mesh>();

	constructor() {
		this.object.add(this.near, this.far);
		this.setCoarse(false);
		this.texture.colorSpace = SRGBColorSpace;
		this.cellMaterial = new MeshBasicMaterial({
			map: this.texture,
			side: DoubleSide,
			polygonOffset: true,
			polygonOffsetFactor: 1,
			polygonOffsetUnits: 1
		});
	}

	/** Shows a colouring, or nothing. O(hosts). */
	show(colouring: Colouring | undefined): void {
		const kept = new Set(colouring?.faces.flatMap(({ mesh }) => [mesh, mesh.far]));
		for (const mesh of [...this.meshes.keys()]) if (!kept.has(mesh)) this.meshes.delete(mesh);
		const meshes = new Set<unknown>(this.meshes.values());
		for (const group of [this.near, this.far])
			for (const child of [...group.children])
				if (!meshes.has(child)) {
					group.remove(child);
					(child as Mesh).geometry.dispose();
				}
		if (!colouring) return;
		this.plainMaterial.color.set(colouring.none);
		this.paint(colouring);
		const { host } = colouring;
		for (const face of colouring.faces) {
			for (const [group, cells] of [
				[this.near, face.mesh],
				[this.far, face.mesh.far]
			] as const) {
				const mesh = this.meshOf(cells, group);
				mesh.material = host === 'cell' ? this.cellMaterial : this.plainMaterial;
				if (host === 'cell') colourTriangles(mesh.geometry, cells, face.classes);
			}
			if (host === 'edge') this.addEdges(face, colouring);
			if (host === 'node') this.addNodes(face, colouring);
		}
	}

	/** Draws far fewer triangles, edges or nodes, or all of them again. */
	setCoarse(coarse: boolean): void {
		this.near.visible = !coarse;
		this.far.visible = coarse;
	}

	setResolution(width: number, height: number): void {
		this.lineMaterial.resolution.set(width, height);
	}

	dispose(): void {
		this.show(undefined);
		this.texture.dispose();
		for (const material of [
			this.cellMaterial,
			this.plainMaterial,
			this.lineMaterial,
			this.pointMaterial
		] satisfies Material[])
			material.dispose();
	}

	private paint({ palette, none }: Colouring): void {
		const data = this.texture.image.data as Uint8Array;
		for (let k = 0; k < TEXELS; k++) {
			const colour = Number.parseInt((palette[k] ?? none).slice(1), 16);
			data.set([colour >> 16, (colour >> 8) & 255, colour & 255, 255], k * 4);
		}
		this.texture.needsUpdate = true;
	}

	private meshOf(cells: CellMesh, group: Group): Mesh {
		const there = this.meshes.get(cells);
		if (there) return there;
		const geometry = new BufferGeometry();
		geometry.setAttribute('position', new BufferAttribute(cells.positions, 3));
		geometry.setAttribute('uv', new BufferAttribute(new Float32Array((cells.positions.length / 3) * 2).fill(0.5), 2));
		const mesh = new Mesh(geometry, this.cellMaterial);
		mesh.frustumCulled = false;
		this.meshes.set(cells, mesh);
		group.add(mesh);
		return mesh;
	}

	private addEdges({ face, classes }: ColouredFace, colouring: Colouring): void {
		const { nodes, edge } = edgeSegments(face);
		const linear = linearColours(colouring);
		const add = (group: Group, shown: readonly number[]) => {
			const positions = new Float32Array(shown.length * 6);
			const colours = new Float32Array(shown.length * 6);
			shown.forEach((s, k) => {
				for (let end = 0; end < 2; end++)
					for (let c = 0; c < 3; c++) {
						positions[k * 6 + end * 3 + c] = face.nodes[nodes[s * 2 + end]! * 3 + c]!;
						colours[k * 6 + end * 3 + c] = linear[classes[edge[s]!]! * 3 + c]!;
					}
			});
			const geometry = new LineSegmentsGeometry();
			geometry.setPositions(positions);
			geometry.setColors(colours);
			const lines = new LineSegments2(geometry, this.lineMaterial);
			lines.frustumCulled = false;
			group.add(lines);
		};
		add(this.near, spreadOver(edge.length, Infinity));
		add(this.far, spreadOver(edge.length, MOST_FAR));
	}

	private addNodes({ face, classes }: ColouredFace, colouring: Colouring): void {
		const all = [...new Set(face.corners)];
		const linear = linearColours(colouring);
		const add = (group: Group, used: readonly number[]) => {
			const geometry = new BufferGeometry();
			geometry.setAttribute(
				'position',
				new BufferAttribute(
					Float32Array.from(used.flatMap((n) => [face.nodes[n * 3]!, face.nodes[n * 3 + 1]!, face.nodes[n * 3 + 2]!])),
					3
				)
			);
			geometry.setAttribute(
				'color',
				new BufferAttribute(
					Float32Array.from(
						used.flatMap((n) => [linear[classes[n]! * 3]!, linear[classes[n]! * 3 + 1]!, linear[classes[n]! * 3 + 2]!])
					),
					3
				)
			);
			const points = new Points(geometry, this.pointMaterial);
			points.frustumCulled = false;
			group.add(points);
		};
		add(this.near, all);
		add(
			this.far,
			spreadOver(all.length, MOST_FAR).map((k) => all[k]!)
		);
	}
}

/** Every corner of a cell's triangles looks at its class's texel. */
function colourTriangles(geometry: BufferGeometry, { cellOf }: CellMesh, classes: Uint8Array): void {
	const uv = geometry.getAttribute('uv') as BufferAttribute;
	const values = uv.array as Float32Array;
	for (let t = 0; t < cellOf.length; t++) {
		const at = (classes[cellOf[t]!]! + 0.5) / TEXELS;
		values[t * 6] = at;
		values[t * 6 + 2] = at;
		values[t * 6 + 4] = at;
	}
	uv.needsUpdate = true;
}

/** Colours by class for vertex colours, which are linear; stride 3. */
function linearColours({ palette, none }: Colouring): Float32Array {
	const colours = new Float32Array(TEXELS * 3);
	const colour = new Color();
	for (let k = 0; k < TEXELS; k++) colour.set(palette[k] ?? none).toArray(colours, k * 3);
	return colours;
}

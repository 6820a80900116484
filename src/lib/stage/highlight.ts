import { BufferAttribute, BufferGeometry, DoubleSide, Group, Mesh, MeshBasicMaterial } from 'three';
import { LineMaterial } from 'three/addons/lines/LineMaterial.js';
import { LineSegments2 } from 'three/addons/lines/LineSegments2.js';
import { LineSegmentsGeometry } from 'three/addons/lines/LineSegmentsGeometry.js';
import { newell } from '../../core/geometry/newell.ts';
import { triangulate } from '../../core/tiling/cellTriangles.ts';
import type { FaceView } from '../../core/view/faceView.ts';
import type { CellAddress } from './spaceView.ts';

/** Nodes of the triangles within a ring of nodes, three each, whether or not it is dented. */
export function fillOf(ring: Uint32Array, nodes: Float32Array): number[] {
	const normal = newell(nodes, ring.length, (k) => ring[k]! * 3);
	return triangulate([ring], nodes, [normal[0]!, normal[1]!, normal[2]!]);
}

/** Cells lit up: a tint and a strong outline that nothing hides. */
export class Highlight {
	readonly object = new Group();
	private readonly lineMaterial: LineMaterial;
	private readonly fillMaterial: MeshBasicMaterial;

	/** Line width in pixels. */
	constructor(colour: string, width: number) {
		// Drawn after everything else: transparent things come last, in the order asked for.
		this.lineMaterial = new LineMaterial({
			color: colour,
			linewidth: width,
			depthTest: false,
			transparent: true
		});
		this.fillMaterial = new MeshBasicMaterial({
			color: colour,
			transparent: true,
			opacity: 0.28,
			depthTest: false,
			side: DoubleSide
		});
		this.object.renderOrder = 10;
	}

	show(faces: readonly FaceView[], cells: readonly CellAddress[]): void {
		this.clear();
		const fill: number[] = [];
		const lines: number[] = [];
		for (const { face, cell } of cells) {
			const { cornerStart, corners, nodes } = faces[face]!;
			const at = (n: number) => nodes.subarray(n * 3, n * 3 + 3);
			const ring = corners.subarray(cornerStart[cell], cornerStart[cell + 1]);
			ring.forEach((n, k) => lines.push(...at(n), ...at(ring[(k + 1) % ring.length]!)));
			for (const n of fillOf(ring, nodes)) fill.push(...at(n));
		}
		if (lines.length === 0) return;
		const fillGeometry = new BufferGeometry();
		fillGeometry.setAttribute('position', new BufferAttribute(Float32Array.from(fill), 3));
		const lineGeometry = new LineSegmentsGeometry();
		lineGeometry.setPositions(lines);
		this.object.add(new Mesh(fillGeometry, this.fillMaterial), new LineSegments2(lineGeometry, this.lineMaterial));
		this.object.children.forEach((child) => {
			child.renderOrder = 10;
			child.frustumCulled = false;
		});
	}

	setResolution(width: number, height: number): void {
		this.lineMaterial.resolution.set(width, height);
	}

	dispose(): void {
		this.clear();
		this.lineMaterial.dispose();
		this.fillMaterial.dispose();
	}

	private clear(): void {
		for (const child of [...this.object.children]) {
			this.object.remove(child);
			(child as Mesh).geometry.dispose();
		}
	}
}

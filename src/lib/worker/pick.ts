import { BufferAttribute, BufferGeometry, DoubleSide, Ray, Vector3 } from 'three';
import { MeshBVH } from 'three-mesh-bvh';
import type { Point } from '../../core/placement/batches.ts';
import { cellTriangles } from '../../core/tiling/cellTriangles.ts';
import type { FaceModel } from '../../core/project/faceStages.ts';

export interface PickedCell {
	readonly face: number;
	readonly cell: number;
}

/** Finds the cell under a ray, by a tree of boxes over the cells' triangles. */
export class CellPicker {
	private readonly tree: MeshBVH | undefined;
	private readonly faceOf: Uint16Array;
	private readonly cellOf: Uint32Array;

	/** Hidden faces cannot be picked. O(cells log cells). */
	constructor(faces: readonly FaceModel[], hidden: ReadonlySet<string>) {
		const shown = faces.filter(({ key }) => !hidden.has(key));
		const found = shown.map(({ nodes, cells, readings }) =>
			Array.from({ length: cells.count }, (_, c) => cellTriangles(cells, c, nodes.position, readings.normal))
		);
		const triangles = found.reduce((n, face) => n + face.reduce((m, t) => m + t.length / 3, 0), 0);
		const nodeCount = faces.reduce((n, { nodes }) => n + nodes.position.length / 3, 0);
		const position = new Float32Array(nodeCount * 3);
		const index = new Uint32Array(triangles * 3);
		this.faceOf = new Uint16Array(triangles);
		this.cellOf = new Uint32Array(triangles);
		let t = 0;
		let firstNode = 0;
		faces.forEach(({ key, nodes }, face) => {
			if (hidden.has(key)) return;
			position.set(nodes.position, firstNode * 3);
			found[shown.indexOf(faces[face]!)]!.forEach((cell, c) => {
				for (let k = 0; k < cell.length; k += 3, t++) {
					for (let p = 0; p < 3; p++) index[t * 3 + p] = firstNode + cell[k + p]!;
					this.faceOf[t] = face;
					this.cellOf[t] = c;
				}
			});
			firstNode += nodes.position.length / 3;
		});
		if (triangles === 0) return;
		const geometry = new BufferGeometry();
		geometry.setAttribute('position', new BufferAttribute(position, 3));
		geometry.setIndex(new BufferAttribute(index, 1));
		// Indirect: the order of the triangles, and so of faceOf and cellOf, stays.
		this.tree = new MeshBVH(geometry, { indirect: true });
	}

	/** The nearest cell along a ray in mm; nothing where there is none. */
	pick(origin: Point, direction: Point): PickedCell | undefined {
		const ray = new Ray(new Vector3(...origin), new Vector3(...direction).normalize());
		const hit = this.tree?.raycastFirst(ray, DoubleSide);
		if (hit?.faceIndex === undefined || hit.faceIndex === null) return undefined;
		return { face: this.faceOf[hit.faceIndex]!, cell: this.cellOf[hit.faceIndex]! };
	}
}

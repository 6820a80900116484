import { BufferAttribute, BufferGeometry, DoubleSide, Ray, Vector3 } from 'three';
import { MeshBVH } from 'three-mesh-bvh';
import type { Point } from '../../core/placement/batches.ts';
import type { MeasuredFace } from '../../core/readings/faceReadings.ts';
import { cellTriangles } from '../../core/tiling/cellTriangles.ts';

export interface Hit {
	readonly cell: number;
	/** mm along the ray. */
	readonly distance: number;
}

/** Finds the cell of a face under a ray, by a tree of boxes over the cells' triangles. */
export class CellPicker {
	private readonly tree: MeshBVH | undefined;
	private readonly cellOf: Uint32Array;

	/** O(cells log cells). */
	constructor({ nodes, cells, readings }: Pick<MeasuredFace, 'nodes' | 'cells' | 'readings'>) {
		const found = Array.from({ length: cells.count }, (_, c) =>
			cellTriangles(cells, c, nodes.position, readings.normal)
		);
		const triangles = found.reduce((n, t) => n + t.length / 3, 0);
		const index = new Uint32Array(triangles * 3);
		this.cellOf = new Uint32Array(triangles);
		let t = 0;
		found.forEach((corners, cell) => {
			this.cellOf.fill(cell, t, t + corners.length / 3);
			index.set(corners, t * 3);
			t += corners.length / 3;
		});
		if (triangles === 0) return;
		const geometry = new BufferGeometry();
		geometry.setAttribute('position', new BufferAttribute(Float32Array.from(nodes.position), 3));
		geometry.setIndex(new BufferAttribute(index, 1));
		// Indirect: the order of the triangles, and so of cellOf, stays.
		this.tree = new MeshBVH(geometry, { indirect: true });
	}

	/** The nearest cell along a ray in mm; nothing where there is none. */
	pick(origin: Point, direction: Point): Hit | undefined {
		const ray = new Ray(new Vector3(...origin), new Vector3(...direction).normalize());
		const hit = this.tree?.raycastFirst(ray, DoubleSide);
		if (hit?.faceIndex === undefined || hit.faceIndex === null) return undefined;
		return { cell: this.cellOf[hit.faceIndex]!, distance: hit.distance };
	}
}

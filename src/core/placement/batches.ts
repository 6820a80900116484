import type { Placement } from './place.ts';

/** All parts of one material, as one indexed mesh. */
export interface MaterialBatch {
	readonly material: string;
	/** mm less the origin, stride 3. */
	readonly positions: Float32Array;
	/** Three vertices a triangle, anticlockwise from outside. */
	readonly indices: Uint32Array;
	/** Number of the panel that a vertex belongs to. */
	readonly panels: Float32Array;
}

export type Point = readonly [number, number, number];

/**
 * Merges the parts of many placements by material; each batch holds only the points that it uses.
 * `panelNumbers` gives, for each placement, the number of the panel on each cell. O(triangles).
 */
export function batchByMaterial(
	placements: readonly Placement[],
	origin: Point,
	panelNumbers: readonly Int32Array[]
): MaterialBatch[] {
	const materials = [...new Set(placements.flatMap((p) => p.parts.map((part) => part.material)))];
	return materials.map((material) => {
		const slices = placements.map((placement) => sliceOf(placement, material));
		const vertices = sum(slices.map((s, p) => s.used.length * placements[p]!.hosts.length));
		const corners = sum(slices.map((s, p) => s.triangles.length * placements[p]!.hosts.length));
		const batch = {
			material,
			positions: new Float32Array(vertices * 3),
			indices: new Uint32Array(corners),
			panels: new Float32Array(vertices)
		};
		let vertex = 0;
		let corner = 0;
		placements.forEach((placement, p) => {
			const { used, triangles } = slices[p]!;
			if (triangles.length === 0) return;
			const stride = placement.pointsPerHost * 3;
			for (let h = 0; h < placement.hosts.length; h++) {
				for (let t = 0; t < triangles.length; t++) batch.indices[corner++] = vertex + triangles[t]!;
				const panel = panelNumbers[p]![placement.hosts[h]!]!;
				for (let k = 0; k < used.length; k++, vertex++) {
					const from = h * stride + used[k]! * 3;
					batch.positions[vertex * 3] = placement.points[from]! - origin[0];
					batch.positions[vertex * 3 + 1] = placement.points[from + 1]! - origin[1];
					batch.positions[vertex * 3 + 2] = placement.points[from + 2]! - origin[2];
					batch.panels[vertex] = panel;
				}
			}
		});
		return batch;
	});
}

/** Points of a host that a material's parts use, and their triangles renumbered over those. */
function sliceOf(placement: Placement, material: string) {
	const all = placement.parts
		.filter((part) => part.material === material)
		.flatMap((part) => [...part.triangles]);
	const used = Uint16Array.from([...new Set(all)].sort((a, b) => a - b));
	const triangles = Uint16Array.from(all, (point) => used.indexOf(point));
	return { used, triangles };
}

const sum = (numbers: readonly number[]) => numbers.reduce((a, b) => a + b, 0);

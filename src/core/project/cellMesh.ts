import type { Point } from '../placement/batches.ts';
import type { FaceModel } from './faceResult.ts';
import { isSpecial } from '../tiling/cells.ts';
import { cellTriangles } from '../tiling/cellTriangles.ts';

/** The cells of a face as triangles that share no corners, so that each may have a colour of its own. */
export interface CellMesh {
	/** mm less the model's origin, three corners a triangle, stride 3. */
	readonly positions: Float32Array;
	/** Cell of each triangle, in order. */
	readonly cellOf: Uint32Array;
}

/** O(corners). */
export function cellMesh({ nodes, cells, readings }: FaceModel, origin: Point): CellMesh {
	const { position } = nodes;
	const special = new Map<number, number[]>();
	let triangles = 0;
	for (let c = 0; c < cells.count; c++) {
		if (isSpecial(cells, c)) special.set(c, cellTriangles(cells, c, position, readings.normal));
		triangles += special.has(c) ? special.get(c)!.length / 3 : cells.cornerStart[c + 1]! - cells.cornerStart[c]! - 2;
	}
	const positions = new Float32Array(triangles * 9);
	const cellOf = new Uint32Array(triangles);
	let t = 0;
	const add = (c: number, a: number, b: number, d: number) => {
		cellOf[t] = c;
		for (let k = 0; k < 3; k++) {
			positions[t * 9 + k] = position[a * 3 + k]! - origin[k]!;
			positions[t * 9 + 3 + k] = position[b * 3 + k]! - origin[k]!;
			positions[t * 9 + 6 + k] = position[d * 3 + k]! - origin[k]!;
		}
		t++;
	};
	for (let c = 0; c < cells.count; c++) {
		const own = special.get(c);
		if (own) for (let k = 0; k < own.length; k += 3) add(c, own[k]!, own[k + 1]!, own[k + 2]!);
		else
			for (let k = cells.cornerStart[c]! + 1; k + 1 < cells.cornerStart[c + 1]!; k++)
				add(c, cells.corners[cells.cornerStart[c]!]!, cells.corners[k]!, cells.corners[k + 1]!);
	}
	return { positions, cellOf };
}

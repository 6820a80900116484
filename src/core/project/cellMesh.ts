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

/** A face whose cells are drawn. */
export type DrawnCells = Pick<FaceModel, 'nodes' | 'cells' | 'readings'>;

/** Likewise by the nodes of the face, three a triangle. */
export interface CellCorners {
	readonly corners: Uint32Array;
	readonly cellOf: Uint32Array;
}

/** The cells of a face as triangles: mm less `origin`. O(corners). */
export const cellMesh = (face: DrawnCells, origin: Point): CellMesh => placed(face, cellCorners(face), origin);

/** The cells of a face as triangles between its nodes. O(corners). */
export function cellCorners({ nodes: { position }, cells, readings }: DrawnCells): CellCorners {
	const { cornerStart, corners: nodeOf } = cells;
	const special = new Map<number, number[]>();
	let triangles = 0;
	for (let c = 0; c < cells.count; c++) {
		if (isSpecial(cells, c)) special.set(c, cellTriangles(cells, c, position, readings.normal));
		triangles += special.has(c) ? special.get(c)!.length / 3 : cornerStart[c + 1]! - cornerStart[c]! - 2;
	}
	const corners = new Uint32Array(triangles * 3);
	const cellOf = new Uint32Array(triangles);
	let t = 0;
	const add = (cell: number, a: number, b: number, c: number) => {
		cellOf[t] = cell;
		corners[t * 3] = a;
		corners[t * 3 + 1] = b;
		corners[t * 3 + 2] = c;
		t++;
	};
	for (let c = 0; c < cells.count; c++) {
		const own = special.get(c);
		if (own) for (let k = 0; k < own.length; k += 3) add(c, own[k]!, own[k + 1]!, own[k + 2]!);
		else
			for (let k = cornerStart[c]! + 1; k + 1 < cornerStart[c + 1]!; k++)
				add(c, nodeOf[cornerStart[c]!]!, nodeOf[k]!, nodeOf[k + 1]!);
	}
	return { corners, cellOf };
}

/** Triangles where their nodes are: mm less `origin`. O(triangles). */
export function placed(
	{ nodes: { position } }: Pick<DrawnCells, 'nodes'>,
	{ corners, cellOf }: CellCorners,
	origin: Point
): CellMesh {
	const positions = new Float32Array(corners.length * 3);
	for (let k = 0; k < corners.length; k++)
		for (let axis = 0; axis < 3; axis++) positions[k * 3 + axis] = position[corners[k]! * 3 + axis]! - origin[axis]!;
	return { positions, cellOf };
}

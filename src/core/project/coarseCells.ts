import { meshArea } from '../mesh/triangleMesh.ts';
import { NO_CELL } from '../tiling/cells.ts';
import type { Point } from '../placement/batches.ts';
import { cellCorners, placed, type CellCorners, type CellMesh, type DrawnCells } from './cellMesh.ts';

/** The cells of a face, and the same as they are seen from afar. */
export interface NearAndFar extends CellMesh {
	readonly far: CellMesh;
}

/** mm less `origin`. O(corners). */
export function nearAndFar(face: DrawnCells, origin: Point): NearAndFar {
	const corners = cellCorners(face);
	return { ...placed(face, corners, origin), far: placed(face, coarseCells(face, corners), origin) };
}

/** How many sides of cells the side of a coarse triangle is long. */
const COARSER = 4;
/** Coarse triangles along a square face, at least: those of small faces are smaller. */
const LEAST_ALONG = 8;
/** And at most: those of very many cells are larger. */
const MOST_ALONG = 50;
/** A strip that is narrower than boxes would be gone: less of a face is left than this share. */
const LEAST_LEFT = 0.75;

/**
 * The cells of a face as they are seen from afar: far fewer triangles, each of a cell that is there. Nodes in one box of
 * space become one, which closes what is smaller than a box, and leaves borders where they are; small and narrow faces stay
 * as they are. Vertex clustering, after Rossignac and Borrel, “Multi-resolution 3D approximations for rendering complex
 * scenes” (1993). O(corners).
 */
export function coarseCells(face: DrawnCells, all: CellCorners): CellCorners {
	const { count } = face.cells;
	const area = face.readings.columns.area.reduce((sum, a) => sum + a, 0);
	const along = Math.sqrt(count);
	const coarser = Math.max(Math.min(COARSER, along / LEAST_ALONG), along / MOST_ALONG);
	if (coarser <= 1) return all;
	const coarse = clustered(all, clustersOf(face, coarser * Math.sqrt(area / count)));
	const left = meshArea({ positions: face.nodes.position, triangles: coarse.corners });
	return left >= LEAST_LEFT * area ? coarse : all;
}

interface Clusters {
	/** By node. */
	readonly of: Uint32Array;
	/** By cluster, the node that stands for it: one of the border, where there is any. */
	readonly nodes: readonly number[];
}

/** The triangles that are left between clusters, each once. */
function clustered({ corners, cellOf }: CellCorners, { of, nodes }: Clusters): CellCorners {
	const [kept, cells]: [number[], number[]] = [[], []];
	const seen = new Set<number>();
	for (let t = 0; t < cellOf.length; t++) {
		const [a, b, c] = [of[corners[t * 3]!]!, of[corners[t * 3 + 1]!]!, of[corners[t * 3 + 2]!]!];
		if (a === b || b === c || c === a) continue;
		const [least, most] = [Math.min(a, b, c), Math.max(a, b, c)];
		const key = (least * nodes.length + (a + b + c - least - most)) * nodes.length + most;
		if (seen.has(key)) continue;
		seen.add(key);
		kept.push(nodes[a]!, nodes[b]!, nodes[c]!);
		cells.push(cellOf[t]!);
	}
	return { corners: Uint32Array.from(kept), cellOf: Uint32Array.from(cells) };
}

/** Nodes by boxes of space, of a side in mm. */
function clustersOf({ nodes: { position }, cells }: DrawnCells, side: number): Clusters {
	const { edgeNodes, edgeCells, edgeCount } = cells;
	const onBorder = new Uint8Array(position.length / 3);
	for (let e = 0; e < edgeCount; e++)
		if (edgeCells[e * 2 + 1] === NO_CELL) onBorder[edgeNodes[e * 2]!] = onBorder[edgeNodes[e * 2 + 1]!] = 1;
	const boxOf = boxesOf(position, side);
	const of = new Uint32Array(onBorder.length);
	const nodes: number[] = [];
	const known = new Map<number, number>();
	for (let n = 0; n < of.length; n++) {
		const box = boxOf(n);
		let cluster = known.get(box);
		if (cluster === undefined) {
			cluster = nodes.push(n) - 1;
			known.set(box, cluster);
		} else if (onBorder[n] && !onBorder[nodes[cluster]!]) nodes[cluster] = n;
		of[n] = cluster;
	}
	return { of, nodes };
}

/** The box of space, of a side in mm, that a node is in, as a number. */
function boxesOf(position: Float64Array, side: number): (node: number) => number {
	const [least, most] = [
		[Infinity, Infinity, Infinity],
		[-Infinity, -Infinity, -Infinity]
	];
	for (let k = 0; k < position.length; k++) {
		const axis = k % 3;
		if (position[k]! < least[axis]!) least[axis] = position[k]!;
		if (position[k]! > most[axis]!) most[axis] = position[k]!;
	}
	const boxes = [0, 1, 2].map((axis) => Math.floor((most[axis]! - least[axis]!) / side) + 1);
	const at = (n: number, axis: number) => Math.floor((position[n * 3 + axis]! - least[axis]!) / side);
	return (n) => (at(n, 2) * boxes[1]! + at(n, 1)) * boxes[0]! + at(n, 0);
}

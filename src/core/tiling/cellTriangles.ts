import earcut from 'earcut';
import { isSpecial, type CellTable } from './cells.ts';

/**
 * Node indices of the triangles of a cell, three each. A whole cell is a fan; a cut or dented one, which may even
 * have holes, is triangulated in its mean plane (`normal`, stride 3, by cell; `position` by node).
 */
export function cellTriangles(
	cells: Pick<CellTable, 'cornerStart' | 'corners' | 'trim' | 'dented'>,
	c: number,
	position: ArrayLike<number>,
	normal: ArrayLike<number>
): number[] {
	const ring = cells.corners.subarray(cells.cornerStart[c]!, cells.cornerStart[c + 1]!);
	if (!isSpecial(cells, c)) {
		const fan: number[] = [];
		for (let k = 1; k + 1 < ring.length; k++) fan.push(ring[0]!, ring[k]!, ring[k + 1]!);
		return fan;
	}
	const holes = cells.trim?.holes.get(c) ?? [];
	return triangulate([ring, ...holes], position, [normal[c * 3]!, normal[c * 3 + 1]!, normal[c * 3 + 2]!]);
}

/** Triangles of a line of nodes with holes behind it, seen along a normal. */
export function triangulate(
	rings: readonly ArrayLike<number>[],
	position: ArrayLike<number>,
	normal: readonly [number, number, number]
): number[] {
	const nodes = rings.flatMap((r) => Array.from(r));
	// The plane that the normal is steepest to keeps the most of the outline.
	const [x, y, z] = normal.map(Math.abs) as [number, number, number];
	const [a, b] = z >= x && z >= y ? [0, 1] : x >= y ? [1, 2] : [0, 2];
	const flat = nodes.flatMap((n) => [position[n * 3 + a]!, position[n * 3 + b]!]);
	let at = 0;
	const holes = rings.slice(0, -1).map((r) => (at += r.length));
	return earcut(flat, holes).map((k) => nodes[k]!);
}

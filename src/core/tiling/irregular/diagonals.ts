import { FRESH_ARRAYS } from '../../arrays.ts';
import { hypot, norm } from '../../elementary/index.ts';
import type { NodeTable } from '../../settingout/nodes.ts';
import type { PlaneCells, PlaneExtent } from '../plane/planeCells.ts';
import { gridBuilder, gridCorner } from './fieldGrid.ts';
import { ALIKE_DIAGONALS } from '../../tolerances.ts';
import { cross, wayAt } from '../../geometry/vectors.ts';
import { type Point } from '../../geometry/curve.ts';

/**
 * Two triangles a field, along the shorter diagonal, or along the one whose two triangles make the smaller angle with
 * each other; the rising one where both are alike. O(fields).
 */
export function chooseDiagonals(
	nodes: Pick<NodeTable, 'position' | 'columns' | 'nodeOf'>,
	extent: PlaneExtent,
	by: 'shorter' | 'flatter',
	arrays = FRESH_ARRAYS
): PlaneCells {
	const builder = gridBuilder(extent, arrays);
	const node = (x: number, y: number) => {
		const place = y * nodes.columns + x;
		return (nodes.nodeOf ? nodes.nodeOf[place]! : place) * 3;
	};
	for (let y = 0; y < extent.up; y++)
		for (let x = 0; x < extent.across; x++) {
			const corners = [node(x, y), node(x + 1, y), node(x + 1, y + 1), node(x, y + 1)] as const;
			const rising = by === 'shorter' ? isShorter(nodes.position, corners) : isFlatter(nodes.position, corners);
			const at = (dx: number, dy: number) => gridCorner(extent, x + dx, y + dy);
			const [lower, upper] = rising
				? [
						[at(0, 0), at(1, 0), at(1, 1)],
						[at(0, 0), at(1, 1), at(0, 1)]
					]
				: [
						[at(0, 0), at(1, 0), at(0, 1)],
						[at(1, 0), at(1, 1), at(0, 1)]
					];
			builder.addCell(lower, 0, y, 2 * x);
			builder.addCell(upper, 1, y, 2 * x + 1);
		}
	return builder.finish(['lower', 'upper']);
}

type Corners = readonly [number, number, number, number];

function isShorter(position: Float64Array, [a, b, c, d]: Corners): boolean {
	const far = (p: number, q: number) =>
		hypot(position[p]! - position[q]!, position[p + 1]! - position[q + 1]!, position[p + 2]! - position[q + 2]!);
	return far(a, c) <= far(b, d) * (1 + ALIKE_DIAGONALS);
}

function isFlatter(position: Float64Array, [a, b, c, d]: Corners): boolean {
	return cosine(position, [a, b, c], [a, c, d]) >= cosine(position, [a, b, d], [b, c, d]) - ALIKE_DIAGONALS;
}

type Triangle = readonly [number, number, number];

/** Of the angle between two triangles' normals; 1 where one has no area, since it is then part of the other's side. */
function cosine(position: Float64Array, p: Triangle, q: Triangle): number {
	const [m, n] = [normalOf(position, p), normalOf(position, q)];
	const size = norm(m) * norm(n);
	return size === 0 ? 1 : (m[0] * n[0] + m[1] * n[1] + m[2] * n[2]) / size;
}

function normalOf(position: Float64Array, [a, b, c]: Triangle): Point {
	return cross(wayAt(position, a, b), wayAt(position, a, c));
}

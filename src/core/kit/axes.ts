import { hypot, norm } from '../elementary/index.ts';
import { COINCIDENT_MM, PARALLEL_SINE } from '../tolerances.ts';

export type Axis = readonly [number, number, number];

/** Two unit axes that turn anticlockwise about a unit normal: the first one level. */
export function axesSquareTo([x, y, z]: Axis): [Axis, Axis] {
	const level = hypot(x, y);
	// Of a plane that lies level any right will do, but the same for all of them, whatever rounding makes of their normals.
	const right: Axis = level > PARALLEL_SINE ? [-y / level, x / level, 0] : [1, 0, 0];
	return [right, upOf([x, y, z], right)];
}

/**
 * The same with the first one along the first side of a ring, stride 3, which is no point seen along the normal: cells that
 * are alike are then alike in their axes, too, however they stand.
 */
export function axesAlong([x, y, z]: Axis, ring: Float64Array): [Axis, Axis] {
	for (let k = 0; k + 3 < ring.length; k += 3) {
		const [dx, dy, dz] = [ring[k + 3]! - ring[k]!, ring[k + 4]! - ring[k + 1]!, ring[k + 5]! - ring[k + 2]!];
		const off = dx * x + dy * y + dz * z;
		const side: Axis = [dx - off * x, dy - off * y, dz - off * z];
		const length = norm(side);
		if (!(length > COINCIDENT_MM)) continue;
		const right: Axis = [side[0] / length, side[1] / length, side[2] / length];
		return [right, upOf([x, y, z], right)];
	}
	return axesSquareTo([x, y, z]);
}

const upOf = ([x, y, z]: Axis, right: Axis): Axis => [
	y * right[2] - z * right[1],
	z * right[0] - x * right[2],
	x * right[1] - y * right[0]
];

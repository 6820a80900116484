import { hypot } from '../elementary/index.ts';

export type Axis = readonly [number, number, number];

/** Two unit axes that turn anticlockwise about a unit normal: the first one level. */
export function axesSquareTo([x, y, z]: Axis): [Axis, Axis] {
	const level = hypot(x, y);
	// Of a plane that lies level any right will do.
	const right: Axis = level > 0 ? [-y / level, x / level, 0] : [1, 0, 0];
	return [right, [y * right[2] - z * right[1], z * right[0] - x * right[2], x * right[1] - y * right[0]]];
}

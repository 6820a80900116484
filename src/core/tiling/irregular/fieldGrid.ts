import { FRESH_ARRAYS } from '../../arrays.ts';
import { PlaneBuilder, type PlaneExtent } from '../plane/planeCells.ts';

/** A builder that has a vertex for every place of the grid, in their order: place `row * (across + 1) + column`. */
export function gridBuilder(extent: PlaneExtent, arrays = FRESH_ARRAYS): PlaneBuilder {
	const builder = new PlaneBuilder(extent, arrays);
	const columns = extent.across + 1;
	for (let j = 0; j <= extent.up; j++)
		for (let i = 0; i <= extent.across; i++) {
			const [x, y] = builder.wrap(i, j);
			builder.addVertex(i, j, x === i && y === j ? undefined : y * columns + x);
		}
	return builder;
}

export const gridCorner = ({ across }: PlaneExtent, x: number, y: number, straight = false) => ({
	x,
	y,
	straight,
	vertex: y * (across + 1) + x
});

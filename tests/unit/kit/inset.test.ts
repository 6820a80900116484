import { expect } from 'chai';
import type { Surface } from '../../../src/core/geometry/surface.ts';
import { kitSchema } from '../../../src/core/kit/schema.ts';
import { placeKit } from '../../../src/core/placement/place.ts';
import { measureCells } from '../../../src/core/readings/measureCells.ts';
import { frustum, hypar, rectangle, sphereZone } from '../surfaces.ts';
import { tile, type TilingInput } from '../tile.ts';

const DISTANCE = 60;
const LEFT = kitSchema.parse({
	id: 'left',
	name: 'What is left inside',
	host: { kind: 'cell', leastCorners: 3, greatestCorners: 64 },
	parameters: [],
	steps: [
		{ kind: 'outline', name: 'o' },
		{ kind: 'inset', name: 'in', of: 'o', distance: DISTANCE },
		{ kind: 'plate', name: 'p', role: 'panel', material: 'steel', outline: 'in', thickness: 1 }
	]
});

/** Of each cell: what an inset leaves of it, and what it leaves of a flat rectangle of as much area and perimeter, mm2. */
function left(surface: Surface, tiling: TilingInput): (readonly [number, number])[] {
	const { nodes, cells, all } = tile(surface, 32, 8, tiling);
	const readings = measureCells(nodes, cells);
	const { placements } = placeKit(
		LEFT,
		{},
		{ surface, nodes, cells, readings, layer: 0 },
		{ densities: { steel: 7850 } }
	);
	const [area, perimeter] = [all.column('cell.area'), all.column('cell.perimeter')];
	return placements.flatMap(({ hosts, parts }) =>
		Array.from(hosts, (c, h) => {
			expect(parts[0]!.pieces[h], `cell ${c} has a piece`).equal(1);
			return [parts[0]!.area[h]!, area[c]! - perimeter[c]! * DISTANCE + 4 * DISTANCE * DISTANCE] as const;
		})
	);
}

describe('an inset of a cell with corners on its sides', () => {
	for (const [name, surface] of [
		['flat face', rectangle(40_000, 9000)],
		['cylinder', frustum(6000, 6000, 9000)],
		['cone', frustum(7000, 5000, 9000)],
		['ball', sphereZone(9000, -0.5, 0.5)],
		['saddle', hypar(1e-5, 20_000, 20_000)]
	] as const)
		for (const kind of ['running-bond', 'basket-weave', 'herringbone'] as const)
			it(`leaves the rectangle that it leaves where the face is flat: ${kind} on a ${name}`, () => {
				const all = left(surface, { kind });
				expect(all.length).greaterThan(30);
				for (const [is, flat] of all) expect(is / flat).closeTo(1, 0.003);
			});
});

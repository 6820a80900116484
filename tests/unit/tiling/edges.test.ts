import { expect } from 'chai';
import fc from 'fast-check';
import { OPEN_ENDS } from '../../../src/core/geometry/borders.ts';
import { NO_CELL } from '../../../src/core/tiling/cells.ts';
import { edgesOf } from '../../../src/core/tiling/edges.ts';
import { tileRectangular } from '../../../src/core/tiling/rectangular.ts';
import { divide } from '../divide.ts';
import { frustum, sphereZone } from '../surfaces.ts';

/** Edges by their nodes, each with its cells in order. */
function named({ edgeCount, edgeNodes, edgeCells }: ReturnType<typeof edgesOf>): Map<string, string> {
	const found = new Map<string, string>();
	for (let e = 0; e < edgeCount; e++) {
		const nodes = [edgeNodes[2 * e]!, edgeNodes[2 * e + 1]!].sort((a, b) => a - b).join('-');
		expect(found.has(nodes)).false;
		found.set(
			nodes,
			[...edgeCells.subarray(2 * e, 2 * e + 2)]
				.filter((c) => c !== NO_CELL)
				.sort((a, b) => a - b)
				.join('-')
		);
	}
	return found;
}

describe('edges of any cells', () => {
	it('are those of the grid, on open patches whatever edge they are counted from', () => {
		fc.assert(
			fc.property(
				fc.integer({ min: 2, max: 9 }),
				fc.integer({ min: 2, max: 9 }),
				fc.boolean(),
				fc.boolean(),
				(columns, rows, across, up) => {
					const cells = tileRectangular({ ends: OPEN_ENDS, columns, rows, fromEnd: { across, up } });
					expect(named(edgesOf(cells))).deep.equal(named(cells));
				}
			)
		);
	});

	it('are those of the grid on tubes and domes', () => {
		for (const surface of [frustum(3000, 2000, 4000), frustum(3000, 0, 4000), sphereZone(3000, -0.4, Math.PI / 2)]) {
			const cells = tileRectangular(divide(surface, 7, 5));
			expect(named(edgesOf(cells))).deep.equal(named(cells));
		}
	});
});

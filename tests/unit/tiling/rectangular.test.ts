import { expect } from 'chai';
import fc from 'fast-check';
import { OPEN_ENDS } from '../../../src/core/geometry/borders.ts';
import { NO_CELL, validateCells } from '../../../src/core/tiling/cells.ts';
import { DEFAULT_MARK, printMark } from '../../../src/core/tiling/marks.ts';
import { tileRectangular } from '../../../src/core/tiling/rectangular.ts';

describe('rectangular tiling', () => {
	it('is sound, shares each edge once, and has V - E + F = 1 on an open patch (Euler; from memory)', () => {
		fc.assert(
			fc.property(fc.integer({ min: 1, max: 12 }), fc.integer({ min: 1, max: 12 }), (across, up) => {
				const nodes = (across + 1) * (up + 1);
				const cells = tileRectangular({ ends: OPEN_ENDS, columns: across + 1, rows: up + 1 });
				expect(validateCells(cells, nodes)).deep.equal([]);
				expect(nodes - cells.edgeCount + cells.count).equal(1);
				const borders = cells.edgeCells.filter((c) => c === NO_CELL).length;
				expect(borders).equal(2 * (across + up));
			})
		);
	});

	it('finds what is broken in a table', () => {
		const cells = tileRectangular({ ends: OPEN_ENDS, columns: 3, rows: 2 });
		const swapped = { ...cells, corners: cells.corners.slice() };
		swapped.corners.reverse();
		expect(validateCells(swapped, 6)).not.empty;
		expect(validateCells({ ...cells, edgeNodes: cells.edgeNodes.map((n) => (n === 0 ? 1 : n)) }, 6)).not.empty;
		expect(validateCells(cells, 3).join()).contains('names node 3 of 3');
	});

	it('orders cells row by row from the lower left, corners anticlockwise', () => {
		const cells = tileRectangular({ ends: OPEN_ENDS, columns: 3, rows: 3 });
		expect([...cells.corners.subarray(4, 8)]).deep.equal([1, 2, 5, 4]);
		expect([...cells.row]).deep.equal([0, 0, 1, 1]);
		expect([...cells.column]).deep.equal([0, 1, 0, 1]);
	});

	it('marks by face, row and column, padded to two digits', () => {
		expect(printMark(DEFAULT_MARK, 'W2', 6, 12)).equal('W2-07-13');
		expect(printMark(DEFAULT_MARK, 'C1', 99, 0)).equal('C1-100-01');
	});
});

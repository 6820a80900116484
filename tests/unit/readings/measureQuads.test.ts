import { expect } from 'chai';
import fc from 'fast-check';
import { MAIN_CELL_READINGS, type MainCellReading } from '../../../src/core/readings/cellReadings.ts';
import { measureCells } from '../../../src/core/readings/measureCells.ts';
import { measureOutlines, type Columns } from '../../../src/core/readings/measureOutlines.ts';
import { measureQuads } from '../../../src/core/readings/measureQuads.ts';

const room = (count: number) => ({
	columns: Object.fromEntries(
		Object.keys(MAIN_CELL_READINGS).map((name) => [name, new Float64Array(count)])
	) as unknown as Columns,
	normal: new Float64Array(count * 3)
});

/** Coordinates as they occur, and those that are special: zeros of both signs, equal ones, none. */
const coordinate = fc.oneof(
	fc.double({ min: -5000, max: 5000, noNaN: true }),
	fc.constantFrom(0, -0, 1000, -1000, 1500, NaN)
);

describe('readings of cells with four corners', () => {
	it('are to the last bit those of cells with any number of corners', () => {
		fc.assert(
			fc.property(
				fc.array(fc.array(coordinate, { minLength: 12, maxLength: 12 }), { minLength: 1, maxLength: 5 }),
				(cells) => {
					const count = cells.length;
					const position = Float64Array.from(cells.flat());
					const outlines = {
						cornerStart: Uint32Array.from({ length: count + 1 }, (_, c) => c * 4),
						corners: Uint32Array.from({ length: count * 4 }, (_, k) => k)
					};
					const [quick, general] = [room(count), room(count)];
					measureQuads(position, outlines, { from: 0, to: count }, quick.columns, quick.normal);
					measureOutlines(position, outlines, { from: 0, to: count }, general.columns, general.normal);
					// Numbers of 64 bits, so that zeros of either sign differ.
					const bits = (values: Float64Array) => [...new BigInt64Array(values.buffer)];
					expect(bits(quick.normal)).deep.equal(bits(general.normal));
					for (const name of Object.keys(quick.columns) as MainCellReading[])
						expect(bits(quick.columns[name]), name).deep.equal(bits(general.columns[name]));
				}
			),
			{ numRuns: 500 }
		);
	});

	it('are measured where cells with other corners stand between them', () => {
		const outlines = [4, 4, 3, 4, 5, 3, 4];
		const cornerStart = Uint32Array.from([
			0,
			...outlines.map((_, k) => outlines.slice(0, k + 1).reduce((a, b) => a + b))
		]);
		const corners = outlines.flatMap((n, c) =>
			Array.from({ length: n }, (_, k) => [
				c * 3000 + 1000 * Math.cos((2 * Math.PI * k) / n),
				1000 * Math.sin((2 * Math.PI * k) / n),
				0
			])
		);
		const { columns } = measureCells(
			{ position: Float64Array.from(corners.flat()) },
			{
				count: outlines.length,
				cornerStart,
				corners: Uint32Array.from(corners, (_, k) => k),
				row: new Uint32Array(outlines.length),
				column: new Uint32Array(outlines.length),
				edgeCount: 0,
				edgeNodes: new Uint32Array(),
				edgeCells: new Int32Array()
			}
		);
		outlines.forEach((n, c) => {
			// A regular polygon in a circle of 1 m: n / 2 sin(2 pi / n), its sides 2 sin(pi / n).
			expect(columns.area[c]).closeTo((n / 2) * Math.sin((2 * Math.PI) / n) * 1e6, 1e-6);
			expect(columns.perimeter[c]).closeTo(n * 2 * Math.sin(Math.PI / n) * 1000, 1e-9);
			expect(Number.isNaN(columns.edge4[c])).equal(n < 4);
		});
	});
});

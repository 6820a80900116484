import { expect } from 'chai';
import fc from 'fast-check';
import { areaOf, areasOf } from '../../../src/core/kit/measures.ts';
import type { Block } from '../../../src/core/kit/program.ts';

const POINTS = 8;

/** A block of hosts within a longer run, of `POINTS` points each. */
function blockOf(points: Float64Array): Block {
	const total = points.length / (POINTS * 3);
	return {
		hosts: {} as Block['hosts'],
		from: 1,
		count: total - 2,
		points,
		stride: POINTS * 3,
		columns: [],
		masks: [],
		failed: new Uint16Array(total),
		clamped: new Map(),
		solids: undefined
	};
}

describe('areas of triangles over the points of hosts', () => {
	it('are those of one host after the other, to the last bit, however triangles go on from each other', () => {
		const corner = fc.integer({ min: 0, max: POINTS - 1 });
		/** Triangles at random, and fans, whose triangles share sides. */
		const triangles = fc.array(
			fc.oneof(
				fc.tuple(corner, corner, corner).map((t) => [...t]),
				fc.tuple(corner, corner, corner, corner).map(([a, b, c, d]) => [a, b, c, a, c, d])
			),
			{ minLength: 1, maxLength: 6 }
		);
		fc.assert(
			fc.property(
				fc.array(fc.double({ min: -3000, max: 3000, noNaN: true }), {
					minLength: POINTS * 3 * 5,
					maxLength: POINTS * 3 * 5
				}),
				triangles,
				(numbers, list) => {
					const block = blockOf(Float64Array.from(numbers));
					const pattern = Uint16Array.from(list.flat());
					const out = new Float64Array(5).fill(7);
					areasOf(block, pattern, out);
					for (let h = 0; h < block.count; h++) expect(out[block.from + h]).equal(areaOf(block, pattern, h));
					// Rows of other blocks stay as they are.
					expect([out[0], out[4]]).deep.equal([7, 7]);
				}
			)
		);
	});

	it('are half of sides times height', () => {
		const points = new Float64Array(POINTS * 3 * 3);
		points.set([0, 0, 0, 3000, 0, 0, 3000, 0, 4000, 0, 0, 4000], POINTS * 3);
		const out = new Float64Array(3);
		areasOf(blockOf(points), Uint16Array.of(0, 1, 2, 0, 2, 3), out);
		expect(out[1]).equal(12e6);
		areasOf(blockOf(points), Uint16Array.of(0, 1, 2), out);
		expect(out[1]).equal(6e6);
	});
});

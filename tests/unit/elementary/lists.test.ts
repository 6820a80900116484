import { expect } from 'chai';
import fc from 'fast-check';
import { inOrderOf } from '../../../src/core/lists.ts';

describe('the order of values', () => {
	it('is that of a stable sort (property)', () => {
		fc.assert(
			fc.property(fc.array(fc.oneof(fc.integer({ min: -3, max: 3 }), fc.double({ noNaN: true }))), (list) => {
				// The language's own sort is stable; -0 and 0 are the same value.
				const plain = list.map((v) => (v === 0 ? 0 : v));
				const expected = [...plain.keys()].sort((a, b) => (plain[a]! < plain[b]! ? -1 : plain[a]! > plain[b]! ? 1 : 0));
				expect([...inOrderOf(Float64Array.from(plain))]).deep.equal(expected);
			})
		);
	});
});

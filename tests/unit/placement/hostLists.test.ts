import { expect } from 'chai';
import fc from 'fast-check';
import { countsOf, interleaved, listsOf, means } from '../../../src/core/placement/rules/hostLists.ts';

const lists = fc.array(fc.array(fc.nat(1000), { maxLength: 6 }), { maxLength: 20 });
const figures = fc.array(fc.integer({ min: -1000, max: 1000 }), { minLength: 1, maxLength: 8 });

describe('lists of hosts', () => {
	it('come back from two arrays (property)', () => {
		fc.assert(
			fc.property(lists, (given) => {
				const { start, items } = listsOf(given);
				expect(given.map((_, k) => [...items.subarray(start[k], start[k + 1])])).deep.equal(given);
				expect(items.length).equal(given.flat().length);
			})
		);
	});

	it('have each of their lengths once, in the order in which they come (property)', () => {
		fc.assert(
			fc.property(lists, (given) => {
				expect(countsOf(listsOf(given).start)).deep.equal([...new Set(given.map((list) => list.length))]);
			})
		);
	});

	it('have the mean of what stands in them, component by component; nothing in an empty one is 0 (property)', () => {
		fc.assert(
			fc.property(lists, (given) => {
				const { start, items } = listsOf(given);
				const mean = means(start, 2, (k, c) => items[k]! * (c + 1));
				given.forEach((list, h) => {
					const whole = list.reduce((a, b) => a + b, 0);
					for (const c of [0, 1]) expect(mean[h * 2 + c]).closeTo((whole * (c + 1)) / Math.max(1, list.length), 1e-9);
				});
			})
		);
	});

	it('have columns beside each other (property)', () => {
		fc.assert(
			fc.property(figures, figures, (first, second) => {
				const n = Math.min(first.length, second.length);
				const out = interleaved([Float64Array.from(first.slice(0, n)), Float64Array.from(second.slice(0, n))]);
				expect([...out]).deep.equal(first.slice(0, n).flatMap((x, k) => [x, second[k]!]));
			})
		);
	});
});

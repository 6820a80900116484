import { expect } from 'chai';
import fc from 'fast-check';
import { PairTable } from '../../../src/core/pairTable.ts';

describe('numbers by pairs', () => {
	it('are what a map of texts of the pairs holds (property)', () => {
		const number = fc.oneof(
			fc.integer({ min: -3, max: 3 }),
			fc.constantFrom(0, -0, 0.1, 1e12, 1e12 + 1, 2 ** 53, Number.MIN_VALUE),
			fc.double({ noNaN: true, noDefaultInfinity: true })
		);
		fc.assert(
			fc.property(fc.array(fc.tuple(number, number, fc.nat())), fc.array(fc.tuple(number, number)), (put, asked) => {
				const table = new PairTable();
				const texts = new Map<string, number>();
				for (const [a, b, n] of put) {
					table.set(a, b, n);
					texts.set(`${a} ${b}`, n);
				}
				for (const [a, b] of [...put, ...asked]) expect(table.get(a, b)).equal(texts.get(`${a} ${b}`) ?? -1);
			})
		);
	});

	it('stay apart when there are many on a grid', () => {
		const table = new PairTable();
		for (let k = 0; k < 40_000; k++) table.set(k % 200, Math.floor(k / 200), k);
		for (let k = 0; k < 40_000; k += 7) expect(table.get(k % 200, Math.floor(k / 200))).equal(k);
		expect(table.get(200, 0)).equal(-1);
	});
});

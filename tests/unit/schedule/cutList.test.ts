import { expect } from 'chai';
import fc from 'fast-check';
import { cutList } from '../../../src/core/schedule/cutList.ts';

const plain = (...lengths: number[]) => ({ lengths, kerf: 0, trim: 0 });

describe('the cut list of bars', () => {
	it('finds the best plan of small lists that are known', () => {
		// Two bars exactly full: 6 + 4 and 5 + 5 of 10, which the longest first alone puts so; and 3 x (4 + 3 + 3).
		expect(cutList([6, 5, 5, 4], plain(10)).bars).lengthOf(2);
		expect(cutList([4, 4, 4, 3, 3, 3, 3, 3, 3], plain(10)).bars).lengthOf(3);
		// 180 in all, of bars of 61: three are the fewest that could hold it, and do.
		const hard = [44, 24, 24, 22, 21, 17, 8, 8, 6, 6];
		expect(hard.reduce((a, b) => a + b, 0)).equal(180);
		expect(cutList(hard, plain(61)).bars.length).equal(3);
		// Three by three: each bar of 1000 takes one of each.
		const triples = [500, 500, 500, 300, 300, 300, 200, 200, 200];
		expect(cutList(triples, plain(1000)).bars.every((b) => b.rest === 0)).equal(true);
	});

	it('counts kerf and trim by hand: of 6 m less 20 mm, six of 996 with 4 mm between', () => {
		const stock = { lengths: [6000], kerf: 4, trim: 20 };
		// 6 x 993.3 + 5 x 4 = 5980.
		const fits = cutList(Array(12).fill(993.3), stock);
		expect(fits.bars.map((b) => b.pieces.length)).deep.equal([6, 6]);
		for (const { rest } of fits.bars) expect(rest).closeTo(6000 - 20 - 6 * 993.3 - 5 * 4, 1e-9);
		expect(cutList(Array(12).fill(993.4), stock).bars).lengthOf(3);
	});

	it('takes the shortest delivered bar that does', () => {
		const { bars } = cutList([5800, 2900, 100], { lengths: [6000, 3000], kerf: 0, trim: 0 });
		expect(bars.map((b) => b.length)).deep.equal([6000, 3000]);
	});

	it('tells pieces that are longer than any bar, and cuts the others', () => {
		const { bars, tooLong } = cutList([7000, 2000, 5990], { lengths: [6000], kerf: 3, trim: 20 });
		expect(tooLong).deep.equal([0, 2]);
		expect(bars).deep.equal([{ length: 6000, pieces: [1], rest: 3980 }]);
		expect(cutList([], plain(6000))).deep.equal({ bars: [], tooLong: [], atLeast: 0 });
	});

	it('cuts every piece once, never more from a bar than it has, and stays near the lower bound (property)', () => {
		const length = fc.integer({ min: 100, max: 5900 });
		fc.assert(
			fc.property(fc.array(length, { maxLength: 120 }), fc.nat(10), fc.nat(40), (lengths, kerf, trim) => {
				const { bars, tooLong, atLeast } = cutList(lengths, { lengths: [6000, 4500], kerf, trim });
				const cut = bars.flatMap((b) => b.pieces);
				expect([...cut, ...tooLong].sort((a, b) => a - b)).deep.equal(lengths.map((_, k) => k));
				for (const { length: whole, pieces, rest } of bars) {
					const used = pieces.reduce((sum, k) => sum + lengths[k]!, 0) + kerf * (pieces.length - 1) + trim;
					expect(whole - used).closeTo(rest, 1e-9);
					expect(rest).greaterThan(-1e-9);
				}
				const bought = bars.reduce((sum, b) => sum + b.length, 0);
				expect(bought).greaterThan(atLeast - 1e-6 - (lengths.length ? 0 : 1));
				// Best fit decreasing needs 11/9 of the best and a bar at most (Johnson 1974, memory).
				expect(bars.length).at.most((11 / 9) * Math.ceil(atLeast / (6000 - trim)) * 1.5 + 2);
			}),
			{ numRuns: 120 }
		);
	});
});

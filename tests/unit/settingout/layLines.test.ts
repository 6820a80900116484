import { expect } from 'chai';
import fc from 'fast-check';
import { laidFigures } from '../../../src/core/settingout/laidFigures.ts';
import { isPlain, layLines } from '../../../src/core/settingout/layLines.ts';
import { parseModules, printModules } from '../../../src/core/settingout/moduleList.ts';
import { directionOf, type Direction, type Spacing } from '../../../src/core/settingout/spacing.ts';

const lay = (spacing: Spacing, length: number, more: Partial<Direction> = {}, closed = false) => {
	if (!isPlain(spacing)) throw new Error('not plain');
	return layLines({ ...directionOf(spacing), ...more, spacing }, length, closed);
};
const widths = (lines: Float64Array) => [...lines.slice(1)].map((p, k) => Math.round((p - lines[k]!) * 1e6) / 1e6);
const FOOT = 304.8;

describe('lines along a length', () => {
	it('leaves equal part modules at both sides of 5 ft modules centred on a wall (practice)', () => {
		const lines = lay({ kind: 'module', module: 5 * FOOT, remainder: 'both' }, 43 * FOOT);
		const w = widths(lines).map((x) => x / FOOT);
		expect(w.slice(1, -1).every((x) => Math.abs(x - 5) < 1e-9)).true;
		expect([w[0], w.at(-1), w.length]).deep.equal([1.5, 1.5, 10]);
	});

	it('starts 5 ft modules at the ground and leaves the rest at the top (practice)', () => {
		const w = widths(lay({ kind: 'module', module: 5 * FOOT, remainder: 'end' }, 33 * FOOT)).map((x) => x / FOOT);
		expect(w[0]).closeTo(5, 1e-9);
		expect(w.at(-1)).closeTo(3, 1e-9);
	});

	for (const [remainder, expected] of [
		['start', [400, 1200, 1200]],
		['end', [1200, 1200, 400]],
		['both', [200, 1200, 1200, 200]],
		['shared', [1400, 1400]]
	] as const)
		it(`puts the remainder of 1200 in 2800 ${remainder}`, () => {
			expect(widths(lay({ kind: 'module', module: 1200, remainder }, 2800))).deep.equal(expected);
		});

	it('shares out modules of a greatest width, in multiples where asked', () => {
		expect(widths(lay({ kind: 'at-most', module: 1500 }, 6100))).deep.equal(Array(5).fill(1220));
		expect(lay({ kind: 'at-most', module: 1500 }, 6000)).length(5);
		expect(lay({ kind: 'at-most', module: 1500 }, 6100, { multiple: 4 })).length(9);
		expect(lay({ kind: 'count', count: 5 }, 6000, { multiple: 2 })).length(7);
	});

	it('follows a list from its start edge', () => {
		const list: Spacing = {
			kind: 'list',
			modules: [
				{ times: 1, width: 1200 },
				{ times: 1, width: 900 },
				{ times: 2, width: 1500 }
			],
			remainder: 'end'
		};
		expect(widths(lay(list, 5500))).deep.equal([1200, 900, 1500, 1500, 400]);
		expect(widths(lay(list, 5500, { from: 'end' }))).deep.equal([400, 1500, 1500, 900, 1200]);
		expect(widths(lay(list, 5100))).deep.equal([1200, 900, 1500, 1500]);
		expect(() => lay(list, 5000)).throw('the list adds up to 5 100 mm, the face measures 5 000 mm: 100 mm too much');
		expect(widths(lay({ ...list, remainder: 'shared' }, 10_200))).deep.equal([2400, 1800, 3000, 3000]);
	});

	it('says so when a module is longer than the face', () => {
		expect(() => lay({ kind: 'module', module: 5000, remainder: 'end' }, 4000)).throw(
			'a module of 5 000 mm is longer than the face, which measures 4 000 mm'
		);
	});

	it('shifts a pattern, and makes too narrow ends one with their neighbour', () => {
		expect(widths(lay({ kind: 'count', count: 4 }, 4000, { shift: 250 }))).deep.equal([250, 1000, 1000, 1000, 750]);
		expect(widths(lay({ kind: 'count', count: 4 }, 4000, { shiftShare: 0.25 }))).deep.equal([
			250, 1000, 1000, 1000, 750
		]);
		expect(widths(lay({ kind: 'count', count: 4 }, 4000, { shift: 250, leastRemainder: 300 }))).deep.equal([
			1250, 1000, 1000, 750
		]);
	});

	it('always rises from 0 to the length, and adds up', () => {
		fc.assert(
			fc.property(
				fc.double({ min: 500, max: 50_000, noNaN: true }),
				fc.double({ min: 100, max: 500, noNaN: true }),
				fc.constantFrom('start', 'end', 'both', 'shared'),
				fc.double({ min: -3000, max: 3000, noNaN: true }),
				fc.constantFrom('start', 'end'),
				(length, module, remainder, shift, from) => {
					const lines = lay({ kind: 'module', module, remainder } as Spacing, length, { shift, from: from as 'start' });
					expect(lines[0]).equal(0);
					expect(lines.at(-1)).equal(length);
					for (let k = 1; k < lines.length; k++) expect(lines[k]!).greaterThan(lines[k - 1]!);
					const whole = widths(lines).slice(1, -1);
					// The package of floats: inner modules are all alike.
					whole.forEach((w) => expect(w).closeTo(whole[0]!, 1e-6));
				}
			)
		);
	});

	it('tells counts, modules and remainders', () => {
		const told = (w: number[]) =>
			laidFigures({
				count: w.length,
				lines: Float64Array.from([0, ...w.map((_, k) => w.slice(0, k + 1).reduce((a, b) => a + b))])
			});
		expect(told([200, 1200, 1200, 200])).deep.equal({
			count: 4,
			modules: [1200, 1200],
			startRemainder: 200,
			endRemainder: 200
		});
		expect(told([1200, 1200, 1200, 500])).deep.equal({ count: 4, modules: [1200, 1200], endRemainder: 500 });
		expect(told([1000, 1000, 1000])).deep.equal({ count: 3, modules: [1000, 1000] });
	});
});

describe('a list of widths', () => {
	it('is read with counts and units, and printed back', () => {
		const read = parseModules('1200, 900, 4 x 1500, 0.9 m', 'mm');
		expect(read).deep.equal({
			modules: [
				{ times: 1, width: 1200 },
				{ times: 1, width: 900 },
				{ times: 4, width: 1500 },
				{ times: 1, width: 900 }
			]
		});
		if ('modules' in read) expect(parseModules(printModules(read.modules, 'mm'), 'mm')).deep.equal(read);
	});

	it('says which width is wrong', () => {
		expect(parseModules('1200, , 900', 'mm')).deep.equal({
			error: 'Width 2 is empty. Right would be a list such as 1200, 900, 4 x 1500, 900.'
		});
		const wrong = parseModules('1200, wide', 'mm');
		expect('error' in wrong && wrong.error).contains('Width 2, “wide”: “wide” is not a length');
		const none = parseModules('0 x 900', 'mm');
		expect('error' in none && none.error).contains('must be above 0');
	});
});

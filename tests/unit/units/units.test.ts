import { expect } from 'chai';
import fc from 'fast-check';
import { parseQuantity } from '../../../src/core/units/parse.ts';
import { printFull, printQuantity } from '../../../src/core/units/print.ts';
import type { LengthUnit } from '../../../src/core/units/quantity.ts';

const mm = (text: string, unit: LengthUnit = 'mm') => {
	const parsed = parseQuantity(text, 'length', unit);
	return 'value' in parsed ? Math.round(parsed.value * 1e6) / 1e6 : parsed.error;
};

describe('reading lengths', () => {
	for (const [text, unit, value] of [
		['1500', 'mm', 1500],
		['1.5', 'm', 1500],
		['1,5 m', 'mm', 1500],
		['1 500 mm', 'm', 1500],
		['1 500,25', 'mm', 1500.25],
		['-20', 'mm', -20],
		['−20 cm', 'm', -200],
		[`5'`, 'mm', 1524],
		[`5' 6"`, 'mm', 1676.4],
		[`5'-6 1/2"`, 'mm', 1689.1],
		['5 ft 6 in', 'm', 1676.4],
		['5 6', 'ft-in', 1676.4],
		['5', 'ft-in', 1524],
		[`1/2"`, 'mm', 12.7],
		[`7 3/16"`, 'ft-in', 182.5625],
		['.5 m', 'mm', 500]
	] as [string, LengthUnit, number][])
		it(`takes ${text} (${unit}) as ${value} mm`, () => {
			expect(mm(text, unit)).equal(value);
		});

	for (const text of ['', 'wide', '12 parsec', '1.5.2', '6" 5\'', '5 m 3 m', '1e5', '--3', '0x20'])
		it(`refuses “${text}” and shows what is right`, () => {
			expect(mm(text)).contains('Right would be');
		});

	it('asks which is meant by 1,500', () => {
		expect(mm('1,500')).contains('two ways');
	});

	it('reads back what it prints', () => {
		fc.assert(
			fc.property(
				fc.integer({ min: -5_000_000, max: 5_000_000 }),
				fc.constantFrom<LengthUnit>('mm', 'm', 'ft-in'),
				(value, unit) => {
					const parsed = parseQuantity(printFull(value, 'length', unit), 'length', unit);
					expect('value' in parsed && Math.abs(parsed.value - value)).most(unit === 'ft-in' ? 25.4 / 32 + 1e-9 : 1e-6);
				}
			)
		);
	});
});

describe('reading other quantities', () => {
	it('takes angles in degrees, shares in per cent, counts whole', () => {
		expect(parseQuantity('180°', 'angle', 'mm')).deep.equal({ value: Math.PI });
		expect(parseQuantity('34 %', 'ratio', 'mm')).deep.equal({ value: 0.34 });
		expect(parseQuantity('24', 'count', 'mm')).deep.equal({ value: 24 });
		expect(parseQuantity('2.5', 'count', 'mm')).deep.equal({ error: '“2.5” is not a whole number. Right would be 3.' });
		expect(parseQuantity('many', 'count', 'mm'))
			.have.property('error')
			.contains('not a number');
	});
});

describe('printing', () => {
	it('groups digits and names units', () => {
		expect(printFull(72_000, 'length', 'mm')).equal('72 000 mm');
		expect(printFull(72_000, 'length', 'm')).equal('72.000 m');
		expect(printFull(11.44, 'length', 'mm')).equal('11.4 mm');
		// Figures of one column look alike, whether or not rounding has left something.
		for (const warp of [0, 2e-13, -3e-9]) expect(printFull(warp, 'length', 'mm')).equal('0 mm');
		expect([44.02, 45 - 1e-9, 45].map((x) => printFull(x, 'length', 'mm'))).deep.equal(['44.0 mm', '45 mm', '45 mm']);
		expect(printFull(1689.1, 'length', 'ft-in')).equal(`5' 6 1/2"`);
		expect(printFull(-12.7, 'length', 'ft-in')).equal('−1/2"');
		expect(printFull(2.0254e6, 'area', 'mm')).equal('2.03 m²');
		expect(printFull(304.8 ** 2 * 10, 'area', 'ft-in')).equal('10.00 ft²');
		expect(printFull(Math.PI / 2, 'angle', 'mm')).equal('90.0°');
		expect(printFull(71_807.66, 'mass', 'mm')).equal('71 807.7 kg');
		expect(printFull(-0.04, 'mass', 'mm')).equal('0.0 kg');
		expect(printQuantity(NaN, 'length', 'mm').text).equal('–');
	});
});

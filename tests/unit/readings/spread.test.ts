import { expect } from 'chai';
import fc from 'fast-check';
import { classOf, extremes, histogram, spreadOf } from '../../../src/core/readings/spread.ts';
import { classesOf, colourScale, NO_CLASS } from '../../../src/lib/editor/colourScale.ts';
import { READINGS } from '../../../src/core/readings/faceReadings.ts';

const columns = fc.array(
	fc.array(
		fc.oneof(
			{ weight: 9, arbitrary: fc.double({ min: -1e6, max: 1e6, noNaN: true }) },
			{ weight: 1, arbitrary: fc.constant(NaN) }
		),
		{ maxLength: 60 }
	),
	{ maxLength: 4 }
);

describe('spreads and histograms of readings', () => {
	it('are those of a plain count, with nothing for none', () => {
		const { count, none, sum, least, mean, greatest, deviation } = spreadOf([
			[2, 4, 4, NaN],
			[4, 5, 5, 7, 9]
		]);
		// The textbook example of a standard deviation of 2 (memory).
		expect({ count, none, sum, least, mean, greatest, deviation }).deep.equal({
			count: 8,
			none: 1,
			sum: 40,
			least: 2,
			mean: 5,
			greatest: 9,
			deviation: 2
		});
		expect(spreadOf([[NaN]])).deep.include({ count: 0, none: 1, sum: 0 });
		expect(spreadOf([]).least).NaN;
	});

	it('count every value once, within the limits or at their ends', () => {
		fc.assert(
			fc.property(
				columns,
				fc.integer({ min: 1, max: 40 }),
				fc.double({ min: -1e6, max: 1e6, noNaN: true }),
				fc.double({ min: 1, max: 1e6, noNaN: true }),
				(values, classes, from, width) => {
					const counts = histogram(values, from, from + width, classes);
					expect(counts.reduce((a, b) => a + b, 0)).equal(spreadOf(values).count);
					for (const value of values.flat()) {
						const at = classOf(value, from, from + width, classes);
						expect(at).within(-1, classes - 1);
						if (at > 0 && at < classes - 1)
							expect(value).within(from + (width * at) / classes - 1e-6, from + (width * (at + 1)) / classes + 1e-6);
					}
				}
			)
		);
	});

	it('find the most extreme hosts as sorting does', () => {
		fc.assert(
			fc.property(columns, fc.integer({ min: 1, max: 12 }), fc.boolean(), (values, most, greatest) => {
				const found = extremes(values, most, greatest).map(({ column, host }) => values[column]![host]!);
				const sorted = values
					.flat()
					.filter((v) => !Number.isNaN(v))
					.sort((a, b) => (greatest ? b - a : a - b));
				expect(found).deep.equal(sorted.slice(0, most));
			})
		);
	});
});

describe('scales of colours', () => {
	it('run evenly from dark to light, or away from a light middle', () => {
		const lightness = (colour: string) => {
			const [r, g, b] = [1, 3, 5].map((k) => Number.parseInt(colour.slice(k, k + 2), 16) / 255) as [
				number,
				number,
				number
			];
			return 0.2126 * r ** 2.2 + 0.7152 * g ** 2.2 + 0.0722 * b ** 2.2;
		};
		const even = colourScale(READINGS['cell.area'], 'even', 0, 1, 0).palette.map(lightness);
		for (let k = 1; k < even.length; k++) expect(even[k]).least(even[k - 1]! - 0.004);
		const diverging = colourScale(READINGS['cell.mean'], 'diverging', -1, 1, 9).palette.map(lightness);
		expect(Math.max(...diverging)).equal(diverging[4]);
		// The ends of the package's table of viridis.
		expect(colourScale(READINGS['cell.area'], 'even', 0, 1, 2).palette).deep.equal(['#440154', '#fde725']);
		for (const colour of colourScale(READINGS['cell.bearing'], 'even', 0, 6, 0).palette)
			expect(colour).match(/^#[0-9a-f]{6}$/);
	});

	it('put values into classes, those beyond into the first and last, none apart', () => {
		const scale = colourScale(READINGS['cell.area'], 'even', 10, 20, 5);
		expect([...classesOf([9, 10, 12, 19.9, 20, 30, NaN], scale)]).deep.equal([0, 0, 1, 4, 4, 4, NO_CLASS]);
		const kinds = colourScale(READINGS['cell.border'], 'even', 0, 2, 0, ['inside', 'at a border', 'cut']);
		expect([...classesOf([0, 1, 2, 1], kinds)]).deep.equal([0, 1, 2, 1]);
		expect(new Set(kinds.palette).size).equal(3);
	});

	it('have a colour of their own for each class, and fewer classes than the number for none', () => {
		for (const steps of [0, 2, 32]) {
			const { palette } = colourScale(READINGS['cell.area'], 'even', 0, 1, steps);
			expect(palette.length)
				.equal(steps || 128)
				.below(NO_CLASS);
		}
	});
});

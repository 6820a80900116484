import { expect } from 'chai';
import fc from 'fast-check';
import {
	acos,
	asin,
	atan,
	atan2,
	cos,
	hypot,
	norm,
	pow,
	sin,
	tan,
	wholePower
} from '../../../src/core/elementary/index.ts';

/** The distance from a double to the next larger one. */
const lastPlace = (x: number) => {
	const size = Math.abs(x);
	const bits = new BigUint64Array(Float64Array.of(size).buffer);
	bits[0]!++;
	return new Float64Array(bits.buffer)[0]! - size;
};

/** Within one unit of the last place of what this engine has, which is itself right to one. */
function expectClose(found: number, known: number): void {
	if (Number.isNaN(known)) expect(found).to.be.NaN;
	else if (!Number.isFinite(known)) expect(found).to.equal(known);
	else expect(Math.abs(found - known), `${found} beside ${known}`).to.be.at.most(lastPlace(known));
}

const double = fc.double({ noNaN: true, noDefaultInfinity: true });
const within = (most: number) => fc.double({ min: -most, max: most, noNaN: true });

describe('elementary functions', () => {
	const of = [
		['sine', sin, Math.sin, within(1e5)],
		['cosine', cos, Math.cos, within(1e5)],
		['tangent', tan, Math.tan, within(1e5)],
		['arc sine', asin, Math.asin, within(1.1)],
		['arc cosine', acos, Math.acos, within(1.1)],
		['arc tangent', atan, Math.atan, double]
	] as const;
	for (const [name, ours, engines, numbers] of of)
		it(`agree with the engine in the last place: ${name}`, () =>
			fc.assert(
				fc.property(numbers, (x) => expectClose(ours(x), engines(x))),
				{ numRuns: 2000 }
			));

	it('agree with the engine in the last place: angle of a way and powers', () => {
		fc.assert(
			fc.property(double, double, (y, x) => expectClose(atan2(y, x), Math.atan2(y, x))),
			{ numRuns: 2000 }
		);
		fc.assert(
			fc.property(fc.double({ min: 1e-9, max: 1e9, noNaN: true }), within(30), (x, y) =>
				expectClose(pow(x, y), Math.pow(x, y))
			),
			{ numRuns: 2000 }
		);
	});

	it('know the special cases of ECMA-262', () => {
		const odd = [0, -0, 0.5, -0.5, 1, -1, 2, -2, 3, -3, Infinity, -Infinity, NaN, 1e-310, 1e300];
		for (const x of odd) {
			for (const y of odd) {
				expectClose(atan2(x, y), Math.atan2(x, y));
				expectClose(pow(x, y), Math.pow(x, y));
			}
			expectClose(atan(x), Math.atan(x));
		}
		for (const f of [sin, cos, tan]) for (const x of [Infinity, -Infinity, NaN]) expect(f(x)).to.be.NaN;
	});

	it('have these bits, whatever runs them', () => {
		// The nearest doubles to the true values, by long division and series with more digits (from memory).
		expect(sin(0.5)).to.equal(0.479425538604203);
		expect(cos(0.5)).to.equal(0.8775825618903728);
		expect(tan(0.5)).to.equal(0.5463024898437905);
		expect(atan(0.5)).to.equal(0.4636476090008061);
		expect(atan2(1, -2)).to.equal(2.677945044588987);
		expect(pow(2, 1.5)).to.equal(2.82842712474619);
		expect(pow(10, 15)).to.equal(1e15);
	});

	it('keep their laws', () => {
		fc.assert(fc.property(within(1e4), (x) => void expect(sin(x) * sin(x) + cos(x) * cos(x)).closeTo(1, 4e-16)));
		fc.assert(fc.property(within(1e4), (x) => sin(-x) === -sin(x) && cos(-x) === cos(x)));
		fc.assert(fc.property(within(1.5), (x) => void expect(atan(tan(x))).closeTo(x, 1e-13)));
		fc.assert(
			fc.property(
				fc.integer({ min: -50, max: 50 }),
				fc.nat(8),
				(x, n) => void expect(wholePower(x, n)).to.equal(pow(x, n))
			)
		);
	});

	it('measure ways', () => {
		expect(hypot(3, 4)).to.equal(5);
		expect(hypot(2, 3, 6)).to.equal(7);
		expect(norm([2, 3, 6])).to.equal(7);
		expect(norm([])).to.equal(0);
	});
});

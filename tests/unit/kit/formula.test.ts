import { expect } from 'chai';
import fc from 'fast-check';
import { evaluate } from 'mathjs';
import { compileFormula, type Scope } from '../../../src/core/kit/formula/compile.ts';
import { ANGLE, AREA, LENGTH, PLAIN, type Dimension } from '../../../src/core/kit/formula/dimension.ts';
import { parseFormula, renameIn } from '../../../src/core/kit/formula/parse.ts';
import type { Quantity } from '../../../src/core/units/quantity.ts';

const NAMES: Readonly<
	Record<string, { slot: number; dimension: Dimension; uniform: boolean; choices?: readonly string[] }>
> = {
	gap: { slot: 0, dimension: LENGTH, uniform: true },
	width: { slot: 1, dimension: LENGTH, uniform: false },
	area: { slot: 2, dimension: AREA, uniform: false },
	tilt: { slot: 3, dimension: ANGLE, uniform: true },
	n: { slot: 4, dimension: PLAIN, uniform: true },
	finish: { slot: 5, dimension: PLAIN, uniform: true, choices: ['oak', 'larch'] }
};
const scope: Scope = { named: (name) => NAMES[name], measured: () => undefined, all: () => Object.keys(NAMES) };
/** gap 20, width 400 and 900, area 2 m2, tilt 30 degrees, n 3, finish larch, on two hosts. */
const columns = [
	[20, 20],
	[400, 900],
	[2e6, 2e6],
	[Math.PI / 6, Math.PI / 6],
	[3, 3],
	[1, 1]
].map((c) => Float64Array.from(c));
const values = (text: string, quantity: Quantity | 'yesno') => [
	...compileFormula(text, quantity, scope).run(columns, 2).subarray(0, 2)
];

describe('formulas of kits', () => {
	it('give for whole columns what an independent evaluator gives one by one (mathjs)', () => {
		const leaf = fc.oneof(fc.constantFrom('a', 'b', 'c'), fc.integer({ min: 1, max: 9 }).map(String));
		const { formula } = fc.letrec<{ formula: string }>((tie) => ({
			formula: fc.oneof(
				{ depthSize: 'small' },
				leaf,
				fc.tuple(tie('formula'), fc.constantFrom('+', '-', '*'), tie('formula')).map(([x, o, y]) => `(${x} ${o} ${y})`),
				fc
					.tuple(tie('formula'), fc.constantFrom('<', '>', '<='), tie('formula'), tie('formula'))
					.map(([x, o, y, z]) => `(${x} ${o} ${y} ? ${y} : ${z})`),
				tie('formula').map((x) => `abs(${x})`),
				fc.tuple(tie('formula'), tie('formula')).map(([x, y]) => `max(${x}, -${y})`)
			)
		}));
		const named = ['a', 'b', 'c'];
		fc.assert(
			fc.property(
				formula,
				fc.array(
					fc.tuple(
						fc.integer({ min: -50, max: 50 }),
						fc.integer({ min: -50, max: 50 }),
						fc.integer({ min: -50, max: 50 })
					),
					{ minLength: 1, maxLength: 5 }
				),
				(text, rows) => {
					const plain: Scope = {
						named: (name) =>
							named.includes(name) ? { slot: named.indexOf(name), dimension: PLAIN, uniform: false } : undefined,
						measured: () => undefined,
						all: () => named
					};
					const term = compileFormula(text, 'ratio', plain);
					const got = term.run(
						named.map((_, k) => Float64Array.from(rows, (r) => r[k]!)),
						rows.length
					);
					rows.forEach(([a, b, c], h) => expect(got[h], text).closeTo(Number(evaluate(text, { a, b, c })), 1e-6));
				}
			)
		);
	});

	it('take units, and a plain number beside a length as mm', () => {
		expect(values('200 mm + 2 cm', 'length')).deep.equal([220, 220]);
		expect(values('1 m - 1 in', 'length')).deep.equal([974.6, 974.6]);
		expect(values('(width - 200) / 2', 'length')).deep.equal([100, 350]);
		expect(values('width * sin(30 deg)', 'length')[0]).closeTo(200, 1e-9);
		expect(values('sqrt(area) + gap', 'length')[0]).closeTo(Math.sqrt(2e6) + 20, 1e-9);
		expect(values('width > 500 ? 2 * gap : gap', 'length')).deep.equal([20, 40]);
		expect(values('atan2(gap, width)', 'angle')[0]).closeTo(Math.atan2(20, 400), 1e-12);
		expect(values('finish == "larch" and not (n == 4)', 'yesno')).deep.equal([1, 1]);
		expect(values('mod(-1, n)', 'count')).deep.equal([2, 2]);
	});

	for (const [text, quantity, words] of [
		['width + tilt', 'length', /a length and an angle do not go together.*30 deg/],
		['tilt + 30', 'angle', /an angle and a number without a unit do not go together/],
		['width * gap', 'length', /is an area; wanted is a length/],
		['30', 'angle', /wanted is an angle \(write 30 deg\)/],
		['widht + gap', 'length', /there is no “widht”.*known here: width/],
		['sin(width)', 'ratio', /“sin” in .* is given a length, which does not fit/],
		['min()', 'length', /takes 1 to 20 values; given are 0/],
		['foo(3)', 'ratio', /no function “foo”.*known: length, area/],
		['width +', 'length', /cannot be read at character 8: unexpected end/],
		['width = 3', 'length', /single “=”; right is “==”/],
		['finish == "pine"', 'yesno', /none of the choices "oak", "larch"/],
		['finish + 1', 'ratio', /can only be compared with one of "oak", "larch"/],
		['gap == "oak"', 'yesno', /compared with something that is no choice/],
		['[1, 2]', 'ratio', /do not know: “\[1, 2\]”/],
		['import("x")', 'ratio', /no function “import”/],
		['1 < n < 4', 'yesno', /three things at once/],
		['width ^ n', 'length', /power .* must be written as a number/]
	] as [string, Quantity | 'yesno', RegExp][])
		it(`say what is wrong with ${text}`, () => {
			expect(() => compileFormula(text, quantity, scope)).throw(words);
		});

	it('know which of them are the same for all hosts', () => {
		expect(compileFormula('gap * 2 + 3', 'length', scope).uniform).true;
		expect(compileFormula('gap + width', 'length', scope).uniform).false;
	});

	it('are renamed where the word stands for itself only', () => {
		expect(renameIn('gap + gap2 * length(gap) - "gap"', 'gap', 'joint')).equal('joint + gap2 * length(joint) - "gap"');
		expect(parseFormula('gap > 1 ? 1 : 2').kind).equal('choice');
	});
});

import { expect } from 'chai';
import { evaluateGridPoints } from '../../../src/core/geometry/evaluate.ts';
import { vaultSurface } from '../../../src/core/mass/vault.ts';
import { demoProject, vaultOf } from '../demo.ts';
import { verbSurface } from '../oracle.ts';

describe('the vault', () => {
	const shape = vaultOf(demoProject());

	it('passes feet and crown of every section', () => {
		const surface = vaultSurface(shape);
		for (const s of shape.sections) {
			const { position } = evaluateGridPoints(surface, Float64Array.of(0, 0.5, 1), Float64Array.of(s.at));
			const expected = [
				[s.shift - s.span / 2, s.at * shape.length, s.startHeight],
				[s.shift + s.lean, s.at * shape.length, (s.startHeight + s.endHeight) / 2 + s.rise],
				[s.shift + s.span / 2, s.at * shape.length, s.endHeight]
			].flat();
			expected.forEach((x, k) => expect(position[k]).closeTo(x, 1e-6));
		}
	});

	it('is straight between two sections, a parabola between three, smooth through more', () => {
		const two = vaultSurface({ ...shape, sections: [shape.sections[0]!, shape.sections[3]!] });
		expect([two.degreeV, two.countV]).deep.equal([1, 2]);
		const three = vaultSurface({ ...shape, sections: [0, 1, 3].map((k) => shape.sections[k]!) });
		expect([three.degreeV, three.countV]).deep.equal([2, 3]);
		const six = vaultSurface({
			...shape,
			sections: [0, 0.2, 0.4, 0.6, 0.8, 1].map((at, k) => ({ ...shape.sections[k % 4]!, at }))
		});
		expect([six.degreeV, six.countV, six.knotsV.length]).deep.equal([3, 6, 10]);
	});

	it('faces up and out, as an independent package finds too (verb-nurbs)', () => {
		const surface = vaultSurface(shape);
		const { normal } = evaluateGridPoints(surface, Float64Array.of(0.4), Float64Array.of(0.6));
		expect(normal[2]).greaterThan(0.5);
		const theirs = verbSurface(surface).normal(0.4, 0.6);
		const size = Math.hypot(...theirs);
		theirs.forEach((x, k) => expect(normal[k]).closeTo(x / size, 1e-12));
	});
});

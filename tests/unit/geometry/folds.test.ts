import { expect } from 'chai';
import fc from 'fast-check';
import { evaluateGridPoints, evaluatePoints } from '../../../src/core/geometry/evaluate.ts';
import { normalOnFolds } from '../../../src/core/geometry/folds.ts';
import { createSurface } from '../../../src/core/geometry/surface.ts';
import { frustum, sphereZone } from '../surfaces.ts';

/** Straight from corner to corner of a line in plan, 3 m high; parameters across count the corners. */
const walls = (plan: readonly (readonly [number, number])[]) =>
	createSurface({
		degreeU: 1,
		degreeV: 1,
		knotsU: [0, ...plan.map((_, k) => k), plan.length - 1],
		knotsV: [0, 0, 1, 1],
		points: [0, 3000].map((z) => plan.map(([x, y]): [number, number, number] => [x, y, z]))
	});
const normalsAt = (surface: ReturnType<typeof walls>, us: readonly number[]) => {
	const { normal } = evaluatePoints(surface, Float64Array.from(us), new Float64Array(us.length).fill(0.4));
	return us.map((_, k) => [...normal.subarray(k * 3, k * 3 + 3)]);
};
const HALF = Math.SQRT1_2;

describe('a folded surface', () => {
	const square = walls([
		[0, 0],
		[4000, 0],
		[4000, 4000],
		[0, 4000],
		[0, 0]
	]);

	it('has normals in the middle of both sides along its folds and where it closes, and its own beside them', () => {
		const corners = [
			[-HALF, -HALF, 0],
			[HALF, -HALF, 0],
			[HALF, HALF, 0],
			[-HALF, HALF, 0],
			[-HALF, -HALF, 0]
		];
		normalsAt(square, [0, 1, 2, 3, 4]).forEach((normal, k) =>
			normal.forEach((part, c) => expect(part, `${k}`).closeTo(corners[k]![c]!, 1e-9))
		);
		expect(normalsAt(square, [0.999, 1.001])).deep.equal([
			[0, -1, 0],
			[1, 0, 0]
		]);
	});

	it('has the same ones wherever rounding has put a place on a fold, alone and in a grid (property)', () =>
		fc.assert(
			fc.property(fc.integer({ min: 0, max: 4 }), fc.double({ min: -1e-11, max: 1e-11, noNaN: true }), (k, off) => {
				const at = Math.max(0, Math.min(4, k + off));
				const [there] = normalsAt(square, [k]);
				expect(normalsAt(square, [at])[0]).deep.equal(there);
				const grid = evaluateGridPoints(square, Float64Array.of(at), Float64Array.of(0.2, 0.4)).normal;
				expect([...grid.subarray(3)]).deep.equal(there);
			})
		));

	it('is looked for in vain on smooth ones, however their knots lie', () => {
		expect(normalOnFolds(frustum(4000, 3000, 9000))).equal(undefined);
		expect(normalOnFolds(sphereZone(5000, -1, 1))).equal(undefined);
		expect(normalOnFolds(square)).not.equal(undefined);
	});

	it('keeps the normals of one side where both cancel out: a sheet folded flat', () => {
		const folded = walls([
			[0, 0],
			[4000, 0],
			[0, 0]
		]);
		const [there] = normalsAt(folded, [1]);
		expect(Math.hypot(...there!)).closeTo(1, 1e-12);
	});
});

import { expect } from 'chai';
import fc from 'fast-check';
import {
	evaluateGrid,
	evaluateGridPoints,
	evaluateGridSpeeds,
	evaluatePoints
} from '../../../src/core/geometry/evaluate.ts';
import { createSurface, swapDirections, type Surface } from '../../../src/core/geometry/surface.ts';
import { verbSurface } from '../oracle.ts';
import { revolve, sphereZone, wavy } from '../surfaces.ts';

const CASES: [string, Surface][] = [
	['plain bicubic', wavy(1, false)],
	['rational bicubic', wavy(2, true)],
	['rational circle turned', sphereZone(5000, -0.7, 0.9)]
];
const SHARES = [0, 0.013, 0.25, 0.35, 0.5, 0.77, 0.999, 1];

describe('evaluating a B-spline surface', () => {
	for (const [name, surface] of CASES) {
		it(`agrees with an independent evaluator (package verb-nurbs): ${name}`, () => {
			const us = Float64Array.from(SHARES, (t) => t * surface.knotsU.at(-1)!);
			const vs = Float64Array.from(SHARES, (t) => t * surface.knotsV.at(-1)!);
			const ours = evaluateGrid(surface, us, vs);
			const oracle = verbSurface(surface);
			vs.forEach((v, j) =>
				us.forEach((u, i) => {
					const k = (j * us.length + i) * 3;
					const [[p, pv], [pu, puv]] = oracle.derivatives(u, v, 2) as [number[][], number[][]];
					for (const [mine, theirs] of [
						[ours.position, p],
						[ours.du, pu],
						[ours.dv, pv],
						[ours.duv, puv]
					] as [Float64Array, number[]][])
						theirs.forEach((x, c) => expect(mine[k + c]).closeTo(x, 1e-9 * Math.max(1, Math.abs(x)), `${u}, ${v}`));
				})
			);
		});
	}

	it('gives the same points and normals for a grid, for points one by one, and by derivatives', () => {
		const surface = wavy(3, true);
		const us = Float64Array.of(0.1, 0.5, 0.9);
		const vs = Float64Array.of(0, 0.4);
		const grid = evaluateGridPoints(surface, us, vs);
		const single = evaluatePoints(
			surface,
			Float64Array.of(0.1, 0.5, 0.9, 0.1, 0.5, 0.9),
			Float64Array.of(0, 0, 0, 0.4, 0.4, 0.4)
		);
		// Powers of the local parameter against basis functions: equal but for rounding.
		single.position.forEach((x, k) => expect(grid.position[k]).closeTo(x, 1e-9));
		single.normal.forEach((x, k) => expect(grid.normal[k]).closeTo(x, 1e-12));
		const { position, du, duv } = evaluateGrid(surface, us, vs);
		expect(position).deep.equal(grid.position);
		expect(evaluateGridSpeeds(surface, us, vs)).deep.equal({ du, duv });
		const oracle = verbSurface(surface);
		const n = oracle.normal(0.5, 0.4);
		const size = Math.hypot(n[0]!, n[1]!, n[2]!);
		[0, 1, 2].forEach((c) => expect(grid.normal[4 * 3 + c]).closeTo(n[c]! / size, 1e-12));
	});

	it('draws the exact circle of any radius (Piegl & Tiller, The NURBS Book, ch. 7; from memory)', () => {
		fc.assert(
			fc.property(fc.double({ min: 1, max: 1e6, noNaN: true }), fc.double({ min: 0, max: 4, noNaN: true }), (r, u) => {
				const tube = revolve(
					[
						[r, 0],
						[r, 10]
					],
					1,
					[0, 0, 1, 1]
				);
				const { position } = evaluateGridPoints(tube, Float64Array.of(u), Float64Array.of(0.5));
				expect(Math.hypot(position[0]!, position[1]!) / r).closeTo(1, 1e-14);
			})
		);
	});

	it('turns its outside when across and up change over', () => {
		const surface = wavy(4, true);
		const a = evaluatePoints(surface, Float64Array.of(0.3), Float64Array.of(0.6));
		const b = evaluatePoints(swapDirections(surface), Float64Array.of(0.6), Float64Array.of(0.3));
		a.position.forEach((x, k) => expect(b.position[k]).closeTo(x, 1e-9));
		a.normal.forEach((x, k) => expect(b.normal[k]).closeTo(-x, 1e-12));
	});

	it('has no normal where the surface shrinks to a point', () => {
		const cone = revolve(
			[
				[1000, 0],
				[0, 1000]
			],
			1,
			[0, 0, 1, 1]
		);
		const { normal } = evaluatePoints(cone, Float64Array.of(0.5), Float64Array.of(1));
		expect(normal.every((n) => n === 0)).equal(true);
	});
});

describe('creating a surface', () => {
	const good = {
		degreeU: 1,
		degreeV: 1,
		knotsU: [0, 0, 1, 1],
		knotsV: [0, 0, 1, 1],
		points: [
			[
				[0, 0, 0],
				[1, 0, 0]
			],
			[
				[0, 1, 0],
				[1, 1, 0]
			]
		] as [number, number, number][][]
	};
	for (const [what, change, words] of [
		['too few knots', { knotsU: [0, 0, 1] }, /3 knots across; needed are 4/],
		['falling knots', { knotsV: [0, 1, 0, 1] }, /knot 3 up is 0/],
		['a knot that is no number', { knotsV: [0, 0, NaN, 1] }, /knot 3 up is NaN/],
		['a degree above the points', { degreeU: 2 }, /degree 2 across with 2 control points/],
		['knots that span nothing', { knotsU: [1, 1, 1, 1] }, /span nothing/],
		[
			'a weight of zero',
			{
				weights: [
					[1, 0],
					[1, 1]
				]
			},
			/control point 2 of row 1 .* weight 0/
		],
		['rows of different length', { points: [good.points[0]!, [[0, 1, 0]]] }, /row 2 has 1 control points/]
	] as [string, object, RegExp][])
		it(`refuses ${what}`, () => {
			expect(() => createSurface({ ...good, ...change })).throw(words);
		});
});

import { expect } from 'chai';
import fc from 'fast-check';
import { endsOf } from '../../../src/core/geometry/borders.ts';
import { evaluateGrid } from '../../../src/core/geometry/evaluate.ts';
import { fitSurface } from '../../../src/core/geometry/fitted.ts';
import { moveSeam } from '../../../src/core/geometry/seam.ts';
import { domainOf, type Surface } from '../../../src/core/geometry/surface.ts';
import { frustum, sphereZone } from '../surfaces.ts';

/** A smooth closed face through points, whose knots run on beyond its ends. */
function fitted(): Surface {
	const [columns, rows] = [16, 6];
	const points = new Float64Array(columns * rows * 3);
	for (let j = 0; j < rows; j++)
		for (let i = 0; i < columns; i++) {
			const angle = (2 * Math.PI * i) / columns;
			const r = 4000 + 400 * Math.cos(3 * angle) + 150 * j;
			points.set([r * Math.cos(angle), r * Math.sin(angle), 1200 * j], (j * columns + i) * 3);
		}
	return fitSurface({ columns, rows, closedAcross: true, points });
}

describe('moving the seam', () => {
	for (const [name, surface] of [
		['a cone', frustum(4000, 2500, 6000)],
		['a sphere', sphereZone(5000, -0.5, 0.8)],
		['a fitted face', fitted()]
	] as const)
		it(`of ${name} leaves every point where it was`, () => {
			const [u0, u1] = domainOf(surface.knotsU, surface.degreeU);
			const [v0, v1] = domainOf(surface.knotsV, surface.degreeV);
			const range = u1 - u0;
			fc.assert(
				fc.property(
					fc.double({ min: 0.001, max: 0.999, noNaN: true }),
					fc.double({ min: 0, max: 1, noNaN: true }),
					fc.double({ min: 0, max: 1, noNaN: true }),
					(seam, s, t) => {
						const moved = moveSeam(surface, u0 + range * seam);
						const [start, end] = domainOf(moved.knotsU, moved.degreeU);
						expect(end - start).closeTo(range, 1e-9 * range);
						const u = start + range * s;
						const v = Float64Array.of(v0 + (v1 - v0) * t);
						const a = evaluateGrid(moved, Float64Array.of(u), v).position;
						const b = evaluateGrid(surface, Float64Array.of(u > u1 ? u - range : u), v).position;
						a.forEach((x, k) => expect(x).closeTo(b[k]!, 1e-6));
					}
				),
				{ numRuns: 40 }
			);
			expect(endsOf(moveSeam(surface, u0 + range * 0.3))).deep.equal(endsOf(surface));
		});

	it('to where it is changes nothing', () => {
		const cone = frustum(4000, 2500, 6000);
		expect(moveSeam(cone, 0)).equal(cone);
		expect(moveSeam(cone, 4)).equal(cone);
	});
});

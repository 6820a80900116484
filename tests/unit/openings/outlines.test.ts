import { expect } from 'chai';
import fc from 'fast-check';
import { evaluateCurve, smoothCurve, type Point } from '../../../src/core/geometry/curve.ts';
import { outlineRing } from '../../../src/core/tiling/openings/layOpening.ts';
import { cutRing, ringArea, ringNear } from '../../../src/core/tiling/openings/rings.ts';

/** How far a polygon is from a line given by many points, measured from its corners and from the middles of its sides. */
function farthest(ring: readonly (readonly [number, number])[], line: readonly (readonly [number, number])[]): number {
	const from = ([x, y]: readonly [number, number]) => {
		let best = Infinity;
		for (let k = 0; k < line.length; k++) {
			const [[ax, ay], [bx, by]] = [line[k]!, line[(k + 1) % line.length]!];
			const square = (bx - ax) ** 2 + (by - ay) ** 2;
			const t = Math.max(0, Math.min(1, ((x - ax) * (bx - ax) + (y - ay) * (by - ay)) / square));
			best = Math.min(best, Math.hypot(x - ax - t * (bx - ax), y - ay - t * (by - ay)));
		}
		return best;
	};
	return Math.max(
		...ring.map((p, k) =>
			Math.max(
				from(p),
				from([(p[0] + ring[(k + 1) % ring.length]![0]) / 2, (p[1] + ring[(k + 1) % ring.length]![1]) / 2])
			)
		)
	);
}

describe('outlines of openings', () => {
	it('leave the same of a cell when what is of no account for it is left out first (property)', () =>
		fc.assert(
			fc.property(
				fc.array(fc.tuple(fc.integer({ min: 0, max: 60 }), fc.integer({ min: 1, max: 30 })), {
					minLength: 3,
					maxLength: 40
				}),
				fc.integer({ min: -25, max: 20 }),
				fc.integer({ min: -25, max: 20 }),
				(polar, x, y) => {
					// A star-shaped line of many points, so that it never crosses itself.
					const angles = [...new Map(polar.map(([a, r]) => [a, r]))].sort((p, q) => p[0] - q[0]);
					fc.pre(angles.length > 3);
					const ring = angles.map(([a, r]): [number, number] => [
						r * Math.cos((2 * Math.PI * a) / 61),
						r * Math.sin((2 * Math.PI * a) / 61)
					]);
					const cell: [number, number][] = [
						[x, y],
						[x + 9, y],
						[x + 9, y + 7],
						[x, y + 7]
					];
					const area = (pieces: ReturnType<typeof cutRing>) =>
						pieces.reduce((sum, p) => sum + ringArea(p.outer) + p.holes.reduce((s, h) => s + ringArea(h), 0), 0);
					const near = ringNear(ring, x, y, x + 9, y + 7);
					expect(near.length).most(ring.length);
					expect(area(cutRing(cell, [near], []))).closeTo(area(cutRing(cell, [ring], [])), 1e-2);
					expect(area(cutRing(cell, [], [near]))).closeTo(area(cutRing(cell, [], [ring])), 1e-2);
				}
			),
			{ numRuns: 500 }
		));

	it('are circles to 0.1 mm and a ten-thousandth of their area, of any size: pi d^2 / 4', () =>
		fc.assert(
			fc.property(fc.integer({ min: 20, max: 40_000 }), (diameter) => {
				const ring = outlineRing({ kind: 'circle', diameter });
				expect(ringArea(ring) / ((Math.PI * diameter ** 2) / 4)).closeTo(1, 1e-4);
				ring.forEach(([x, y], k) => {
					const [nx, ny] = ring[(k + 1) % ring.length]!;
					expect(Math.abs(Math.hypot(x, y) - diameter / 2)).most(0.1);
					expect(Math.abs(Math.hypot((x + nx) / 2, (y + ny) / 2) - diameter / 2)).most(0.1);
				});
			})
		));

	it('are smooth lines to 0.1 mm and a ten-thousandth of their area, drawn either way around', () =>
		fc.assert(
			fc.property(
				fc.array(fc.integer({ min: 400, max: 3000 }), { minLength: 4, maxLength: 9 }),
				fc.boolean(),
				(radii, clockwise) => {
					const points = radii.map((r, k): [number, number] => [
						r * Math.cos((2 * Math.PI * k) / radii.length),
						r * Math.sin((2 * Math.PI * k) / radii.length)
					]);
					if (clockwise) points.reverse();
					const ring = outlineRing({ kind: 'spline', points });
					const curve = smoothCurve(
						points.map(([x, y]): Point => [x, y, 0]),
						true
					);
					// Brute force: 4000 points on the curve itself.
					const [from, to] = [curve.breaks[0]!, curve.breaks.at(-1)!];
					const { position } = evaluateCurve(
						curve,
						Float64Array.from({ length: 4000 }, (_, k) => from + ((to - from) * k) / 4000)
					);
					const line = Array.from({ length: 4000 }, (_, k) => [position[k * 3]!, position[k * 3 + 1]!] as const);
					expect(Math.abs(ringArea(ring)) / Math.abs(ringArea(line.map(([x, y]) => [x, y])))).closeTo(1, 1e-4);
					expect(farthest(ring, line)).most(0.105);
				}
			),
			{ numRuns: 15, seed: 7 }
		));
});

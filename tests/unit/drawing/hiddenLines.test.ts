import { expect } from 'chai';
import fc from 'fast-check';
import { Ray, Vector3 } from 'three';
import { HiddenLines } from '../../../src/core/drawing/hiddenLines.ts';

const visibleOf = (triangles: readonly number[], line: readonly number[], nearest = Infinity) => {
	const found: [number, number][] = [];
	const [ax, ay, az, bx, by, bz] = line as [number, number, number, number, number, number];
	new HiddenLines({ triangles: Float64Array.from(triangles), nearest }).visible(ax, ay, az, bx, by, bz, (from, to) =>
		found.push([from, to])
	);
	return found;
};

/** From (0, 0) to (1000, 1000) at a depth, as two triangles. */
const square = (z: number, x = 0, y = 0, size = 1000) => [
	...[x, y, z, x + size, y, z, x + size, y + size, z],
	...[x, y, z, x + size, y + size, z, x, y + size, z]
];

describe('hidden lines', () => {
	it('leave what is in front, on, or beside a square, and take out what is behind', () => {
		const through = (z: number) => [-500, 400, z, 1500, 400, z];
		expect(visibleOf(square(0), through(100))).deep.equal([[0, 1]]);
		expect(visibleOf(square(0), through(0))).deep.equal([[0, 1]]);
		const behind = visibleOf(square(0), through(-100));
		expect(behind.length).equal(2);
		[
			[0, 0.25],
			[0.75, 1]
		].forEach((span, k) => span.forEach((t, e) => expect(behind[k]![e]).closeTo(t, 1e-9)));
		expect(visibleOf(square(0), [-500, 1200, -100, 1500, 1200, -100])).deep.equal([[0, 1]]);
	});

	it('are hidden from where they run into a square', () => {
		// From 500 before it to 500 behind it, across the whole of it: from its middle on, less the tolerance.
		const [seen, ...more] = visibleOf(square(0), [0, 500, 500, 1000, 500, -500]);
		expect(more).deep.equal([]);
		expect(seen![0]).equal(0);
		expect(seen![1]).closeTo(0.502, 1e-9);
	});

	it('are not hidden by what a cut has taken away, and are cut themselves', () => {
		const line = [100, 500, -300, 900, 500, -300];
		expect(visibleOf(square(0), line)).deep.equal([]);
		expect(visibleOf(square(0), line, -100)).deep.equal([[0, 1]]);
		const cut = visibleOf([], [0, 0, -200, 1000, 0, 200], 0);
		expect(cut).deep.equal([[0, 0.5]]);
	});

	it('are what rays find, point by point (property; rays of three)', () => {
		const number = fc.integer({ min: 0, max: 1000 });
		const triangle = fc.array(number, { minLength: 9, maxLength: 9 });
		fc.assert(
			fc.property(
				fc.array(triangle, { maxLength: 12 }),
				fc.array(number, { minLength: 6, maxLength: 6 }),
				(list, line) => {
					const spans = visibleOf(list.flat(), line);
					const [a, b] = [new Vector3(...line.slice(0, 3)), new Vector3(...line.slice(3))];
					if (Math.hypot(b.x - a.x, b.y - a.y) < 50) return;
					const corners = list.map((t) => [0, 3, 6].map((o) => new Vector3(...t.slice(o, o + 3))));
					for (let k = 1; k < 40; k++) {
						const t = k / 40;
						const p = new Vector3().lerpVectors(a, b, t);
						// From far in front straight back: how far before the point each triangle is met.
						const ray = new Ray(new Vector3(p.x, p.y, 5000), new Vector3(0, 0, -1));
						const depths = corners.flatMap(([u, v, w]) => {
							const hit = ray.intersectTriangle(u!, v!, w!, false, new Vector3());
							return hit ? [hit.z - p.z] : [];
						});
						// Near a border of a triangle or of its depth both answers are right.
						const shifted = [-1, 1].map((off) =>
							spans.some(([from, to]) => t + off * 0.012 > from && t + off * 0.012 < to)
						);
						if (shifted[0] !== shifted[1] || depths.some((d) => Math.abs(d) < 12)) continue;
						const hidden = depths.some((d) => d > 0);
						const near = [-0.012, 0.012].map((off) => {
							const q = new Vector3().lerpVectors(a, b, t + off);
							const r = new Ray(new Vector3(q.x, q.y, 5000), new Vector3(0, 0, -1));
							return corners.some(
								([u, v, w]) => (r.intersectTriangle(u!, v!, w!, false, new Vector3())?.z ?? -1) > q.z
							);
						});
						if (near[0] !== hidden || near[1] !== hidden) continue;
						expect(shifted[0], `at ${t}`).equal(!hidden);
					}
				}
			),
			{ numRuns: 200 }
		);
	});
});

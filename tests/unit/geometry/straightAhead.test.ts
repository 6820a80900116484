import { expect } from 'chai';
import fc from 'fast-check';
import { pointOn } from '../../../src/core/geometry/pointOn.ts';
import { straightAhead } from '../../../src/core/geometry/straightAhead.ts';
import { domainOf, type Surface } from '../../../src/core/geometry/surface.ts';
import { bent, frustum, sphereZone, wavy } from '../surfaces.ts';

type P = readonly number[];
const plus = (a: P, b: P, by = 1) => a.map((x, k) => x + b[k]! * by);
const dot = (a: P, b: P) => a.reduce((sum, x, k) => sum + x * b[k]!, 0);
const unit = (a: P) => a.map((x) => x / Math.hypot(...a));
const cross = (a: P, b: P) => [
	a[1]! * b[2]! - a[2]! * b[1]!,
	a[2]! * b[0]! - a[0]! * b[2]!,
	a[0]! * b[1]! - a[1]! * b[0]!
];

function ahead(surface: Surface, u: number, v: number, x: number, y: number) {
	const from = pointOn(surface, u, v);
	const reached = straightAhead(surface, true, from, x, y)!;
	const along = unit(from.du);
	const way = unit(
		plus(
			along.map((c) => c * x),
			cross(from.normal, along),
			y
		)
	);
	return { from, reached, way, to: pointOn(surface, reached.u, reached.v).position, length: Math.hypot(x, y) };
}

const share = fc.double({ min: 0.02, max: 0.98, noNaN: true });
const mm = fc.integer({ min: -9000, max: 9000 });

describe('ways straight ahead on a face', () => {
	it('are great circles on a ball, past its pole and over its seam, too (spherical trigonometry)', () =>
		fc.assert(
			fc.property(share, share, mm, mm, (s, t, x, y) => {
				fc.pre(x !== 0 || y !== 0);
				const radius = 10_000;
				const ball = sphereZone(radius, 0, Math.PI / 2);
				const { from, reached, way, to, length } = ahead(ball, s * 4, 0.3 + 0.6 * t, x, y);
				const angle = length / radius;
				const expected = plus(
					from.position.map((c) => c * Math.cos(angle)),
					way,
					radius * Math.sin(angle)
				);
				if (reached.beyond) {
					// Gone down over the border: what is left of it is what lies below the equator.
					expect(to[2]).closeTo(0, 1e-6);
					const on = (length - reached.beyond.length) / radius;
					const end = plus(
						from.position.map((c) => c * Math.cos(on)),
						way,
						radius * Math.sin(on)
					);
					expect(Math.hypot(...plus(to, end, -1))).most(0.01);
				} else expect(Math.hypot(...plus(to, expected, -1))).most(0.01);
			}),
			{ numRuns: 200 }
		));

	it('pass the pole that they are aimed at', () => {
		const { reached, to, from } = ahead(sphereZone(10_000, 0, Math.PI / 2), 0.5, 0.7, 0, 9000);
		const angle = Math.atan2(from.position[2]!, Math.hypot(from.position[0]!, from.position[1]!)) + 0.9;
		expect(Math.hypot(to[0]!, to[1]!)).closeTo(-10_000 * Math.cos(angle), 0.01);
		expect(to[2]).closeTo(10_000 * Math.sin(angle), 0.01);
		expect(reached.beyond).equal(undefined);
	});

	it('are straight lines of a cone that is unrolled', () =>
		fc.assert(
			fc.property(share, share, mm, mm, (s, t, x, y) => {
				fc.pre(x !== 0 || y !== 0);
				const [r1, r2, height] = [6000, 2000, 8000];
				const cone = frustum(r1, r2, height);
				const { from, reached, to, length } = ahead(cone, s * 4, t, x, y);
				// Distances from the apex and angles about it, laid flat.
				const slant = Math.hypot(height, r1 - r2) / (r1 - r2);
				const [a, b] = [from.position, to].map((p) => Math.hypot(p[0]!, p[1]!) * slant) as [number, number];
				const way = length - (reached.beyond?.length ?? 0);
				// Outside looking in, the apex lies straight to the left of the row.
				const [px, py] = [(x / length) * way, a - (y / length) * way];
				expect(b).closeTo(Math.hypot(px, py), 0.01);
				const turned = Math.atan2(px, py) * slant;
				const ends = [from.position, to].map((p) => Math.atan2(p[1]!, p[0]!)) as [number, number];
				expect(Math.cos(ends[1] - ends[0] - turned)).closeTo(1, 1e-9);
			}),
			{ numRuns: 200 }
		));

	it('go on without a kink, and no farther than they were told (property)', () =>
		fc.assert(
			fc.property(fc.integer({ min: 1, max: 99 }), share, share, mm, mm, fc.boolean(), (seed, s, t, x, y, rational) => {
				fc.pre(x !== 0 || y !== 0);
				const surface = wavy(seed, rational);
				const [u0, u1] = domainOf(surface.knotsU, surface.degreeU);
				const [v0, v1] = domainOf(surface.knotsV, surface.degreeV);
				const at = { u: u0 + (u1 - u0) * s, v: v0 + (v1 - v0) * t };
				const there = straightAhead(surface, false, at, x / 9, y / 9)!;
				fc.pre(!there.beyond);
				// On from the middle, aimed by the last bit of the way there: no kink.
				const half = straightAhead(surface, false, at, x / 18, y / 18)!;
				const [from, middle, to] = [at, half, there].map(({ u, v }) => pointOn(surface, u, v)) as [
					ReturnType<typeof pointOn>,
					ReturnType<typeof pointOn>,
					ReturnType<typeof pointOn>
				];
				const along = unit(middle.du);
				const left = cross(middle.normal, along);
				const before = straightAhead(surface, false, at, (x / 18) * (1 - 1e-5), (y / 18) * (1 - 1e-5))!;
				const way = unit(plus(middle.position, pointOn(surface, before.u, before.v).position, -1));
				const length = Math.hypot(x, y) / 18;
				const [a, b] = [dot(way, along), dot(way, left)];
				const size = Math.hypot(a, b);
				const on = straightAhead(surface, false, half, (a / size) * length, (b / size) * length)!;
				expect(Math.hypot(...plus(pointOn(surface, on.u, on.v).position, to.position, -1))).most(0.2);
				expect(Math.hypot(...plus(to.position, from.position, -1))).most(2 * length + 1e-3);
			}),
			{ numRuns: 100 }
		));

	it('go over a fold as if it was unrolled', () => {
		// Two plates 3000 wide that meet along y at a right angle.
		const fold = bent();
		const reached = straightAhead(fold, false, { u: 0.25, v: 0.25 }, 3000, 1500)!;
		const to = pointOn(fold, reached.u, reached.v).position;
		expect(to[0]).closeTo(3000, 1e-6);
		expect(to[1]).closeTo(1500 + 1500, 1e-6);
		expect(to[2]).closeTo(1500, 1e-6);
	});
});

import { expect } from 'chai';
import { booleanOpD, ClipType, EndType, FillRule, inflatePathsD, JoinType } from 'clipper2-ts';
import fc from 'fast-check';
import { difference, grown, intersection, union, type Path } from '../../../src/core/tiling/openings/clipping.ts';

const MM = fc.double({ min: -5000, max: 5000, noNaN: true });
const path: fc.Arbitrary<Path> = fc.array(fc.record({ x: MM, y: MM }, { noNullPrototype: true }), {
	minLength: 3,
	maxLength: 9
});
const paths = fc.array(path, { minLength: 1, maxLength: 4 });
const digits = fc.constantFrom(0, 2, 4, 8);
const area = (found: readonly Path[]) =>
	found.reduce(
		(sum, ring) =>
			sum +
			ring.reduce((s, p, k) => s + p.x * ring[(k + 1) % ring.length]!.y - ring[(k + 1) % ring.length]!.x * p.y, 0) / 2,
		0
	);

/**
 * The same lines every time: the package has been seen not to come to an end with some random ones that cross themselves over and
 * over, which openings never do (they are refused).
 */
const SEED = { seed: 2026 };

const place = (r: number, angle: number) => ({ x: r * Math.cos(angle), y: r * Math.sin(angle) });

describe('clipping', () => {
	it('gives to the last bit what the package gives by its front door', () => {
		fc.assert(
			fc.property(paths, paths, digits, (some, others, n) => {
				const door = (kind: ClipType, b: Path[]) => booleanOpD(kind, some, b, FillRule.NonZero, n);
				expect(union(some, n)).deep.equal(door(ClipType.Union, []));
				expect(intersection(some, others, n)).deep.equal(door(ClipType.Intersection, others));
				expect(difference(some, others, n)).deep.equal(door(ClipType.Difference, others));
			}),
			SEED
		);
	});

	it('grows lines that go around once as the package does, to the last bit', () => {
		const around = fc
			.array(fc.double({ min: 50, max: 5000, noNaN: true }), { minLength: 3, maxLength: 12 })
			.map((radii): Path => radii.map((r, k) => place(r, (2 * Math.PI * k) / radii.length)));
		fc.assert(
			fc.property(around, fc.double({ min: -300, max: 300, noNaN: true }), fc.constantFrom(2, 4), (line, by, n) => {
				const door = inflatePathsD([line], by, JoinType.Miter, EndType.Polygon, 4, n);
				expect(grown([line], by, n)).deep.equal(door.map((path) => path.map(({ x, y }) => ({ x, y }))));
			}),
			SEED
		);
	});

	it('parts an area into what is common and what is left: both add up to it', () => {
		fc.assert(
			fc.property(paths, paths, (some, others) => {
				const all = area(union(some, 4));
				const parts = area(intersection(some, others, 4)) + area(difference(some, others, 4));
				// Each corner is rounded to 0.0001 mm: so much times all lengths, at most some 10^5 mm with this input.
				expect(parts).closeTo(all, 0.0001 * 1e6);
			}),
			SEED
		);
	});
});

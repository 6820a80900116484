import { runInThisContext } from 'node:vm';
import { expect } from 'chai';
import { booleanOpD, ClipType, EndType, FillRule, inflatePathsD, JoinType } from 'clipper2-ts';
import fc from 'fast-check';
import { difference, grown, intersection, union, type Path } from '../../../src/core/tiling/openings/clipping.ts';

/** Anywhere alike, so that next to no sides are level: with others that run straight back the package never ends. */
const MM = fc.noBias(fc.integer({ min: -5e7, max: 5e7 })).map((x) => x / 1e4);
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

/** What something gives; a fault where it is not done in five seconds. */
function inTime<T>(task: () => T): T {
	const context = globalThis as { task?: () => unknown };
	context.task = task;
	return runInThisContext('task()', { timeout: 5000 }) as T;
}

const place = (r: number, angle: number) => ({ x: r * Math.cos(angle), y: r * Math.sin(angle) });

describe('clipping', () => {
	it('gives to the last bit what the package gives by its front door', () => {
		fc.assert(
			fc.property(paths, paths, digits, (some, others, n) => {
				const door = (kind: ClipType, b: Path[]) => booleanOpD(kind, some, b, FillRule.NonZero, n);
				expect(union(some, n)).deep.equal(door(ClipType.Union, []));
				expect(intersection(some, others, n)).deep.equal(door(ClipType.Intersection, others));
				expect(difference(some, others, n)).deep.equal(door(ClipType.Difference, others));
			})
		);
	});

	it('comes to an end with lines that run straight back along themselves, over and over', () => {
		// A level side back and forth where the line closes: the package alone never ends with it.
		const twig = [[0, 0], [0, 300], [0, 0], [182, 0], [3337, 0]].map(([x, y]) => ({ x: x!, y: y! })); // prettier-ignore
		expect(inTime(() => intersection([[...twig]], [twig], 4))).deep.equal([]);
		const spiked = [[0, 0], [0, 300], [0, 0], [182, 0], [3337, 0], [100, 0], [0, 182]].map(([x, y]) => ({ x: x!, y: y! })); // prettier-ignore
		expect(inTime(() => area(union([spiked], 4)))).closeTo((100 * 182) / 2, 1e-9);
		const few = fc.record({ x: fc.constantFrom(-3000, 0, 2, 3000), y: fc.constantFrom(-3000, 0, 0, 3000) });
		const twigs = fc.array(fc.array(few, { maxLength: 9 }), { maxLength: 4 });
		fc.assert(
			fc.property(twigs, twigs, digits, (some, others, n) => {
				// Not what they enclose: of 50,000 of such documents the package gets one wrong, by a tenth or so.
				const found = inTime(() => [union(some, n), intersection(some, others, n), difference(some, others, n)]);
				expect(found.flat(2).every(({ x, y }) => Math.max(Math.abs(x), Math.abs(y)) <= 3000)).equal(true);
			}),
			{ numRuns: 1000 }
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
			})
		);
	});

	it('parts an area into what is common and what is left: both add up to it', () => {
		fc.assert(
			fc.property(paths, paths, (some, others) => {
				const all = area(union(some, 4));
				const parts = area(intersection(some, others, 4)) + area(difference(some, others, 4));
				// Each corner is rounded to 0.0001 mm: so much times all lengths, at most some 10^5 mm with this input.
				expect(parts).closeTo(all, 0.0001 * 1e6);
			})
		);
	});
});

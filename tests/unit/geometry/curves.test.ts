import { expect } from 'chai';
import fc from 'fast-check';
import { byLength, segmentLengths } from '../../../src/core/geometry/curveLength.ts';
import { makeCompatible } from '../../../src/core/geometry/compatible.ts';
import {
	circularArc,
	evaluateCurve,
	joinCurves,
	partOf,
	polyline,
	raiseDegree,
	reverseCurve,
	segmentsOf,
	smoothCurve,
	splitAt,
	startAt,
	type Curve,
	type Point
} from '../../../src/core/geometry/curve.ts';
import { closestPoint } from '../../../src/core/geometry/closestPoint.ts';
import { pointOn } from '../../../src/core/geometry/pointOn.ts';
import { revolveCurve } from '../../../src/core/geometry/skin.ts';
import { frustum, hypar, sphereZone, wavy } from '../surfaces.ts';
import { verbSurface } from '../oracle.ts';

const points = fc
	.array(fc.tuple(fc.integer({ min: -9, max: 9 }), fc.integer({ min: -9, max: 9 }), fc.integer({ min: -9, max: 9 })), {
		minLength: 3,
		maxLength: 8
	})
	.filter((list) =>
		list.every((p, k) => list.every((q, i) => i === k || Math.hypot(p[0] - q[0], p[1] - q[1], p[2] - q[2]) > 0))
	)
	.map((list) => list.map((p): Point => [p[0] * 1000, p[1] * 1000, p[2] * 1000]));
const shares = [0, 0.07, 0.31, 0.5, 0.83, 1];
const at = (curve: Curve, share: number) => {
	const [from, to] = [curve.breaks[0]!, curve.breaks.at(-1)!];
	return [...evaluateCurve(curve, [from + share * (to - from)]).position];
};
const sameLine = (a: Curve, b: Curve) =>
	shares.forEach((s) => at(a, s).forEach((x, c) => expect(at(b, s)[c]).closeTo(x, 1e-5)));

describe('curves', () => {
	it('hold a circle exactly (The NURBS Book, ch. 7; from memory)', () => {
		const circle = circularArc([1000, -500], 4000, 0.3, 2 * Math.PI);
		for (const s of [0, 0.1, 0.23, 0.61, 0.99]) {
			const [x, y] = at(circle, s);
			expect(Math.hypot(x! - 1000, y! + 500)).closeTo(4000, 1e-9);
		}
		expect(segmentLengths(circle).reduce((a, b) => a + b, 0)).closeTo(2 * Math.PI * 4000, 1e-4);
	});

	it('stay the same line when raised, split, reversed or taken apart', () => {
		fc.assert(
			fc.property(points, fc.boolean(), (list, closed) => {
				const curve = byLength(smoothCurve(list, closed));
				sameLine(curve, raiseDegree(curve, 5));
				sameLine(curve, splitAt(curve, [0.2, 0.7, 0.7000001]));
				sameLine(curve, reverseCurve(reverseCurve(curve)));
				sameLine(curve, joinCurves([partOf(curve, 0, 1), partOf(curve, 1, segmentsOf(curve))]));
				if (closed)
					expect(at(startAt(curve, 1), 0)).deep.equal(
						at(curve, 0).map((_, c) => [...curve.control.subarray(12, 15)][c])
					);
			}),
			{ numRuns: 50 }
		);
	});

	it('pass their points smoothly: slope and bend run on at each', () => {
		fc.assert(
			fc.property(points, (list) => {
				const curve = smoothCurve(list);
				list.forEach((p, k) =>
					[...evaluateCurve(curve, [curve.breaks[k]!]).position].forEach((x, c) => expect(x).closeTo(p[c]!, 1e-6))
				);
				for (let k = 1; k + 1 < list.length; k++) {
					const h = 1e-3;
					const t = curve.breaks[k]!;
					const d = [-2, -1, 1, 2].map((i) => evaluateCurve(curve, [t + i * h]).derivative);
					for (let c = 0; c < 3; c++) {
						const [before, after] = [(d[1]![c]! - d[0]![c]!) / h, (d[3]![c]! - d[2]![c]!) / h];
						expect(before).closeTo(after, 1e-3 + 1e-2 * Math.abs(before));
					}
				}
			}),
			{ numRuns: 30 }
		);
	});

	it('become compatible without moving', () => {
		const circle = byLength(circularArc([0, 0], 3000, 0, 2 * Math.PI));
		const box = byLength(
			polyline(
				[
					[1, 0, 0],
					[1, 1, 0],
					[0, 1, 0],
					[0, 0, 0],
					[0.5, -0.5, 0],
					[1, 0, 0]
				].map((p) => p.map((x) => x * 5000) as unknown as Point)
			)
		);
		const [a, b] = makeCompatible([circle, box]);
		expect([a!.degree, segmentsOf(a!), [...a!.breaks]]).deep.equal([b!.degree, segmentsOf(b!), [...b!.breaks]]);
		sameLine(circle, a!);
		sameLine(box, b!);
	});

	it('say when they do not meet', () => {
		expect(() =>
			joinCurves([
				polyline([
					[0, 0, 0],
					[1, 0, 0]
				]),
				polyline([
					[2, 0, 0],
					[3, 0, 0]
				])
			])
		).throw('do not meet');
	});
});

describe('a point of a face', () => {
	it('has the curvatures of the textbook: sphere, cylinder, torus, z = kxy (do Carmo; from memory)', () => {
		const sphere = pointOn(sphereZone(5000, -0.9, 0.9), 1.3, 0.4);
		expect(sphere.gaussian * 5000 ** 2).closeTo(1, 1e-9);
		expect(sphere.mean * 5000).closeTo(1, 1e-9);
		const cylinder = pointOn(frustum(3000, 3000, 8000), 0.7, 0.3);
		expect([cylinder.gaussian * 1e9, cylinder.mean * 3000 * 2]).satisfy(
			([k, h]: number[]) => Math.abs(k!) < 1e-9 && Math.abs(h! - 1) < 1e-9
		);
		// Outermost circle of a torus: K = 1 / (r (R + r)).
		const ring = byLength(circularArc([9000, 0], 2000, 0, 2 * Math.PI));
		const torus = pointOn(revolveCurve(ring, 0, 2 * Math.PI), 0.1, 0);
		expect(torus.gaussian * 2000 * 11_000).closeTo(1, 1e-9);
		// At the origin of z = kxy: K = -k2, H = 0.
		const saddle = pointOn(hypar(2e-4, 8000, 8000), 0.5, 0.5);
		expect(saddle.gaussian / -(2e-4 ** 2)).closeTo(1, 1e-9);
		expect(saddle.mean * 1e6).closeTo(0, 1e-9);
	});

	it('has the derivatives that verb-nurbs finds, up to the second', () => {
		for (const rational of [false, true]) {
			const surface = wavy(5, rational);
			const here = pointOn(surface, 0.31, 0.57);
			const d = verbSurface(surface).derivatives(0.31, 0.57, 2);
			const pairs = [
				[here.position, d[0]![0]],
				[here.du, d[1]![0]],
				[here.dv, d[0]![1]],
				[here.duu, d[2]![0]],
				[here.duv, d[1]![1]],
				[here.dvv, d[0]![2]]
			] as [Point, number[]][];
			for (const [ours, theirs] of pairs)
				ours.forEach((x, c) => expect(x).closeTo(theirs[c]!, 1e-6 * Math.max(1, Math.abs(theirs[c]!))));
		}
	});

	it('has a normal even where the face runs to a point', () => {
		expect(pointOn(sphereZone(5000, -0.9, Math.PI / 2), 0.3, 1).normal[2]).closeTo(1, 1e-5);
	});

	it('is found as the closest one: straight through the middle of a ball', () => {
		const target: Point = [9000, 2000, 1500];
		const found = closestPoint(sphereZone(5000, -1.2, 1.2), target);
		const size = Math.hypot(...target);
		expect(found.distance).closeTo(size - 5000, 1e-6);
		found.position.forEach((x, c) => expect(x).closeTo((target[c]! / size) * 5000, 1e-3));
	});
});

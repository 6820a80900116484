import { expect } from 'chai';
import fc from 'fast-check';
import { evaluatePoints } from '../../../src/core/geometry/evaluate.ts';
import { vaultSurface } from '../../../src/core/mass/vault.ts';
import { invertChart } from '../../../src/core/settingout/invertChart.ts';
import { surfaceArea } from '../../../src/core/geometry/area.ts';
import { createSurface, type Surface } from '../../../src/core/geometry/surface.ts';
import { measureCells } from '../../../src/core/readings/measureCells.ts';
import { chartLengths } from '../../../src/core/settingout/lengthChart.ts';
import type { NodeTable } from '../../../src/core/settingout/nodes.ts';
import { tileRectangular } from '../../../src/core/tiling/rectangular.ts';
import { COINCIDENT_MM } from '../../../src/core/tolerances.ts';
import { divide as divideFace } from '../divide.ts';
import { OPEN_ENDS } from '../../../src/core/geometry/borders.ts';
import { frustum, hypar, rectangle, sphereZone, translation, wavy } from '../surfaces.ts';

const divide = (surface: Surface, across: number, up: number) => divideFace(surface, across, up, OPEN_ENDS);

const measure = (surface: Surface, across: number, up: number) => {
	const nodes = divide(surface, across, up);
	return { nodes, ...measureCells(nodes, tileRectangular(nodes)) };
};

const total = (values: Float64Array) => values.reduce((a, b) => a + b, 0);
const nodeAt = ({ position, columns }: NodeTable, i: number, j: number) =>
	position.subarray((j * columns + i) * 3, (j * columns + i) * 3 + 3);
const gap = (a: Float64Array, b: Float64Array) => Math.hypot(a[0]! - b[0]!, a[1]! - b[1]!, a[2]! - b[2]!);

/** Greatest relative departure from the mean. */
function spread(values: number[]): number {
	const mean = values.reduce((a, b) => a + b, 0) / values.length;
	return Math.max(...values.map((v) => Math.abs(v / mean - 1)));
}

describe('setting out by true length', () => {
	it('spaces a circle evenly although its parameter does not', () => {
		const nodes = divide(frustum(10_000, 10_000, 3000), 37, 1);
		const chords = Array.from({ length: 37 }, (_, i) => gap(nodeAt(nodes, i, 0), nodeAt(nodes, i + 1, 0)));
		// Equal arcs have equal chords: 2 R sin(pi / n).
		chords.forEach((c) => expect(c).closeTo(2 * 10_000 * Math.sin(Math.PI / 37), COINCIDENT_MM));
	});

	it('spaces the meridian of a sphere evenly', () => {
		const nodes = divide(sphereZone(8000, -1.1, 0.8), 12, 19);
		const chords = Array.from({ length: 19 }, (_, j) => gap(nodeAt(nodes, 3, j), nodeAt(nodes, 3, j + 1)));
		chords.forEach((c) => expect(c).closeTo(2 * 8000 * Math.sin(1.9 / 19 / 2), 1e-3));
	});

	it('measures the arc length of a parabola (closed form from any handbook)', () => {
		// y = x^2 / 4f from -a to a: a sqrt(1 + m^2) + 2f asinh(m), with m = a / 2f.
		const [a, f] = [9000, 3000];
		const arch: [number, number, number][] = [
			[-a, 0, (a * a) / (4 * f)],
			[0, 0, (-a * a) / (4 * f)],
			[a, 0, (a * a) / (4 * f)]
		];
		const chart = chartLengths(
			translation(arch, [
				[0, 0, 0],
				[0, 5000, 0]
			])
		);
		const m = a / (2 * f);
		expect(chart.rowLengths[0]).closeTo(a * Math.sqrt(1 + m * m) + 2 * f * Math.asinh(m), 1e-4);
	});

	it('gives a face with bunched control points the grid of the even one', () => {
		const even = (x: number): [number, number, number][] => [0, 1, 2, 3].map((k) => [x, k * 2000, 0]);
		const bunched = (x: number): [number, number, number][] => [0, 100, 500, 6000].map((y) => [x, y, 0]);
		const make = (row: (x: number) => [number, number, number][]) =>
			createSurface({
				degreeU: 3,
				degreeV: 1,
				knotsU: [0, 0, 0, 0, 1, 1, 1, 1],
				knotsV: [0, 0, 1, 1],
				points: [row(4000), row(0)]
			});
		const [a, b] = [divide(make(even), 9, 4), divide(make(bunched), 9, 4)];
		a.position.forEach((x, k) => expect(b.position[k]).closeTo(x, 0.01));
	});

	it('divides all four borders of a freeform face evenly, corners and borders exact', () => {
		fc.assert(
			fc.property(fc.integer({ min: 1, max: 1000 }), fc.boolean(), (seed, rational) => {
				const surface = wavy(seed, rational);
				const fine = divide(surface, 240, 240);
				const coarse = divide(surface, 6, 6);
				// Measured on the fine grid, every sixth of a border is as long as the next.
				for (const border of [0, 240]) {
					const rows = Array.from({ length: 6 }, (_, s) => {
						let length = 0;
						for (let i = s * 40; i < s * 40 + 40; i++)
							length += gap(nodeAt(fine, i, border), nodeAt(fine, i + 1, border));
						return length;
					});
					expect(spread(rows)).lessThan(1e-4);
				}
				// The coarse nodes are among the fine ones: the same shares, the same points.
				for (let j = 0; j <= 6; j++)
					for (let i = 0; i <= 6; i++) expect(gap(nodeAt(coarse, i, j), nodeAt(fine, i * 40, j * 40))).lessThan(0.01);
				const c = surface.control;
				expect(gap(nodeAt(fine, 0, 0), c.map((x, k) => x / c[k | 3]!).subarray(0, 3))).lessThan(1e-9);
			}),
			{ numRuns: 12 }
		);
	});

	it('ends on shared nodes: the last node of a closed row is the first', () => {
		const nodes = divide(frustum(4000, 2500, 6000), 24, 5);
		for (let j = 0; j <= 5; j++) expect(gap(nodeAt(nodes, 0, j), nodeAt(nodes, 24, j))).lessThan(1e-8);
	});
});

describe('areas', () => {
	it('integrates zone of a sphere 2 pi R h, cone frustum pi (r1 + r2) s (handbook, from memory)', () => {
		const zone = 2 * Math.PI * 7000 * (7000 * (Math.sin(0.9) - Math.sin(-0.4)));
		expect(surfaceArea(sphereZone(7000, -0.4, 0.9)) / zone).closeTo(1, 1e-9);
		const side = Math.hypot(3000, 8000);
		expect(surfaceArea(frustum(5000, 2000, 8000)) / (Math.PI * 7000 * side)).closeTo(1, 1e-9);
	});

	it('converges with the second power when cells are added up', () => {
		const zone = 2 * Math.PI * 7000 * (7000 * (Math.sin(0.9) - Math.sin(-0.4)));
		const errors = [20, 40, 80].map((n) => 1 - total(measure(sphereZone(7000, -0.4, 0.9), n, n).columns.area) / zone);
		expect(errors[0]! / errors[1]!).closeTo(4, 0.1);
		expect(errors[1]! / errors[2]!).closeTo(4, 0.1);
		expect(errors[2]).lessThan(2e-3).greaterThan(0);
		const frustumArea = Math.PI * 7000 * Math.hypot(3000, 8000);
		const sum = total(measure(frustum(5000, 2000, 8000), 400, 3).columns.area);
		expect(sum / frustumArea).closeTo(1, 1e-4);
	});

	it('adds up exactly on a flat face', () => {
		fc.assert(
			fc.property(fc.integer({ min: 1, max: 40 }), fc.integer({ min: 1, max: 40 }), (a, b) => {
				expect(total(measure(rectangle(31_415, 9265), a, b).columns.area) / (31_415 * 9265)).closeTo(1, 1e-12);
			})
		);
	});
});

describe('warp', () => {
	it('is k a b / 2 for the middle cell a x b of z = kxy', () => {
		// Corners (+-a/2, +-b/2, +-k a b / 4). The diagonals cross the z axis at +k a b / 4 and -k a b / 4
		// and both are level, so that they are k a b / 2 apart.
		const [k, a, b] = [1e-4, 1500, 1200];
		const { columns } = measure(hypar(k, 3 * a, 3 * b), 3, 3);
		// The face is ruled and set out by true length, so that the middle cell is within a hair of a x b.
		expect(columns.warp[4]).closeTo((k * a * b) / 2, 0.05);
		const single = measure(hypar(k, a, b), 1, 1);
		expect(single.columns.warp[0]).closeTo((k * a * b) / 2, 1e-9);
	});

	it('is nothing on surfaces of revolution and of translation (Glymph et al. 2004; from memory)', () => {
		const arch: [number, number, number][] = [
			[0, 0, 0],
			[3000, 400, 2500],
			[9000, -300, 900]
		];
		const rail: [number, number, number][] = [
			[0, 0, 0],
			[800, 4000, 1500],
			[-500, 9000, 700],
			[200, 14_000, 2600]
		];
		for (const surface of [sphereZone(9000, -0.8, 1.1), frustum(6000, 2000, 9000), translation(arch, rail)]) {
			const { columns } = measure(surface, 14, 17);
			expect(Math.max(...columns.warp)).lessThan(1e-5);
		}
	});
});

describe('inverting a length chart', () => {
	it('settles on wildly sheared faces, where Newton’s method does not', () => {
		const section = { span: 1, rise: 0, lean: 0, shift: 0, startHeight: 0, endHeight: 0 };
		const surface = vaultSurface({
			kind: 'vault',
			length: 1000,
			sections: [
				{ ...section, at: 0 },
				{ ...section, at: 0.5 },
				{ ...section, at: 1, lean: 3, endHeight: 27_181 }
			]
		});
		const chart = chartLengths(surface);
		const shares = Float64Array.of(0, 0.25, 0.5, 0.75, 1);
		const { us, vs } = invertChart(chart, shares, shares);
		// Lengths measured directly along the row and the column through each inner point.
		for (let j = 1; j < 4; j++)
			for (let i = 1; i < 4; i++) {
				const [u, v] = [us[j * 5 + i]!, vs[j * 5 + i]!];
				expect(lengthTo(surface, u, (t) => [t, v]) / lengthTo(surface, 1, (t) => [t, v])).closeTo(i / 4, 1e-3);
				expect(lengthTo(surface, v, (t) => [u, t]) / lengthTo(surface, 1, (t) => [u, t])).closeTo(j / 4, 1e-3);
			}
	});
});

/** Length of a line on a surface from 0 to `end`, by many short chords. */
function lengthTo(surface: Surface, end: number, at: (t: number) => [number, number]): number {
	const steps = Array.from({ length: 4001 }, (_, k) => at((end * k) / 4000));
	const { position } = evaluatePoints(
		surface,
		Float64Array.from(steps, (s) => s[0]),
		Float64Array.from(steps, (s) => s[1])
	);
	let length = 0;
	for (let k = 0; k < 4000; k++) length += gap(position.subarray(k * 3), position.subarray(k * 3 + 3));
	return length;
}

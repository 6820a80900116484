import { expect } from 'chai';
import { Delaunay } from 'd3-delaunay';
import fc from 'fast-check';
import { geodesic } from '../../../src/core/tiling/irregular/geodesic.ts';
import { voronoiCells } from '../../../src/core/tiling/irregular/voronoiCells.ts';
import { NO_CELL } from '../../../src/core/tiling/cells.ts';
import { ringArea } from '../../../src/core/tiling/openings/rings.ts';
import { sum, tile } from '../tile.ts';
import { rectangle, sphereZone } from '../surfaces.ts';

const OPEN = { width: 10_000, height: 6000, closedAcross: false, closedUp: false };
const seedsIn = (n: number) =>
	fc.uniqueArray(fc.tuple(fc.integer({ min: 1, max: 9999 }), fc.integer({ min: 1, max: 5999 })), {
		minLength: 1,
		maxLength: n,
		selector: ([x, y]) => `${x} ${y}`
	});

describe('Voronoi cells', () => {
	it('are those of an independent package (d3-delaunay): same areas, same neighbours', () => {
		fc.assert(
			fc.property(seedsIn(60), (seeds) => {
				const cells = voronoiCells(seeds, OPEN);
				const judge = Delaunay.from(seeds).voronoi([0, 0, OPEN.width, OPEN.height]);
				cells.forEach((cell, k) => {
					const theirs = judge.cellPolygon(k) as [number, number][];
					expect(ringArea(cell)).closeTo(Math.abs(ringArea(theirs.slice(0, -1))), 1e-3);
				});
				expect(sum(cells.map((c) => ringArea(c)))).closeTo(OPEN.width * OPEN.height, 1e-3);
				// Neighbours share two corners; sides shorter than a hair are left to rounding.
				const near = (p: readonly [number, number], q: readonly [number, number]) =>
					Math.hypot(p[0] - q[0], p[1] - q[1]) < 1e-3;
				for (let k = 0; k < seeds.length; k++)
					for (const other of judge.neighbors(k)) {
						const shared = cells[k]!.filter((p) => cells[other]!.some((q) => near(p, q)));
						expect(shared.length).greaterThan(0);
					}
			}),
			{ numRuns: 40 }
		);
	});

	it('go on over the seams of what closes', () => {
		fc.assert(
			fc.property(seedsIn(40), fc.boolean(), (seeds, closedUp) => {
				const cells = voronoiCells(seeds, { ...OPEN, closedAcross: true, closedUp });
				expect(sum(cells.map((c) => ringArea(c)))).closeTo(OPEN.width * OPEN.height, 1e-2);
			}),
			{ numRuns: 40 }
		);
	});

	it('refuse seeds on one point, naming both', () => {
		expect(() =>
			voronoiCells(
				[
					[1, 1],
					[5, 5],
					[1, 1]
				],
				OPEN
			)
		).throw('Seeds 1 and 3 lie on the same point');
	});

	it('are smaller near a point, and as many as the size says', () => {
		const even = tile(rectangle(20_000, 20_000), 4, 4, { kind: 'voronoi', size: 1000 });
		expect(even.cells.count).equal(400);
		const graded = tile(rectangle(20_000, 20_000), 4, 4, {
			kind: 'voronoi',
			size: 2000,
			rounds: 4,
			grading: { kind: 'point', x: 10_000, y: 10_000, reach: 8000, share: 0.25 }
		});
		const [area, x, y] = (['area', 'x', 'y'] as const).map((n) => graded.all.column(`cell.${n}`)) as [
			Float64Array,
			Float64Array,
			Float64Array
		];
		const mean = (near: boolean) => {
			const those = [...area].filter((_, c) => Math.hypot(x[c]!, y[c]!) < 3000 === near);
			return sum(those) / those.length;
		};
		expect(mean(true)).lessThan(mean(false) / 3);
	});

	it('with rounded corners share what is left of their sides and leave openings between', () => {
		const { cells, all } = tile(rectangle(20_000, 15_000), 4, 4, { kind: 'voronoi', size: 2000, rounding: 0.5 });
		const total = sum(all.column('cell.area'));
		expect(total)
			.lessThan(20_000 * 15_000 * 0.995)
			.greaterThan(20_000 * 15_000 * 0.85);
		const shared = cells.edgeCells.filter((c, k) => k % 2 === 1 && c !== NO_CELL).length;
		const plain = tile(rectangle(20_000, 15_000), 4, 4, { kind: 'voronoi', size: 2000 }).cells;
		expect(shared).equal(plain.edgeCells.filter((c, k) => k % 2 === 1 && c !== NO_CELL).length);
	});
});

describe('random division', () => {
	it('keeps its sizes, covers the grid once and is another one for another seed', () => {
		fc.assert(
			fc.property(
				fc.integer({ min: 1, max: 3 }),
				fc.integer({ min: 1, max: 3 }),
				fc.nat(1000),
				(leastAcross, leastUp, seed) => {
					const sizes = { leastAcross, leastUp, mostAcross: 2 * leastAcross + 1, mostUp: 2 * leastUp + 1, seed };
					const { all } = tile(rectangle(14_000, 11_000), 14, 11, { kind: 'random', ...sizes });
					const [w, h] = [all.column('cell.width'), all.column('cell.height')];
					w.forEach((x) => expect(Math.round(x / 1000)).within(leastAcross, sizes.mostAcross));
					h.forEach((y) => expect(Math.round(y / 1000)).within(leastUp, sizes.mostUp));
					expect(sum(all.column('cell.area'))).closeTo(14_000 * 11_000, 1e-3);
				}
			),
			{ numRuns: 40 }
		);
		const corners = (seed: number) =>
			[...tile(rectangle(14_000, 11_000), 14, 11, { kind: 'random', seed }).cells.corners].join();
		expect(corners(1)).not.equal(corners(2));
	});
});

// Kenner, Geodesic Math and How to Use It (from memory).
describe('icosahedral division', () => {
	const strutLengths = (frequency: number, digits: number) => {
		const { points, triangles } = geodesic(frequency);
		return [
			...new Set(
				triangles.flatMap((t) =>
					t.map((p, k) =>
						Math.hypot(...[0, 1, 2].map((c) => points[p]![c]! - points[t[(k + 1) % 3]!]![c]!)).toFixed(digits)
					)
				)
			)
		].sort();
	};

	it('of frequency 2 has struts of 0.54653 R and 0.61803 R and two kinds of triangle', () => {
		expect(strutLengths(2, 5)).deep.equal(['0.54653', '0.61803']);
		const { all } = tile(sphereZone(10_000, -Math.PI / 2, Math.PI / 2), 8, 6, { kind: 'icosahedral', frequency: 2 });
		const lengths = [...new Set([...all.column('edge.length')].map((l) => (l / 10_000).toFixed(5)))].sort();
		expect(lengths).deep.equal(['0.54653', '0.61803']);
		const areas = [...new Set([...all.column('cell.area')].map((a) => (a / 1e8).toFixed(5)))];
		expect(areas.length).equal(2);
	});

	it('has 20 f2 triangles, 10 f2 + 2 points, and five triangles at twelve of them', () => {
		for (const f of [1, 2, 3, 5]) {
			const { points, triangles } = geodesic(f);
			expect([triangles.length, points.length]).deep.equal([20 * f * f, 10 * f * f + 2]);
			const valence = points.map((_, p) => triangles.filter((t) => t.includes(p)).length);
			expect(valence.filter((v) => v === 5).length).equal(12);
			expect(valence.filter((v) => v === 6).length).equal(points.length - 12);
		}
	});

	it('cuts triangles at the foot of a dome, or leaves them out', () => {
		const dome = sphereZone(10_000, 0, Math.PI / 2);
		const cut = tile(dome, 8, 6, { kind: 'icosahedral', frequency: 4 });
		const whole = tile(dome, 8, 6, { kind: 'icosahedral', frequency: 4, border: 'whole' });
		expect(whole.cells.count).lessThan(cut.cells.count);
		const lowest = Math.min(...cut.all.column('cell.elevation'));
		expect(lowest).closeTo(0, 1e-3);
	});
});

import { expect } from 'chai';
import fc from 'fast-check';
import { pointOn } from '../../../src/core/geometry/pointOn.ts';
import type { Surface } from '../../../src/core/geometry/surface.ts';
import { measureCells } from '../../../src/core/readings/measureCells.ts';
import { openingRows } from '../../../src/core/schedule/own/openings.ts';
import { chartFace } from '../../../src/core/settingout/chartedFace.ts';
import { developmentOf, FlatFinder, moveOverSeam, type ChartedFace } from '../../../src/core/settingout/development.ts';
import { setOut } from '../../../src/core/settingout/nodes.ts';
import { settingOutOf } from '../../../src/core/settingout/spacing.ts';
import { NO_CELL, validateCells } from '../../../src/core/tiling/cells.ts';
import { layOpening, validateOpening } from '../../../src/core/tiling/openings/layOpening.ts';
import { bordersSchema, openingSchema, type Opening } from '../../../src/core/tiling/openings/schema.ts';
import { trimCells } from '../../../src/core/tiling/openings/trim.ts';
import { tileFace } from '../../../src/core/tiling/tile.ts';
import type { Tiling } from '../../../src/core/tiling/schema.ts';
import { count } from '../divide.ts';
import { ALL_TILINGS } from '../tile.ts';
import { frustum, sphereZone } from '../surfaces.ts';

const RADIUS = 10_000;
const dome = sphereZone(RADIUS, 0, Math.PI / 2);
type P = readonly number[];
const LEVELS = [{ id: 'ground', name: 'Ground', height: 0 }];
const opening = (more: Partial<Opening> & Pick<Opening, 'outline' | 'place'>): Opening =>
	openingSchema.parse({ id: 'o', name: 'Hole', ...more });
const circle = (diameter: number): Opening['outline'] => ({ kind: 'circle', diameter });

/** The points in space of a flat line, wherever it lies. */
function inSpace(face: ChartedFace, ring: readonly (readonly [number, number])[]): P[] {
	const development = developmentOf(face);
	const finder = new FlatFinder(development);
	return ring.map(([x, y]) => {
		const at =
			finder.find(x, y) ??
			finder.find(...moveOverSeam(development, x, y, 1)) ??
			finder.find(...moveOverSeam(development, x, y, -1)) ??
			finder.nearest(x, y);
		return pointOn(face.surface, at.u, at.v).position;
	});
}

const far = (a: P, b: P) => Math.hypot(...a.map((x, c) => x - b[c]!));
/** Of a way along a great circle. */
const arc = (a: P, b: P) => 2 * RADIUS * Math.asin(far(a, b) / 2 / RADIUS);

/** The cells that an opening leaves, and the area that it has taken. */
function cut(surface: Surface, laid: Opening, tiling: Tiling, across = 48, up = 12) {
	const face = chartFace(surface);
	const grid = setOut(face, settingOutOf(count(across), count(up)));
	const { nodes = grid.nodes, cells } = tileFace(face, grid, tiling, []);
	const area = (...of: Parameters<typeof measureCells>) =>
		measureCells(...of).columns.area.reduce((sum, a) => sum + a, 0);
	const openings = [layOpening(face, laid, LEVELS)];
	const left = trimCells(face, nodes, cells, openings, bordersSchema.parse({}));
	expect(validateCells(left.cells, left.nodes.position.length / 3)).deep.equal([]);
	return { ...left, face, openings, taken: area(nodes, cells) - area(left.nodes, left.cells) };
}

/** Diameters and places in plan. */
const PLANS = [
	[2000, 300],
	[2000, 0],
	[3000, -700]
] as const;

describe('openings on faces that do not unroll', () => {
	it('are as far from their place as their outline, at its angles: on a dome wherever they are (spherical trigonometry)', () =>
		fc.assert(
			fc.property(
				fc.double({ min: -0.95, max: 0.95, noNaN: true }),
				fc.double({ min: 0.05, max: 0.8, noNaN: true }),
				fc.integer({ min: 400, max: 3000 }),
				fc.integer({ min: 400, max: 2000 }),
				(s, t, width, height) => {
					const face = chartFace(dome);
					// Along the row, which is laid flat by its true length.
					const up = (t * Math.PI * RADIUS) / 2;
					const row = 2 * Math.PI * RADIUS * Math.cos(up / RADIUS);
					const place = { kind: 'face' as const, across: Math.PI * RADIUS + (s * row) / 2, up };
					const { rings } = layOpening(face, opening({ outline: { kind: 'rectangle', width, height }, place }), LEVELS);
					const [at] = inSpace(face, [[place.across, place.up]]);
					const points = inSpace(face, rings[0]!);
					const corner = (k: number) => {
						const [x, y] = [k === 0 || k === 3 ? -width / 2 : width / 2, k > 1 ? height : 0];
						return {
							far: Math.hypot(x, y),
							points: points.filter((p) => Math.abs(arc(p, at!) - Math.hypot(x, y)) < 0.1)
						};
					};
					for (const k of [0, 1, 2, 3]) expect(corner(k).points, `corner ${k}`).not.empty;
					// Both lower corners lie opposite each other, as seen from the place between them.
					const [a, b] = [corner(0), corner(1)].map((c) => c.points) as [P[], P[]];
					expect(Math.max(...a.flatMap((p) => b.map((q) => arc(p, q))))).closeTo(width, 0.1);
				}
			),
			{ numRuns: 40 }
		));

	it('take a cap off the point of a dome, over which they lie, in plan or about a place beside it: 2 pi r h', () => {
		const tilings = ALL_TILINGS.filter((t) => !['part', 'icosahedral', 'two-squares'].includes(t.kind));
		for (const tiling of tilings)
			for (const [diameter, x] of tiling.kind === 'rectangular' ? PLANS : PLANS.slice(0, 1)) {
				const inPlan = opening({ outline: circle(diameter), place: { kind: 'plan', x, y: 0 } });
				const { taken, openings, face, cells, nodes } = cut(dome, inPlan, tiling);
				// Seen from above a circle takes a circle off the flat cells, whose sides are chords.
				const flat = (Math.PI * diameter ** 2) / 4;
				expect(taken / flat, tiling.kind).closeTo(1, tiling.kind === 'rectangular' ? 0.02 : 0.1);
				const [row] = openingRows({ openings, charted: face });
				if (x === 0) {
					const h = RADIUS - Math.sqrt(RADIUS ** 2 - (diameter / 2) ** 2);
					expect(row!.figures.area).closeTo(2 * Math.PI * RADIUS * h, 0.001 * row!.figures.area);
					expect(row!.figures.around).closeTo(Math.PI * diameter, 0.5);
				}
				expect(row!.figures.width).equal(diameter);
				// One line around the hole, in which every edge goes on.
				const ends = new Map<number, number>();
				for (let e = 0; e < cells.edgeCount; e++) {
					const [a, b] = [cells.edgeNodes[e * 2]!, cells.edgeNodes[e * 2 + 1]!];
					if (cells.edgeCells[e * 2 + 1] !== NO_CELL || nodes.position[a * 3 + 2]! < 5000) continue;
					for (const n of [a, b]) ends.set(n, (ends.get(n) ?? 0) + 1);
				}
				expect([...new Set(ends.values())], `${tiling.kind} ${diameter} ${x}`).deep.equal([2]);
			}
	});

	it('take a geodesic disc about a place right below the point of a dome', () => {
		const up = (Math.PI * RADIUS) / 2 - 600;
		const about = opening({ outline: circle(3000), place: { kind: 'face', across: Math.PI * RADIUS, up } });
		const { openings, face, taken } = cut(dome, about, { kind: 'rectangular' });
		expect(openings.flatMap(validateOpening)).deep.equal([]);
		const points = inSpace(face, openings[0]!.rings[0]!.slice(0, openings[0]!.around![0]));
		const at = inSpace(face, [[Math.PI * RADIUS, up]])[0]!;
		for (const p of points) expect(arc(p, at)).closeTo(1500, 0.2);
		const cap = 2 * Math.PI * RADIUS ** 2 * (1 - Math.cos(1500 / RADIUS));
		expect(openingRows({ openings, charted: face })[0]!.figures.area / cap).closeTo(1, 0.001);
		expect(taken / cap).closeTo(1, 0.02);
	});

	it('have a frame of its true width all around, drawn, projected or about a place', () => {
		const face = chartFace(sphereZone(RADIUS, 0.1, 1.3));
		const points = [
			[-800, -600],
			[900, -500],
			[700, 800]
		] as [number, number][];
		const drawn: Opening['outline'] = { kind: 'polygon', points };
		for (const [outline, place] of [
			[circle(1800), { kind: 'face', across: 50_000, up: 7000 }],
			[drawn, { kind: 'face', across: 45_000, up: 7000 }],
			[drawn, { kind: 'plan', x: 3000, y: 3500 }],
			[circle(1800), { kind: 'plan', x: -4500, y: 500 }]
		] as [Opening['outline'], Opening['place']][]) {
			const { rings, framed } = layOpening(face, opening({ outline, place, frame: 150 }), LEVELS);
			const dense = rings[0]!.flatMap((p, k) => {
				const q = rings[0]![(k + 1) % rings[0]!.length]!;
				return Array.from({ length: 50 }, (_, t): [number, number] => [
					p[0] + ((q[0] - p[0]) * t) / 50,
					p[1] + ((q[1] - p[1]) * t) / 50
				]);
			});
			const [line, around] = [inSpace(face, dense), inSpace(face, framed[0]!)];
			// Corners of the frame lie farther out, its sides nowhere nearer.
			const offs = around.map((p) => Math.min(...line.map((q) => far(p, q))));
			expect(Math.min(...offs), place.kind).closeTo(150, 1.5);
			if (outline.kind === 'circle') expect(Math.max(...offs), place.kind).closeTo(150, 1.5);
		}
	});

	it('are as wide and high as they were drawn, however they are turned', () => {
		const face = chartFace(dome);
		const place = { kind: 'face' as const, across: 30_000, up: 5000 };
		for (const turn of [0, 0.5]) {
			const door = opening({ outline: { kind: 'rectangle', width: 1200, height: 2400 }, place, turn });
			const [row] = openingRows({ openings: [layOpening(face, door, LEVELS)], charted: face });
			expect([row!.figures.width, row!.figures.height]).deep.equal([1200, 2400]);
			// On a ball sides of great circles enclose more or less by a thousandth.
			expect(row!.figures.area / (1200 * 2400)).closeTo(1, 0.02);
			expect(row!.figures.around / 7200).closeTo(1, 0.01);
		}
	});

	it('stand level on their level', () => {
		// Leaning in and waisted: rows of unlike lengths.
		const face = chartFace(sphereZone(RADIUS, 0.1, 0.9));
		const door = opening({
			outline: { kind: 'rectangle', width: 2400, height: 2100 },
			place: { kind: 'level', across: 8000, level: 'ground', above: 2500 }
		});
		const { rings } = layOpening(face, door, LEVELS);
		const heights = inSpace(face, rings[0]!).map((p) => p[2]!);
		expect(heights.filter((z) => Math.abs(z - 2500) < 0.02).length).greaterThan(4);
		expect(Math.min(...heights)).closeTo(2500, 0.02);
	});

	it('take all of a leaning rim that is within their line, wherever that goes over the seam', () => {
		// A tube that narrows to a slanting rim.
		const tube = frustum(5000, 2000, 6000);
		const slanting = {
			...tube,
			control: tube.control.map((c, k, all) => (k % 4 === 2 && k >= all.length / 2 ? c + 0.4 * all[k - 2]! : c))
		};
		for (const turned of [0, 1, 2, 3]) {
			const outline = circle(6000);
			const place: Opening['place'] = { kind: 'plan', x: 300 * Math.cos(turned), y: 300 * Math.sin(turned) };
			const { nodes, cells } = cut(slanting, opening({ outline, place, turn: turned }), { kind: 'rectangular' });
			expect(cells.count).greaterThan(100);
			for (const n of new Set(cells.corners)) {
				const [x, y] = [nodes.position[n * 3]! - place.x, nodes.position[n * 3 + 1]! - place.y];
				expect(Math.hypot(x, y)).greaterThan(3000 - 15);
			}
		}
	});

	it('go around the tip of a cone', () => {
		const cone = frustum(4000, 0, 3000);
		const { taken, openings, face } = cut(
			cone,
			opening({ outline: circle(1600), place: { kind: 'plan', x: 0, y: 0 } }),
			{
				kind: 'rectangular'
			}
		);
		// Pi r s, by the slant from the tip.
		const cap = Math.PI * 800 * (800 * 1.25);
		expect(openingRows({ openings, charted: face })[0]!.figures.area / cap).closeTo(1, 0.001);
		expect(taken / cap).closeTo(1, 0.02);
	});
});

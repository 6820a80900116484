import { expect } from 'chai';
import fc from 'fast-check';
import polygonClipping from 'polygon-clipping';
import { surfaceArea } from '../../../src/core/geometry/area.ts';
import type { Surface } from '../../../src/core/geometry/surface.ts';
import { measureCells } from '../../../src/core/readings/measureCells.ts';
import { FaceReadings } from '../../../src/core/readings/faceReadings.ts';
import { chartFace } from '../../../src/core/settingout/chartedFace.ts';
import { developmentOf } from '../../../src/core/settingout/development.ts';
import { flatBorder } from '../../../src/core/settingout/flatBorder.ts';
import { setOut } from '../../../src/core/settingout/nodes.ts';
import { settingOutOf } from '../../../src/core/settingout/spacing.ts';
import { setOutTurned } from '../../../src/core/settingout/turned.ts';
import { NO_CELL, validateCells } from '../../../src/core/tiling/cells.ts';
import { layOpening } from '../../../src/core/tiling/openings/layOpening.ts';
import { noteOpenings } from '../../../src/core/tiling/openings/noteOpenings.ts';
import { ringArea, ringLength, unionArea, type Ring } from '../../../src/core/tiling/openings/rings.ts';
import { bordersSchema, openingSchema, type Borders, type Opening } from '../../../src/core/tiling/openings/schema.ts';
import { trimCells } from '../../../src/core/tiling/openings/trim.ts';
import { tileRectangular } from '../../../src/core/tiling/rectangular.ts';
import { tileFace } from '../../../src/core/tiling/tile.ts';
import type { Tiling } from '../../../src/core/tiling/schema.ts';
import { SAME_FLAT_MM } from '../../../src/core/tolerances.ts';
import { count } from '../divide.ts';
import { ALL_TILINGS } from '../tile.ts';
import { frustum, hypar, rectangle, sphereZone } from '../surfaces.ts';

const LEVELS = [
	{ id: 'ground', name: 'Ground', height: 0 },
	{ id: 'first', name: 'First', height: 3500 }
];
let made = 0;
const opening = (outline: Opening['outline'], across: number, up: number, more: Partial<Opening> = {}): Opening =>
	openingSchema.parse({ id: `o-${made++}`, name: 'Hole', outline, place: { kind: 'face', across, up }, ...more });
const circle = (diameter: number): Opening['outline'] => ({ kind: 'circle', diameter });
const box = (width: number, height: number): Opening['outline'] => ({ kind: 'rectangle', width, height });

function trim(
	surface: Surface,
	across: number,
	up: number,
	openings: readonly Opening[],
	borders: Partial<Borders> = {},
	tiling: Tiling = { kind: 'rectangular' }
) {
	const face = chartFace(surface);
	const grid = setOut(face, settingOutOf(count(across), count(up)));
	const { nodes = grid.nodes, cells } = tileFace(face, grid, tiling, []);
	const laid = openings.map((o) => layOpening(face, o, LEVELS));
	const trimmed = trimCells(face, nodes, cells, laid, bordersSchema.parse(borders));
	expect(validateCells(trimmed.cells, trimmed.nodes.position.length / 3)).deep.equal([]);
	const readings = measureCells(trimmed.nodes, trimmed.cells);
	return { face, laid, ...trimmed, readings, area: readings.columns.area.reduce((a, b) => a + b, 0) };
}

describe('openings', () => {
	it('leave every edge a length on the face that is no shorter than its chord', () => {
		const surface = frustum(3000, 3000, 6000);
		const { nodes, cells, readings } = trim(surface, 6, 4, [
			opening(circle(500), 1570, 750),
			opening(circle(2500), 9000, 3000)
		]);
		expect(cells.trim!.holes.size).equal(1);
		const all = new FaceReadings({ surface, nodes, cells, readings });
		const length = all.column('edge.length');
		all.column('edge.onFace').forEach((on, e) => expect(on / length[e]!).within(1 - 1e-9, 1.2));
	});

	it('cut the cells of every tiling, so that areas add up to the face without them', () => {
		for (const tiling of ALL_TILINGS) {
			if (['part', 'icosahedral'].includes(tiling.kind)) continue;
			for (const surface of [rectangle(12_000, 9000), frustum(3000, 3000, 6000)]) {
				const holes = [opening(box(1700, 1300), 4450, 2100), opening(circle(2100), 9100, 4050)];
				const { area, laid, cells } = trim(surface, 20, 12, holes, {}, tiling);
				const whole = trim(surface, 20, 12, [], {}, tiling).area;
				const covered = unionArea(laid.flatMap((l) => l.framed));
				// On the tube cells are chords, and an opening takes a little less of them than lies flat.
				expect((area + covered) / whole, tiling.kind).closeTo(1, surface.degreeU === 1 ? 1e-5 : 4e-3);
				expect(
					cells.trim!.cut.some((c) => c === 1),
					tiling.kind
				).equal(true);
			}
		}
	});

	it('leave whole, cut and lost cells whose areas add up to the face with the openings', () => {
		const { cells, area, laid } = trim(rectangle(12_000, 8000), 12, 8, [
			opening(box(3000, 2000), 4500, 2000),
			opening(circle(2500), 9000, 5000)
		]);
		expect(area + unionArea(laid.flatMap((l) => l.framed))).closeTo(12_000 * 8000, 0.1);
		expect(cells.trim!.lost.length / 2).equal(6);
		// The box lies on the lines of the grid: by itself it cuts no cell at all.
		const alone = trim(rectangle(12_000, 8000), 12, 8, [opening(box(3000, 2000), 4500, 2000)]).cells;
		expect([alone.trim!.lost.length / 2, alone.trim!.cut.reduce((a, b) => a + b, 0), alone.count]).deep.equal([
			6, 0, 90
		]);
	});

	it('cut polygons as an independent package does (polygon-clipping)', () => {
		const outline = fc.array(fc.double({ min: 900, max: 2600, noNaN: true }), { minLength: 5, maxLength: 9 });
		fc.assert(
			fc.property(
				outline,
				fc.integer({ min: 1, max: 9 }),
				fc.integer({ min: 1, max: 9 }),
				fc.double({ min: 2000, max: 7000, noNaN: true }),
				(radii, across, up, x) => {
					// A star about its place never crosses itself.
					const points = radii.map((r, k): [number, number] => [
						r * Math.cos((2 * Math.PI * k) / radii.length),
						r * Math.sin((2 * Math.PI * k) / radii.length)
					]);
					const { cells, readings, laid } = trim(rectangle(9000, 6000), across, up, [
						opening({ kind: 'polygon', points }, x, 3000)
					]);
					// To what clipping keeps: the package may go on and on about points that differ in their last bit.
					const whole = ([a, b]: readonly [number, number]): [number, number] => [
						Math.round(a * 1e4) / 1e4,
						Math.round(b * 1e4) / 1e4
					];
					const ring = laid[0]!.rings[0]!.map(whole);
					const [w, h] = [9000 / across, 6000 / up];
					const left = new Map<string, number>();
					for (let c = 0; c < cells.count; c++) {
						const key = `${cells.row[c]} ${cells.column[c]}`;
						left.set(key, (left.get(key) ?? 0) + readings.columns.area[c]!);
					}
					for (let j = 0; j < up; j++)
						for (let i = 0; i < across; i++) {
							const corners = [
								[i * w, j * h],
								[(i + 1) * w, j * h],
								[(i + 1) * w, (j + 1) * h],
								[i * w, (j + 1) * h]
							] as const;
							const cell = corners.map(whole);
							// Strips that are on average narrower than a millimetre are no cuts, but at corners; either is right here.
							const areaOf = (pieces: ReturnType<typeof polygonClipping.difference>) =>
								pieces.reduce(
									(sum, rings) =>
										sum + rings.reduce((s, r, k) => s + (k ? -1 : 1) * Math.abs(ringArea(r.slice(0, -1))), 0),
									0
								);
							const thick = (pieces: ReturnType<typeof polygonClipping.difference>) =>
								pieces.filter(([outer]) => Math.abs(ringArea(outer!)) > ringLength(outer!) / 2);
							const kept = polygonClipping.difference([cell], [ring]);
							const isCut = thick(polygonClipping.intersection([cell], [ring])).length > 0;
							// Where a line passes a corner nearer than nodes can be told apart, it goes through it.
							const slack = (SAME_FLAT_MM * ringLength(cell)) / 2;
							expect(left.get(`${j} ${i}`) ?? 0).within(
								areaOf(thick(kept)) - slack,
								(isCut ? areaOf(kept) : w * h) + slack
							);
						}
				}
			),
			{
				numRuns: 60,
				// Passes a corner of the grid by 3 micrometres.
				examples: [[[900, 2126.1465794810733, 1402.101900000001, 900, 900, 900], 6, 7, 2000]]
			}
		);
	});

	it('share the nodes on a line between two cells, in space too', () => {
		const { nodes, cells } = trim(hypar(2e-5, 9000, 7000), 6, 5, [
			opening(circle(3200), 4000, 3000),
			opening(box(900, 5200), 7000, 500)
		]);
		// Every side inside the face has two cells; one with a single cell lies along an opening or the border.
		const flat = nodes.flat!;
		const ring = (c: number) =>
			[...cells.places!.subarray(cells.cornerStart[c]!, cells.cornerStart[c + 1]!)].map(
				(p) => [flat[p * 2]!, flat[p * 2 + 1]!] as const
			);
		const total = Array.from({ length: cells.count }, (_, c) => ringArea(ring(c))).reduce((a, b) => a + b, 0);
		let border = 0;
		for (let e = 0; e < cells.edgeCount; e++) if (cells.edgeCells[2 * e + 1] === -1) border++;
		const loops = Array.from(
			{ length: cells.count },
			(_, c) => cells.cornerStart[c + 1]! - cells.cornerStart[c]!
		).reduce((a, b) => a + b, 0);
		const { round, edgeBends } = cells;
		expect(edgeBends!.nodes.length)
			.equal(round!.reduce((n, r) => n + r, 0))
			.greaterThan(100);
		expect(loops).equal(2 * cells.edgeCount - border + edgeBends!.nodes.length);
		expect(validateCells(cells, nodes.position.length / 3)).deep.equal([]);
		expect(total).greaterThan(0);
		// Euler: V - E + F of a patch with a round hole and a slot within it is 1 - 2.
		expect(new Set(cells.corners.filter((_, k) => round![k] === 0)).size - cells.edgeCount + cells.count).equal(-1);
	});

	it('keep flat cells flat: corners within a cell lie in its plane', () => {
		const { readings } = trim(frustum(6000, 3500, 8000), 24, 8, [opening(circle(2600), 20_000, 1500)]);
		expect(Math.max(...readings.columns.warp)).lessThan(1e-4);
	});

	it('cut a cell into pieces with letters from the lower left on', () => {
		const { cells } = trim(rectangle(3000, 2000), 1, 1, [opening(box(400, 2000), 1500, 0)]);
		expect([...cells.trim!.piece]).deep.equal([1, 2]);
		expect([...cells.trim!.share].map((s) => Math.round(s * 1e6) / 1e6)).deep.equal([0.433333, 0.433333]);
	});

	it('leave a hole in a cell that holds them whole', () => {
		const { cells, readings } = trim(rectangle(3000, 2000), 1, 1, [opening(box(800, 600), 1500, 700)]);
		expect(cells.trim!.holes.get(0)!.map((h) => h.length)).deep.equal([4]);
		expect(readings.columns.area[0]).closeTo(3000 * 2000 - 800 * 600, 0.01);
		expect(readings.columns.share[0]).closeTo(1 - 0.08, 1e-9);
	});

	it('go over the seam of a closed face from both sides', () => {
		const cylinder = frustum(3000, 3000, 6000);
		const { area, laid, cells } = trim(cylinder, 16, 6, [opening(circle(4000), 0, 3000)]);
		const whole = trim(cylinder, 16, 6, []).area;
		// Cells are chords of the round face; near the middle of the flat one both are as good as equal.
		expect((whole - area) / unionArea(laid[0]!.rings)).closeTo(1, 0.03);
		expect(new Set([...cells.trim!.lost].filter((_, k) => k % 2 === 1))).deep.equal(new Set([0, 15]));
	});

	/** Pairs of edges of one cell each that run out from the same node in one direction: a slit between two cells. */
	function slits({ nodes: { position }, cells: { edgeCount, edgeNodes, edgeCells } }: ReturnType<typeof trim>): number {
		const from = new Map<number, (readonly [number, number, number])[]>();
		for (let e = 0; e < edgeCount; e++)
			if (edgeCells[e * 2 + 1] === NO_CELL)
				for (const [a, b] of [
					[edgeNodes[e * 2]!, edgeNodes[e * 2 + 1]!],
					[edgeNodes[e * 2 + 1]!, edgeNodes[e * 2]!]
				] as const) {
					const way = [0, 1, 2].map((c) => position[b * 3 + c]! - position[a * 3 + c]!);
					const length = Math.hypot(...way);
					from.set(a, [...(from.get(a) ?? []), way.map((x) => x / length) as [number, number, number]]);
				}
		return [...from.values()].filter((ways) =>
			ways.some((p, k) => ways.slice(k + 1).some((q) => p[0] * q[0] + p[1] * q[1] + p[2] * q[2] > 1 - 1e-4))
		).length;
	}

	it('leave no slit along the seam of a closed face, however its rows grow and whichever tiling crosses it', () => {
		for (const surface of [frustum(3000, 3000, 6000), frustum(4000, 2000, 6000), sphereZone(4000, 0.1, 1.2)])
			for (const kind of ['rectangular', 'rhomb', 'undulating', 'hexagons', 'running-bond'] as const)
				for (const outline of [box(2700, 1400), circle(2500)])
					for (const across of [-700, 0, 450]) {
						const made = trim(
							surface,
							24,
							8,
							[opening(outline, across, 1300)],
							{},
							ALL_TILINGS.find((t) => t.kind === kind)
						);
						expect(slits(made), `${kind} ${outline.kind} ${across}`).equal(0);
					}
	});

	it('leave none either where openings reach over the seam from both sides, or a border does', () => {
		for (const surface of [frustum(3000, 3000, 6000), sphereZone(4000, 0.1, 1.2)]) {
			const around = chartFace(surface).chart.rowLengths[0]!;
			const both = [opening(box(2700, 1400), -300, 900), opening(circle(1700), around + 150, 2450)];
			const border = opening(box(9000, 3000), 0, 600, { role: 'border' });
			for (const kind of ['rectangular', 'rhomb', 'hexagons'] as const) {
				const tiling = ALL_TILINGS.find((t) => t.kind === kind);
				expect(slits(trim(surface, 24, 8, both, {}, tiling)), `${kind}, both`).equal(0);
				expect(slits(trim(surface, 24, 8, [border, both[0]!], {}, tiling)), `${kind}, border`).equal(0);
			}
		}
	});

	it('are borders where asked: what lies outside is cut off', () => {
		const { area, laid } = trim(rectangle(10_000, 8000), 10, 8, [
			opening(
				{
					kind: 'polygon',
					points: [
						[-4000, -3000],
						[4000, -3000],
						[3000, 3500],
						[-3500, 3000]
					]
				},
				5000,
				4000,
				{ role: 'border' }
			),
			opening(circle(2000), 5000, 4000)
		]);
		expect(area).closeTo(ringArea(laid[0]!.rings[0]!) - unionArea(laid[1]!.rings), 3);
	});

	it('keep room for a frame, outside of an opening and inside of a border', () => {
		const { area } = trim(rectangle(6000, 4000), 6, 4, [opening(box(1000, 1000), 3000, 1500, { frame: 100 })]);
		expect(area).closeTo(6000 * 4000 - 1200 * 1200, 0.1);
		const inner = trim(rectangle(6000, 4000), 6, 4, [
			opening(box(5000, 3000), 3000, 500, { role: 'border', frame: 100 })
		]);
		expect(inner.area).closeTo(4800 * 2800, 0.1);
	});

	it('stand in rows, and copies of each other are alike', () => {
		const { laid } = trim(rectangle(12_000, 8000), 12, 8, [
			opening(box(600, 900), 1000, 1000, { across: { times: 4, spacing: 2500 }, up: { times: 2, spacing: 3000 } })
		]);
		expect(laid[0]!.places.map((p) => [...p])).deep.equal([
			[1000, 1000],
			[3500, 1000],
			[6000, 1000],
			[8500, 1000],
			[1000, 4000],
			[3500, 4000],
			[6000, 4000],
			[8500, 4000]
		]);
	});
});

describe('slivers', () => {
	const narrow = [opening(box(1900, 1000), 2000, 1000)];

	it('are marked below a least width or area', () => {
		const { cells } = trim(rectangle(4000, 3000), 4, 3, narrow, { leastWidth: 100 });
		expect([...cells.trim!.sliver].reduce((a, b) => a + b, 0)).equal(2);
		const bySize = trim(rectangle(4000, 3000), 4, 3, narrow, { leastArea: 60_000 });
		expect([...bySize.cells.trim!.sliver].reduce((a, b) => a + b, 0)).equal(2);
	});

	it('join the neighbour along their longest side, and no area is lost', () => {
		const [plain, merged] = [
			trim(rectangle(4000, 3000), 4, 3, narrow),
			trim(rectangle(4000, 3000), 4, 3, narrow, { leastWidth: 100, slivers: 'merge' })
		];
		expect(merged.cells.trim!.merged).equal(2);
		expect(merged.cells.count).equal(plain.cells.count - 2);
		expect(merged.area).closeTo(plain.area, 0.01);
		expect(Math.max(...merged.readings.columns.share)).closeTo(1.05, 1e-6);
	});

	it('are left out where asked', () => {
		const dropped = trim(rectangle(4000, 3000), 4, 3, narrow, { leastWidth: 100, slivers: 'drop' });
		expect(dropped.cells.trim!.dropped).equal(2);
		expect(dropped.area).closeTo(4000 * 3000 - 2000 * 1000, 0.01);
	});

	it('are avoided by nodes that move onto a near outline', () => {
		const snapped = trim(rectangle(4000, 3000), 4, 3, narrow, { snap: 80 });
		expect(snapped.cells.trim!.cut.every((c) => c === 0)).true;
		expect(snapped.area).closeTo(4000 * 3000 - 1900 * 1000, 0.01);
	});
});

describe('places of openings', () => {
	it('hang on levels, on a leaning face too', () => {
		const cone = frustum(6000, 3000, 8000);
		const { face, laid } = trim(cone, 12, 8, [
			opening(box(900, 2100), 0, 0, { place: { kind: 'level', across: 15_000, level: 'first', above: 200 } })
		]);
		// Heights along the slant: 3700 above the ground, measured from the lower border on the flat sector.
		const slant = Math.hypot(3000, 8000);
		const tip = (slant * 6000) / 3000;
		const found = laid[0]!.places[0]!;
		const [x0, y0] = apexOf(face);
		expect(tip - Math.hypot(found[0] - x0, found[1] - y0)).closeTo((3700 / 8000) * slant, 0.5);
		expect(() =>
			layOpening(
				face,
				opening(box(900, 2100), 0, 0, { place: { kind: 'level', across: 15_000, level: 'first', above: 9000 } }),
				LEVELS
			)
		).throw('12 500 mm above the ground is off the face');
	});

	it('follow an outline in plan, projected up onto a dome', () => {
		const { nodes, cells } = trim(sphereZone(9000, 0.5, 1.4), 32, 10, [
			opening(box(2000, 2000), 0, 0, { place: { kind: 'plan', x: 4000, y: -1000 } })
		]);
		// Corners of cut cells that are no nodes of the grid lie on the outline, or on its sides.
		const grid = 33 * 11;
		const on = [...new Set(cells.corners)]
			.filter((n) => n >= grid)
			.map((n) => [nodes.position[n * 3]!, nodes.position[n * 3 + 1]!]);
		expect(on.length).greaterThan(8);
		for (const [x, y] of on) {
			const off = Math.max(Math.abs(x! - 4000) - 1000, Math.abs(y! - 0) - 1000);
			expect(Math.abs(off)).lessThan(60);
		}
	});

	it('are seen level from a bearing in elevation', () => {
		const face = chartFace(frustum(5000, 5000, 6000));
		const { rings } = layOpening(
			face,
			opening(box(1500, 1200), 0, 0, { place: { kind: 'elevation', x: 5000, y: 0, z: 2000, bearing: Math.PI / 2 } }),
			LEVELS
		);
		// Seen from the east, 1500 wide on a cylinder of 5000: an arc of 2 asin(750 / 5000).
		const xs = rings[0]!.map((p) => p[0]);
		expect(Math.max(...xs) - Math.min(...xs)).closeTo(2 * 5000 * Math.asin(0.15), 0.01);
		expect(Math.max(...rings[0]!.map((p) => p[1])) - Math.min(...rings[0]!.map((p) => p[1]))).closeTo(1200, 0.01);
	});

	it('say in words what is wrong', () => {
		const face = chartFace(rectangle(6000, 4000));
		const bow: Opening['outline'] = {
			kind: 'polygon',
			points: [
				[0, 0],
				[1000, 1000],
				[1000, 0],
				[0, 1000]
			]
		};
		expect(() => layOpening(face, opening(bow, 1000, 1000), LEVELS)).throw(
			'“Hole”: its line crosses itself, side 1 and side 3'
		);
		expect(() =>
			layOpening(
				face,
				opening(box(100, 100), 0, 0, { place: { kind: 'level', across: 9000, level: 'ground', above: 0 } }),
				LEVELS
			)
		).throw('is off the face, which runs from 0 mm to 6 000 mm');
		const notes = (o: Opening) => {
			const { cells, laid } = trim(rectangle(6000, 4000), 6, 4, [o]);
			return noteOpenings(face, [o], laid, cells);
		};
		expect(notes(opening(circle(1000), 6000, 2000))[0]).contains('reaches beyond the face');
		expect(notes(opening(circle(1000), 9000, 2000))[0]).contains('lies off the face and cuts nothing');
		expect(notes(opening(box(20_000, 20_000), 3000, -8000)).at(-1)).contains('leaves nothing of this face');
	});
});

/** Turns at which slivers along the border are a thousandth to a tenth of a millimetre wide. */
const HARDLY = fc.double({ min: 1e-7, max: 1e-5, noNaN: true });

describe('a turned grid', () => {
	it('covers the face to its border, whatever the angle', () => {
		const face = chartFace(rectangle(9000, 5000));
		fc.assert(
			fc.property(fc.oneof(fc.double({ min: -3, max: 3, noNaN: true }), HARDLY), (turn) => {
				const settingOut = {
					...settingOutOf(
						{ kind: 'module', module: 900, remainder: 'both' },
						{ kind: 'module', module: 700, remainder: 'both' }
					),
					turn
				};
				const { nodes } = setOutTurned(face, settingOut, flatBorder(face));
				const { cells, nodes: after } = trimCells(
					face,
					nodes,
					tileRectangular(nodes),
					[],
					bordersSchema.parse({}),
					flatBorder(face)
				);
				expect(validateCells(cells, after.position.length / 3)).deep.equal([]);
				// A sliver of less than a millionth of its field, or a hundredth of a millimetre, is nothing.
				const area = measureCells(after, cells).columns.area.reduce((a, b) => a + b, 0);
				expect(area).closeTo(9000 * 5000, 9000 * 5000 * 1e-6 + (2 * 14_000) / 100);
			}),
			{ numRuns: 40 }
		);
	});

	it('is refused where it would not meet itself', () => {
		const face = chartFace(frustum(3000, 3000, 5000));
		expect(() => setOutTurned(face, { ...settingOutOf(count(4), count(4)), turn: 0.3 }, flatBorder(face))).throw(
			'closes on itself'
		);
	});
});

it('areas of whole and cut cells and openings come near the true area of a curved face', () => {
	const { area, laid, face } = trim(sphereZone(9000, -0.2, 0.3), 160, 40, [opening(circle(3000), 20_000, 2000)]);
	// Laid flat by lengths: the opening's own area in space is what its flat one says within the stretch there.
	const open = surfaceArea(face.surface) - area;
	expect(open / unionArea(laid[0]!.rings as Ring[])).closeTo(1, 0.05);
});

/** The tip of a cone laid flat: where two of its columns meet. */
function apexOf(face: ReturnType<typeof chartFace>): [number, number] {
	const { corners, patches } = developmentOf(face);
	const n = patches.us.length;
	const last = (patches.vs.length - 1) * n;
	const p = (k: number) => [corners[k * 2]!, corners[k * 2 + 1]!] as const;
	const [a, b, c, d] = [p(0), p(last), p(n - 1), p(last + n - 1)];
	const [ux, uy, vx, vy] = [b[0] - a[0], b[1] - a[1], d[0] - c[0], d[1] - c[1]];
	const t = ((c[0] - a[0]) * vy - (c[1] - a[1]) * vx) / (ux * vy - uy * vx);
	return [a[0] + ux * t, a[1] + uy * t];
}

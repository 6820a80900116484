import { inflatePathsD, EndType, JoinType } from 'clipper2-ts';
import { expect } from 'chai';
import fc from 'fast-check';
import { insetLoop } from '../../../src/core/kit/insetLoop.ts';
import { FLAT_PANE, FRAMED_PANE } from '../../../src/core/kit/starters/index.ts';
import { placeKit, type Placement } from '../../../src/core/placement/place.ts';
import type { Kit } from '../../../src/core/kit/schema.ts';
import { measureCells } from '../../../src/core/readings/measureCells.ts';
import { chartFace } from '../../../src/core/settingout/chartedFace.ts';
import { setOut } from '../../../src/core/settingout/nodes.ts';
import { settingOutOf } from '../../../src/core/settingout/spacing.ts';
import { layOpening } from '../../../src/core/tiling/openings/layOpening.ts';
import { ringArea, type Ring } from '../../../src/core/tiling/openings/rings.ts';
import { bordersSchema, openingSchema } from '../../../src/core/tiling/openings/schema.ts';
import { trimCells } from '../../../src/core/tiling/openings/trim.ts';
import { tileRectangular } from '../../../src/core/tiling/rectangular.ts';
import { count } from '../divide.ts';
import { rectangle } from '../surfaces.ts';

const DENSITIES = { glass: 2500, aluminium: 2700 };

function place(kit: typeof FLAT_PANE, openings: readonly object[]) {
	const face = chartFace(rectangle(4000, 3000));
	const { nodes } = setOut(face, settingOutOf(count(2), count(2)));
	const laid = openings.map((o, k) => layOpening(face, openingSchema.parse({ id: `o-${k}`, name: 'Hole', ...o }), []));
	const trimmed = trimCells(face, nodes, tileRectangular(nodes), laid, bordersSchema.parse({}));
	const readings = measureCells(trimmed.nodes, trimmed.cells);
	return {
		...placeKit(
			kit,
			{},
			{ surface: face.surface, nodes: trimmed.nodes, cells: trimmed.cells, readings, layer: 0 },
			{ densities: DENSITIES }
		),
		readings,
		...trimmed
	};
}
const partArea = (placements: readonly Placement[], name: string) =>
	placements.reduce((sum, p) => sum + p.parts.find((q) => q.name === name)!.area.reduce((a, b) => a + b, 0), 0);

describe('moving a line inwards', () => {
	it('lets sides that are too short vanish, as an independent package does where no line parts (clipper2)', () => {
		// Convex polygons never fall apart.
		const polygon = fc.array(fc.double({ min: 0.4, max: 1, noNaN: true }), { minLength: 3, maxLength: 12 });
		fc.assert(
			fc.property(polygon, fc.double({ min: 1, max: 300, noNaN: true }), (weights, by) => {
				let angle = 0;
				const total = weights.reduce((a, b) => a + b, 0);
				const ring: Ring = weights.map((w) => [
					1000 * Math.cos(angle),
					1000 * Math.sin((angle += (2 * Math.PI * w) / total) - (2 * Math.PI * w) / total)
				]);
				const moved = insetLoop(ring, by);
				const expected = inflatePathsD([ring.map(([x, y]) => ({ x, y }))], -by, JoinType.Miter, EndType.Polygon, 50, 4);
				const area = expected.reduce((sum, p) => sum + ringArea(p.map(({ x, y }) => [x, y])), 0);
				if (!moved) expect(area).lessThan(2000);
				else expect(ringArea(moved)).closeTo(area, 5);
			})
		);
	});

	it('keeps a point for each of its own', () => {
		const notched: Ring = [
			[0, 0],
			[1000, 0],
			[1000, 500],
			[990, 510],
			[1000, 520],
			[1000, 1000],
			[0, 1000]
		];
		const moved = insetLoop(notched, 100)!;
		expect(moved).length(7);
		expect(moved[0]).deep.equal([100, 100]);
		// The shallow notch gets wider, not narrower.
		expect(moved[3]![0]).lessThan(900);
		expect(
			insetLoop(
				[
					[0, 0],
					[1000, 0],
					[1000, 150],
					[0, 150]
				],
				100
			)
		).equal(undefined);
	});
});

describe('kits on cut cells', () => {
	it('fill exactly what an opening leaves of a dented cell', () => {
		const corner = [
			{ outline: { kind: 'rectangle', width: 1600, height: 1200 }, place: { kind: 'face', across: 2000, up: 900 } }
		];
		const { placements, readings, cells } = place(
			{
				...FLAT_PANE,
				parameters: FLAT_PANE.parameters.map((p) =>
					p.name === 'joint' && p.quantity === 'length' ? { ...p, default: 0 } : p
				)
			},
			corner
		);
		expect(cells.trim!.cut.reduce((a, b) => a + b, 0)).equal(4);
		expect(partArea(placements, 'pane')).closeTo(
			readings.columns.area.reduce((a, b) => a + b, 0),
			1
		);
	});

	it('leave a hole in a pane, and keep their joint around the outside', () => {
		const hole = [
			{ outline: { kind: 'rectangle', width: 400, height: 300 }, place: { kind: 'face', across: 1000, up: 600 } }
		];
		const { placements } = place(FLAT_PANE, hole);
		const pane = 1980 * 1480;
		expect(partArea(placements, 'pane')).closeTo(4 * pane - 400 * 300, 1);
	});

	it('frame a round cut and weigh what is there', () => {
		const round = [{ outline: { kind: 'circle', diameter: 1800 }, place: { kind: 'face', across: 2000, up: 1500 } }];
		const { placements, misfits, failures } = place(FRAMED_PANE, round);
		expect(misfits).deep.equal([]);
		expect(failures).deep.equal([]);
		expect(placements.reduce((n, p) => n + p.hosts.length, 0)).equal(4);
		// Frame and pane seen square together are the cell, since the reveal stands square to both.
		expect(partArea(placements, 'frame') + partArea(placements, 'pane')).closeTo(
			4000 * 3000 - ringArea(layOpeningRing()),
			2000
		);
	});

	it('leave cells empty that have more corners than a kit is made for, and the rest standing', () => {
		const kit: Kit = { ...FLAT_PANE, host: { kind: 'cell', leastCorners: 3, greatestCorners: 5 } as const };
		const round = [{ outline: { kind: 'circle', diameter: 800 }, place: { kind: 'face', across: 2000, up: 1500 } }];
		const { placements, misfits } = place(kit, [...round]);
		expect(misfits.reduce((n, m) => n + m.cells.length, 0)).equal(4);
		expect(placements.length).equal(0);
	});
});

function layOpeningRing(): Ring {
	const face = chartFace(rectangle(4000, 3000));
	return layOpening(
		face,
		openingSchema.parse({
			id: 'o',
			name: 'Hole',
			outline: { kind: 'circle', diameter: 1800 },
			place: { kind: 'face', across: 2000, up: 1500 }
		}),
		[]
	).rings[0]!;
}

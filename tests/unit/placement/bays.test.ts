import { expect } from 'chai';
import fc from 'fast-check';
import { bayBorder, bayPoints } from '../../../src/core/kit/baySize.ts';
import { readBay } from '../../../src/core/kit/bayReadings.ts';
import { kitSchema } from '../../../src/core/kit/schema.ts';
import { STARTER_KITS } from '../../../src/core/kit/starters/index.ts';
import { baysOf } from '../../../src/core/placement/bays.ts';
import { checkDocument } from '../../../src/core/project/read.ts';
import type { Project } from '../../../src/core/project/schema.ts';
import { cellsOfRow } from '../../../src/core/schedule/cellsOfRow.ts';
import { markOf } from '../../../src/core/schedule/faceTable.ts';
import { placed, withRules } from './make.ts';

const starter = (id: string) => kitSchema.parse(STARTER_KITS.find((k) => k.id === id));

/** The demo's canopy with a set of bays of the kit's size, and the kit on them. */
function withBays(kit: string, across: number, up: number, change: (project: Project) => void = () => undefined) {
	const project = withRules([], across, up);
	const made = starter(kit);
	if (made.host.kind !== 'bay') throw new Error(`${kit} stands on no bays`);
	project.kits = [made];
	project.sets.push({ id: 'bays', name: 'Bays', host: 'bay', bay: { across: made.host.across, up: made.host.up } });
	project.rules = [{ id: 'b', set: 'bays', faces: ['canopy/skin'], where: [], kit, values: {} }] as never;
	change(project);
	return project;
}

describe('bays of several cells', () => {
	it('go once around their border, from the lower left anticlockwise', () => {
		// Points of 2 x 2 cells: 0 1 2 below, 3 4 5, 6 7 8 above (by hand).
		expect(bayBorder({ across: 2, up: 2 })).to.deep.equal([0, 1, 2, 5, 8, 7, 6, 3]);
		expect(bayBorder({ across: 1, up: 1 })).to.deep.equal([0, 1, 3, 2]);
		expect(bayPoints({ across: 3, up: 2 })).to.equal(12);
	});

	it('read width, height, area, warp and lowest point by hand', () => {
		// 2 x 1 cells of 1 m, the middle of the lower border 30 mm off the plane of the others.
		const points = Float64Array.from([0, 0, 0, 1000, 0, 0, 2000, 0, 0, 0, 0, 1000, 1000, 0, 1000, 2000, 0, 1000]);
		const flat = readBay(points, { across: 2, up: 1 });
		expect(flat).to.deep.equal({ width: 2000, height: 1000, area: 2e6, warp: 0, elevation: 0 });
		points[4] = 60;
		const bent = readBay(points, { across: 2, up: 1 });
		expect(bent.width).to.be.closeTo(2 * Math.sqrt(1000 * 1000 + 60 * 60), 1e-9);
		expect(bent.warp).to.be.greaterThan(30).and.lessThan(60);
	});

	it('step over a face, have every cell once or leave it, and hang together', async () => {
		const { face } = await placed(withRules([], 13, 9));
		fc.assert(
			fc.property(fc.integer({ min: 1, max: 6 }), fc.integer({ min: 1, max: 6 }), (across, up) => {
				const bays = baysOf(face, { across, up });
				const first = [...bays.begins.keys()].filter((c) => bays.begins[c] === 1);
				expect(first).to.have.length(Math.floor(13 / across) * Math.floor(9 / up));
				const taken = first.flatMap((c) => bays.cellsOf(c));
				expect(new Set(taken).size).to.equal(taken.length);
				expect([...taken, ...bays.left].sort((a, b) => a - b)).to.deep.equal([...face.cells.row.keys()]);
				for (const c of first) {
					expect(bays.cornerStart[c + 1]! - bays.cornerStart[c]!).to.equal(bayPoints({ across, up }));
					const corners = bays.corners.subarray(bays.cornerStart[c], bays.cornerStart[c + 1]);
					expect(new Set(corners).size).to.equal(corners.length);
				}
				// What all bays and the cells left over measure is what the face measures.
				const area = (cells: Iterable<number>) =>
					[...cells].reduce((sum, c) => sum + face.readings.columns.area[c]!, 0);
				const ofBays = first.reduce((sum, c) => sum + bays.reading('area')![c]!, 0);
				expect(ofBays + area(bays.left)).to.be.closeTo(area(face.cells.row.keys()), 1);
			}),
			{ numRuns: 12 }
		);
	});

	it('carry a kit for nine points, with marks, rows and the cells of each', async () => {
		const { face, model } = await placed(withBays('folded-bay', 12, 8));
		expect(model.warnings.filter((w) => w.stage === 'placement')).to.deep.equal([]);
		const { bays } = face.schedule.tables;
		expect(bays.count).to.equal(24);
		expect(markOf(face.schedule, 'bays', 0)).to.equal(`${face.mark}-01-01:2x2`);
		expect(markOf(face.schedule, 'bays', 1)).to.equal(`${face.mark}-01-03:2x2`);
		expect(bays.columns.pieces![0]).to.equal(16);
		expect(cellsOfRow(face, 'bays', 1)).to.have.length(4);
		// The sheets, each by its own triangle.
		const sheets = face.placements.flatMap((p) => p.parts).filter((p) => p.role === 'panel');
		expect(sheets).to.have.length(8);
		for (const sheet of sheets) expect(sheet.pieces.every((n) => n === 1)).to.equal(true);
	});

	it('say what is left over, and where no bay has room at all', async () => {
		const told = async (project: Project) =>
			(await placed(project)).model.warnings.filter((w) => w.stage === 'placement').map((w) => w.message);
		expect(await told(withBays('glazed-bay', 13, 9))).to.deep.equal([
			'Bays: bays of 3 × 2 leave 21 of 117 cells over.'
		]);
		const triangles = withBays('folded-bay', 12, 8, (project) => {
			const skin = project.masses.find((m) => m.id === 'canopy')!.faces.find((f) => f.id === 'skin')!;
			skin.tiling = { ...skin.tiling, kind: 'hexagons' } as never;
		});
		expect((await told(triangles)).join()).to.contain('no bay of 2 × 2 cells finds room here');
	});

	it('have a pane in each of their cells, as large as one in the cell itself less the frame', async () => {
		const { face } = await placed(withBays('glazed-bay', 12, 8));
		const panes = face.placements.flatMap((p) => p.parts).find((p) => p.name === 'panes')!;
		expect(panes.pieces.reduce((a, b) => a + b, 0)).to.equal(96);
		const areas = face.readings.columns.area.reduce((a, b) => a + b, 0);
		const glass = panes.area.reduce((a, b) => a + b, 0);
		expect(glass).to.be.lessThan(areas);
		expect(glass).to.be.greaterThan(areas * 0.7);
	});

	it('refuse a kit of another size, in words', () => {
		const project = withBays('folded-bay', 12, 8);
		project.sets.find((s) => s.id === 'bays')!.bay = { across: 3, up: 2 };
		expect(() => checkDocument(JSON.parse(JSON.stringify(project)))).to.throw(
			/is made for bays of 2 × 2 cells, the set “Bays” holds those of 3 × 2/
		);
	});
});

import { expect } from 'chai';
import { STARTER_KITS } from '../../../src/core/kit/starters/index.ts';
import type { Kit } from '../../../src/core/kit/schema.ts';
import { placeKit, type Placed } from '../../../src/core/placement/place.ts';
import { batchByMaterial, instancesOf } from '../../../src/core/placement/batches.ts';
import { measureCells } from '../../../src/core/readings/measureCells.ts';
import { chartFace } from '../../../src/core/settingout/chartedFace.ts';
import { setOut } from '../../../src/core/settingout/nodes.ts';
import { settingOutOf } from '../../../src/core/settingout/spacing.ts';
import { tileRectangular } from '../../../src/core/tiling/rectangular.ts';
import { addRule, demoProject, fullDemo, ranDemo, run, setRules, shippedDemo } from '../demo.ts';
import { count } from '../divide.ts';
import { tableRows } from '../schedules.ts';
import { rectangle } from '../surfaces.ts';

const kitNamed = (id: string): Kit => STARTER_KITS.find((k) => k.id === id)!;
const sum = (placed: Placed, part: string, column: 'length' | 'pieces' | 'area') =>
	placed.placements
		.flatMap((p) => p.parts.filter((q) => q.name === part))
		.reduce((n, q) => n + q[column].reduce((a, b) => a + b, 0), 0);

/** A flat face of 4000 x 3000 in fields of 1000. */
function place(kit: Kit, values = {}, layer = 0): Placed {
	const face = chartFace(rectangle(4000, 3000));
	const { nodes } = setOut(face, settingOutOf(count(4), count(3)));
	const cells = tileRectangular(nodes);
	return placeKit(
		kit,
		values,
		{ surface: face.surface, nodes, cells, readings: measureCells(nodes, cells), layer },
		{ densities: { aluminium: 2700, steel: 7850, stainless: 7900, timber: 590, ceramic: 2100, glass: 2500 } }
	);
}

describe('kits on edges, nodes and paths', () => {
	it('stand on every edge once: 4 x 4 + 3 x 5 = 31 of a division of 4 x 3', () => {
		const placed = place(kitNamed('mullion'), { cutBack: 100 });
		expect(sum(placed, 'mullion', 'pieces')).equal(4 * 4 + 3 * 5);
		expect(sum(placed, 'mullion', 'length')).closeTo(31 * 800, 1e-6);
		// Only the upright ones inside: 3 lines of 3 edges.
		expect(sum(place(kitNamed('vertical-fin'), { gap: 0 }), 'fin', 'pieces')).equal(3 * 3);
	});

	it('stand on every node, with arms between the edges that meet there', () => {
		expect(sum(place(kitNamed('node-disc')), 'discs', 'pieces')).equal(5 * 4);
		const spiders = place(kitNamed('spider-bracket'));
		expect(spiders.failures).deep.equal([]);
		expect(sum(spiders, 'hubs', 'pieces')).equal(3 * 2);
		expect(sum(spiders, 'armBars', 'pieces')).equal(3 * 2 * 4);
	});

	it('run along the lines of the setting-out', () => {
		const tube = place(kitNamed('path-tube'), { off: 0 });
		expect(sum(tube, 'tube', 'length')).closeTo(4 * 4000, 1e-6);
		const rods = place(kitNamed('rods'), { spacing: 250, off: 0 });
		expect(sum(rods, 'rods', 'pieces')).equal(5 * 12);
		expect(sum(rods, 'rods', 'length')).closeTo(60 * 200, 1e-6);
	});

	it('say that cells with depth need a second layer, and fill it when it is there', () => {
		const box: Kit = { ...kitNamed('flat-pane'), host: { kind: 'box', leastCorners: 4, greatestCorners: 4 } };
		expect(() => place(box)).throw(/second layer, whose distance is set under Setting-out/);
		expect(sum(place(box, {}, 300), 'pane', 'pieces')).equal(12);
	});

	it('carry texts and choices of the kit in the text of a part', () => {
		const kit: Kit = structuredClone(kitNamed('glazed-triangle'));
		const host = { kind: 'cell', leastCorners: 4, greatestCorners: 4 } as const;
		const steps = kit.steps.map((s) =>
			s.name === 'pane' ? { ...s, label: 'ends {ends}, {nothing}' } : s
		) as Kit['steps'];
		const labelOf = (given: object) => place({ ...kit, host, steps }, given).placements[0]!.parts[0]!.label;
		expect([labelOf({}), labelOf({ ends: 1 })]).deep.equal(['ends mitred, nothing', 'ends butted, nothing']);
	});

	it('are drawn as instances or spread out with the same bounds', () => {
		const { placements } = place(kitNamed('mullion'));
		const drawn = placements.flatMap(({ hosts, parts }) => parts.map((part) => ({ part, rows: hosts.length })));
		expect(batchByMaterial(drawn, [0, 0, 0])).deep.equal([]);
		const [instances] = instancesOf(drawn, [0, 0, 0]);
		expect(instances!.matrices.length).equal(31 * 16);
		const [spread] = batchByMaterial(drawn, [0, 0, 0], true);
		expect(spread!.indices.length).equal(31 * instances!.indices.length);
		const xs = [...spread!.positions].filter((_, k) => k % 3 === 0);
		expect([Math.min(...xs), Math.max(...xs)]).deep.equal([-2030, 2030]);
	});
});

describe('several kits on one face', () => {
	/** The canopy alone in rectangles, with these rules. */
	const withRules = (rules: { kit: string; values?: Record<string, number> }[], kits: Kit[] = []) => {
		const project = demoProject();
		project.kits.push(...kits);
		setRules(
			project,
			rules.map(({ kit, values = {} }, k) => ({ id: `r${k}`, face: 'canopy/skin', kit, values }))
		);
		return run(project);
	};
	/** A pane on every second column, nothing on the others. */
	const onEven: Kit = {
		...structuredClone(kitNamed('flat-pane')),
		id: 'even',
		name: 'Even',
		steps: kitNamed('flat-pane').steps.map((s) => (s.name === 'pane' ? { ...s, when: 'mod(column, 2) == 0' } : s))
	};

	it('name a panel by the kits that stand there, and have no row where none does', async () => {
		const alone = await withRules([{ kit: 'even' }], [onEven]);
		const cells = alone.faces[0]!.cells.count;
		const rows = tableRows(alone);
		expect(rows.count).equal(cells / 2);
		expect(rows.columns.column!.every((c) => c % 2 === 0)).to.be.true;
		expect(rows.columns.weight!.every((w) => w > 0)).to.be.true;
		const schedule = tableRows(await withRules([{ kit: 'even' }, { kit: 'framed-pane' }], [onEven]));
		expect(schedule.count).equal(cells);
		for (let r = 0; r < schedule.count; r++)
			expect(schedule.kits[r]).equal(schedule.columns.column![r]! % 2 === 0 ? 'Even + Framed pane' : 'Framed pane');
	});

	it('are silent of cells that are none of their own where another takes them', async () => {
		const project = shippedDemo();
		const face = project.masses[0]!.faces[0]!;
		project.masses = project.masses.slice(0, 1);
		face.openings = [];
		face.tiling = { kind: 'diamonds', border: 'cut' } as typeof face.tiling;
		const [three, four] = ['three', 'four'].map((id, k): Kit => ({
			...structuredClone(kitNamed('flat-pane')),
			id,
			name: id,
			host: { kind: 'cell', leastCorners: k + 3, greatestCorners: k + 3 }
		})) as [Kit, Kit];
		project.kits.push(three, four);
		const words = async (kits: readonly Kit[]) => {
			setRules(
				project,
				kits.map(({ id }) => ({ id, face: 'canopy/skin', kit: id, values: {} }))
			);
			return (await run(project)).warnings.filter((w) => w.stage === 'placement').map((w) => w.message);
		};
		expect(await words([three, four])).deep.equal([]);
		expect((await words([four])).join()).match(/“four” fits cells with 4 corners; \d+ with 3 are left empty/);
	});

	it('make one panel a cell, named by both, that weighs what all of them do', async () => {
		const alone = fullDemo();
		alone.masses = alone.masses.slice(0, 1);
		alone.rules = alone.rules.slice(0, 1);
		const before = tableRows(await run(alone));
		const both = structuredClone(alone);
		addRule(both, { id: 'second', face: 'canopy/skin', kit: 'flat-pane', values: {} });
		const after = await run(both);
		const rows = tableRows(after);
		expect(rows.count).equal(before.count);
		expect([before.kits[5], rows.kits[5]]).deep.equal(['Framed pane', 'Framed pane + Flat pane']);
		expect(rows.marks[5]).equal(before.marks[5]);
		const pane = after.faces[0]!.placements.find((p) => p.kit.id === 'flat-pane')!.parts[0]!;
		const row =
			after.faces[0]!.schedule.tables.panels.rowOf[
				after.faces[0]!.placements.find((p) => p.kit.id === 'flat-pane')!.hosts[7]!
			]!;
		expect(rows.columns.weight![row]! - before.columns.weight![row]!).closeTo(pane.volume[7]! * pane.density, 1e-9);
	});

	it('tell of a kit whose steps are at fault, and let the others stand', async () => {
		const project = fullDemo();
		project.kits.push({
			...structuredClone(project.kits.find((k) => k.id === 'flat-pane')!),
			id: 'broken',
			name: 'Broken',
			steps: [{ kind: 'inset', name: 'rim', of: 'nothing', distance: 1, by: 'distance' }]
		});
		addRule(project, { id: 'more', face: 'lantern/skin', kit: 'broken', values: {} });
		const model = await run(project);
		expect(model.warnings.map((w) => w.message)).deep.equal([
			'Step “rim” of kit “Broken”: there is no line or point “nothing”; known here: none.'
		]);
		expect(tableRows(model).count).equal(tableRows(await run(fullDemo())).count);
	});
});

describe('the demo as it is shipped', () => {
	it('uses at least eight starters and two kits of its own, and they all fit', async () => {
		const { project, model } = await ranDemo();
		expect(model.warnings.map((w) => w.message)).deep.equal([]);
		const used = new Set(project.rules.map((r) => r.kit));
		expect([...used].filter((id) => STARTER_KITS.some((k) => k.id === id)).length).least(8);
		expect([...used].filter((id) => !STARTER_KITS.some((k) => k.id === id)).length).least(2);
		// The schedule's weight is that of all scheduled parts on cells.
		const parts = model.faces.flatMap((f) =>
			f.placements.filter((p) => p.hostKind === 'cell').flatMap((p) => p.parts.filter((q) => q.scheduled))
		);
		const weight = parts.reduce((n, p) => n + p.volume.reduce((a, b) => a + b, 0) * p.density, 0);
		expect(tableRows(model).columns.weight!.reduce((a, b) => a + b, 0) / weight).closeTo(1, 1e-9);
	});
});

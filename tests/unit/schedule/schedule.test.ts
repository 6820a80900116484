import { expect } from 'chai';
import { demoWith, run, setRules } from '../demo.ts';
import { ask, tableRows } from '../schedules.ts';

describe('the panel schedule', () => {
	it('weighs glass at 2.5 kg/m2 a mm (EN 572-1; from memory)', async () => {
		const project = demoWith(10, 10);
		setRules(project, [{ id: 'r', face: 'canopy/skin', kit: 'flat-pane', values: { joint: 0, paneThickness: 16 } }]);
		const model = await run(project);
		const { faces } = model;
		const schedule = tableRows(model);
		const pane = faces[0]!.placements[0]!.parts[0]!;
		for (let r = 0; r < schedule.count; r++)
			expect(schedule.columns.weight![r]!).closeTo((pane.area[r]! / 1e6) * 2.5 * 16, 1e-9);
	});

	it('adds sheet, reveal and pane by their own thickness and density', async () => {
		const model = await run(demoWith(4, 4));
		const { faces } = model;
		const schedule = tableRows(model);
		const [frame, reveal, pane] = faces[0]!.placements[0]!.parts;
		const expected = ((frame!.area[5]! + reveal!.area[5]!) * 3 * 2700 + pane!.area[5]! * 12 * 2500) / 1e9;
		expect(schedule.columns.weight![5]).closeTo(expected, 1e-9);
		expect(schedule.columns.frameLength![5]).closeTo(faces[0]!.readings.columns.perimeter[5]!, 1e-9);
	});

	it('has no row for a cell on which the kit fails, and says which', async () => {
		const project = demoWith(24, 48);
		project.rules[0]!.values = { frameWidth: 740 };
		const model = await run(project);
		const { warnings, faces } = model;
		const schedule = tableRows(model);
		const { rowOf } = faces[0]!.schedule.tables.panels;
		const failed = warnings.find((w) => w.stage === 'placement')!;
		expect(failed.message).contains('step “inner”: nothing is left inside');
		expect(failed.cells!.length).greaterThan(0);
		expect(schedule.count).equal(1152 - failed.cells!.length);
		const rows = new Set(schedule.host);
		failed.cells!.forEach((c) => {
			expect(rows.has(c)).equal(false);
			expect(rowOf[c]).equal(-1);
		});
		schedule.host.forEach((c, r) => expect(rowOf[c]).equal(r));
	});

	it('sorts both ways, keeping the order of equals', async () => {
		const model = await run(demoWith(6, 9));
		const schedule = tableRows(model);
		const by = (name: 'row' | 'warp', descending: boolean) => ask(model, { sort: { by: name, descending } }).order;
		const warps = [...by('warp', true)].map((r) => schedule.columns.warp![r]!);
		expect(warps).deep.equal([...warps].sort((a, b) => b - a));
		const rows = [...by('row', true)];
		expect(rows.slice(0, 6)).deep.equal([48, 49, 50, 51, 52, 53]);
		const marks = [...ask(model, { sort: { by: 'mark', descending: true } }).order];
		expect(schedule.marks[marks[0]!]).equal('C1-09-06');
	});

	it('filters by text and by figures, and totals what is left', async () => {
		const model = await run(demoWith(6, 9));
		const schedule = tableRows(model);
		expect(ask(model, { text: 'c1-03' }).order.length).equal(6);
		expect(ask(model, { text: 'FRAMED' }).order.length).equal(54);
		expect(ask(model, { text: 'louver' }).order.length).equal(0);
		const { order, totals } = ask(model, {
			ranges: [
				{ column: 'row', least: 2, greatest: 4 },
				{ column: 'column', greatest: 3 }
			]
		});
		expect(order.length).equal(9);
		const sum = [...order].reduce((s, r) => s + schedule.columns.area![r]!, 0);
		expect(totals.area).closeTo(sum, 1e-6);
		expect(totals.warp).equal(Math.max(...[...order].map((r) => schedule.columns.warp![r]!)));
		expect(totals.row).NaN;
	});
});

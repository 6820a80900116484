import { expect } from 'chai';
import { checkDocument } from '../../../src/core/project/read.ts';
import { ModelViewer } from '../../../src/core/view/modelView.ts';
import { received } from '../../../src/core/view/received.ts';
import { liftFrom, setByHand } from '../../../src/lib/editor/byHand.ts';
import { handHosts } from '../../../src/lib/editor/handHosts.ts';
import { intoZone, ruleForCells } from '../../../src/lib/editor/placement.ts';
import { ModelHost } from '../../../src/lib/worker/modelHost.ts';
import type { Condition } from '../../../src/core/placement/rules/schema.ts';
import type { Project } from '../../../src/core/project/schema.ts';
import { solids } from '../kit/make.ts';
import { run } from '../demo.ts';
import { FACE, placed, withRules } from '../placement/make.ts';

const viewOf = async (project: Project) =>
	received(new ModelViewer().update(await run(project), new Set(), 0, undefined), undefined);

describe('hosts set by hand', () => {
	it('are the sides and corners of chosen cells, counted by Euler', async () => {
		const view = await viewOf(withRules([{}], 4, 3));
		const all = Array.from({ length: 12 }, (_, cell) => ({ face: 0, cell }));
		const count = (kind: 'edge' | 'node', way: string, cells = all) => handHosts(view, cells, kind, way).length;
		// A grid of 4 by 3 fields has 4 * 4 + 5 * 3 edges, 14 of them along its border, and 5 * 4 nodes.
		expect([count('edge', 'all'), count('edge', 'around'), count('edge', 'between')]).deep.equal([31, 14, 17]);
		expect(count('node', 'all')).equal(20);
		const two = all.slice(0, 2);
		expect([count('edge', 'all', two), count('edge', 'around', two), count('edge', 'between', two)]).deep.equal([
			7, 6, 1
		]);
		expect([count('node', 'all', two), count('node', 'shared', two)]).deep.equal([6, 2]);
	});

	it('take a kit, a value or nothing on edges and nodes, as the model has them, until it is lifted', async () => {
		const project = withRules([{}], 4, 3);
		project.sets.push({ id: 'bars', name: 'Bars', host: 'edge' });
		project.rules.push({ id: 'bars', set: 'bars', faces: [FACE], where: [], kit: 'mullion', values: {} });
		const view = await viewOf(project);
		const two = [0, 1].map((cell) => ({ face: 0, cell }));
		const between = handHosts(view, two, 'edge', 'between').map((h) => h.key);
		setByHand(project, 'bars', between, { kit: null });
		const changed = await placed(project);
		const bars = () => changed.face.assigned.sets.find((s) => s.set === 'bars')!;
		expect(bars().open.reduce((a, b) => a + b, 0)).equal(1);
		expect(bars().open[handHosts(view, two, 'edge', 'between')[0]!.host]).equal(1);
		expect(changed.face.assigned.overrides).deep.equal({ used: 1, waiting: 0 });
		liftFrom(project, 'bars', between);
		expect(checkDocument(project).overrides).deep.equal([]);
	});

	it('go into a zone, new or known, and into a rule that comes first', async () => {
		const project = withRules([{ kit: 'framed-pane' }], 4, 3);
		const cells = [0, 1, 2].map((column) => ({ face: FACE, row: 1, column, piece: 0 }));
		const zone = intoZone(project, cells.slice(0, 2));
		intoZone(project, cells.slice(2), zone);
		expect(project.zones.find((z) => z.id === zone)!.parts).deep.equal([{ face: FACE, runs: [[1, 0, 2]] }]);
		const rule = ruleForCells(project, 'panels', cells, 'flat-pane');
		expect(project.rules[0]!.id).equal(rule);
		const { set } = await placed(project);
		expect(set.taken).deep.equal([3, 9]);
	});
});

describe('cells chosen by what they are', () => {
	it('are those on which conditions hold, all of them, by hand count; a wrong formula is told', async () => {
		const host = new ModelHost({ now: () => performance.now(), solids });
		const project = withRules([{}], 4, 3);
		const result = await host.run({ number: 1, document: checkDocument(project) }, true, () => undefined);
		if (result.kind !== 'model') throw new Error(JSON.stringify(result));
		const view = received(result.update, undefined);
		const where = (...conditions: Condition[]) => host.cellsWhere(conditions, [view.faces[0]!.hash]);
		const column: Condition = { kind: 'lines', of: 'column', from: 2, to: 2, every: 1 };
		expect((where(column) as number[][])[0]!.length).equal(3);
		expect((where(column, { kind: 'checker', odd: false }) as number[][])[0]!.length).equal(1);
		const areas = [...(await run(project)).faces[0]!.readings.columns.area].sort((a, b) => a - b);
		expect((where({ kind: 'reading', reading: 'area', to: areas[4]! }) as number[][])[0]!.length).equal(5);
		expect(where({ kind: 'formula', formula: 'nothing > 1' }))
			.property('error')
			.match(/nothing/);
		expect(host.cellsWhere([column], ['gone'])).deep.equal([[]]);
	});

	it('lie flat where the face says that they are in space, and back', async () => {
		const host = new ModelHost({ now: () => performance.now(), solids });
		const result = await host.run({ number: 1, document: checkDocument(withRules([{}], 4, 3)) }, true, () => undefined);
		if (result.kind !== 'model') throw new Error(JSON.stringify(result));
		const flat = [
			[4000, 3000],
			[9000, 12000],
			[15500, 20000]
		] as const;
		const space = flat.map(([x, y]) => host.onFace(FACE, x, y)!);
		host.flatOf(FACE, space)!.forEach(([x, y], k) => {
			expect(x).closeTo(flat[k]![0], 0.01);
			expect(y).closeTo(flat[k]![1], 0.01);
		});
		expect(host.flatOf('gone', space)).equal(undefined);
	});
});

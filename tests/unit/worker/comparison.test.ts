import { expect } from 'chai';
import { CHANGES } from '../../../src/core/formats/changes/comparePieces.ts';
import { compareStates, modelOf } from '../../../src/lib/worker/comparison.ts';
import { ModelHost } from '../../../src/lib/worker/modelHost.ts';
import { ProjectSender } from '../../../src/lib/worker/projectSender.ts';
import { demoWith, setCount } from '../demo.ts';

const ports = { now: () => performance.now() };
const stateOf = async (project: ReturnType<typeof demoWith>) => ({ project, model: await modelOf(project, ports) });

describe('two states compared for the screen', () => {
	it('tell rows, counts and the cells that they are at', async () => {
		const earlier = demoWith(4, 3);
		const later = demoWith(4, 3);
		setCount(later, 0, 'up', 4);
		const found = compareStates(await stateOf(earlier), await stateOf(later));
		expect(found.summary.added).equal(12);
		expect(found.summary.gone).equal(0);
		expect(found.known).deep.equal({ kept: 36, all: 36 });
		const [classes] = found.classes;
		// The new row stands at the top: four cells of sixteen.
		const added = CHANGES.indexOf('added') + 1;
		expect([...classes!].filter((c) => c === added)).lengthOf(4);
		expect([...classes!].slice(12)).deep.equal([added, added, added, added]);
		expect(found.rows.filter((r) => r.kind === 'added')).lengthOf(12);
		// Every row says where its piece is now, but those that are gone.
		expect(found.rows.every((r) => (r.kind === 'gone') === (r.place === undefined))).equal(true);
		const back = compareStates(await stateOf(later), await stateOf(earlier));
		expect([back.summary.added, back.summary.gone]).deep.equal([0, 12]);
	});

	it('are nothing where nothing has changed, and words and figures where a kit has', async () => {
		const project = demoWith(4, 3);
		const same = compareStates(await stateOf(project), await stateOf(structuredClone(project)));
		expect([same.rows, same.summary.same]).deep.equal([[], 36]);
		expect(same.classes[0]!.every((c) => c === 0)).equal(true);
		const wider = structuredClone(project);
		wider.rules[0]!.values = { frameWidth: 140 };
		const found = compareStates(await stateOf(project), await stateOf(wider));
		expect(found.summary.changed).equal(36);
		expect(new Set(found.rows.map((r) => r.what))).to.include('Weight kg');
		// Each state is priced by its own rates: 12 panes at 100, then at 110 and in pounds.
		const rate = { id: 'rate-1', heading: 'Glass', role: 'pane', per: 'piece' as const, price: 100, waste: 0 };
		const [priced, dearer] = [structuredClone(project), structuredClone(project)];
		priced.costs = { ...project.costs, rates: [rate] };
		dearer.costs = { ...project.costs, currency: 'GBP', rates: [{ ...rate, price: 110 }] };
		const cost = compareStates(await stateOf(priced), await stateOf(dearer));
		expect(cost.summary.cost).deep.equal({ before: 1200, after: 1320 });
		expect(cost.currencies).deep.equal(['EUR', 'GBP']);
		expect(cost.rows).deep.equal([]);
	});

	it('are asked of the host of the model, against what it shows or against another state', async () => {
		const host = new ModelHost(ports);
		const earlier = demoWith(4, 3);
		expect(await host.compare(earlier)).equal(undefined);
		const later = demoWith(4, 3);
		setCount(later, 0, 'up', 4);
		const run = await host.run(new ProjectSender().update(later, true), true, () => undefined);
		const found = (await host.compare(earlier))!;
		expect(found.summary.added).equal(12);
		const views = run.kind === 'model' ? run.update.faces.map((f) => (typeof f === 'string' ? f : f.hash)) : [];
		expect(found.faces).deep.equal(views);
		expect((await host.compare(earlier, earlier))!.summary.same).equal(36);
	});
});

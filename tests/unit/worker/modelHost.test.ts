import { expect } from 'chai';
import { readingsOf } from '../../../src/core/readings/faceReadings.ts';
import type { ModelView } from '../../../src/core/view/modelView.ts';
import { received } from '../../../src/core/view/received.ts';
import { changeWithPatches } from '../../../src/core/project/patch.ts';
import { ModelHost } from '../../../src/lib/worker/modelHost.ts';
import type { Project } from '../../../src/core/project/schema.ts';
import { ProjectSender } from '../../../src/lib/worker/projectSender.ts';
import { demoWith, fullDemo, run, setCount, shippedDemo } from '../demo.ts';
import { solids } from '../kit/make.ts';
import { tableRows } from '../schedules.ts';

const silent = () => undefined;
const whole = (document: Project) => ({ number: 1, document });
const newHost = () => new ModelHost({ now: () => performance.now(), solids });

/** Runs a project on a host; the view of it, on top of the one before. */
async function show(host: ModelHost, project: Project, before?: ModelView): Promise<ModelView> {
	const result = await host.run(whole(project), true, silent);
	if (result.kind !== 'model') throw new Error(JSON.stringify(result));
	return received(result.update, before);
}

describe('the host of the model in the browser', () => {
	it('answers questions about the tables over all faces', async () => {
		const host = newHost();
		const project = shippedDemo();
		const view = await show(host, project);
		const model = await run(project);
		for (const table of ['panels', 'edges', 'nodes', 'paths'] as const) {
			const { count, columns } = tableRows(model, table);
			const answer = host.query({ table })!;
			expect(answer.order.length).equal(count);
			expect(answer.totals.weight).closeTo(
				columns.weight!.reduce((a, b) => a + b, 0),
				1e-6
			);
		}
		const hashes = view.faces.map((f) => f.hash);
		const parts = host.parts(hashes);
		expect(parts.reduce((n, p) => n + p!.count, 0)).equal(host.query({ table: 'parts' })!.order.length);
		const glass = host.query({ table: 'parts', text: 'glass' })!;
		expect(glass.order.length)
			.greaterThan(1000)
			.and.lessThan(host.query({ table: 'parts' })!.order.length);
		expect(host.parts(['gone'])).deep.equal([undefined]);
	});

	it('shows the bare faces before the first model, which stands without them and at the same place', async () => {
		const host = newHost();
		const told: ModelView[] = [];
		const runIt = () =>
			host.run(whole(fullDemo()), true, silent, false, (update) => told.push(received(update, undefined)));
		const result = await runIt();
		if (result.kind !== 'model') throw new Error(JSON.stringify(result));
		const view = received(result.update, undefined);
		expect(told.map((t) => [t.faces, t.origin, t.bodies.map((b) => b.key)])).deep.equal([
			[[], view.origin, view.bodies.map((b) => b.key)]
		]);
		expect(told[0]!.bodies.map((b) => b.positions)).deep.equal(view.bodies.map((b) => b.positions));
		await runIt();
		expect(told.length).equal(1);
	});

	it('answers by the hash of a view: values, triangles, edges and readings', async () => {
		const host = newHost();
		const [face] = (await show(host, fullDemo())).faces;
		const { cells, ...rest } = (await run(fullDemo())).faces[0]!;
		const expected = readingsOf({ ...rest, cells, surface: rest.charted.surface }).column('cell.warp');
		expect(host.columns('cell.warp', [face!.hash])[0]).deep.equal(Float32Array.from(expected));
		expect(host.columns('cell.warp', ['gone'])).deep.equal([undefined]);
		expect(host.meshes([face!.hash])[0]!.cellOf.at(-1)).equal(cells.count - 1);
		expect(host.curves(face!.hash)!.length).equal(cells.edgeCount * 48);
		expect(host.readings(face!.hash, 5)!.warp).equal(expected[5]);
		expect([host.curves('gone'), host.readings('gone', 0), host.flat('gone')]).deep.equal([
			undefined,
			undefined,
			undefined
		]);
	});

	it('picks the nearest cell of the faces that are shown', async () => {
		const host = newHost();
		const project = fullDemo();
		const view = await show(host, project);
		const [face] = view.faces;
		const at = (cell: number) => {
			const ring = [...face!.corners.subarray(face!.cornerStart[cell], face!.cornerStart[cell + 1])];
			return [0, 1, 2].map(
				(c) => ring.reduce((n, node) => n + face!.nodes[node * 3 + c]!, 0) / ring.length + view.origin[c]!
			) as [number, number, number];
		};
		for (const cell of [3, 500, 1100]) {
			const [x, y] = at(cell);
			expect(await host.pick([x, y, 100_000], [0, 0, -1])).deep.equal({ face: 0, cell });
		}
		project.masses[0]!.faces[0]!.hidden = true;
		await show(host, project, view);
		const [x, y] = at(500);
		expect((await host.pick([x, y, 100_000], [0, 0, -1]))?.face).not.equal(0);
	});

	it('tells what an edit has changed, and keeps a reference', async () => {
		const host = newHost();
		const project = fullDemo();
		const view = await show(host, project);
		host.keepReference();
		setCount(project, 3, 'across', 4);
		const next = await show(host, project, view);
		expect(next.change!.same).greaterThan(1000);
		expect(next.change!.gone).greaterThan(0);
		expect(host.referenceColumns('cell.area').keys).deep.equal(view.faces.map((f) => f.key));
		host.dropReference();
		expect(host.referenceColumns('cell.area').keys).deep.equal([]);
	});

	it('takes what has changed since the project before, and asks for all of it where it does not have that', async () => {
		const sender = new ProjectSender();
		const host = newHost();
		const first = shippedDemo();
		const { project: second } = changeWithPatches(first, (p) => (p.masses[1]!.frame.x += 500));
		const show = async (project: Project, whole?: boolean) => {
			const result = await host.run(sender.update(project, whole), true, silent);
			return result.kind === 'model' ? result.update : result.kind;
		};
		await show(first);
		const moved = await show(second);
		const fresh = await newHost().run(whole(second), true, silent);
		if (typeof moved === 'string' || fresh.kind !== 'model') throw new Error('no model');
		const hashes = (faces: typeof moved.faces) => faces.map((f) => (typeof f === 'string' ? f : f.hash));
		expect(hashes(moved.faces)).deep.equal(hashes(fresh.update.faces));
		// Faces that did not move are named by their hash alone.
		expect(moved.faces.some((f) => typeof f === 'string')).to.be.true;
		// Another worker has none of it.
		const other = await newHost().run(sender.update(first), true, silent);
		expect(other.kind).equal('unknown');
	});

	it('gives up a run for a newer one, and says so', async () => {
		let pauses = 0;
		const host: ModelHost = new ModelHost({
			now: () => performance.now(),
			pause: async () => {
				if (++pauses === 3) host.cancel();
			}
		});
		expect(await host.run(whole(demoWith(8, 8)), true, silent)).deep.equal({ kind: 'cancelled' });
		expect(host.query({ table: 'panels' })).equal(undefined);
		expect((await host.run(whole(demoWith(8, 8)), true, silent)).kind).equal('model');
	});
});

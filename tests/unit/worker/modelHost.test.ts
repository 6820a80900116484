import { expect } from 'chai';
import { readingsOf } from '../../../src/core/readings/faceReadings.ts';
import type { EarlyUpdate, ModelView } from '../../../src/core/view/modelView.ts';
import { received, receivedEarly } from '../../../src/core/view/received.ts';
import { changeWithPatches } from '../../../src/core/project/patch.ts';
import { ModelHost } from '../../../src/lib/worker/modelHost.ts';
import type { Project } from '../../../src/core/project/schema.ts';
import { ProjectSender } from '../../../src/lib/worker/projectSender.ts';
import { demoWith, fullDemo, run, setCount, shippedDemo, vaultOf } from '../demo.ts';
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

	it('shows faces before their model, which stands at the same place: bare at first, and as they are divided', async () => {
		const host = newHost();
		const told: EarlyUpdate[] = [];
		const runIt = async (project: Project) => {
			const result = await host.run(whole(project), true, silent, false, (update) => told.push(update));
			if (result.kind !== 'model') throw new Error(JSON.stringify(result));
			return result.update;
		};
		const view = received(await runIt(fullDemo()), undefined);
		const early = told.map((update) => receivedEarly(update, undefined));
		const keys = view.bodies.map((b) => b.key);
		expect(early.map((e) => [e.origin, e.bodies.map((b) => b.key), e.lines.map((l) => l.face)])).deep.equal([
			[view.origin, keys, []],
			[view.origin, keys, view.faces.map((f) => f.key)]
		]);
		for (const { bodies } of early)
			expect(bodies.map((b) => b.positions)).deep.equal(view.bodies.map((b) => b.positions));
		expect(early[1]!.lines.map((l) => l.hash)).deep.equal(view.faces.map((f) => f.linesHash));
		expect(early[1]!.lines[0]!.segments).deep.equal(host.curves(view.faces[0]!.hash));
		// Then what an edit changes alone.
		const edited = fullDemo();
		vaultOf(edited).length += 1000;
		const next = received(await runIt(edited), view);
		expect(told.length).equal(3);
		const { bodies, lines } = told[2]!;
		expect(bodies.flatMap((b) => (typeof b === 'string' ? [] : [b.key]))).deep.equal(['canopy/skin']);
		expect(lines.flatMap((l) => (l.segments ? [l.face] : []))).deep.equal(['canopy/skin']);
		expect(receivedEarly(told[2]!, view).bodies.map((b) => b.hash)).deep.equal(next.bodies.map((b) => b.hash));
		expect(lines.map((l) => l.hash)).deep.equal(next.faces.map((f) => f.linesHash));
		// A face that cannot be divided any more has no lines; one that is hidden is not told of.
		const broken = fullDemo();
		// Diamonds around a lantern want an even number.
		setCount(broken, 2, 'across', 23);
		broken.masses[2]!.faces[0]!.settingOut.across.multiple = 1;
		broken.masses[1]!.faces[0]!.hidden = true;
		await runIt(broken);
		expect(told[3]!.lines.map((l) => l.face)).deep.equal([keys[0], ...keys.slice(3)]);
		expect(told[3]!.bodies.length).equal(keys.length - 1);
	});

	it('has chords for the lines of very fine divisions', async () => {
		const host = newHost();
		const [face] = (await show(host, demoWith(100, 110))).faces;
		const lines = host.curves(face!.hash)!;
		expect(lines.length).equal(face!.edgeCount * 6);
		face!.edgeNodes.slice(0, 20).forEach((n, k) => {
			expect([...lines.subarray(k * 3, k * 3 + 3)]).deep.equal([...face!.nodes.subarray(n * 3, n * 3 + 3)]);
		});
	});

	it('draws edges as they follow a face that is turned by a quarter, from node to node', async () => {
		const project = demoWith(5, 7);
		project.masses[0]!.faces[0]!.settingOut.swap = true;
		const host = newHost();
		const [face] = (await show(host, project)).faces;
		const lines = host.curves(face!.hash)!;
		const ends = [...face!.edgeNodes].map((n) => [...face!.nodes.subarray(n * 3, n * 3 + 3)].map(Math.round).join());
		const points = new Set(
			Array.from({ length: lines.length / 3 }, (_, k) => [...lines.subarray(k * 3, k * 3 + 3)].map(Math.round).join())
		);
		expect(ends.filter((end) => !points.has(end))).deep.equal([]);
	});

	it('answers by the hash of a view: values, triangles, edges and readings', async () => {
		const host = newHost();
		const [face] = (await show(host, fullDemo())).faces;
		const { cells, ...rest } = (await run(fullDemo())).faces[0]!;
		const expected = readingsOf({ ...rest, cells, surface: rest.charted.surface }).column('cell.warp');
		expect(host.columns('cell.warp', [face!.hash])[0]).deep.equal(Float32Array.from(expected));
		expect(host.columns('cell.warp', ['gone'])).deep.equal([undefined]);
		expect(host.meshes([face!.hash])[0]!.cellOf.at(-1)).equal(cells.count - 1);
		expect(host.curves(face!.hash)!.length / 6).within(cells.edgeCount, cells.edgeCount * 8);
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

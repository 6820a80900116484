import { expect } from 'chai';
import { HeavyRun, isHeavy, refuseTooLarge, type Work } from '../../../src/core/project/estimate.ts';
import { Memo } from '../../../src/core/project/memo.ts';
import { runPipeline } from '../../../src/core/project/pipeline.ts';
import { ModelHost } from '../../../src/lib/worker/modelHost.ts';
import { ProjectSender } from '../../../src/lib/worker/projectSender.ts';
import { kitSchema } from '../../../src/core/kit/schema.ts';
import { STARTER_KITS } from '../../../src/core/kit/starters/index.ts';
import { demoWith } from '../demo.ts';

const weighed = async (project: ReturnType<typeof demoWith>, memo = new Memo()) => {
	let work: Work | undefined;
	const model = await runPipeline(project, { memo, now: () => performance.now(), weigh: (w) => (work = w) });
	return { work: work!, model, memo };
};

/** The canopy full of perforated screens, each of which takes milliseconds. */
function screens(across: number, up: number) {
	const project = demoWith(across, up);
	const kit = kitSchema.parse(STARTER_KITS.find((k) => k.id === 'perforated-screen'));
	project.kits.push(kit);
	for (const rule of project.rules) if (rule.set === 'panels') [rule.kit, rule.values] = [kit.id, {}];
	return project;
}

describe('what a run has before it', () => {
	it('is counted before it is done: hosts, triangles and bytes as they come to be', async () => {
		const { work, model } = await weighed(demoWith(60, 40));
		expect(work.hosts).to.equal(2400);
		const parts = model.faces
			.flatMap((f) => f.placements)
			.flatMap((p) => p.parts.map((part) => ({ part, rows: p.hosts.length })));
		const triangles = parts.reduce(
			(sum, { part, rows }) =>
				sum + (part.geometry.kind === 'pattern' ? (part.geometry.triangles.length / 3) * rows : NaN),
			0
		);
		// Every cell is a rectangle, so that some of them tell of all; rates of earlier runs may have had other cells among them.
		expect(work.triangles / triangles).to.be.closeTo(1, 0.02);
		const points = parts.reduce(
			(sum, { part, rows }) => sum + (part.geometry.kind === 'pattern' ? part.geometry.pointsPerHost * 24 * rows : NaN),
			0
		);
		expect(work.bytes).to.be.greaterThan(points);
		expect(work.ms).to.be.greaterThan(0);
	});

	it('is nothing for what is known, and what has changed alone', async () => {
		const project = demoWith(60, 40);
		const { memo } = await weighed(project);
		expect((await weighed(project, memo)).work).to.deep.equal({ hosts: 0, triangles: 0, bytes: 0, ms: 0 });
		const other = structuredClone(project);
		other.masses[0]!.faces[0]!.mark = 'Z9';
		// Another mark places nothing anew.
		expect((await weighed(other, memo)).work.hosts).to.equal(0);
	});

	it('is refused with the figure where memory does not do', () => {
		const work = { hosts: 1_200_000, triangles: 34_000_000, bytes: 9.1e9, ms: 21_000 };
		expect(() => refuseTooLarge(work, 4e9)).to.throw(
			/parts on 1 200 000 hosts, 34\.0 million triangles, about 9\.1 GB and about 21 s of work; at most 4\.0 GB are there/
		);
		expect(() => refuseTooLarge(work, 10e9)).not.to.throw();
		expect(isHeavy(work)).to.equal(true);
		expect(new HeavyRun(work).message).to.match(/^This run makes parts on 1 200 000 hosts/);
	});

	it('is asked about by the host of the model, which does it when somebody is sure', async () => {
		const project = screens(70, 50);
		// A clock that says every host takes a hundred times as long.
		const slow = { now: () => performance.now() * 100 };
		const host = new ModelHost(slow);
		const sender = new ProjectSender();
		const asked = await host.run(sender.update(project, true), true, () => undefined);
		expect(asked.kind).to.equal('heavy');
		expect((asked as { message: string }).message).to.match(/3 500 hosts.*Right|3 500 hosts/);
		const small = demoWith(6, 5);
		expect((await host.run(sender.update(small, true), true, () => undefined)).kind).to.equal('model');
		const sure = await host.run(sender.update(demoWith(60, 40), true), true, () => undefined, true);
		expect(sure.kind).to.equal('model');
		const little = new ModelHost({ ...slow, memory: 1e6 });
		const refused = await little.run(new ProjectSender().update(demoWith(60, 40), true), true, () => undefined, true);
		expect(refused.kind).to.equal('error');
		expect((refused as { message: string }).message).to.contain('at most 0.0 GB are there');
	});
});

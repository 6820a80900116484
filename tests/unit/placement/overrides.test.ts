import { expect } from 'chai';
import type { Override } from '../../../src/core/placement/rules/schema.ts';
import { settingOutOf } from '../../../src/core/settingout/spacing.ts';
import { checkDocument } from '../../../src/core/project/read.ts';
import { summarise } from '../../../src/core/formats/summary/summarise.ts';
import type { Project } from '../../../src/core/project/schema.ts';
import { demoWith } from '../demo.ts';
import { FACE, placed, withRules } from './make.ts';

const by = (id: string, more: Partial<Override>): Override => ({
	id,
	set: 'panels',
	face: FACE,
	hosts: [[2, 3, 4, 0, 0]],
	values: {},
	...more
});
const divided = (project: Project, across: number, up: number) =>
	(project.masses[0]!.faces[0]!.settingOut = settingOutOf(
		{ kind: 'count', count: across },
		{ kind: 'count', count: up }
	));

describe('what is set by hand', () => {
	it('stands above the rules: another kit, a value, a turn, or nothing', async () => {
		const project = withRules([{ kit: 'framed-pane', values: { recess: 20 } }]);
		project.overrides = [
			by('o1', { kit: 'flat-pane' }),
			by('o2', { hosts: [[0, 0, 0, 0, 0]], values: { frameWidth: 90 } }),
			by('o3', { hosts: [[1, 1, 1, 0, 0]], kit: null }),
			by('o4', { hosts: [[2, 4, 4, 0, 0]], values: { paneThickness: 30 } })
		];
		const { face, set, jobs } = await placed(project);
		const hand = jobs
			.filter((j) => j.byHand)
			.map((j) => [
				j.kit,
				[...j.hosts],
				{ ...j.given, ...Object.fromEntries(Object.entries(j.columns).map(([n, c]) => [n, [...c]])) }
			]);
		expect(hand).deep.equal([
			['framed-pane', [0], { frameWidth: 90, recess: 20 }],
			['flat-pane', [27], {}],
			['flat-pane', [28], { paneThickness: 30 }]
		]);
		expect([set.open[13], set.byHand![13], set.byHand![14]]).deep.equal([1, 1, 0]);
		expect(face.schedule.tables.panels.count).equal(95);
		expect(face.assigned.overrides).deep.equal({ used: 5, waiting: 0 });
	});

	it('waits where its cells are gone, and comes back with them', async () => {
		const project = withRules([{ kit: 'framed-pane' }]);
		project.overrides = [
			by('o1', {
				hosts: [
					[7, 10, 11, 0, 0],
					[0, 0, 0, 0, 0]
				],
				kit: 'flat-pane'
			})
		];
		const before = await placed(project);
		divided(project, 6, 4);
		const { face, model } = await placed(project);
		expect([face.assigned.overrides, face.assigned.waiting]).deep.equal([{ used: 1, waiting: 2 }, { o1: 2 }]);
		expect(summarise(project, model).overrides).deep.equal({ used: 1, waiting: 2 });
		divided(project, 12, 8);
		const after = await placed(project);
		expect(after.face.hash).equal(before.face.hash);
		expect(after.face.assigned.overrides).deep.equal({ used: 3, waiting: 0 });
	});

	it('holds on edges and nodes, too, by the side or corner that names them', async () => {
		const project = demoWith(6, 4);
		project.rules = [{ id: 'm', set: 'edges', faces: [FACE], where: [], kit: 'mullion', values: {} }];
		project.overrides = [by('o1', { set: 'edges', hosts: [[1, 1, 1, 0, 2]], kit: null })];
		const { face, set } = await placed(project);
		const open = [...set.open.keys()].filter((e) => set.open[e] === 1);
		expect(open.length).equal(1);
		expect(face.schedule.tables.edges.count).equal(face.cells.edgeCount - 1);
	});

	it('in a run that is far longer than the row is found at once, and the rest of it waits', async () => {
		const project = withRules([{ kit: 'framed-pane' }]);
		project.overrides = [by('o1', { hosts: [[0, 5, 1_999_999, 0, 0]], kit: null })];
		const { face } = await placed(project);
		expect(face.assigned.overrides).deep.equal({ used: 7, waiting: 2_000_000 - 5 - 7 });
	});

	it('of many cells with values of their own is one run of the kit', async () => {
		const project = withRules([{ kit: 'pyramid' }]);
		project.overrides = Array.from({ length: 96 }, (_, k) =>
			by(`o${k}`, { hosts: [[Math.floor(k / 12), k % 12, k % 12, 0, 0]], values: { height: 100 + k } })
		);
		const { jobs } = await placed(project);
		expect(jobs.map((j) => [j.hosts.length, [...j.columns.height!]])).deep.equal([
			[96, Array.from({ length: 96 }, (_, k) => 100 + k)]
		]);
	});

	it('is refused where a run goes backwards, or face, set or kit are none', () => {
		const faulty = (more: Partial<Override>) => {
			const project = withRules([{}]);
			project.overrides = [by('o1', more)];
			return () => checkDocument(project);
		};
		expect(faulty({ hosts: [[0, 3, 2, 0, 0]] })).throws('runs from column 3 to 2');
		expect(faulty({ face: 'none/none' })).throws('there is no face “none/none”');
		expect(faulty({ kit: 'mullion' })).throws('is made for edges');
	});
});

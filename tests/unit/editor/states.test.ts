import { expect } from 'chai';
import type { ModelView } from '../../../src/core/view/modelView.ts';
import type { ModelPicture } from '../../../src/lib/editor/modelPicture.svelte.ts';
import type { EarlyView } from '../../../src/core/view/modelView.ts';
import type { ModelRunner } from '../../../src/lib/editor/modelRunner.svelte.ts';
import type { ReadingState } from '../../../src/lib/editor/readingState.svelte.ts';
import type { ScheduleState } from '../../../src/lib/editor/scheduleState.svelte.ts';
import { ModelHost } from '../../../src/lib/worker/modelHost.ts';
import type { WorkerDiedError } from '../../../src/lib/worker/link.ts';
import type { Project } from '../../../src/core/project/schema.ts';
import { demoWith, fullDemo, shippedDemo } from '../demo.ts';
import { loadState } from '../runes.ts';

/** As the states know it: mocha loads this file otherwise than they are loaded. */
let Died: typeof WorkerDiedError;
type HearsOfDeath = (error: WorkerDiedError) => void;

/** What a link to a worker does, around a host of this thread; it can be made to die over the next run. */
class NearLink {
	readonly asked: string[] = [];
	dieNext = false;
	private host = new ModelHost({ now: () => performance.now() });
	private readonly died: HearsOfDeath;

	constructor(died: HearsOfDeath) {
		this.died = died;
	}

	async ask(question: (api: never) => Promise<unknown>): Promise<unknown> {
		const { asked, host } = this;
		const api = new Proxy(host, {
			get: (target, name: keyof ModelHost) => {
				const method = target[name] as unknown;
				if (typeof method !== 'function') return method;
				return (...args: unknown[]) => {
					asked.push(
						name === 'columns' || name === 'parts' || name === 'meshes'
							? `${name} ${(args.at(-1) as string[]).length}`
							: name
					);
					return (method as (...a: unknown[]) => unknown).apply(target, args);
				};
			}
		});
		if (this.dieNext) {
			this.dieNext = false;
			this.host = new ModelHost({ now: () => performance.now() });
			const error = new Died('out of memory');
			this.died(error);
			throw error;
		}
		return question(api as never);
	}

	tell(message: (api: ModelHost) => unknown): void {
		message(this.host);
	}

	stop(): void {
		this.asked.push('stop');
	}
}

describe('the states of the editor, without a page', function () {
	let Runner: typeof ModelRunner;
	let Schedule: typeof ScheduleState;
	let Readings: typeof ReadingState;
	let Picture: typeof ModelPicture;
	before(async () => {
		({ WorkerDiedError: Died } = await import('../../../src/lib/worker/link.ts'));
		({ ModelRunner: Runner } = await loadState<{ ModelRunner: typeof ModelRunner }>(
			'src/lib/editor/modelRunner.svelte.ts'
		));
		({ ScheduleState: Schedule } = await loadState<{ ScheduleState: typeof ScheduleState }>(
			'src/lib/editor/scheduleState.svelte.ts'
		));
		({ ReadingState: Readings } = await loadState<{ ReadingState: typeof ReadingState }>(
			'src/lib/editor/readingState.svelte.ts'
		));
		({ ModelPicture: Picture } = await loadState<{ ModelPicture: typeof ModelPicture }>(
			'src/lib/editor/modelPicture.svelte.ts'
		));
	});

	/** A runner on a link of this thread. */
	function near(): { runner: ModelRunner; link: NearLink } {
		let link: NearLink | undefined;
		const runner = new Runner(((died: HearsOfDeath) => (link = new NearLink(died))) as never);
		return { runner, link: link! };
	}
	const until = async (holds: () => boolean) => {
		for (let k = 0; !holds(); k++) {
			if (k > 4000) throw new Error('it did not come to that');
			await new Promise((resolve) => setTimeout(resolve, 2));
		}
	};
	const shown = async (runner: ModelRunner, project: Project): Promise<ModelView> => {
		runner.request(project);
		await until(() => !runner.stale);
		return runner.view!;
	};

	it('gather edits while they are held, tell which, and compute the newest when asked', async () => {
		const { runner, link } = near();
		const first = await shown(runner, demoWith(4, 4));
		runner.hold(true);
		const runs = () => link.asked.filter((name) => name === 'run').length;
		const before = runs();
		runner.request(demoWith(5, 4), true, 'Change count');
		runner.request(demoWith(6, 4), true, 'Change count');
		runner.request(demoWith(6, 5), false);
		runner.request(demoWith(6, 6), true, 'Change rows');
		expect([runner.waiting, runner.stale, runner.view === first, runs()]).deep.equal([
			['Change count', 'Change rows'],
			true,
			true,
			before
		]);
		runner.resume();
		await until(() => !runner.stale);
		expect([runner.view!.faces[0]!.cellCount, runner.waiting, runs()]).deep.equal([36, [], before + 1]);
		runner.request(demoWith(7, 7), true, 'Change count');
		expect(runner.stale).equal(true);
		runner.hold(false);
		await until(() => !runner.stale);
		expect(runner.view!.faces[0]!.cellCount).equal(49);
	});

	it('go on telling that the view is from before, where an edit came while a run was under way and they are held', async () => {
		const { runner } = near();
		await shown(runner, demoWith(4, 4));
		runner.request(demoWith(5, 5), true, 'Change count');
		runner.hold(true);
		runner.request(demoWith(6, 6), true, 'Change rows');
		await until(() => runner.view!.faces[0]!.cellCount === 25);
		expect([runner.stale, runner.waiting]).deep.equal([true, ['Change rows']]);
	});

	it('mark figures as of before once a run takes longer than a moment, or while edits are held', async () => {
		const { runner } = near();
		await shown(runner, demoWith(4, 4));
		const first = runner.made;
		runner.hold(true);
		const wanted = demoWith(5, 5);
		runner.request(wanted, true, 'Change count');
		expect([runner.stale, runner.behind, runner.made === first]).deep.equal([true, false, true]);
		await until(() => runner.behind);
		runner.hold(false);
		await until(() => !runner.stale);
		expect([runner.behind, runner.made === wanted]).deep.equal([false, true]);
	});

	it('show the newest of many edits, and what has not changed as the same object', async () => {
		const { runner, link } = near();
		const first = await shown(runner, fullDemo());
		for (let k = 0; k < 5; k++) {
			const project = fullDemo();
			project.rules[0]!.values = { frameWidth: 40 + k };
			runner.request(project);
		}
		await until(() => !runner.stale);
		expect(link.asked.filter((a) => a === 'run').length).within(2, 6);
		expect(runner.view!.faces.slice(1).every((f, k) => f === first.faces[k + 1])).to.be.true;
		expect(runner.view!.faces[0]).not.equal(first.faces[0]);
		expect(runner.state.kind).equal('ready');
		runner.close();
		expect(link.asked.at(-1)).equal('stop');
	});

	it('name the edit over which a worker died, and go on with the next', async () => {
		const { runner, link } = near();
		const before = await shown(runner, demoWith(4, 4));
		link.dieNext = true;
		runner.request(demoWith(5, 5), true, 'Change count');
		await until(() => runner.state.kind === 'died');
		expect(runner.state).deep.equal({
			kind: 'died',
			edit: 'Change count',
			message: 'The computation broke down (out of memory).'
		});
		expect([runner.view, runner.stale]).deep.equal([before, true]);
		expect((await shown(runner, demoWith(6, 6))).faces[0]!.cellCount).equal(36);
		expect(runner.state.kind).equal('ready');
	});

	it('give a worker that died idle its model again', async () => {
		const { runner, link } = near();
		await shown(runner, demoWith(4, 4));
		link.dieNext = true;
		expect(await runner.ask((api) => api.query({ table: 'panels' }))).equal(undefined);
		await until(() => !runner.stale);
		const answer = await runner.ask((api) => api.query({ table: 'panels' }));
		expect(answer?.order.length).equal(16);
	});

	it('keep how each table is looked at, and ask for parts of faces that have changed alone', async () => {
		const { runner, link } = near();
		const { materials } = shippedDemo();
		const schedule = new Schedule(runner, () => materials);
		await shown(runner, shippedDemo());
		schedule.text = 'C1-01';
		schedule.toggleSort('area');
		schedule.setRange('warp', 'least', 5);
		schedule.table = 'parts';
		expect([schedule.text, schedule.sort, schedule.filtered]).deep.equal(['', undefined, false]);
		await schedule.refresh(schedule.query);
		expect(link.asked.filter((a) => a.startsWith('parts'))).deep.equal(['parts 11']);
		expect(schedule.rows!.count).equal(schedule.answer!.order.length);
		const glass = [...schedule.answer!.order].find((r) => schedule.rows!.word('material', r) === 'Glass')!;
		expect(schedule.rows!.value('weight', glass)).greaterThan(5);
		expect(schedule.rows!.mark(glass)).match(/^C1-/);
		materials.find((m) => m.name === 'Glass')!.name = 'Low-iron glass';
		await schedule.refresh(schedule.query);
		expect(schedule.rows!.word('material', glass)).equal('Low-iron glass');
		const edited = shippedDemo();
		edited.rules[0]!.values = { ...edited.rules[0]!.values, frameWidth: 61 };
		const old = schedule.rows!;
		await shown(runner, edited);
		// Until the answer is there, the rows are those that it was asked about.
		expect([schedule.rows, schedule.rows!.word('kit', old.count - 1)]).deep.equal([
			old,
			old.word('kit', old.count - 1)
		]);
		await schedule.refresh(schedule.query);
		expect(schedule.rows).not.equal(old);
		expect(link.asked.filter((a) => a.startsWith('parts'))).deep.equal(['parts 11', 'parts 1']);
		schedule.table = 'panels';
		expect([schedule.text, schedule.sort, schedule.rangeOf('warp')]).deep.equal([
			'C1-01',
			{ by: 'area', descending: false },
			{ column: 'warp', least: 5 }
		]);
		schedule.toggleSort('area');
		expect(schedule.sort).deep.equal({ by: 'area', descending: true });
		schedule.setRange('warp', 'least', undefined);
		schedule.clearFilters();
		expect([schedule.filtered, schedule.rangeOf('warp')]).deep.equal([false, undefined]);
	});

	it('measure readings of faces that have changed alone, and drop answers of another model', async () => {
		const { runner, link } = near();
		const readings = new Readings(runner, () => 'canopy/skin');
		const view = await shown(runner, fullDemo());
		// Asked twice, answered once.
		await Promise.all([readings.refresh(view, 'cell.warp'), readings.refresh(view, 'cell.warp')]);
		expect(link.asked.filter((a) => a.startsWith('columns'))).deep.equal(['columns 11']);
		expect(readings.faces.map((f) => f.face.key)).deep.equal(['canopy/skin']);
		readings.scope = 'all';
		expect(readings.faces.length).equal(11);
		const edited = fullDemo();
		edited.rules[0]!.values = { frameWidth: 77 };
		const next = await shown(runner, edited);
		// An answer about the view before says nothing any more.
		await readings.refresh(view, 'cell.warp');
		await readings.refresh(next, 'cell.warp');
		expect(link.asked.filter((a) => a.startsWith('columns'))).deep.equal(['columns 11', 'columns 1']);
		await readings.refreshMeshes(next);
		expect(readings.meshes?.meshes.length).equal(11);
		await readings.keepReference('before');
		expect([readings.referenceName, readings.referenceSpread?.count]).deep.equal(['before', readings.spread.count]);
		readings.choose('cell.area');
		expect(readings.faces.length).equal(0);
		readings.dropReference();
		expect(readings.referenceSpread).equal(undefined);
	});

	it('keep the model in the picture until all that the next one is shown with is there', async () => {
		const { runner, link } = near();
		const readings = new Readings(runner, () => 'canopy/skin');
		const work = {
			place: 'tiling',
			runner,
			readings,
			colours: { by: 'none', classes: undefined, faces: [], palette: [] }
		};
		const picture = new Picture(work as never, () => '#ffffff');
		const first = await shown(runner, demoWith(4, 4));
		picture.follow();
		expect([picture.view, picture.colouring, picture.bare]).deep.equal([first, undefined, false]);
		readings.coloured = true;
		picture.follow();
		await until(() => picture.colouring !== undefined);
		const { colouring } = picture;
		expect(colouring!.faces[0]!.classes.length).equal(16);
		expect(picture.lines.get(first.faces[0]!.linesHash)!.length % 6).equal(0);
		// The next one is made, and its colours are on their way.
		const second = await shown(runner, demoWith(5, 5));
		picture.follow();
		expect([picture.view, picture.colouring === colouring]).deep.equal([first, true]);
		await until(() => picture.view === second);
		expect(picture.colouring!.faces[0]!.classes.length).equal(25);
		expect([...picture.lines.keys()]).deep.equal(second.faces.map((f) => f.linesHash));
		// One that is superseded meanwhile is never shown.
		const third = await shown(runner, demoWith(6, 6));
		const fourth = await shown(runner, demoWith(7, 7));
		const seen = new Set<unknown>();
		for (const made of [third, fourth]) {
			runner.view = made;
			picture.follow();
		}
		await until(() => (seen.add(picture.view), picture.view === fourth));
		expect(seen.has(third)).equal(false);
		readings.coloured = false;
		picture.wantsPanes = true;
		picture.follow();
		await until(() => picture.panes.size === 1);
		expect(picture.colouring).equal(undefined);
		// Once a model, and none for the panes of one whose cells are coloured.
		expect(link.asked.filter((a) => a.startsWith('meshes'))).deep.equal(Array(4).fill('meshes 1'));
	});

	it('show masses with their lines before anything stands on them, and their model then without anything new', async () => {
		const { runner, link } = near();
		const readings = new Readings(runner, () => 'canopy/skin');
		const work = {
			place: 'mass',
			runner,
			readings,
			colours: { by: 'none', classes: undefined, faces: [], palette: [] }
		};
		const picture = new Picture(work as never, () => '#ffffff');
		picture.followPlace();
		const first = await shown(runner, demoWith(4, 4));
		picture.follow();
		await until(() => picture.view === first);
		expect([picture.bare, picture.early, runner.early]).deep.equal([true, undefined, undefined]);
		const seen: (EarlyView | undefined)[] = [];
		const wanted = demoWith(5, 5);
		runner.request(wanted);
		await until(() => (seen.push(picture.early), !runner.stale));
		// It stays until the model is in the picture, and goes with that.
		const early = picture.early!;
		expect([early, picture.view, runner.early?.of]).deep.equal([seen.at(-1), first, wanted]);
		picture.follow();
		await until(() => picture.view === runner.view);
		expect([picture.early, runner.early]).deep.equal([undefined, undefined]);
		const [face] = runner.view!.faces;
		expect(early.lines.map(({ face, hash }) => [face, hash])).deep.equal([['canopy/skin', face!.linesHash]]);
		expect(early.bodies.map((b) => b.hash)).deep.equal(runner.view!.bodies.map((b) => b.hash));
		expect(picture.lines.get(face!.linesHash)).equal(early.lines[0]!.segments);
		// Lines are asked for once: of the first model, whose lines came before it, too, not at all.
		expect(link.asked.filter((a) => a.startsWith('curves'))).deep.equal([]);
		// Elsewhere, nothing is seen before its model.
		work.place = 'tiling';
		const there = new Picture(work as never, () => '#ffffff');
		there.followPlace();
		runner.request(demoWith(6, 6));
		await until(() => (seen.push(runner.early as never), !runner.stale));
		expect([there.bare, seen.at(-1)]).deep.equal([false, undefined]);
	});
});

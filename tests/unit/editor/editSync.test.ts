import { randomUUID } from 'node:crypto';
import { expect } from 'chai';
import fc from 'fast-check';
import { changeWithPatches } from '../../../src/core/project/patch.ts';
import type { Project } from '../../../src/core/project/schema.ts';
import { EditSync, type Edit, type SendAnswer, type Waiting } from '../../../src/lib/editor/editSync.ts';
import { demoProject, vaultOf } from '../demo.ts';
import { TrueHistory } from './server.ts';

type Change = (draft: Project) => void;
const turns = async (n = 30) => {
	for (let k = 0; k < n; k++) await Promise.resolve();
};
const AWAY: SendAnswer = { kind: 'away', message: 'gone' };

/** One tab of a project on a server. */
class Tab {
	readonly sync: EditSync;
	readonly heard: string[] = [];
	readonly states: string[] = [];
	readonly timers: { work: () => void; ms: number }[] = [];
	/** What a reload would find. */
	kept: Waiting | undefined;
	/** What becomes of what is sent: it arrives, it is lost, or its answer is. */
	line: 'good' | 'down' | 'deaf' = 'good';

	constructor(private readonly server: TrueHistory) {
		this.sync = new EditSync(server.revision, server.document, {
			send: (base, edit) => {
				if (this.line === 'down') return Promise.resolve(AWAY);
				const answer = server.take(base, edit);
				return Promise.resolve(this.line === 'deaf' ? AWAY : answer);
			},
			since: (revision) => Promise.resolve(server.since(revision)),
			fetch: () => Promise.resolve({ document: server.document, revision: server.revision }),
			keep: (waiting) => (this.kept = waiting),
			changed: () => this.states.push(this.sync.state.kind),
			others: (edit) => this.heard.push(edit.label),
			later: (work, ms) => {
				this.timers.push({ work, ms });
				return () => this.timers.splice(0);
			}
		});
	}

	commit(label: string, change: Change): Edit | undefined {
		const { patch, project } = changeWithPatches(this.sync.document, change);
		if (!patch.length) return undefined;
		const edit = { id: randomUUID(), label, patch };
		this.sync.push(edit, project);
		return edit;
	}

	/** What server-sent events bring. */
	listen(): void {
		this.sync.hear(this.server.since(this.sync.revision));
	}

	async reload(): Promise<Tab> {
		this.sync.stop();
		const next = new Tab(this.server);
		if (this.kept) await next.sync.resume(this.kept);
		return next;
	}
}

const rename =
	(name: string): Change =>
	(p) =>
		(p.name = name);
const lengthen =
	(length: number): Change =>
	(p) =>
		(vaultOf(p).length = length);
const level =
	(id: string): Change =>
	(p) =>
		void p.levels.push({ id, name: id, height: 0 });

describe('saving edits', () => {
	it('sends one after the other, each on the revision before', async () => {
		const server = new TrueHistory(demoProject());
		const tab = new Tab(server);
		tab.commit('a', rename('A'));
		tab.commit('b', lengthen(80_000));
		expect(tab.kept!.edits.map((e) => e.label)).deep.equal(['a', 'b']);
		await turns();
		expect(server.log.map((e) => [e.revision, e.label])).deep.equal([
			[2, 'a'],
			[3, 'b']
		]);
		expect([tab.sync.state.kind, tab.kept, tab.sync.revision]).deep.equal(['saved', undefined, 3]);
	});

	it('keeps edits while the server is away and tries again, later each time', async () => {
		const server = new TrueHistory(demoProject());
		const tab = new Tab(server);
		tab.line = 'down';
		tab.commit('a', rename('A'));
		await turns();
		expect(tab.sync.state).deep.equal({ kind: 'away', message: 'gone' });
		tab.timers[0]!.work();
		await turns();
		expect(tab.timers.at(-1)!.ms).equal(2000);
		tab.line = 'good';
		tab.timers.at(-1)!.work();
		await turns();
		expect([tab.sync.state.kind, server.document.name]).deep.equal(['saved', 'A']);
	});

	it('saves an edit once whose answer was lost, tried again or after a reload', async () => {
		for (const reload of [false, true]) {
			const server = new TrueHistory(demoProject());
			let tab = new Tab(server);
			tab.line = 'deaf';
			tab.commit('Add level', level('loft'));
			await turns();
			expect(tab.sync.state.kind).equal('away');
			if (reload) tab = await tab.reload();
			tab.line = 'good';
			tab.sync.retry();
			await turns();
			expect(server.document.levels.map((l) => l.id)).deep.equal(['loft']);
			expect(tab.sync.document).deep.equal(server.document);
			expect([tab.sync.state.kind, tab.sync.unsaved.length, tab.kept]).deep.equal(['saved', 0, undefined]);
		}
	});

	it('takes in what others save at other places, beneath what waits, and tells of it', async () => {
		const server = new TrueHistory(demoProject());
		const [mine, theirs] = [new Tab(server), new Tab(server)];
		mine.line = 'down';
		mine.commit('Longer', lengthen(80_000));
		await turns();
		theirs.commit('Rename', rename('Theirs'));
		await turns();
		mine.listen();
		expect([mine.sync.document.name, vaultOf(mine.sync.document).length]).deep.equal(['Theirs', 80_000]);
		expect(mine.heard).deep.equal(['Rename']);
		expect(mine.kept!.base).equal(2);
		mine.line = 'good';
		mine.sync.retry();
		await turns();
		theirs.listen();
		expect(mine.sync.document).deep.equal(server.document);
		expect(theirs.sync.document).deep.equal(server.document);
	});

	it('never overwrites after a reload what a colleague saved meanwhile: it asks, and tells both sides', async () => {
		for (const choice of ['mine', 'theirs'] as const) {
			const server = new TrueHistory(demoProject());
			const first = new Tab(server);
			first.line = 'down';
			first.commit('Longer', lengthen(80_000));
			await turns();
			new Tab(server).commit('Shorter', lengthen(60_000));
			await turns();
			const tab = await first.reload();
			await turns();
			expect(tab.sync.state).deep.include({ kind: 'clash', mine: 'Longer', theirs: 'Shorter' });
			expect(tab.sync.state)
				.property('clashes')
				.deep.equal([{ place: 'Canopy › shape › length', mine: '80 000', theirs: '60 000' }]);
			expect(vaultOf(server.document).length).equal(60_000);
			expect(tab.sync.settle(choice)).deep.equal(choice === 'mine' ? [] : ['Longer']);
			await turns();
			expect(vaultOf(server.document).length).equal(choice === 'mine' ? 80_000 : 60_000);
			expect(tab.sync.document).deep.equal(server.document);
			expect(tab.sync.state.kind).equal('saved');
		}
	});

	it('asks where an edit that arrives touches what waits, and forgets nothing that comes while it waits for the answer', async () => {
		const server = new TrueHistory(demoProject());
		const [mine, theirs] = [new Tab(server), new Tab(server)];
		mine.line = 'down';
		mine.commit('Longer', lengthen(80_000));
		mine.commit('Rename', rename('Mine'));
		await turns();
		theirs.commit('Shorter', lengthen(60_000));
		theirs.commit('Add level', level('loft'));
		await turns();
		mine.listen();
		expect(mine.sync.state.kind).equal('clash');
		mine.line = 'good';
		theirs.commit('Add another', level('attic'));
		await turns();
		mine.listen();
		expect(mine.sync.settle('theirs')).deep.equal(['Longer']);
		await turns();
		expect(mine.sync.document).deep.equal(server.document);
		expect([server.document.name, server.document.levels.length, vaultOf(server.document).length]).deep.equal([
			'Mine',
			2,
			60_000
		]);
	});

	it('puts an edit aside that is refused, with what does not stand without it; others go on', async () => {
		const server = new TrueHistory(demoProject());
		const tab = new Tab(server);
		tab.line = 'down';
		tab.commit('Bad level', level('loft'));
		tab.commit('Rename level', (p) => (p.levels[0]!.name = 'On top of it'));
		tab.commit('Longer', lengthen(80_000));
		await turns();
		tab.line = 'good';
		tab.sync.retry();
		await turns();
		expect(server.log.map((e) => e.label)).deep.equal(['Longer']);
		expect(tab.sync.refused.map((r) => r.edit.label)).deep.equal(['Bad level', 'Rename level']);
		expect(tab.sync.refused[0]!.message).equal('It cannot be kept.');
		expect(tab.sync.document).deep.equal(server.document);
		expect(tab.sync.state.kind).equal('saved');
		expect(tab.sync.retryRefused(tab.sync.refused[1]!.edit.id)).contains('Levels'.toLowerCase());
		tab.sync.dropRefused(tab.sync.refused[1]!.edit.id);
		expect(tab.sync.refused.length).equal(1);
	});

	it('goes on from an earlier state that the server has been given back', async () => {
		const server = new TrueHistory(demoProject());
		const tab = new Tab(server);
		tab.commit('a', rename('A'));
		tab.commit('b', lengthen(80_000));
		await turns();
		server.log.length = 0;
		server.document = demoProject();
		tab.commit('c', level('loft'));
		await turns();
		expect(server.document.levels.length).equal(1);
		expect(tab.sync.document).deep.equal(server.document);
	});

	/** Values that edits of the property give places of their own and places that all share. */
	const COMMANDS: Readonly<Record<string, (who: number, n: number) => Change>> = {
		shared: (who, n) => rename(`Name ${who} ${n}`),
		length: (who, n) => lengthen(70_000 + who * 100 + n),
		own: (who, n) => (p) => {
			const at = p.levels.find((l) => l.id === `level-${who}`);
			if (at) at.height = n * 10;
			else p.levels.splice(n % (p.levels.length + 1), 0, { id: `level-${who}`, name: `Level ${who}`, height: n * 10 });
		},
		gone: (who) => (p) => (p.levels = p.levels.filter((l) => l.id !== `level-${who}`)),
		material: (_, n) => (p) => (p.materials[n % p.materials.length]!.density = 1000 + n)
	};

	it('leads all tabs to one true history, whatever is lost, reloaded, chosen and torn off (property)', async () => {
		await fc.assert(
			fc.asyncProperty(
				fc.array(
					fc.record({
						who: fc.nat(3),
						what: fc.constantFrom(
							...Object.keys(COMMANDS),
							'listen',
							'reload',
							'down',
							'deaf',
							'good',
							'good',
							'mine',
							'theirs',
							'wait'
						)
					}),
					{ minLength: 5, maxLength: 60 }
				),
				async (steps) => {
					const server = new TrueHistory(demoProject());
					const tabs = [0, 1, 2, 3].map(() => new Tab(server));
					const made = new Set<string>();
					const dropped = new Set<string>();
					const settle = (tab: Tab, choice: 'mine' | 'theirs') => {
						const before = tab.sync.unsaved.map((e) => e.id);
						tab.sync.settle(choice);
						const left = new Set(tab.sync.unsaved.map((e) => e.id));
						for (const id of before) if (!left.has(id)) dropped.add(id);
					};
					for (const [n, { who, what }] of steps.entries()) {
						const tab = tabs[who]!;
						if (what in COMMANDS) {
							const edit = tab.commit(`${what} ${who} ${n}`, COMMANDS[what]!(who, n));
							if (edit) made.add(edit.id);
						} else if (what === 'listen') tab.listen();
						else if (what === 'reload') {
							// What was put aside is told, and goes with the page.
							for (const r of tab.sync.refused) dropped.add(r.edit.id);
							tabs[who] = await tab.reload();
						} else if (what === 'down' || what === 'deaf' || what === 'good') {
							tab.line = what;
							if (what === 'good') tab.sync.retry();
						} else if (what === 'wait') await turns();
						else if (tab.sync.state.kind === 'clash') settle(tab, what as 'mine' | 'theirs');
					}
					for (let round = 0; round < 12; round++)
						for (const tab of tabs) {
							tab.line = 'good';
							tab.listen();
							if (tab.sync.state.kind === 'clash') settle(tab, round % 2 ? 'theirs' : 'mine');
							tab.sync.retry();
							await turns(60);
						}
					for (const tab of tabs) tab.listen();
					expect(server.document).deep.equal(server.replayed);
					const ids = server.log.map((e) => e.id);
					expect(new Set(ids).size).equal(ids.length);
					for (const tab of tabs) {
						expect(tab.sync.document).deep.equal(server.document);
						expect([tab.sync.state.kind, tab.sync.unsaved.length, tab.kept]).deep.equal(['saved', 0, undefined]);
						for (const r of tab.sync.refused) dropped.add(r.edit.id);
					}
					// Every edit is saved, or somebody has been told that it is not.
					const saved = new Set(ids);
					for (const id of made) expect(saved.has(id) || dropped.has(id), id).to.be.true;
				}
			),
			{ numRuns: 150 }
		);
	});
});

import { expect } from 'chai';
import { SaveQueue, type Edit, type SaveAnswer, type SaveState } from '../../../src/lib/editor/saveQueue.ts';

const edit = (label: string): Edit => ({ label, patch: [] });
const turns = async (n = 10) => {
	for (let k = 0; k < n; k++) await Promise.resolve();
};

/** A queue against a server that answers as told; `kept` is what a reload would find. */
function queueWith(answers: (base: number, edit: Edit) => SaveAnswer | Promise<SaveAnswer>) {
	const sent: [number, string][] = [];
	const states: SaveState['kind'][] = [];
	const timers: { work: () => void; ms: number }[] = [];
	const kept: { value: unknown } = { value: undefined };
	const queue = new SaveQueue(7, {
		send: async (base, e) => {
			sent.push([base, e.label]);
			return answers(base, e);
		},
		store: { load: () => undefined, save: (waiting) => (kept.value = structuredClone(waiting)) },
		changed: (state) => states.push(state.kind),
		later: (work, ms) => {
			timers.push({ work, ms });
			return () => timers.splice(0);
		}
	});
	return { queue, sent, states, timers, kept };
}

describe('saving edits', () => {
	it('sends one after the other, each on the revision before', async () => {
		const { queue, sent, kept } = queueWith((base) => ({ kind: 'saved', revision: base + 1 }));
		queue.push(edit('a'));
		queue.push(edit('b'));
		expect(kept.value).deep.equal({ base: 7, edits: [edit('a'), edit('b')] });
		await turns();
		expect(sent).deep.equal([
			[7, 'a'],
			[8, 'b']
		]);
		expect(queue.state.kind).equal('saved');
		expect(kept.value).undefined;
	});

	it('keeps edits while the server is away and tries again, later each time', async () => {
		let away = true;
		const { queue, sent, timers, kept } = queueWith((base) =>
			away ? { kind: 'away', message: 'gone' } : { kind: 'saved', revision: base + 1 }
		);
		queue.push(edit('a'));
		await turns();
		expect(queue.state).deep.equal({ kind: 'away', message: 'gone' });
		expect(kept.value).deep.equal({ base: 7, edits: [edit('a')] });
		timers[0]!.work();
		await turns();
		expect(timers.at(-1)!.ms).equal(2000);
		away = false;
		timers.at(-1)!.work();
		await turns();
		expect(sent.map(([, label]) => label)).deep.equal(['a', 'a', 'a']);
		expect(queue.state.kind).equal('saved');
	});

	it('stops at a conflict and sends nothing more until somebody decides', async () => {
		let revision = 9;
		const { queue, sent } = queueWith((base) =>
			base === revision
				? { kind: 'saved', revision: ++revision }
				: { kind: 'stale', revision, edits: [{ revision: 9, label: 'theirs', patch: [] }] }
		);
		queue.push(edit('mine'));
		await turns();
		expect(queue.state.kind).equal('stale');
		queue.push(edit('mine too'));
		await turns();
		expect(sent.length).equal(1);
		queue.restart(9, queue.unsaved);
		await turns();
		expect(sent.slice(1)).deep.equal([
			[9, 'mine'],
			[10, 'mine too']
		]);
		expect(queue.unsaved).deep.equal([]);
	});

	it('drops what waits when theirs is taken, even while an answer is under way', async () => {
		let answer: (a: SaveAnswer) => void = () => undefined;
		const { queue } = queueWith(() => new Promise<SaveAnswer>((resolve) => (answer = resolve)));
		queue.push(edit('mine'));
		await turns();
		queue.restart(12, []);
		answer({ kind: 'refused', message: 'no' });
		await turns();
		expect(queue.state.kind).equal('saved');
		expect(queue.revision).equal(12);
	});
});

import { expect } from 'chai';
import { DrawClock } from '../../../src/lib/stage/drawClock.ts';

const after = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));
const SIGNALED = 1;

/** Graphics whose pictures are done when it is said so, one after the other. */
function graphics() {
	const fences: { done: boolean; gone: boolean }[] = [];
	const state = { lost: false };
	const gl = {
		SIGNALED,
		fenceSync: () => (state.lost ? null : (fences.push({ done: false, gone: false }), fences.at(-1))),
		flush: () => undefined,
		isContextLost: () => state.lost,
		getSyncParameter: (fence: { done: boolean }) => (fence.done ? SIGNALED : 0),
		deleteSync: (fence: { gone: boolean }) => (fence.gone = true)
	};
	return { clock: new DrawClock(gl as never), fences, state };
}

describe('the time that pictures take', () => {
	it('is counted from when the graphics are done with the one before', async () => {
		const { clock, fences } = graphics();
		const times: number[] = [];
		const begun = performance.now();
		for (let k = 0; k < 2; k++) clock.time(begun, (ms) => times.push(ms));
		await after(200);
		fences[0]!.done = true;
		while (times.length < 1) await after(10);
		await after(50);
		expect(times.length).equal(1);
		fences[1]!.done = true;
		while (times.length < 2) await after(10);
		// Both were sent at once: the second one waited for the first, which is not its own time.
		expect(times[0]).least(199);
		expect(times[0]! + times[1]!).most(performance.now() - begun);
		expect(fences.map((f) => f.gone)).deep.equal([true, true]);
	});

	it('is not told of a picture that is lost, nor after it is given up', async () => {
		const { clock, fences, state } = graphics();
		let told = 0;
		clock.time(performance.now(), () => told++);
		state.lost = true;
		clock.time(performance.now(), () => told++);
		await after(20);
		fences[0]!.done = true;
		await after(20);
		state.lost = false;
		clock.time(performance.now(), () => told++);
		clock.dispose();
		fences[1]!.done = true;
		await after(20);
		expect(told).equal(0);
	});
});

import { setTimeout as wait } from 'node:timers/promises';
import { expect } from 'chai';
import { watchOrder } from '../../../src/lib/server/handover/watchOrder.ts';

const BEAT = 20;
const never = new Promise<never>(() => undefined);
const fine = { over: () => undefined, keep: () => Promise.resolve(true) };

describe('the watch over an order', () => {
	it('hears how it ended, at once', async () => {
		let asked = 0;
		const keep = () => Promise.resolve((asked++, true));
		expect(await watchOrder({ ...fine, keep, ended: Promise.resolve('settled' as const) }, BEAT)).equal('settled');
		expect(await watchOrder({ ...fine, keep, ended: Promise.resolve('broken' as const) }, BEAT)).equal('broken');
		expect(asked).equal(0);
	});

	it('takes one that was settled between two beats for settled, although it is nobody’s any more', async () => {
		// The row is closed before the word of it arrives: whoever made it is to be used again, not ended.
		const ended = wait(1.5 * BEAT, 'settled' as const);
		expect(await watchOrder({ ...fine, keep: () => Promise.resolve(false), ended }, BEAT)).equal('settled');
	});

	it('takes one that is not ours any more, and of which nothing is heard, for stopped', async () => {
		expect(await watchOrder({ ...fine, keep: () => Promise.resolve(false), ended: never }, BEAT)).equal('stopped');
	});

	it('says that it is being made, beat after beat, until a limit is passed', async () => {
		let asked = 0;
		const keep = () => Promise.resolve((asked++, true));
		const over = () => (asked === 3 ? ('memory' as const) : undefined);
		expect(await watchOrder({ ended: never, over, keep }, BEAT)).equal('memory');
		expect(asked).equal(3);
	});
});

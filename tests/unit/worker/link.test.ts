import { expect } from 'chai';
import { expose } from 'comlink';
import { MessageChannel } from 'node:worker_threads';
import { WorkerDiedError, WorkerLink } from '../../../src/lib/worker/link.ts';

interface Api {
	double(x: number): Promise<number>;
	hang(): Promise<never>;
	fail(): Promise<never>;
}

/** A worker's outside: messages go through a channel, and events that the browser would fire can be fired. */
class FakeWorker extends EventTarget {
	terminated = false;
	private readonly channel = new MessageChannel();

	constructor() {
		super();
		const { port1, port2 } = this.channel;
		const endpoint = {
			postMessage: (message: unknown) => port2.postMessage(message),
			addEventListener: (_: string, listener: (event: unknown) => void) =>
				port2.on('message', (data) => listener({ data, origin: '' })),
			removeEventListener: () => undefined
		};
		expose(
			{
				double: (x: number) => 2 * x,
				hang: () => new Promise(() => undefined),
				fail: () => Promise.reject(new Error('no such thing'))
			},
			endpoint as never
		);
		port1.on('message', (data) => this.dispatchEvent(Object.assign(new Event('message'), { data })));
	}

	postMessage(message: unknown): void {
		this.channel.port1.postMessage(message);
	}

	terminate(): void {
		this.terminated = true;
		this.channel.port1.close();
	}
}

describe('a link to a worker', () => {
	const workers: FakeWorker[] = [];
	const deaths: string[] = [];
	const newLink = () =>
		new WorkerLink<Api>(
			() => {
				const worker = new FakeWorker();
				workers.push(worker);
				return worker as unknown as Worker;
			},
			(error) => deaths.push(error.message)
		);
	beforeEach(() => {
		workers.length = deaths.length = 0;
	});

	it('starts a worker with the first question and hands answers and errors on', async () => {
		const link = newLink();
		expect(workers.length).equal(0);
		link.tell((api) => api.double(1));
		expect(workers.length).equal(0);
		expect(await link.ask((api) => api.double(4))).equal(8);
		expect(await link.ask((api) => api.fail()).catch((e: Error) => e.message)).equal('no such thing');
		expect(workers.length).equal(1);
		link.stop();
		expect(workers[0]!.terminated).to.be.true;
	});

	for (const [name, event] of [
		['an error that nobody caught', Object.assign(new Event('error'), { message: 'out of memory' })],
		['a message that cannot be read', new Event('messageerror')]
	] as const)
		it(`tells every question of its death by ${name}, and starts another worker`, async () => {
			const link = newLink();
			const waiting = [1, 2].map(() => link.ask((api) => api.hang()).catch((e: unknown) => e));
			workers[0]!.dispatchEvent(event);
			for (const error of await Promise.all(waiting)) expect(error).instanceOf(WorkerDiedError);
			expect(deaths.length).equal(1);
			expect(deaths[0]).contains(name.includes('error') ? 'out of memory' : 'could not be read');
			expect(workers[0]!.terminated).to.be.true;
			// One that is dead already says nothing more.
			workers[0]!.dispatchEvent(new Event('error'));
			expect(deaths.length).equal(1);
			expect(await link.ask((api) => api.double(21))).equal(42);
			expect(workers.length).equal(2);
			link.stop();
		});
});

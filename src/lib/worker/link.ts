import { releaseProxy, wrap, type Remote } from 'comlink';

/** Says that a worker has died: whatever it was asked has no answer. */
export class WorkerDiedError extends Error {
	constructor(reason: string) {
		super(`The computation broke down (${reason}).`);
	}
}

interface Running<Api> {
	readonly worker: Worker;
	readonly client: Remote<Api>;
	/** Rejects when the worker dies; never resolves. */
	readonly death: Promise<never>;
}

/** A worker that answers questions. It is started with the first one; one that dies is told, and the next question starts another. */
export class WorkerLink<Api> {
	private running: Running<Api> | undefined;
	private readonly start: () => Worker;
	private readonly died: (error: WorkerDiedError) => void;

	constructor(start: () => Worker, died: (error: WorkerDiedError) => void) {
		this.start = start;
		this.died = died;
	}

	/** The answer of the worker. Rejects with what the worker throws, and with a WorkerDiedError when it dies over it. */
	async ask<P extends Promise<unknown>>(question: (api: Remote<Api>) => P): Promise<Awaited<P>> {
		const { client, death } = this.connect();
		return await Promise.race([question(client), death]);
	}

	/** Tells the worker something that has no answer. One that is not there need not be told. */
	tell(message: (api: Remote<Api>) => Promise<unknown>): void {
		if (this.running) message(this.running.client).catch(() => undefined);
	}

	stop(): void {
		const { running } = this;
		this.running = undefined;
		if (!running) return;
		running.client[releaseProxy]();
		running.worker.terminate();
	}

	private connect(): Running<Api> {
		if (this.running) return this.running;
		const worker = this.start();
		const death = new Promise<never>((_, reject) => {
			const end = (reason: string) => {
				if (this.running?.worker !== worker) return;
				this.stop();
				const error = new WorkerDiedError(reason);
				reject(error);
				this.died(error);
			};
			worker.addEventListener('error', (event) => {
				event.preventDefault();
				end(event.message?.replace(/^Uncaught /, '') || 'it could not be loaded');
			});
			worker.addEventListener('messageerror', () => end('a message could not be read'));
		});
		// Questions hear of it by themselves; without any there is nobody to hear.
		death.catch(() => undefined);
		return (this.running = { worker, client: wrap<Api>(worker), death });
	}
}

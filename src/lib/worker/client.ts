import { proxy, releaseProxy, wrap, type Remote } from 'comlink';
import type { BenchWorkerApi } from './bench.worker.ts';
import type { ModelWorkerApi } from './model.worker.ts';

export type ModelClient = Remote<ModelWorkerApi>;

/** Starts a worker; `stop` ends it. */
export function startModelWorker(): { client: ModelClient; stop: () => void } {
	const worker = new Worker(new URL('./model.worker.ts', import.meta.url), { type: 'module' });
	const client = wrap<ModelWorkerApi>(worker);
	return {
		client,
		stop: () => {
			client[releaseProxy]();
			worker.terminate();
		}
	};
}

export type BenchClient = Remote<BenchWorkerApi>;

/** Starts the bench's worker; `stop` ends it. */
export function startBenchWorker(): { client: BenchClient; stop: () => void } {
	const worker = new Worker(new URL('./bench.worker.ts', import.meta.url), { type: 'module' });
	const client = wrap<BenchWorkerApi>(worker);
	return {
		client,
		stop: () => {
			client[releaseProxy]();
			worker.terminate();
		}
	};
}

export { proxy };

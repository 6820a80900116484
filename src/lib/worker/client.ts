import { proxy, releaseProxy, wrap, type Remote } from 'comlink';
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

export { proxy };

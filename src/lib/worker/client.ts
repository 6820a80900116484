import { proxy, type Remote } from 'comlink';
import type { BenchWorkerApi } from './bench.worker.ts';
import type { ImportWorkerApi } from './import.worker.ts';
import { WorkerLink, type WorkerDiedError } from './link.ts';
import type { ModelHost } from './modelHost.ts';

export type ModelLink = WorkerLink<ModelHost>;
export type ModelClient = Remote<ModelHost>;
export type BenchLink = WorkerLink<BenchWorkerApi>;
export type ImportLink = WorkerLink<ImportWorkerApi>;

type Died = (error: WorkerDiedError) => void;

// The bundler finds workers by these addresses, so that each stands by itself.
export const modelLink = (died: Died): ModelLink =>
	new WorkerLink(() => new Worker(new URL('./model.worker.ts', import.meta.url), { type: 'module' }), died);
export const benchLink = (died: Died): BenchLink =>
	new WorkerLink(() => new Worker(new URL('./bench.worker.ts', import.meta.url), { type: 'module' }), died);
export const importLink = (died: Died): ImportLink =>
	new WorkerLink(() => new Worker(new URL('./import.worker.ts', import.meta.url), { type: 'module' }), died);

export { proxy };

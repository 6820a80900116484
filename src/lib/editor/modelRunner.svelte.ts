import { messageOf } from '../../core/errors.ts';
import type { Project } from '../../core/project/schema.ts';
import { closable } from './closable.ts';
import { proxy, startModelWorker, type ModelClient } from '../worker/client.ts';
import type { ModelView } from '../worker/modelView.ts';

/** A run that has taken this long is given up for a newer edit; a shorter one is let finish and shown. */
const PATIENCE_MS = 250;

export type RunState =
	| { readonly kind: 'ready' }
	| { readonly kind: 'running'; readonly share: number; readonly what: string }
	/** Stopped by hand: the view is of an earlier edit until somebody asks again. */
	| { readonly kind: 'stopped' }
	| { readonly kind: 'failed'; readonly message: string };

/** Keeps the model in step with the project, in a worker. */
export class ModelRunner {
	view = $state.raw<ModelView>();
	state = $state.raw<RunState>({ kind: 'ready' });
	/** True while the view is of an earlier edit. */
	stale = $state(false);

	readonly client: ModelClient;
	private readonly stopWorker: () => void;
	private wanted: Project | undefined;
	private latest: Project | undefined;
	private settled = true;
	private busySince = 0;

	constructor() {
		const { client, stop } = startModelWorker();
		this.client = client;
		this.stopWorker = stop;
	}

	/** Asks for the model of a project, an accepted one or a preview; the newest wins. */
	request(project: Project, settled = true): void {
		this.wanted = this.latest = project;
		this.settled = settled;
		this.stale = true;
		if (this.busySince === 0) void this.work();
		else if (performance.now() - this.busySince > PATIENCE_MS) void this.client.cancel();
	}

	/** Stops the run under way; the view stays as it was until the next edit, or until `resume`. */
	cancel(): void {
		this.wanted = undefined;
		void this.client.cancel();
	}

	/** Computes the newest project after all. */
	resume(): void {
		if (this.latest) this.request(this.latest);
	}

	close(): void {
		this.stopWorker();
	}

	private async work(): Promise<void> {
		while (this.wanted) {
			const project = this.wanted;
			this.wanted = undefined;
			this.busySince = performance.now();
			// Progress comes over a port of its own, and may come after the result.
			const progress = closable((share: number, what: string) => {
				this.state = { kind: 'running', share, what };
			});
			try {
				const result = await this.client.run(project, this.settled, proxy(progress.hear));
				progress.close();
				if (result.kind === 'error') this.state = { kind: 'failed', message: result.message };
				else if (result.kind === 'cancelled' && !this.wanted) this.state = { kind: 'stopped' };
				else this.state = { kind: 'ready' };
				if (result.kind === 'model') {
					this.view = result.view;
					this.stale = this.wanted !== undefined;
				}
			} catch (cause) {
				progress.close();
				this.state = { kind: 'failed', message: messageOf(cause) };
			}
			this.busySince = 0;
		}
	}
}

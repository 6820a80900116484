import { messageOf } from '../../core/errors.ts';
import type { Project } from '../../core/project/schema.ts';
import type { EarlyUpdate, EarlyView, ModelView } from '../../core/view/modelView.ts';
import { received, receivedEarly } from '../../core/view/received.ts';
import { modelLink, proxy, type ModelClient, type ModelLink } from '../worker/client.ts';
import { WorkerDiedError } from '../worker/link.ts';
import { ProjectSender } from '../worker/projectSender.ts';
import { closable } from './closable.ts';

/** A run that has taken this long is given up for a newer edit; a shorter one is let finish and shown. */
const PATIENCE_MS = 250;

/** A run that is done sooner tells nothing of its progress, which would only flicker. */
const QUIET_MS = 300;

export type RunState =
	| { readonly kind: 'ready' }
	| { readonly kind: 'running'; readonly share: number; readonly what: string }
	/** Stopped by hand: the view is of an earlier edit until somebody asks again. */
	| { readonly kind: 'stopped' }
	/** It waits for somebody to say that so much is meant. */
	| { readonly kind: 'heavy'; readonly message: string }
	| { readonly kind: 'failed'; readonly message: string }
	/** The worker has died over an edit: it is not tried again by itself. */
	| { readonly kind: 'died'; readonly edit: string | undefined; readonly message: string };

/** Keeps the model in step with the project, in a worker. */
export class ModelRunner {
	view = $state.raw<ModelView>();
	/** What the view is of. */
	made = $state.raw<Project>();
	/** The faces of a project before its model is there: when there is no model yet, and where it is asked for. */
	early = $state.raw<{ readonly of: Project; readonly view: EarlyView }>();
	/** Faces are shown bare, so that they can be seen before anything stands on them. */
	bare = false;
	state = $state.raw<RunState>({ kind: 'ready' });
	/** True while the view is of an earlier edit. */
	stale = $state(false);
	/** True once it has been so for longer than a quick run takes: its figures are marked then. */
	behind = $state(false);
	/** Edits are gathered, and computed when somebody asks. */
	held = $state(false);
	/** What was edited since the view was computed, while it is held; each edit once. */
	waiting = $state.raw<readonly string[]>([]);

	private readonly link: ModelLink;
	private readonly sender = new ProjectSender();
	private wanted: Project | undefined;
	private latest: Project | undefined;
	private settled = true;
	/** What the latest project came about by. */
	private edit: string | undefined;
	private busySince = 0;
	private sure = false;
	private markLater: ReturnType<typeof setTimeout> | undefined;

	constructor(makeLink: typeof modelLink = modelLink) {
		this.link = makeLink(() => {
			this.sender.forget();
			// One that died over a run is told there; any other has lost its model, which is made again.
			if (this.busySince === 0) this.resume();
		});
	}

	/** Asks for the model of a project, an accepted one or a preview; the newest wins. One that was asked for already is under way or there. */
	request(project: Project, settled = true, edit?: string): void {
		if (project === this.latest && settled === this.settled) return;
		this.latest = project;
		this.settled = settled;
		this.edit = edit;
		this.tellStale(true);
		if (this.held && this.view) {
			if (settled && edit !== undefined && !this.waiting.includes(edit)) this.waiting = [...this.waiting, edit];
			return;
		}
		this.start();
	}

	/** Gathers edits from now on, or computes them as they come again. */
	hold(held: boolean): void {
		this.held = held;
		if (!held && this.stale) this.resume();
	}

	private start(): void {
		this.wanted = this.latest;
		this.tellStale(true);
		this.waiting = [];
		if (this.busySince === 0) void this.work();
		else if (performance.now() - this.busySince > PATIENCE_MS) this.link.tell((api) => api.cancel());
	}

	/** Stops the run under way; the view stays as it was until the next edit, or until `resume`. */
	cancel(): void {
		this.wanted = undefined;
		this.link.tell((api) => api.cancel());
	}

	/** Computes the newest project after all, however much it is where somebody is `sure`. */
	resume(sure = false): void {
		this.sure = sure;
		if (this.latest) this.start();
	}

	/** Asks about the model; nothing where there is no answer. A question that fails is told, since it is a mistake of ours. */
	async ask<P extends Promise<unknown>>(question: (api: ModelClient) => P): Promise<Awaited<P> | undefined> {
		try {
			return await this.link.ask(question);
		} catch (cause) {
			if (!(cause instanceof WorkerDiedError)) this.state = { kind: 'failed', message: messageOf(cause) };
			return undefined;
		}
	}

	close(): void {
		clearTimeout(this.markLater);
		this.link.stop();
	}

	private tellStale(stale: boolean): void {
		this.stale = stale;
		if (!stale) {
			clearTimeout(this.markLater);
			this.markLater = undefined;
			this.behind = false;
		} else this.markLater ??= setTimeout(() => (this.behind = true), QUIET_MS);
	}

	private async work(): Promise<void> {
		while (this.wanted) {
			const project = this.wanted;
			const { edit, settled, sure } = this;
			this.wanted = undefined;
			this.sure = false;
			this.busySince = performance.now();
			// Progress comes over a port of its own, and may come after the result.
			const progress = closable(
				(share: number, what: string) => {
					this.state = { kind: 'running', share, what };
				},
				this.state.kind === 'ready' ? QUIET_MS : 0
			);
			const first = closable((update: EarlyUpdate) => {
				this.early = { of: project, view: receivedEarly(update, this.view) };
			});
			const seenEarly = !this.view || this.bare;
			if (!seenEarly) this.early = undefined;
			try {
				const early = seenEarly ? proxy(first.hear) : undefined;
				const run = (whole: boolean) =>
					this.link.ask((api) =>
						api.run(this.sender.update(project, whole), settled, proxy(progress.hear), sure, early)
					);
				let result = await run(false);
				if (result.kind === 'unknown') result = await run(true);
				progress.close();
				first.close();
				if (result.kind === 'error') this.state = { kind: 'failed', message: result.message };
				else if (result.kind === 'heavy') this.state = { kind: 'heavy', message: result.message };
				else if (result.kind === 'cancelled' && !this.wanted) this.state = { kind: 'stopped' };
				else this.state = { kind: 'ready' };
				if (result.kind === 'model') {
					this.view = received(result.update, this.view);
					this.made = project;
					this.tellStale(this.latest !== project);
				} else if (!this.wanted) this.early = undefined;
			} catch (cause) {
				progress.close();
				first.close();
				this.early = undefined;
				const message = messageOf(cause);
				this.state = cause instanceof WorkerDiedError ? { kind: 'died', edit, message } : { kind: 'failed', message };
			}
			this.busySince = 0;
		}
	}
}

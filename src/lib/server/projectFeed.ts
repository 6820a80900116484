import { Listener } from './database/listener.ts';
import { EDIT_CHANNEL } from './edits.ts';
import { ORDER_CHANNEL } from './handover/claims.ts';

/** What is told of a project: that it has a new edit, that one of its orders stands differently. */
const CHANNELS = { edit: EDIT_CHANNEL, order: ORDER_CHANNEL } as const;
type News = keyof typeof CHANNELS;

/**
 * Tells when a project has news, whichever process brought them: one connection listens for all. While it is broken
 * nothing is told; once it is back everybody is, since anything may have come between.
 */
export class ProjectFeed {
	/** By channel and project. */
	private readonly listeners = new Map<string, Set<() => void>>();
	private readonly listener: Listener;
	private closed = false;

	constructor(url: string) {
		this.listener = new Listener(url, Object.values(CHANNELS), {
			told: (channel, project) => this.tell(keyOf(channel, project)),
			connected: () => this.tellAll()
		});
	}

	/** Calls back for all news of a kind of a project; answers how to stop it. */
	on(news: News, project: string, listener: () => void): () => void {
		const key = keyOf(CHANNELS[news], project);
		const known = this.listeners.get(key) ?? new Set();
		this.listeners.set(key, known.add(listener));
		return () => {
			known.delete(listener);
			if (known.size === 0 && this.listeners.get(key) === known) this.listeners.delete(key);
		};
	}

	async close(): Promise<void> {
		this.closed = true;
		this.tellAll();
		await this.listener.close();
	}

	/** Whether no more will be told. */
	get ended(): boolean {
		return this.closed;
	}

	private tellAll(): void {
		for (const key of [...this.listeners.keys()]) this.tell(key);
	}

	private tell(key: string): void {
		for (const listener of [...(this.listeners.get(key) ?? [])]) listener();
	}
}

const keyOf = (channel: string, project: string) => `${channel} ${project}`;

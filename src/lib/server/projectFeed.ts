import { setTimeout as wait } from 'node:timers/promises';
import pg from 'pg';
import { log } from './log.ts';
import { EDIT_CHANNEL } from './edits.ts';
import { ORDER_CHANNEL } from './handover/claims.ts';

const RETRY_MS = 1000;

/** What is told of a project: that it has a new edit, that one of its orders stands differently. */
const CHANNELS = { edit: EDIT_CHANNEL, order: ORDER_CHANNEL } as const;
type News = keyof typeof CHANNELS;

/**
 * Tells when a project has news, whichever process brought them: one connection listens for all. While it is broken
 * nothing is told; once it is back everybody is, since anything may have come between.
 */
export class ProjectFeed {
	private readonly url: string;
	/** By channel and project. */
	private readonly listeners = new Map<string, Set<() => void>>();
	private client: pg.Client | undefined;
	private closed = false;

	constructor(url: string) {
		this.url = url;
		void this.listen();
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
		for (const listeners of this.listeners.values()) for (const listener of [...listeners]) listener();
		await this.client?.end().catch(() => undefined);
	}

	/** Whether no more will be told. */
	get ended(): boolean {
		return this.closed;
	}

	private async listen(): Promise<void> {
		while (!this.closed) {
			const client = (this.client = new pg.Client({ connectionString: this.url, connectionTimeoutMillis: 5000 }));
			const ended = new Promise<void>((resolve) => {
				client.once('end', resolve);
				client.once('error', (error) => {
					if (!this.closed) log.warn({ err: error }, 'feed');
					resolve();
				});
			});
			client.on('notification', ({ channel, payload = '' }) => this.tell(keyOf(channel, payload)));
			try {
				await client.connect();
				for (const channel of Object.values(CHANNELS)) await client.query(`listen ${channel}`);
				for (const key of this.listeners.keys()) this.tell(key);
				await ended;
			} catch {
				// Told by the queries of others; tried again below.
			}
			await client.end().catch(() => undefined);
			if (!this.closed) await wait(RETRY_MS, undefined, { ref: false });
		}
	}

	private tell(key: string): void {
		for (const listener of [...(this.listeners.get(key) ?? [])]) listener();
	}
}

const keyOf = (channel: string, project: string) => `${channel} ${project}`;

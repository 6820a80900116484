import { setTimeout as wait } from 'node:timers/promises';
import pg from 'pg';
import { log } from './log.ts';
import { EDIT_CHANNEL } from './edits.ts';

const RETRY_MS = 1000;

/**
 * Tells when a project has a new edit, whichever process took it: one connection listens for all. While it is broken
 * nothing is told; once it is back everybody is, since anything may have come between.
 */
export class EditFeed {
	private readonly url: string;
	private readonly listeners = new Map<string, Set<() => void>>();
	private client: pg.Client | undefined;
	private closed = false;

	constructor(url: string) {
		this.url = url;
		void this.listen();
	}

	/** Calls back for each new edit of a project; answers how to stop it. */
	onEdit(project: string, listener: () => void): () => void {
		const known = this.listeners.get(project) ?? new Set();
		this.listeners.set(project, known.add(listener));
		return () => {
			known.delete(listener);
			if (known.size === 0 && this.listeners.get(project) === known) this.listeners.delete(project);
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
					if (!this.closed) log.warn({ err: error }, 'edits');
					resolve();
				});
			});
			client.on('notification', ({ payload }) => this.tell(payload));
			try {
				await client.connect();
				await client.query(`listen ${EDIT_CHANNEL}`);
				for (const project of this.listeners.keys()) this.tell(project);
				await ended;
			} catch {
				// Told by the queries of others; tried again below.
			}
			await client.end().catch(() => undefined);
			if (!this.closed) await wait(RETRY_MS, undefined, { ref: false });
		}
	}

	private tell(project: string | undefined): void {
		if (project !== undefined) for (const listener of [...(this.listeners.get(project) ?? [])]) listener();
	}
}

import { setTimeout as wait } from 'node:timers/promises';
import pg from 'pg';
import { log } from '../log.ts';

const RETRY_MS = 1000;
const CONNECT_MS = 5000;

/** What is told on channels of the database. */
export interface News {
	told(channel: string, payload: string): void;
	/** The connection is there, for the first time or again: anything may have been told before. */
	connected(): void;
}

/** Hears what is told on channels of the database, by a connection of its own; one that breaks is made again. */
export class Listener {
	private readonly url: string;
	private readonly channels: readonly string[];
	private readonly news: News;
	private client: pg.Client | undefined;
	private closed = false;

	constructor(url: string, channels: readonly string[], news: News) {
		this.url = url;
		this.channels = channels;
		this.news = news;
		void this.listen();
	}

	async close(): Promise<void> {
		this.closed = true;
		await this.client?.end().catch(() => undefined);
	}

	private async listen(): Promise<void> {
		while (!this.closed) {
			const client = (this.client = new pg.Client({
				connectionString: this.url,
				connectionTimeoutMillis: CONNECT_MS
			}));
			const ended = new Promise<void>((resolve) => {
				client.once('end', resolve);
				client.once('error', (error) => {
					if (!this.closed) log.warn({ err: error }, 'feed');
					resolve();
				});
			});
			client.on('notification', ({ channel, payload = '' }) => this.news.told(channel, payload));
			try {
				await client.connect();
				for (const channel of this.channels) await client.query(`listen ${channel}`);
				this.news.connected();
				await ended;
			} catch {
				// Told by the queries of others; tried again below.
			}
			await client.end().catch(() => undefined);
			if (!this.closed) await wait(RETRY_MS, undefined, { ref: false });
		}
	}
}

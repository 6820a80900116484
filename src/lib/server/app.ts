import { connect } from './database/connect.ts';
import { alone } from './database/alone.ts';
import { migrateToLatest } from './database/migrate.ts';
import { ProjectFeed } from './projectFeed.ts';
import { HandoverDesk } from './handover/desk.ts';

/** What the routes work with; made once, when the server starts. */
export interface App {
	readonly db: ReturnType<typeof connect>;
	readonly handover: HandoverDesk;
	/** Edits and orders as they change, from this process and others. */
	readonly feed: ProjectFeed;
}

let started: Promise<App> | undefined;

/** The running application; the first call connects, migrates and starts the workers. */
export function app(): Promise<App> {
	started ??= start().catch((cause: unknown) => {
		// The next request may find the database back.
		started = undefined;
		throw cause;
	});
	return started;
}

async function start(): Promise<App> {
	const url = process.env.DATABASE_URL;
	if (!url) throw new Error('DATABASE_URL is not set; start with “npm run demo”, or set it.');
	const db = connect(url);
	try {
		return await alone(url, async () => {
			await migrateToLatest(db);
			const handover = await HandoverDesk.open(db, url);
			return { db, handover, feed: new ProjectFeed(url) };
		});
	} catch (cause) {
		await db.destroy();
		throw cause;
	}
}

/** Lets running work end and closes the connections. */
export async function stop(): Promise<void> {
	const running = await started?.catch(() => undefined);
	await running?.feed.close();
	await running?.handover.close();
	await running?.db.destroy();
}

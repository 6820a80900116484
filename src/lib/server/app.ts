import { connect } from './database/connect.ts';
import { migrateToLatest } from './database/migrate.ts';
import { HandoverDesk } from './handover/desk.ts';

/** What the routes work with; made once, when the server starts. */
export interface App {
	readonly db: ReturnType<typeof connect>;
	readonly handover: HandoverDesk;
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
		await migrateToLatest(db);
		return { db, handover: await HandoverDesk.open(db, url) };
	} catch (cause) {
		await db.destroy();
		throw cause;
	}
}

/** Lets running work end and closes the connections. */
export async function stop(): Promise<void> {
	const running = await started?.catch(() => undefined);
	await running?.handover.close();
	await running?.db.destroy();
}

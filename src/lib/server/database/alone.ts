import pg from 'pg';
import { log } from '../log.ts';

/** Any number will do, as long as it is the same in every process. */
const LOCK = 7_120_463;

/**
 * Does something that only one process may do at a time, such as bringing the tables to their newest form. Others wait;
 * the lock goes with its connection, so that a process that dies does not keep it. Source: PostgreSQL, advisory locks.
 */
export async function alone<T>(url: string, work: () => Promise<T>): Promise<T> {
	const client = new pg.Client({ connectionString: url, connectionTimeoutMillis: 5000 });
	client.on('error', (error) => log.warn({ err: error }, 'database'));
	await client.connect();
	try {
		await client.query('select pg_advisory_lock($1)', [LOCK]);
		return await work();
	} finally {
		await client.end().catch(() => undefined);
	}
}

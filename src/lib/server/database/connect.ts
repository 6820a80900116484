import { Kysely, PostgresDialect } from 'kysely';
import pg from 'pg';
import { log } from '../log.ts';
import type { Tables } from './tables.ts';

/**
 * Plans are made without the values, since none here gets better by knowing them: to plan with a piece of a file copies it
 * several times over, which takes half as long as to keep it. Source: PostgreSQL, plan_cache_mode.
 */
const OPTIONS = '-c plan_cache_mode=force_generic_plan';

/** Connects to PostgreSQL; nothing is sent before the first query. */
export function connect(url: string): Kysely<Tables> {
	const pool = new pg.Pool({ connectionString: url, options: OPTIONS, max: 10, connectionTimeoutMillis: 5000 });
	const tell = (error: Error) => log.warn({ err: error }, 'database');
	// A connection that breaks while idle is replaced at the next query, which then tells the user; one that breaks within
	// a transaction fails its query, and without a listener of its own would end the process, too.
	pool.on('error', tell);
	pool.on('connect', (client) => client.on('error', tell));
	return new Kysely<Tables>({ dialect: new PostgresDialect({ pool }) });
}

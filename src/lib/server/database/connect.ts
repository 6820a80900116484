import { Kysely, PostgresDialect } from 'kysely';
import pg from 'pg';
import type { Tables } from './tables.ts';

/** Connects to PostgreSQL; nothing is sent before the first query. */
export function connect(url: string): Kysely<Tables> {
	const pool = new pg.Pool({ connectionString: url, max: 10, connectionTimeoutMillis: 5000 });
	// A connection that breaks while idle is replaced at the next query, which then tells the user.
	pool.on('error', (error) => console.error(`database: ${error.message}`));
	return new Kysely<Tables>({ dialect: new PostgresDialect({ pool }) });
}

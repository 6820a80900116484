import { sql, type Kysely } from 'kysely';

/** Tokens of programs: only a hash of each is kept. */
export async function up(db: Kysely<unknown>): Promise<void> {
	await db.schema
		.createTable('token')
		.addColumn('id', 'uuid', (c) => c.primaryKey().defaultTo(sql`gen_random_uuid()`))
		.addColumn('owner', 'uuid', (c) => c.notNull())
		.addColumn('name', 'text', (c) => c.notNull())
		.addColumn('hash', 'text', (c) => c.notNull().unique())
		.addColumn('created_at', 'timestamptz', (c) => c.notNull().defaultTo(sql`now()`))
		.addColumn('used_at', 'timestamptz')
		.execute();
	await db.schema.createIndex('token_owner').on('token').column('owner').execute();
}

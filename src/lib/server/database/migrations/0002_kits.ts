import { sql, type Kysely } from 'kysely';

export async function up(db: Kysely<unknown>): Promise<void> {
	await db.schema
		.createTable('kit')
		.addColumn('id', 'uuid', (c) => c.primaryKey().defaultTo(sql`gen_random_uuid()`))
		.addColumn('owner', 'uuid', (c) => c.notNull())
		.addColumn('name', 'text', (c) => c.notNull())
		.addColumn('file', 'jsonb', (c) => c.notNull())
		.addColumn('updated_at', 'timestamptz', (c) => c.notNull().defaultTo(sql`now()`))
		.addUniqueConstraint('kit_owner_name', ['owner', 'name'])
		.execute();
}

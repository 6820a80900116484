import { sql, type Kysely } from 'kysely';

/** Orders are fair by who ordered, and belong to whoever makes them for as long as that one is heard of. */
export async function up(db: Kysely<unknown>): Promise<void> {
	await db.schema
		.alterTable('handover')
		.addColumn('owner', 'uuid')
		.addColumn('claim', 'uuid')
		.addColumn('lease_until', 'timestamptz')
		.addColumn('attempts', 'integer', (c) => c.notNull().defaultTo(0))
		.execute();
	await sql`create index handover_open on handover (created_at) where state in ('waiting', 'running')`.execute(db);
	await db.schema.createIndex('handover_project').on('handover').columns(['project_id', 'created_at']).execute();
}

import { sql, type Kysely } from 'kysely';

/** What is kept is counted by who brought it; and orders tell by themselves that they stand differently. */
export async function up(db: Kysely<unknown>): Promise<void> {
	await db.schema
		.alterTable('project')
		.addColumn('owner', 'uuid')
		.addColumn('bytes', 'bigint', (c) => c.notNull().defaultTo(0))
		.execute();
	await db.schema.alterTable('content').addColumn('owner', 'uuid').execute();
	for (const table of ['project', 'content', 'handover'])
		await db.schema.createIndex(`${table}_owner`).on(table).column('owner').execute();
	await sql`
		create function tell_order() returns trigger language plpgsql as $$
		begin
			perform pg_notify('zygaster_order', coalesce(new.project_id, old.project_id)::text);
			return null;
		end $$
	`.execute(db);
	await sql`
		create trigger handover_told after insert or delete or update of state, progress on handover
		for each row execute function tell_order()
	`.execute(db);
}

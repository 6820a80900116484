import { sql, type Kysely } from 'kysely';

/** Finished files stand in pieces; an order keeps the document that was ordered, and its settings. */
export async function up(db: Kysely<unknown>): Promise<void> {
	await db.schema
		.createTable('handover_chunk')
		.addColumn('handover_id', 'uuid', (c) => c.notNull().references('handover.id').onDelete('cascade'))
		.addColumn('number', 'integer', (c) => c.notNull())
		.addColumn('bytes', 'bytea', (c) => c.notNull())
		.addPrimaryKeyConstraint('handover_chunk_key', ['handover_id', 'number'])
		.execute();
	await db.schema
		.alterTable('handover')
		.addColumn('document', 'jsonb')
		.addColumn('options', 'jsonb', (c) => c.notNull().defaultTo('{}'))
		.addColumn('size', 'bigint')
		.execute();
	await sql`insert into handover_chunk (handover_id, number, bytes) select id, 0, bytes from handover where bytes is not null`.execute(
		db
	);
	await sql`update handover set size = octet_length(bytes) where bytes is not null`.execute(db);
	await sql`update handover set state = 'failed', message = 'The server was renewed; order it again.' where state in ('waiting', 'running')`.execute(
		db
	);
	await db.schema.alterTable('handover').dropColumn('bytes').execute();
}

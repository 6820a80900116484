import { sql, type Kysely } from 'kysely';

/** Large things by the hash of their bytes, in pieces, and which projects need them. */
export async function up(db: Kysely<unknown>): Promise<void> {
	await db.schema
		.createTable('content')
		.addColumn('name', 'text', (c) => c.primaryKey())
		.addColumn('size', 'bigint', (c) => c.notNull())
		.addColumn('created_at', 'timestamptz', (c) => c.notNull().defaultTo(sql`now()`))
		.execute();
	await db.schema
		.createTable('content_chunk')
		.addColumn('name', 'text', (c) => c.notNull().references('content.name').onDelete('cascade'))
		.addColumn('number', 'integer', (c) => c.notNull())
		.addColumn('bytes', 'bytea', (c) => c.notNull())
		.addPrimaryKeyConstraint('content_chunk_key', ['name', 'number'])
		.execute();
	await db.schema
		.createTable('content_use')
		.addColumn('project_id', 'uuid', (c) => c.notNull().references('project.id').onDelete('cascade'))
		.addColumn('name', 'text', (c) => c.notNull().references('content.name'))
		.addPrimaryKeyConstraint('content_use_key', ['project_id', 'name'])
		.execute();
	await db.schema.createIndex('content_use_name').on('content_use').column('name').execute();
}

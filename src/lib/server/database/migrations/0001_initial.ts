import { sql, type Kysely } from 'kysely';

export async function up(db: Kysely<unknown>): Promise<void> {
	await db.schema
		.createTable('project')
		.addColumn('id', 'uuid', (c) => c.primaryKey().defaultTo(sql`gen_random_uuid()`))
		.addColumn('document', 'jsonb', (c) => c.notNull())
		.addColumn('revision', 'integer', (c) => c.notNull().defaultTo(1))
		.addColumn('created_at', 'timestamptz', (c) => c.notNull().defaultTo(sql`now()`))
		.addColumn('updated_at', 'timestamptz', (c) => c.notNull().defaultTo(sql`now()`))
		.addColumn('deleted_at', 'timestamptz')
		.execute();
	await db.schema
		.createTable('edit')
		.addColumn('project_id', 'uuid', (c) => c.notNull().references('project.id').onDelete('cascade'))
		.addColumn('revision', 'integer', (c) => c.notNull())
		.addColumn('label', 'text', (c) => c.notNull())
		.addColumn('patch', 'jsonb', (c) => c.notNull())
		.addColumn('created_at', 'timestamptz', (c) => c.notNull().defaultTo(sql`now()`))
		.addPrimaryKeyConstraint('edit_pkey', ['project_id', 'revision'])
		.execute();
	await db.schema
		.createTable('handover')
		.addColumn('id', 'uuid', (c) => c.primaryKey().defaultTo(sql`gen_random_uuid()`))
		.addColumn('project_id', 'uuid', (c) => c.notNull().references('project.id').onDelete('cascade'))
		.addColumn('revision', 'integer', (c) => c.notNull())
		.addColumn('format', 'text', (c) => c.notNull())
		.addColumn('state', 'text', (c) => c.notNull().defaultTo('waiting'))
		.addColumn('progress', 'real', (c) => c.notNull().defaultTo(0))
		.addColumn('message', 'text')
		.addColumn('file_name', 'text')
		.addColumn('media_type', 'text')
		.addColumn('bytes', 'bytea')
		.addColumn('created_at', 'timestamptz', (c) => c.notNull().defaultTo(sql`now()`))
		.execute();
}

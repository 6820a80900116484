import { sql, type Kysely } from 'kysely';

/**
 * Edits have ids, so that one that is sent twice is taken once. A project is its newest whole state and the edits since;
 * whole states are put down now and then. Revisions can have names.
 */
export async function up(db: Kysely<unknown>): Promise<void> {
	await db.schema
		.alterTable('edit')
		.addColumn('id', 'uuid', (c) => c.notNull().defaultTo(sql`gen_random_uuid()`))
		.addColumn('actor', 'uuid')
		.execute();
	await db.schema.alterTable('edit').addUniqueConstraint('edit_id', ['project_id', 'id']).execute();
	await db.schema
		.createTable('project_state')
		.addColumn('project_id', 'uuid', (c) => c.notNull().references('project.id').onDelete('cascade'))
		.addColumn('revision', 'integer', (c) => c.notNull())
		.addColumn('version', 'integer', (c) => c.notNull())
		.addColumn('document', 'jsonb', (c) => c.notNull())
		.addPrimaryKeyConstraint('project_state_key', ['project_id', 'revision'])
		.execute();
	await db.schema
		.createTable('revision_name')
		.addColumn('project_id', 'uuid', (c) => c.notNull().references('project.id').onDelete('cascade'))
		.addColumn('revision', 'integer', (c) => c.notNull())
		.addColumn('name', 'text', (c) => c.notNull())
		.addPrimaryKeyConstraint('revision_name_key', ['project_id', 'revision'])
		.execute();
	await sql`insert into project_state (project_id, revision, version, document)
		select id, revision, (document ->> 'version')::int, document from project`.execute(db);
	await db.schema.alterTable('project').addColumn('name', 'text').execute();
	await sql`update project set name = document ->> 'name'`.execute(db);
	await sql`alter table project alter column name set not null`.execute(db);
	await db.schema.alterTable('project').dropColumn('document').execute();
}

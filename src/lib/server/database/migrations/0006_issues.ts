import { sql, type Kysely } from 'kysely';

/** States that were given out, with a name, a revision mark, and who gave them out. */
export async function up(db: Kysely<unknown>): Promise<void> {
	await db.schema
		.createTable('issue')
		.addColumn('id', 'uuid', (c) => c.primaryKey().defaultTo(sql`gen_random_uuid()`))
		.addColumn('project_id', 'uuid', (c) => c.notNull().references('project.id').onDelete('cascade'))
		.addColumn('revision', 'integer', (c) => c.notNull())
		.addColumn('name', 'text', (c) => c.notNull())
		.addColumn('mark', 'text', (c) => c.notNull())
		.addColumn('author', 'text', (c) => c.notNull())
		.addColumn('note', 'text', (c) => c.notNull())
		.addColumn('created_at', 'timestamptz', (c) => c.notNull().defaultTo(sql`now()`))
		.addUniqueConstraint('issue_mark', ['project_id', 'mark'])
		.execute();
}

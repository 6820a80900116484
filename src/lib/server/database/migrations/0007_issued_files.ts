import type { Kysely } from 'kysely';

/** Files may be made of an issue, and say so. */
export async function up(db: Kysely<unknown>): Promise<void> {
	await db.schema.alterTable('handover').addColumn('issue', 'jsonb').execute();
}

import { sql, type Kysely } from 'kysely';
import type { Tables } from './database/tables.ts';
import { DAYS_DELETED } from './projects.ts';

/** Finished files can be ordered again; they are kept so long. */
const DAYS_FILES = 30;
/** A content that no project names may be on its way into one. */
const DAYS_CONTENTS = 1;

/** What an upkeep has taken away. */
export interface Upkeep {
	readonly projects: number;
	readonly files: number;
	readonly contents: number;
}

/** Takes away what is past its time, by the database's own clock. */
export async function upkeep(db: Kysely<Tables>): Promise<Upkeep> {
	const projects = await db
		.deleteFrom('project')
		.where('deleted_at', '<', sql<Date>`now() - make_interval(days => ${DAYS_DELETED})`)
		.executeTakeFirst();
	const files = await db
		.deleteFrom('handover')
		.where('created_at', '<', sql<Date>`now() - make_interval(days => ${DAYS_FILES})`)
		.executeTakeFirst();
	const contents = await db
		.deleteFrom('content')
		.where('created_at', '<', sql<Date>`now() - make_interval(days => ${DAYS_CONTENTS})`)
		.where(({ not, exists, selectFrom }) =>
			not(exists(selectFrom('content_use').select('project_id').whereRef('content_use.name', '=', 'content.name')))
		)
		.executeTakeFirst();
	return {
		contents: Number(contents.numDeletedRows),
		projects: Number(projects.numDeletedRows),
		files: Number(files.numDeletedRows)
	};
}

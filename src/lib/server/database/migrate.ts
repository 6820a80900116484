import { Migrator, type Kysely, type Migration } from 'kysely';
import type { Tables } from './tables.ts';
import * as initial from './migrations/0001_initial.ts';
import * as kits from './migrations/0002_kits.ts';
import * as handoverChunks from './migrations/0003_handover_chunks.ts';
import * as states from './migrations/0004_states_and_ids.ts';
import * as contents from './migrations/0005_contents.ts';
import * as issues from './migrations/0006_issues.ts';
import * as issuedFiles from './migrations/0007_issued_files.ts';
import * as tokens from './migrations/0008_tokens.ts';
import * as claims from './migrations/0009_claims.ts';
import * as quotas from './migrations/0010_quotas.ts';
import * as quickChunks from './migrations/0011_quick_chunks.ts';

/** In order; append only. */
const MIGRATIONS: Readonly<Record<string, Migration>> = {
	'0001_initial': initial,
	'0002_kits': kits,
	'0003_handover_chunks': handoverChunks,
	'0004_states_and_ids': states,
	'0005_contents': contents,
	'0006_issues': issues,
	'0007_issued_files': issuedFiles,
	'0008_tokens': tokens,
	'0009_claims': claims,
	'0010_quotas': quotas,
	'0011_quick_chunks': quickChunks
};

/** Brings the database to the newest form; safe to call from several processes at once (Kysely locks). */
export async function migrateToLatest(db: Kysely<Tables>): Promise<void> {
	const migrator = new Migrator({
		db,
		provider: { getMigrations: () => Promise.resolve({ ...MIGRATIONS }) }
	});
	const { error } = await migrator.migrateToLatest();
	if (error) throw error;
}

import type { Kysely, Transaction } from 'kysely';
import { ZygasterError } from '../../core/errors.ts';
import { dropContent } from '../../core/content.ts';
import { contentNames } from '../../core/project/contents.ts';
import { applyInPlace } from '../../core/project/jsonPatch.ts';
import { applyPatches, type Patch } from '../../core/project/patch.ts';
import { checkDocument } from '../../core/project/read.ts';
import { VERSION, type Project } from '../../core/project/schema.ts';
import { PROGRAM } from './actor.ts';
import { useContents } from './contents.ts';
import type { ProjectStateTable, Tables } from './database/tables.ts';

export type Db = Kysely<Tables> | Transaction<Tables>;

/** A whole state is put down every so many revisions: a project opens by it and fewer edits than that. */
const STATE_EVERY = 20;
/** Older states stay at every so many revisions only. */
const OLD_STATE_EVERY = 1000;
const RECENT_REVISIONS = 200;

/** Documents of the revisions that were worked with last, since most edits follow on the one before. */
const recent = new Map<string, { readonly revision: number; readonly document: Project }>();
const MOST_RECENT = 100;

/** The document of a project at a revision that it has had. Throws a ZygasterError with code `not-found` for one that it has not. */
export async function documentAt(db: Db, id: string, revision: number): Promise<Project> {
	const known = recent.get(id);
	if (known?.revision === revision) return known.document;
	if (known && known.revision < revision && known.revision >= revision - STATE_EVERY)
		return applyPatches(known.document, await patchesBetween(db, id, known.revision, revision));
	const state = await newestState(db, id, revision);
	// Patches are those of the version that their state has; the whole is brought to the present version then.
	let document: unknown = state.document;
	for (const patch of await patchesBetween(db, id, state.revision, revision)) document = applyInPlace(document, patch);
	const checked = checkDocument(document);
	// What an older version held within the document is kept beside it from now on.
	if (state.version < VERSION && !db.isTransaction) {
		const names = contentNames(checked);
		await db.transaction().execute((trx) => useContents(trx, PROGRAM, id, names));
		dropContent(names);
	}
	return checked;
}

async function patchesBetween(db: Db, id: string, from: number, to: number): Promise<Patch[]> {
	if (from === to) return [];
	const edits = await db
		.selectFrom('edit')
		.select('patch')
		.where('project_id', '=', id)
		.where('revision', '>', from)
		.where('revision', '<=', to)
		.orderBy('revision')
		.execute();
	if (edits.length !== to - from) throw noRevision(to);
	return edits.map((e) => e.patch as Patch);
}

async function newestState(
	db: Db,
	id: string,
	revision: number
): Promise<Pick<ProjectStateTable, 'revision' | 'version'> & { document: unknown }> {
	const row = await db
		.selectFrom('project_state')
		.select(['revision', 'version', 'document'])
		.where('project_id', '=', id)
		.where('revision', '<=', revision)
		.orderBy('revision', 'desc')
		.limit(1)
		.executeTakeFirst();
	if (!row) throw noRevision(revision);
	return row;
}

const noRevision = (revision: number) =>
	new ZygasterError('not-found', `This project has no revision ${revision}, or it is past its time.`);

/** Keeps a document at hand for the next edit. Call it only with what has been committed. */
export function remember(id: string, revision: number, document: Project): void {
	recent.delete(id);
	recent.set(id, { revision, document });
	if (recent.size > MOST_RECENT) recent.delete(recent.keys().next().value!);
}

/** Forgets what is at hand: another database may have other documents under the same ids. */
export const forgetDocuments = (): void => recent.clear();

/** Puts a whole state down where it is time for one, and drops older ones that are nearer to each other than needed. */
export async function keepState(db: Db, id: string, revision: number, document: Project): Promise<void> {
	if (revision % STATE_EVERY !== 0) return;
	await putState(db, id, revision, document);
	// The first one stays, so that every revision can be reached.
	await db
		.deleteFrom('project_state')
		.where('project_id', '=', id)
		.where('revision', '<', revision - RECENT_REVISIONS)
		.where((e) => e(e('revision', '%', OLD_STATE_EVERY), '!=', 0))
		.where('revision', '>', (e) =>
			e
				.selectFrom('project_state as first')
				.select((f) => f.fn.min('first.revision').as('least'))
				.where('first.project_id', '=', id)
		)
		.execute();
}

/** Puts a whole state down; one of an older version at that revision gives way. Answers its length as text. */
export async function putState(db: Db, id: string, revision: number, document: Project): Promise<number> {
	const text = JSON.stringify(document);
	await db
		.insertInto('project_state')
		.values({ project_id: id, revision, version: document.version, document: text })
		.onConflict((c) => c.columns(['project_id', 'revision']).doUpdateSet({ version: document.version, document: text }))
		.execute();
	return text.length;
}

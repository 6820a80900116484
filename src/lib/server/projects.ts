import { sql, type Kysely, type Transaction } from 'kysely';
import { ZygasterError } from '../../core/errors.ts';
import { applyPatch, diffProjects, type Patch } from '../../core/project/patch.ts';
import { checkDocument } from '../../core/project/read.ts';
import type { Project } from '../../core/project/schema.ts';
import type { ProjectRow, Tables } from './database/tables.ts';

type Db = Kysely<Tables> | Transaction<Tables>;

export interface StoredProject {
	readonly id: string;
	readonly revision: number;
	readonly document: Project;
}

export interface ProjectListing {
	readonly id: string;
	readonly name: string;
	readonly revision: number;
	readonly updatedAt: Date;
}

export interface LoggedEdit {
	readonly revision: number;
	readonly label: string;
	readonly patch: Patch;
}

/** Thrown by `saveEdit` when the project has moved on; carries what changed since. */
export class StaleError extends ZygasterError {
	readonly revision: number;
	readonly edits: readonly LoggedEdit[];

	constructor(revision: number, edits: readonly LoggedEdit[]) {
		super('stale', 'This project was changed elsewhere since you last saved.');
		this.revision = revision;
		this.edits = edits;
	}
}

/** Projects that are not deleted, last changed first. */
export async function listProjects(db: Db): Promise<ProjectListing[]> {
	const rows = await db
		.selectFrom('project')
		.select(['id', 'revision', 'updated_at', sql<string>`document ->> 'name'`.as('name')])
		.where('deleted_at', 'is', null)
		.orderBy('updated_at', 'desc')
		.orderBy('id')
		.execute();
	return rows.map(({ id, name, revision, updated_at }) => ({ id, name, revision, updatedAt: updated_at }));
}

/** Throws a ZygasterError with code `not-found` for an unknown or deleted project. */
export async function loadProject(db: Db, id: string): Promise<StoredProject> {
	return toStored(await liveRow(db, id), id);
}

export async function createProject(db: Db, document: Project, id?: string): Promise<string> {
	const row = await db
		.insertInto('project')
		.values({ ...(id ? { id } : {}), document: JSON.stringify(document) })
		.onConflict((c) => c.column('id').doNothing())
		.returning('id')
		.executeTakeFirst();
	return row?.id ?? id!;
}

/** A copy under a name that tells so; answers its id. */
export async function duplicateProject(db: Db, id: string): Promise<string> {
	const { document } = await loadProject(db, id);
	return createProject(db, checkDocument({ ...document, name: `${document.name} copy`.slice(0, 120) }));
}

/** Changes the name by an edit like any other, whatever the revision. */
export async function renameProject(db: Kysely<Tables>, id: string, name: string): Promise<void> {
	const { document, revision } = await loadProject(db, id);
	const patch = diffProjects(document, checkDocument({ ...document, name }));
	if (patch.length) await saveEdit(db, id, revision, { label: 'Rename project', patch });
}

/** Hides a project; `restoreProject` brings it back. */
export async function deleteProject(db: Db, id: string): Promise<void> {
	await setDeleted(db, id, new Date());
}

export async function restoreProject(db: Db, id: string): Promise<void> {
	await setDeleted(db, id, null);
}

/**
 * Accepts an edit that is based on `base`: the document and the log change together or not at all.
 * Throws a StaleError when `base` is not the current revision, and what `applyPatch` throws.
 */
export async function saveEdit(
	db: Kysely<Tables>,
	id: string,
	base: number,
	edit: { label: string; patch: Patch }
): Promise<StoredProject> {
	return db.transaction().execute(async (trx) => {
		const current = toStored(await liveRow(trx, id, true), id);
		if (current.revision !== base) throw new StaleError(current.revision, await editsSince(trx, id, base));
		const document = applyPatch(current.document, edit.patch);
		const revision = base + 1;
		await trx
			.updateTable('project')
			.set({ document: JSON.stringify(document), revision, updated_at: new Date() })
			.where('id', '=', id)
			.execute();
		await trx
			.insertInto('edit')
			.values({ project_id: id, revision, label: edit.label, patch: JSON.stringify(edit.patch) })
			.execute();
		return { id, revision, document };
	});
}

/** Edits after a revision, oldest first. */
export async function editsSince(db: Db, id: string, revision: number): Promise<LoggedEdit[]> {
	const rows = await db
		.selectFrom('edit')
		.select(['revision', 'label', 'patch'])
		.where('project_id', '=', id)
		.where('revision', '>', revision)
		.orderBy('revision')
		.execute();
	return rows as LoggedEdit[];
}

const UUID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i;

async function liveRow(db: Db, id: string, lock = false): Promise<ProjectRow | undefined> {
	if (!UUID.test(id)) return undefined;
	const query = db.selectFrom('project').selectAll().where('id', '=', id).where('deleted_at', 'is', null);
	return (lock ? query.forUpdate() : query).executeTakeFirst();
}

function toStored(row: ProjectRow | undefined, id: string): StoredProject {
	if (!row) throw notFound(id);
	// jsonb does not keep the order of keys; reading through the schema brings it back.
	return { id: row.id, revision: row.revision, document: checkDocument(row.document) };
}

async function setDeleted(db: Db, id: string, deleted_at: Date | null): Promise<void> {
	if (!UUID.test(id)) throw notFound(id);
	const { numUpdatedRows } = await db
		.updateTable('project')
		.set({ deleted_at })
		.where('id', '=', id)
		.executeTakeFirst();
	if (numUpdatedRows === 0n) throw notFound(id);
}

const notFound = (id: string) => new ZygasterError('not-found', `There is no project at this address (${id}).`);

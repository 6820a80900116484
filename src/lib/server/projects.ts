import type { Kysely } from 'kysely';
import { dropContent } from '../../core/content.ts';
import { contentNames } from '../../core/project/contents.ts';
import { diffProjects } from '../../core/project/diff.ts';
import { checkDocument } from '../../core/project/read.ts';
import type { Project } from '../../core/project/schema.ts';
import { access, mustHave, PROGRAM, type Actor } from './actor.ts';
import { useContents } from './contents.ts';
import type { Tables } from './database/tables.ts';
import { documentAt, putState, remember, type Db } from './documents.ts';
import { saveEdit } from './edits.ts';
import { liveProject, mustBeId, notFound } from './liveProject.ts';
import { audit } from './log.ts';
import { mayHaveProject, roomOf } from './quotas.ts';

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

/** A deleted project waits so long before it goes for good. */
export const DAYS_DELETED = 30;

/** Projects that are not deleted, last changed first. */
export async function listProjects(actor: Actor, db: Db): Promise<ProjectListing[]> {
	const rows = await db
		.selectFrom('project')
		.select(['id', 'revision', 'updated_at', 'name'])
		.where('deleted_at', 'is', null)
		.orderBy('updated_at', 'desc')
		.orderBy('id')
		.execute();
	return rows
		.filter((row) => access(actor, row.id, 'read'))
		.map(({ updated_at, ...row }) => ({ ...row, updatedAt: updated_at }));
}

/** Deleted projects that can still be brought back, last deleted first. */
export async function listDeleted(actor: Actor, db: Db): Promise<{ id: string; name: string; deletedAt: Date }[]> {
	const rows = await db
		.selectFrom('project')
		.select(['id', 'name', 'deleted_at'])
		.where('deleted_at', 'is not', null)
		.orderBy('deleted_at', 'desc')
		.execute();
	return rows
		.filter((row) => access(actor, row.id, 'delete'))
		.map(({ deleted_at, ...row }) => ({ ...row, deletedAt: deleted_at! }));
}

/** Throws a ZygasterError with code `not-found` for an unknown or deleted project. */
export async function loadProject(actor: Actor, db: Db, id: string): Promise<StoredProject> {
	const { revision } = await liveProject(actor, db, id, 'read');
	const document = await documentAt(db, id, revision);
	remember(id, revision, document);
	return { id, revision, document };
}

/**
 * Takes a project in, with the contents that came with it; one with an id that is there already stays as it is. Answers its
 * id. Throws a ZygasterError with code `quota` where its maker may have no more.
 */
export async function createProject(actor: Actor, db: Kysely<Tables>, document: Project, id?: string): Promise<string> {
	const names = contentNames(document);
	await mayHaveProject(actor, db);
	await roomOf(actor, db);
	const owner = actor.id === PROGRAM.id ? null : actor.id;
	const made = await db.transaction().execute(async (trx) => {
		const row = await trx
			.insertInto('project')
			.values({ ...(id ? { id } : {}), name: document.name, owner })
			.onConflict((c) => c.column('id').doNothing())
			.returning('id')
			.executeTakeFirst();
		if (row) {
			await useContents(trx, actor, row.id, names);
			const bytes = await putState(trx, row.id, 1, document);
			await trx.updateTable('project').set({ bytes }).where('id', '=', row.id).execute();
		}
		return row?.id;
	});
	dropContent(names);
	if (made) audit(actor, 'create project', { project: made });
	return made ?? id!;
}

/** A copy under a name that tells so; answers its id. */
export async function duplicateProject(actor: Actor, db: Kysely<Tables>, id: string): Promise<string> {
	const { document } = await loadProject(actor, db, id);
	return createProject(actor, db, checkDocument({ ...document, name: `${document.name} copy`.slice(0, 120) }));
}

/** Changes the name by an edit like any other. */
export async function renameProject(actor: Actor, db: Kysely<Tables>, id: string, name: string): Promise<void> {
	const { document, revision } = await loadProject(actor, db, id);
	const patch = diffProjects(document, checkDocument({ ...document, name }));
	if (patch.length)
		await saveEdit(actor, db, id, { id: crypto.randomUUID(), base: revision, label: 'Rename project', patch });
}

/** Hides a project; `restoreProject` brings it back within `DAYS_DELETED`. */
export const deleteProject = (actor: Actor, db: Db, id: string) => setDeleted(actor, db, id, new Date());

export async function restoreProject(actor: Actor, db: Db, id: string): Promise<void> {
	await mayHaveProject(actor, db);
	await setDeleted(actor, db, id, null);
}

async function setDeleted(actor: Actor, db: Db, id: string, deleted_at: Date | null): Promise<void> {
	mustBeId(id);
	mustHave(actor, id, 'delete');
	const { numUpdatedRows } = await db
		.updateTable('project')
		.set({ deleted_at })
		.where('id', '=', id)
		.executeTakeFirst();
	if (numUpdatedRows === 0n) throw notFound(id);
	audit(actor, deleted_at ? 'delete project' : 'restore project', { project: id });
}

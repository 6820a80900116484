import type { Kysely } from 'kysely';
import { ZygasterError } from '../../core/errors.ts';
import type { Project } from '../../core/project/schema.ts';
import type { Actor } from './actor.ts';
import type { Tables } from './database/tables.ts';
import { documentAt, type Db } from './documents.ts';
import { liveProject } from './liveProject.ts';

/** A state that a project has had. */
export interface Revision {
	readonly revision: number;
	/** What led to it; of the first one nothing is known. */
	readonly label: string | null;
	readonly actor: string | null;
	readonly at: Date | null;
	/** Given by somebody, to find it again. */
	readonly name: string | null;
}

const MOST_NAME = 120;

/** Revisions up to `to`, the newest first, `limit` of them at most; of all of them only those with a name, when `named`. */
export async function listRevisions(
	actor: Actor,
	db: Db,
	id: string,
	{ to, limit, named = false }: { to?: number | undefined; limit: number; named?: boolean }
): Promise<Revision[]> {
	const { revision: newest } = await liveProject(actor, db, id, 'read');
	const upTo = Math.min(to ?? newest, newest);
	const edits = await db
		.selectFrom('edit')
		.leftJoin('revision_name', (j) =>
			j.onRef('revision_name.project_id', '=', 'edit.project_id').onRef('revision_name.revision', '=', 'edit.revision')
		)
		.select(['edit.revision', 'edit.label', 'edit.actor', 'edit.created_at as at', 'revision_name.name'])
		.where('edit.project_id', '=', id)
		.where('edit.revision', '<=', upTo)
		.$if(named, (q) => q.where('revision_name.name', 'is not', null))
		.orderBy('edit.revision', 'desc')
		.limit(limit)
		.execute();
	if (edits.length === limit || upTo < 1) return edits;
	const first = await firstRevision(db, id);
	return named && first.name === null ? edits : [...edits, first];
}

async function firstRevision(db: Db, id: string): Promise<Revision> {
	const row = await db
		.selectFrom('project')
		.leftJoin('revision_name', (j) =>
			j.onRef('revision_name.project_id', '=', 'project.id').on('revision_name.revision', '=', 1)
		)
		.select(['project.created_at as at', 'revision_name.name'])
		.where('project.id', '=', id)
		.executeTakeFirstOrThrow();
	return { revision: 1, label: null, actor: null, ...row };
}

/** The document as it was. Throws a ZygasterError with code `not-found` for a revision that there is not. */
export async function documentOf(actor: Actor, db: Db, id: string, revision: number): Promise<Project> {
	await liveProject(actor, db, id, 'read');
	return documentAt(db, id, revision);
}

/** Gives a revision a name, or takes it away when the name is empty. */
export async function nameRevision(
	actor: Actor,
	db: Kysely<Tables>,
	id: string,
	revision: number,
	name: string
): Promise<void> {
	const { revision: newest } = await liveProject(actor, db, id, 'edit');
	if (revision < 1 || revision > newest)
		throw new ZygasterError('not-found', `This project has no revision ${revision}.`);
	const text = name.trim().normalize('NFC');
	if (text.length > MOST_NAME || /\p{Cc}/u.test(text))
		throw new ZygasterError('request', `A name has at most ${MOST_NAME} letters, and no control characters.`);
	if (text === '')
		await db.deleteFrom('revision_name').where('project_id', '=', id).where('revision', '=', revision).execute();
	else
		await db
			.insertInto('revision_name')
			.values({ project_id: id, revision, name: text })
			.onConflict((c) => c.columns(['project_id', 'revision']).doUpdateSet({ name: text }))
			.execute();
}

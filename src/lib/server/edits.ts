import { sql, type Kysely, type Transaction } from 'kysely';
import { ZygasterError } from '../../core/errors.ts';
import { contentNames } from '../../core/project/contents.ts';
import { applyPatch, type Patch } from '../../core/project/patch.ts';
import { ClashError, rebase, type Clash } from '../../core/project/rebase.ts';
import { VERSION, type Project } from '../../core/project/schema.ts';
import { mustHave, type Actor } from './actor.ts';
import { contentNamesIn, useContents } from './contents.ts';
import type { Tables } from './database/tables.ts';
import { documentAt, keepState, putState, remember, type Db } from './documents.ts';
import { liveProject } from './liveProject.ts';
import { saves } from './metrics.ts';
import { mayGrow } from './quotas.ts';

/** An edit on its way in. */
export interface NewEdit {
	/** A UUID by whoever made it: sent twice, it is taken once. */
	readonly id: string;
	/** The revision that it was made on. */
	readonly base: number;
	readonly label: string;
	readonly patch: Patch;
	/** Refused when the project has moved on from `base`, even where both would stand together. */
	readonly strict?: boolean;
}

export interface LoggedEdit {
	readonly revision: number;
	readonly id: string;
	readonly label: string;
	readonly patch: Patch;
	/** Who made it, by the id of their browser. */
	readonly actor: string | null;
	readonly at: Date;
}

/** What came of an edit: the revision it led to, and all edits since the one that it was made on, itself among them. */
export interface SavedEdit {
	readonly revision: number;
	readonly edits: readonly LoggedEdit[];
}

/** Thrown where a project has moved on and the edit cannot stand beside what came between. */
export class StaleError extends ZygasterError {
	readonly revision: number;
	readonly edits: readonly LoggedEdit[];
	readonly clashes: readonly Clash[];

	constructor(
		code: 'stale' | 'clash',
		message: string,
		revision: number,
		edits: readonly LoggedEdit[],
		clashes: readonly Clash[] = []
	) {
		super(code, message);
		this.revision = revision;
		this.edits = edits;
		this.clashes = clashes;
	}
}

/** The channel on which servers tell each other that a project has a new edit. */
export const EDIT_CHANNEL = 'zygaster_edit';

/**
 * Takes an edit: log and revision change together or not at all. One that was made on an earlier revision is put on top
 * of what came between, where both touch different places. An edit that has been taken already is answered as it was
 * then. Throws a StaleError, what `applyPatch` throws, and a ZygasterError with code `quota`.
 */
export async function saveEdit(actor: Actor, db: Kysely<Tables>, id: string, edit: NewEdit): Promise<SavedEdit> {
	const { saved, document } = await db.transaction().execute(async (trx) => {
		const { revision: current, bytes: held } = await liveProject(actor, trx, id, 'edit', true);
		const { between, taken } = await sinceBase(trx, id, edit);
		if (taken)
			return { saved: { revision: taken.revision, edits: between.filter((e) => e.revision <= taken.revision) } };
		if (edit.base > current)
			throw new StaleError(
				'stale',
				`This edit was made on revision ${edit.base}, and the server has ${current}: an earlier state may have been brought back there.`,
				current,
				[]
			);
		if (edit.strict && between.length)
			throw new StaleError('stale', 'This project was changed elsewhere since you last saved.', current, between);
		const before = await documentAt(trx, id, current);
		const { patch, project } = put(before, edit, between, current);
		const revision = current + 1;
		await useContents(trx, actor, id, contentNamesIn(patch));
		// A state of an older version gives way before the first patch that is of this one.
		if (!isPresent.has(id) && (await isOlder(trx, id, current))) {
			await useContents(trx, actor, id, contentNames(before));
			await putState(trx, id, current, before);
		}
		const text = JSON.stringify(patch);
		const bytes = Number(held) + text.length;
		mayGrow(bytes);
		const row = {
			project_id: id,
			revision,
			id: edit.id,
			actor: actor.id,
			label: edit.label,
			patch: text
		};
		const { created_at } = await trx
			.insertInto('edit')
			.values(row)
			.returning(['created_at', sql`pg_notify(${EDIT_CHANNEL}, ${id})`.as('told')])
			.executeTakeFirstOrThrow();
		await trx
			.updateTable('project')
			.set({ revision, bytes, updated_at: new Date(), ...(project.name === before.name ? {} : { name: project.name }) })
			.where('id', '=', id)
			.execute();
		await keepState(trx, id, revision, project);
		const own = { revision, id: edit.id, label: edit.label, patch, actor: actor.id, at: created_at };
		return { saved: { revision, edits: [...between, own] }, document: project };
	});
	if (document) {
		saves.inc();
		remember(id, saved.revision, document);
		isPresent.add(id);
	}
	return saved;
}

/** The edit on top of the project as it is, after what came between. */
function put(before: Project, edit: NewEdit, between: readonly LoggedEdit[], current: number) {
	if (!between.length) return { patch: edit.patch, project: applyPatch(before, edit.patch) };
	try {
		return rebase(
			before,
			edit.patch,
			between.map((e) => e.patch)
		);
	} catch (cause) {
		if (!(cause instanceof ClashError)) throw cause;
		throw new StaleError('clash', `This was changed elsewhere too: ${cause.message}`, current, between, cause.clashes);
	}
}

/** What came after the revision that an edit was made on, and the edit itself where it has been taken already. */
async function sinceBase(trx: Transaction<Tables>, project: string, { id, base }: NewEdit) {
	const rows = await trx
		.selectFrom('edit')
		.select(LOGGED)
		.where('project_id', '=', project)
		.where((e) => e.or([e('revision', '>', base), e('id', '=', id)]))
		.orderBy('revision')
		.execute();
	const edits = rows.map(logged);
	return { between: edits.filter((e) => e.revision > base), taken: edits.find((e) => e.id === id) };
}

/** Projects whose newest state is known to be of the present version, since this process has saved on it. */
const isPresent = new Set<string>();

/** Whether what stands at a revision is of an older version of the document than this program writes. */
async function isOlder(trx: Transaction<Tables>, id: string, revision: number): Promise<boolean> {
	const row = await trx
		.selectFrom('project_state')
		.select('version')
		.where('project_id', '=', id)
		.where('revision', '<=', revision)
		.orderBy('revision', 'desc')
		.limit(1)
		.executeTakeFirst();
	return row !== undefined && row.version < VERSION;
}

/** Edits after a revision, oldest first. */
export async function editsSince(actor: Actor, db: Db, id: string, revision: number): Promise<LoggedEdit[]> {
	mustHave(actor, id, 'read');
	const rows = await db
		.selectFrom('edit')
		.select(LOGGED)
		.where('project_id', '=', id)
		.where('revision', '>', revision)
		.orderBy('revision')
		.execute();
	return rows.map(logged);
}

const LOGGED = ['revision', 'id', 'label', 'patch', 'actor', 'created_at as at'] as const;

const logged = (row: Omit<LoggedEdit, 'patch'> & { readonly patch: unknown }): LoggedEdit => ({
	...row,
	patch: row.patch as Patch
});

import type { Kysely } from 'kysely';
import { ZygasterError } from '../../core/errors.ts';
import { checkKitFile, type KitFile } from '../../core/project/kitFile.ts';
import type { Actor } from './actor.ts';
import type { Tables } from './database/tables.ts';

type Db = Kysely<Tables>;

export interface LibraryKit {
	readonly id: string;
	readonly name: string;
	readonly updatedAt: Date;
}

const UUID = /^[0-9a-f]{8}-([0-9a-f]{4}-){3}[0-9a-f]{12}$/i;

/** The kits of one user, by name. */
export async function listKits(actor: Actor, db: Db): Promise<LibraryKit[]> {
	const rows = await db
		.selectFrom('kit')
		.select(['id', 'name', 'updated_at'])
		.where('owner', '=', actor.id)
		.orderBy('name')
		.execute();
	return rows.map(({ id, name, updated_at }) => ({ id, name, updatedAt: updated_at }));
}

/** Keeps a kit under its name; one of the same name is replaced. */
export async function keepKit(actor: Actor, db: Db, file: KitFile): Promise<string> {
	const row = { owner: actor.id, name: file.kits[0]!.name, file: JSON.stringify(file) };
	const { id } = await db
		.insertInto('kit')
		.values(row)
		.onConflict((c) => c.columns(['owner', 'name']).doUpdateSet({ file: row.file, updated_at: new Date() }))
		.returning('id')
		.executeTakeFirstOrThrow();
	return id;
}

/** Throws a ZygasterError with code `not-found` for a kit that the user does not have. */
export async function loadKit(actor: Actor, db: Db, id: string): Promise<KitFile> {
	const row = UUID.test(id)
		? await db.selectFrom('kit').select('file').where('owner', '=', actor.id).where('id', '=', id).executeTakeFirst()
		: undefined;
	if (!row) throw missing();
	return checkKitFile(row.file);
}

/** Throws a ZygasterError with code `not-found` for a kit that the user does not have. */
export async function dropKit(actor: Actor, db: Db, id: string): Promise<void> {
	const gone = UUID.test(id)
		? await db.deleteFrom('kit').where('owner', '=', actor.id).where('id', '=', id).executeTakeFirst()
		: undefined;
	if (!gone || gone.numDeletedRows === 0n) throw missing();
}

const missing = () => new ZygasterError('not-found', 'There is no such kit in your library; it may have been removed.');

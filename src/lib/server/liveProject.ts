import { ZygasterError } from '../../core/errors.ts';
import { mustHave, type Actor, type Right } from './actor.ts';
import type { Db } from './documents.ts';

const UUID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i;

/** Whether a text is an id as the database makes them. */
export const isUuid = (text: string): boolean => UUID.test(text);

/** A project that is there and may be used so; `lock` lets others wait until the transaction ends. */
export async function liveProject(
	actor: Actor,
	db: Db,
	id: string,
	right: Right,
	lock = false
): Promise<{ readonly revision: number; readonly name: string; readonly bytes: string }> {
	mustBeId(id);
	mustHave(actor, id, right);
	const query = db
		.selectFrom('project')
		.select(['revision', 'name', 'bytes'])
		.where('id', '=', id)
		.where('deleted_at', 'is', null);
	const row = await (lock ? query.forUpdate() : query).executeTakeFirst();
	if (!row) throw notFound(id);
	return row;
}

/** Throws a ZygasterError with code `not-found` for what is no id of a project at all. */
export function mustBeId(id: string): void {
	if (!isUuid(id)) throw notFound(id);
}

export const notFound = (id: string) => new ZygasterError('not-found', `There is no project at this address (${id}).`);

import { createHash, randomBytes } from 'node:crypto';
import { ZygasterError } from '../../core/errors.ts';
import type { Actor } from './actor.ts';
import type { Db } from './documents.ts';
import { isUuid } from './liveProject.ts';
import { audit } from './log.ts';

/** What tokens begin with, so that one that has got into a file by mistake is found. */
const PREFIX = 'zygaster_';
const BYTES = 32;
/** Of one person. */
const MOST = 50;
/** The time of use is noted this often, so that reading does not write each time. */
const NOTED_EVERY_MS = 60_000;

export interface TokenLine {
	readonly id: string;
	readonly name: string;
	readonly createdAt: Date;
	readonly usedAt: Date | null;
}

const hashOf = (token: string) => createHash('sha256').update(token).digest('hex');

/** Makes a token, which is told this once and kept as a hash. Throws a ZygasterError where there are too many. */
export async function makeToken(actor: Actor, db: Db, name: string): Promise<string> {
	if ((await listTokens(actor, db)).length >= MOST)
		throw new ZygasterError('conflict', `There are ${MOST} tokens; withdraw one that is not needed any more.`);
	const token = PREFIX + randomBytes(BYTES).toString('base64url');
	await db
		.insertInto('token')
		.values({ owner: actor.id, name, hash: hashOf(token) })
		.execute();
	audit(actor, 'make token', { name });
	return token;
}

/** Somebody's tokens, the newest first. */
export async function listTokens(actor: Actor, db: Db): Promise<TokenLine[]> {
	const rows = await db
		.selectFrom('token')
		.select(['id', 'name', 'created_at', 'used_at'])
		.where('owner', '=', actor.id)
		.orderBy('created_at', 'desc')
		.execute();
	return rows.map(({ created_at, used_at, ...row }) => ({ ...row, createdAt: created_at, usedAt: used_at }));
}

/** Withdraws a token at once. Throws a ZygasterError where there is no such one. */
export async function withdrawToken(actor: Actor, db: Db, id: string): Promise<void> {
	const gone = isUuid(id)
		? await db.deleteFrom('token').where('id', '=', id).where('owner', '=', actor.id).executeTakeFirst()
		: undefined;
	if (!gone?.numDeletedRows) throw new ZygasterError('not-found', 'There is no such token any more.');
	audit(actor, 'withdraw token', { token: id });
}

/** Whose token a request shows (RFC 6750). Throws a ZygasterError with code `no-token`. */
export async function actorOfToken(db: Db, authorization: string | null): Promise<Actor> {
	const token = /^Bearer ([\w-]{20,200})$/i.exec(authorization ?? '')?.[1];
	const row =
		token === undefined
			? undefined
			: await db
					.selectFrom('token')
					.select(['id', 'owner', 'used_at'])
					.where('hash', '=', hashOf(token))
					.executeTakeFirst();
	if (!row)
		throw new ZygasterError(
			'no-token',
			'Show a token that is in force, as Authorization: Bearer zygaster_...; tokens are made on the page of projects.'
		);
	if (!row.used_at || Date.now() - row.used_at.getTime() > NOTED_EVERY_MS)
		await db.updateTable('token').set({ used_at: new Date() }).where('id', '=', row.id).execute();
	return { id: row.owner };
}

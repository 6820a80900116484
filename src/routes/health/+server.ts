import { json } from '@sveltejs/kit';
import { sql } from 'kysely';
import { ZygasterError } from '$core/errors.ts';
import { app } from '$lib/server/app.ts';
import { answer } from '$lib/server/respond.ts';
import type { RequestHandler } from './$types';

/** Answers 200 where projects can be loaded and saved; 503 with the reason where they cannot. */
export const GET: RequestHandler = () =>
	answer(async () => {
		const { db } = await app();
		await db.selectFrom('project').select('id').limit(1).execute();
		const { rows } = await sql<{ writable: boolean }>`
			select not pg_is_in_recovery() and current_setting('transaction_read_only') = 'off' as writable
		`.execute(db);
		if (!rows[0]?.writable)
			throw new ZygasterError('database-away', 'Projects can be looked at, but the database takes no edits now.');
		return json({ status: 'ok', load: true, save: true });
	});

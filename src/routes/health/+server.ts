import { text } from '@sveltejs/kit';
import { sql } from 'kysely';
import { app } from '$lib/server/app.ts';
import { answer } from '$lib/server/respond.ts';
import type { RequestHandler } from './$types';

/** Answers 200 when the database does. */
export const GET: RequestHandler = () =>
	answer(async () => {
		const { db } = await app();
		await sql`select 1`.execute(db);
		return text('ok');
	});

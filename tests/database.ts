import { randomBytes } from 'node:crypto';
import { sql } from 'kysely';
import { ZygasterError } from '../src/core/errors.ts';
import { connect } from '../src/lib/server/database/connect.ts';

/** A fresh, empty database in the cluster of the tests; `drop` takes it away. */
export async function freshDatabase() {
	const base = process.env.DATABASE_URL;
	if (!base) throw new Error('DATABASE_URL is not set; run the tests with “npm test”.');
	const name = `test_${randomBytes(6).toString('hex')}`;
	// Whoever makes databases may do more than the application, to whom this one belongs.
	const admin = connect(process.env.DATABASE_ADMIN_URL ?? base);
	await sql`create database ${sql.id(name)} owner ${sql.id(new URL(base).username)}`.execute(admin);
	const url = base.replace(/[^/]*$/, name);
	const db = connect(url);
	return {
		db,
		url,
		drop: async () => {
			await db.destroy();
			await sql`drop database ${sql.id(name)} with (force)`.execute(admin);
			await admin.destroy();
		}
	};
}

/** The code of the error that something fails with, or that it failed with nothing. */
export const codeOf = (work: Promise<unknown>): Promise<string> =>
	work.then(
		() => 'nothing',
		(e: unknown) => (e instanceof ZygasterError ? e.code : String(e))
	);

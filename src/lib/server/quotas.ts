import { sql } from 'kysely';
import { ZygasterError } from '../../core/errors.ts';
import { group } from '../../core/units/print.ts';
import { PROGRAM, type Actor } from './actor.ts';
import type { Db } from './documents.ts';

/** What one may keep here: QUOTA_PROJECTS (1000), QUOTA_GB (50) and, of edits of one project, QUOTA_EDITS_GB (2); 0 is without limit. */
const limitOf = (name: string, usual: number): number => Number(process.env[name] ?? usual) || Infinity;
const GB = 1e9;
const projects = () => limitOf('QUOTA_PROJECTS', 1000);
const bytes = () => limitOf('QUOTA_GB', 50) * GB;
const editBytes = () => limitOf('QUOTA_EDITS_GB', 2) * GB;

const gigabytes = (value: number) => `${group(value / GB, value < GB ? 3 : 1)} GB`;

/** Throws a ZygasterError with code `quota` where somebody has as many projects as one may have. */
export async function mayHaveProject(actor: Actor, db: Db): Promise<void> {
	if (actor.id === PROGRAM.id) return;
	const { count } = await db
		.selectFrom('project')
		.select((e) => e.fn.countAll<string>().as('count'))
		.where('owner', '=', actor.id)
		.where('deleted_at', 'is', null)
		.executeTakeFirstOrThrow();
	if (Number(count) >= projects())
		throw new ZygasterError(
			'quota',
			`You have ${count} projects here, as many as one may have; right would be to delete one that is not needed any more.`
		);
}

/** Bytes that somebody may still bring or have made. Throws a ZygasterError with code `quota` where there are none. */
export async function roomOf(actor: Actor, db: Db): Promise<number> {
	if (actor.id === PROGRAM.id || bytes() === Infinity) return Infinity;
	const { rows } = await sql<{ kept: string }>`
		select
			(select coalesce(sum(size), 0) from content where owner = ${actor.id})
			+ (select coalesce(sum(size), 0) from handover where owner = ${actor.id})
			+ (select coalesce(sum(bytes), 0) from project where owner = ${actor.id} and deleted_at is null) as kept
	`.execute(db);
	const room = bytes() - Number(rows[0]!.kept);
	if (room <= 0) throw noRoom();
	return room;
}

/** That what somebody keeps is as much as one may. */
export const noRoom = () =>
	new ZygasterError(
		'quota',
		`Your projects, meshes and files would be more than the ${gigabytes(bytes())} that one may keep here; right would be to throw files away under Handover, or to delete projects that are not needed any more.`
	);

/** Throws a ZygasterError with code `quota` where the edits of a project are as many bytes as they may be. */
export function mayGrow(bytesOfEdits: number): void {
	if (bytesOfEdits > editBytes())
		throw new ZygasterError(
			'quota',
			`The edits of this project come to more than ${gigabytes(editBytes())}; right would be to go on with a copy, which begins anew.`
		);
}

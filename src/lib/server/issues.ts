import { z } from 'zod';
import { ZygasterError } from '../../core/errors.ts';
import type { Actor } from './actor.ts';
import type { Db } from './documents.ts';
import { isUuid, liveProject } from './liveProject.ts';

/** A state of schedules and files that was given out, kept as it was. */
export interface Issue {
	readonly id: string;
	/** The project's revision that it is. */
	readonly revision: number;
	readonly name: string;
	/** Such as A, B, C: no two issues of a project have the same. */
	readonly mark: string;
	readonly author: string;
	readonly note: string;
	readonly at: Date;
}

const line = (what: string, most: number, least = 0) =>
	z
		.string()
		.trim()
		.normalize('NFC')
		.min(least, `${what} must not be empty`)
		.max(most, `${what} has at most ${most} letters`)
		.refine((text) => !/\p{Cc}/u.test(text), `${what} may hold no control characters`);

/** What is said of a new issue; the newest revision is issued where none is named. */
export const issueSchema = z.strictObject({
	name: line('The name', 120, 1),
	mark: line('The revision', 12, 1),
	author: line('The author', 120).default(''),
	note: line('The note', 500).default(''),
	revision: z.int().min(1).optional()
});
export type NewIssue = z.output<typeof issueSchema>;

const MOST_ISSUES = 500;

/** Issues, the newest first. */
export async function listIssues(actor: Actor, db: Db, project: string): Promise<Issue[]> {
	await liveProject(actor, db, project, 'read');
	return db
		.selectFrom('issue')
		.select(['id', 'revision', 'name', 'mark', 'author', 'note', 'created_at as at'])
		.where('project_id', '=', project)
		.orderBy('created_at', 'desc')
		.orderBy('mark', 'desc')
		.execute();
}

/** An issue by its id. Throws a ZygasterError where there is none. */
export async function findIssue(actor: Actor, db: Db, project: string, id: string): Promise<Issue> {
	const issue = (await listIssues(actor, db, project)).find((i) => i.id === id);
	if (!issue) throw new ZygasterError('not-found', 'There is no such issue.');
	return issue;
}

/** Issues a revision. Throws a ZygasterError where there is no such revision, or its mark is taken. */
export async function addIssue(actor: Actor, db: Db, project: string, issue: NewIssue): Promise<Issue> {
	const { revision: newest } = await liveProject(actor, db, project, 'edit');
	const { revision = newest, ...said } = issue;
	if (revision > newest) throw new ZygasterError('not-found', `This project has no revision ${revision}.`);
	const there = await listIssues(actor, db, project);
	if (there.length >= MOST_ISSUES)
		throw new ZygasterError(
			'request',
			`A project has at most ${MOST_ISSUES} issues; right would be to remove old ones.`
		);
	const taken = there.find((i) => i.mark === said.mark);
	if (taken)
		throw new ZygasterError(
			'request',
			`Revision “${said.mark}” has been issued already, as “${taken.name}”; right would be the next one.`
		);
	const made = await db
		.insertInto('issue')
		.values({ project_id: project, revision, ...said })
		.returning(['id', 'created_at as at'])
		.executeTakeFirstOrThrow();
	return { ...said, revision, ...made };
}

/** Takes an issue back, such as one made by mistake; the project's revision stays. */
export async function removeIssue(actor: Actor, db: Db, project: string, id: string): Promise<void> {
	await liveProject(actor, db, project, 'edit');
	const gone = isUuid(id)
		? await db.deleteFrom('issue').where('project_id', '=', project).where('id', '=', id).executeTakeFirst()
		: undefined;
	if (!gone?.numDeletedRows) throw new ZygasterError('not-found', 'There is no such issue.');
}

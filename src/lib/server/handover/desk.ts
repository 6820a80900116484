import { sql, type Kysely } from 'kysely';
import PgBoss from 'pg-boss';
import { ZygasterError } from '../../../core/errors.ts';
import { mustHave, type Actor, type Right } from '../actor.ts';
import type { HandoverRow, Tables } from '../database/tables.ts';
import { isUuid, liveProject } from '../liveProject.ts';
import type { IssueTitle } from '../../../core/formats/writerInput.ts';
import { findIssue, listIssues, type Issue } from '../issues.ts';
import { loadProject } from '../projects.ts';
import { documentOf } from '../revisions.ts';
import type { Format } from '../../../core/formats/format.ts';
import { readOptions } from '../../../core/formats/writers.ts';
import { audit, log } from '../log.ts';
import { roomOf } from '../quotas.ts';
import { upkeep } from '../upkeep.ts';
import { tellWaiting } from './claims.ts';
import { Workshop, workshopLimits, type WorkshopLimits } from './workshop.ts';

/** Orders that one may have waiting and under way. */
const MOST_OPEN = 40;
const UPKEEP = 'upkeep';
/** Every night at 3:17. */
const UPKEEP_AT = '17 3 * * *';

const STATUS = ['id', 'format', 'state', 'progress', 'message', 'revision', 'options'] as const;
/** How an order stands. */
export interface HandoverStatus extends Pick<HandoverRow, (typeof STATUS)[number]> {
	readonly fileName: string | null;
	/** Bytes of the finished file. */
	readonly size: number | null;
	/** Mark of the issue that it is of. */
	readonly issue: string | null;
	readonly orderedAt: string;
}

/**
 * Takes orders for files: rows in PostgreSQL, made by the processes of any workshop with the same connection string, here or
 * elsewhere, so that requests are answered meanwhile.
 */
export class HandoverDesk {
	private readonly db: Kysely<Tables>;
	private readonly boss: PgBoss;
	private readonly workshop: Workshop | undefined;

	private constructor(db: Kysely<Tables>, boss: PgBoss, workshop: Workshop | undefined) {
		this.db = db;
		this.boss = boss;
		this.workshop = workshop;
	}

	/** Opens the desk, with a workshop unless others make what is ordered. */
	static async open(
		db: Kysely<Tables>,
		url: string,
		limits: WorkshopLimits | null = workshopLimits() ?? null
	): Promise<HandoverDesk> {
		const boss = new PgBoss({ connectionString: url, max: 2 });
		boss.on('error', (error) => log.warn({ err: error }, 'jobs'));
		await boss.start();
		await boss.createQueue(UPKEEP);
		await boss.schedule(UPKEEP, UPKEEP_AT);
		await boss.work(UPKEEP, async () => void (await upkeep(db)));
		return new HandoverDesk(db, boss, limits ? new Workshop(db, url, limits) : undefined);
	}

	async close(): Promise<void> {
		await this.workshop?.close();
		await this.boss.stop({ graceful: false, wait: true });
	}

	/**
	 * Orders a file of the project as it stands, whatever is edited meanwhile, or of one of its issues; answers the order's id.
	 * Throws a ZygasterError where there is no such issue, and with code `quota` where somebody keeps as much as one may.
	 */
	async order(actor: Actor, projectId: string, format: Format, options?: unknown, issueId?: string): Promise<string> {
		const settings = JSON.stringify(readOptions(format, options));
		await this.mayOrder(actor);
		await roomOf(actor, this.db);
		const issue = issueId === undefined ? undefined : await findIssue(actor, this.db, projectId, issueId);
		const { document, revision } = issue
			? { document: await documentOf(actor, this.db, projectId, issue.revision), revision: issue.revision }
			: await loadProject(actor, this.db, projectId);
		const title = issue && {
			...titleOfIssue(issue),
			earlier: (await listIssues(actor, this.db, projectId))
				.filter((i) => i.at < issue.at)
				.sort((a, b) => a.at.getTime() - b.at.getTime())
				.map(titleOfIssue)
		};
		const { id } = await this.db
			.insertInto('handover')
			.values({
				project_id: projectId,
				owner: actor.id,
				revision,
				format,
				options: settings,
				issue: title ? JSON.stringify(title) : null,
				document: JSON.stringify(document)
			})
			.returning(['id', tellWaiting])
			.executeTakeFirstOrThrow();
		audit(actor, 'order', { project: projectId, order: id, format, revision });
		return id;
	}

	async status(actor: Actor, id: string): Promise<HandoverStatus> {
		await this.mayUse(actor, id);
		const row = await this.statuses().where('id', '=', id).executeTakeFirstOrThrow();
		return statusOf(row);
	}

	/** The orders of a project, the newest first. */
	async list(actor: Actor, projectId: string, limit: number): Promise<HandoverStatus[]> {
		await liveProject(actor, this.db, projectId, 'read');
		const rows = await this.statuses()
			.where('project_id', '=', projectId)
			.orderBy('created_at', 'desc')
			.orderBy('id')
			.limit(limit)
			.execute();
		return rows.map(statusOf);
	}

	private statuses() {
		return this.db.selectFrom('handover').select([...STATUS, 'file_name', 'size', 'issue', 'created_at']);
	}

	/** Stops an order that is not finished; a finished one stays. */
	async cancel(actor: Actor, id: string): Promise<void> {
		await this.mayUse(actor, id, 'edit');
		audit(actor, 'stop order', { order: id });
		await this.db
			.updateTable('handover')
			.set({ state: 'cancelled' })
			.where('id', '=', id)
			.where('state', 'in', ['waiting', 'running'])
			.execute();
	}

	/** Throws the order of a finished or failed file away, with the file. One that is under way is stopped first, by `cancel`. */
	async remove(actor: Actor, id: string): Promise<void> {
		await this.mayUse(actor, id, 'edit');
		const { numDeletedRows } = await this.db
			.deleteFrom('handover')
			.where('id', '=', id)
			.where('state', 'not in', ['waiting', 'running'])
			.executeTakeFirst();
		if (numDeletedRows === 0n)
			throw new ZygasterError('conflict', 'This file is being made; right would be to stop its order first.');
		audit(actor, 'remove order', { order: id });
	}

	/** The finished file, piece after piece. Throws a ZygasterError while there is none. */
	async file(
		actor: Actor,
		id: string
	): Promise<{ name: string; media: string; size: number; chunks: AsyncGenerator<Buffer> }> {
		await this.mayUse(actor, id);
		const row = await this.db
			.selectFrom('handover')
			.select(['file_name', 'media_type', 'size'])
			.where('id', '=', id)
			.where('state', '=', 'done')
			.executeTakeFirst();
		if (!row?.file_name) throw new ZygasterError('not-found', 'This file is not ready.');
		return { name: row.file_name, media: row.media_type!, size: Number(row.size), chunks: this.chunks(id) };
	}

	/** Orders that wait and are under way, and how long the oldest has waited, seconds. */
	async load(): Promise<{ waiting: number; running: number; longestWait: number }> {
		const { rows } = await sql<{ waiting: number; running: number; longestWait: number }>`
			select
				count(*) filter (where state = 'waiting')::int as waiting,
				count(*) filter (where state = 'running')::int as running,
				coalesce(extract(epoch from now() - min(created_at) filter (where state = 'waiting')), 0)::float as "longestWait"
			from handover where state in ('waiting', 'running')
		`.execute(this.db);
		return rows[0]!;
	}

	/** Throws a ZygasterError with code `too-many` where somebody has as many orders open as one may have. */
	private async mayOrder(actor: Actor): Promise<void> {
		const { open } = await this.db
			.selectFrom('handover')
			.select((e) => e.fn.countAll<string>().as('open'))
			.where('owner', '=', actor.id)
			.where('state', 'in', ['waiting', 'running'])
			.executeTakeFirstOrThrow();
		if (Number(open) >= MOST_OPEN)
			throw new ZygasterError(
				'too-many',
				`${open} of your orders are not done yet, as many as one may have; right would be to wait for one, or to stop one.`
			);
	}

	/** Throws a ZygasterError with code `not-found` or `forbidden`. */
	private async mayUse(actor: Actor, id: string, right: Right = 'read'): Promise<void> {
		const row = isUuid(id)
			? await this.db.selectFrom('handover').select('project_id').where('id', '=', id).executeTakeFirst()
			: undefined;
		if (!row) throw new ZygasterError('not-found', 'There is no such file order.');
		mustHave(actor, row.project_id, right);
	}

	private async *chunks(id: string): AsyncGenerator<Buffer> {
		for (let number = 0; ; number++) {
			const row = await this.db
				.selectFrom('handover_chunk')
				.select('bytes')
				.where('handover_id', '=', id)
				.where('number', '=', number)
				.executeTakeFirst();
			if (!row) return;
			yield row.bytes;
		}
	}
}

type StatusRow = Pick<HandoverRow, (typeof STATUS)[number] | 'file_name' | 'size' | 'issue' | 'created_at'>;

const statusOf = ({ file_name, size, issue, created_at, ...rest }: StatusRow): HandoverStatus => ({
	...rest,
	fileName: file_name,
	size: size === null ? null : Number(size),
	issue: issue?.mark ?? null,
	orderedAt: created_at.toISOString()
});

const titleOfIssue = ({ mark, name, author, at }: Issue): IssueTitle => ({
	mark,
	name,
	author,
	date: at.toISOString().slice(0, 10)
});

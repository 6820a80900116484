import { join } from 'node:path';
import { MessageChannel } from 'node:worker_threads';
import type { Kysely } from 'kysely';
import PgBoss from 'pg-boss';
import { Piscina } from 'piscina';
import { messageOf, ZygasterError } from '../../../core/errors.ts';
import { contentNames } from '../../../core/project/contents.ts';
import { mustHave, PROGRAM, type Actor } from '../actor.ts';
import type { HandoverRow, Tables } from '../database/tables.ts';
import { readContents } from '../contents.ts';
import { isUuid, liveProject } from '../liveProject.ts';
import type { IssueTitle } from '../../../core/formats/writerInput.ts';
import type { Project } from '../../../core/project/schema.ts';
import { findIssue, listIssues, type Issue } from '../issues.ts';
import { loadProject } from '../projects.ts';
import { documentOf } from '../revisions.ts';
import { readOptions, WRITERS, type Format } from '../../../core/formats/writers.ts';
import { checkDocument } from '../../../core/project/read.ts';
import { upkeep } from '../upkeep.ts';
import type { WriteMessage, WriteTask } from './writeFile.ts';

const QUEUE = 'handover';
const UPKEEP = 'upkeep';
/** Every night at 3:17. */
const UPKEEP_AT = '17 3 * * *';
/** Progress is written, and a cancel noticed, this often. */
const BEAT_MS = 300;

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
 * Takes orders for files and makes them: a job in PostgreSQL, taken by any process with the same
 * connection string, worked in a thread so that requests are answered meanwhile.
 */
export class HandoverDesk {
	private readonly db: Kysely<Tables>;
	private readonly boss: PgBoss;
	private readonly threads: Piscina;

	private constructor(db: Kysely<Tables>, boss: PgBoss, threads: Piscina) {
		this.db = db;
		this.boss = boss;
		this.threads = threads;
	}

	static async open(db: Kysely<Tables>, url: string): Promise<HandoverDesk> {
		const boss = new PgBoss({ connectionString: url, max: 3 });
		boss.on('error', (error) => console.error(`jobs: ${error.message}`));
		await boss.start();
		await boss.createQueue(QUEUE);
		const threads = new Piscina({
			filename: join(process.cwd(), 'dist', 'writeFile.mjs'),
			minThreads: 0,
			maxThreads: 2
		});
		const desk = new HandoverDesk(db, boss, threads);
		await boss.createQueue(UPKEEP);
		await boss.schedule(UPKEEP, UPKEEP_AT);
		await boss.work(UPKEEP, async () => void (await upkeep(db)));
		await boss.work<{ id: string }>(QUEUE, { pollingIntervalSeconds: 0.5 }, async (jobs) => {
			for (const { data } of jobs) await desk.make(data.id);
		});
		return desk;
	}

	async close(): Promise<void> {
		await this.boss.stop({ graceful: false, wait: true });
		await this.threads.destroy();
	}

	/**
	 * Orders a file of the project as it stands, whatever is edited meanwhile, or of one of its issues; answers the order's id.
	 * Throws a ZygasterError where there is no such issue.
	 */
	async order(actor: Actor, projectId: string, format: Format, options?: unknown, issueId?: string): Promise<string> {
		const settings = JSON.stringify(readOptions(format, options));
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
				revision,
				format,
				options: settings,
				issue: title ? JSON.stringify(title) : null,
				document: JSON.stringify(document)
			})
			.returning('id')
			.executeTakeFirstOrThrow();
		await this.boss.send(QUEUE, { id }, { retryLimit: 1 });
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
		await this.mayUse(actor, id);
		await this.db
			.updateTable('handover')
			.set({ state: 'cancelled' })
			.where('id', '=', id)
			.where('state', 'in', ['waiting', 'running'])
			.execute();
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

	/** Throws a ZygasterError with code `not-found` or `forbidden`. */
	private async mayUse(actor: Actor, id: string): Promise<void> {
		const row = isUuid(id)
			? await this.db.selectFrom('handover').select('project_id').where('id', '=', id).executeTakeFirst()
			: undefined;
		if (!row) throw new ZygasterError('not-found', 'There is no such file order.');
		mustHave(actor, row.project_id, 'read');
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

	private async make(id: string): Promise<void> {
		const order = await this.db
			.updateTable('handover')
			.set({ state: 'running' })
			.where('id', '=', id)
			.where('state', 'in', ['waiting', 'running'])
			.returning(['document', 'format', 'options', 'issue'])
			.executeTakeFirst();
		if (!order) return;
		const format = order.format as Format;
		try {
			// jsonb does not keep the order of keys; reading through the schema brings it back.
			const project = checkDocument(order.document);
			const issue = order.issue ?? undefined;
			// What an attempt that was cut off has left.
			await this.db.deleteFrom('handover_chunk').where('handover_id', '=', id).execute();
			const contents = await readContents(PROGRAM, this.db, contentNames(project));
			const size = await this.runThread(id, { project, format, options: order.options, issue, contents });
			await this.finish(id, {
				state: 'done',
				progress: 1,
				file_name: fileName(project, format, order.options, issue),
				media_type: WRITERS[format].media,
				size: String(size)
			});
		} catch (cause) {
			await this.finish(id, { state: 'failed', message: messageOf(cause) });
		}
	}

	/** Runs the core in a thread, keeps the pieces that it sends, writes its progress down, and ends it when the order was cancelled. */
	private async runThread(id: string, task: Omit<WriteTask, 'port'>): Promise<number> {
		const { port1, port2 } = new MessageChannel();
		const abort = new AbortController();
		let progress = 0;
		let number = 0;
		/** Pieces are put down one after the other. */
		let kept: Promise<unknown> = Promise.resolve();
		const keep = (bytes: Buffer) => {
			const row = { handover_id: id, number: number++, bytes };
			kept = kept.then(() => this.db.insertInto('handover_chunk').values(row).execute());
			// Heard of below; a rejection that nobody has caught by then would end the process.
			kept.catch(() => undefined);
		};
		const ended = new Promise((resolve) => port1.once('close', resolve));
		port1.on('message', (message: WriteMessage) => {
			if ('progress' in message) progress = message.progress;
			else keep(Buffer.from(message.chunk.buffer));
		});
		const beat = setInterval(() => {
			this.db
				.updateTable('handover')
				.set({ progress })
				.where('id', '=', id)
				.returning('state')
				.executeTakeFirst()
				.then((row) => row?.state === 'cancelled' && abort.abort())
				.catch((cause: unknown) => console.error(`handover: ${messageOf(cause)}`));
		}, BEAT_MS);
		try {
			const size = (await this.threads.run(
				{ ...task, port: port2 },
				{ signal: abort.signal, transferList: [port2, ...[...task.contents.values()].map((bytes) => bytes.buffer)] }
			)) as number;
			await ended;
			await kept;
			return size;
		} finally {
			clearInterval(beat);
			port1.close();
		}
	}

	/** Closes an order, unless it was cancelled meanwhile. */
	private async finish(id: string, values: Partial<HandoverRow>): Promise<void> {
		const { created_at: _, options: _options, issue: _issue, document: _document, ...settable } = values;
		await this.db
			.updateTable('handover')
			.set({ ...settable, document: null })
			.where('id', '=', id)
			.where('state', '=', 'running')
			.execute();
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

/** Files that are called as the project is. */
const PLAIN_NAMES: readonly Format[] = ['json', 'csv', 'glb'];

/** Such as `town-hall-b-parts.csv`: the project, its issue, and which of its files it is. */
export function fileName(project: Project, format: Format, options: unknown, issue: IssueTitle | undefined): string {
	const { extension, name } = WRITERS[format];
	const { table, sheet } = options as { table?: string; sheet?: string };
	const own =
		format === 'tables'
			? project.tables.find((t) => t.id === table)
			: project.handover.sheets.find((s) => s.id === sheet);
	const words = [
		project.name,
		...(issue ? [issue.mark] : []),
		...(own
			? [own.name]
			: format === 'set' && project.handover.name
				? [project.handover.name]
				: PLAIN_NAMES.includes(format)
					? []
					: [name])
	];
	return `${words.map(fileStem).join('-')}.${extension}`;
}

/** A file name made of a project's name, safe on every system. */
export function fileStem(name: string): string {
	const plain = name
		.normalize('NFKD')
		.replace(/[^\w\s-]/g, '')
		.trim()
		.toLowerCase()
		.replace(/[\s_]+/g, '-');
	return plain || 'project';
}

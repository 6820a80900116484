import { fork, type ChildProcess } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { availableParallelism, setPriority, totalmem } from 'node:os';
import { join } from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';
import type { Kysely } from 'kysely';
import { Listener } from '../database/listener.ts';
import { log } from '../log.ts';
import type { Tables } from '../database/tables.ts';
import { claimOrder, keepClaim, MOST_ATTEMPTS, putBack, settleOrder, WAITING_CHANNEL, type Claim } from './claims.ts';
import type { OrderNews, OrderTask } from './orderProcess.ts';
import { watchOrder, type OrderEnd } from './watchOrder.ts';

/** What the processes of a workshop may take. */
export interface WorkshopLimits {
	/** Orders that are made at once, besides one more of somebody who has none under way. */
	readonly lanes: number;
	/** Of one order, ms and bytes. */
	readonly time: number;
	readonly memory: number;
}

const MB = 2 ** 20;
const MINUTE_MS = 60_000;
/** The share of the machine that all orders may take together. */
const MEMORY_SHARE = 0.6;

/**
 * The limits that the environment names: ORDER_LANES (as many as there are cores), ORDER_MINUTES (15), ORDER_MEMORY_MB (its
 * share of the machine's). Nothing with ORDER_LANES=0: orders are made elsewhere.
 */
export function workshopLimits({ ORDER_LANES, ORDER_MINUTES, ORDER_MEMORY_MB }: NodeJS.ProcessEnv = process.env) {
	const lanes = Number(ORDER_LANES ?? availableParallelism());
	const memory = ORDER_MEMORY_MB ? Number(ORDER_MEMORY_MB) * MB : (totalmem() * MEMORY_SHARE) / (lanes + 1);
	const limits: WorkshopLimits = { lanes, time: Number(ORDER_MINUTES ?? 15) * MINUTE_MS, memory };
	if (!Object.values(limits).every((v) => Number.isFinite(v) && v >= 0))
		throw new Error('ORDER_LANES, ORDER_MINUTES and ORDER_MEMORY_MB must be numbers from 0.');
	return lanes > 0 ? limits : undefined;
}

/** How often orders are looked for of which nothing is told: those that somebody has left. */
const LOOK_MS = 1000;
/** A process that holds more than this after an order is not used again. */
const TIDY_BYTES = 700 * MB;
/** Others go first: requests are answered while files are made. */
const NICE = 10;

/** Makes orders in processes of its own, each within its limits. An orderly stop puts back what is under way. */
export class Workshop {
	private readonly db: Kysely<Tables>;
	private readonly url: string;
	private readonly limits: WorkshopLimits;
	private readonly look: number;
	private readonly lanes: Promise<void>[];
	private readonly listener: Listener;
	private readonly idle: ChildProcess[] = [];
	private readonly busy = new Set<ChildProcess>();
	private readonly closing = new AbortController();
	private sleeping = new AbortController();
	/** Lanes for everybody that make nothing just now. */
	private free: number;
	/** For whom the lanes make something: known here a moment longer than in the database. */
	private readonly served: (string | null)[] = [];

	/** `look` is how often it looks for orders of which nothing is told, ms. */
	constructor(db: Kysely<Tables>, url: string, limits: WorkshopLimits, look = LOOK_MS) {
		this.look = look;
		this.db = db;
		this.url = url;
		this.limits = limits;
		this.free = limits.lanes;
		const wake = () => this.wake();
		this.listener = new Listener(url, [WAITING_CHANNEL], { told: wake, connected: wake });
		this.lanes = Array.from({ length: limits.lanes + 1 }, (_, k) => this.lane(k === limits.lanes));
	}

	/** There may be an order to be made. */
	private wake(): void {
		this.sleeping.abort();
		this.sleeping = new AbortController();
	}

	/** How many orders are being made. */
	get underWay(): number {
		return this.busy.size;
	}

	async close(): Promise<void> {
		this.closing.abort();
		this.wake();
		for (const child of [...this.busy, ...this.idle]) child.kill('SIGKILL');
		await this.listener.close();
		await Promise.all(this.lanes);
	}

	/**
	 * Takes orders until the workshop closes. The last lane is for newcomers, so that a small order need not wait behind
	 * many: it takes none while another lane is free, since that one takes the next order in a moment.
	 */
	private async lane(newcomers: boolean): Promise<void> {
		while (!this.closing.signal.aborted) {
			// Of before the question: what is told meanwhile is not slept through.
			const { signal } = this.sleeping;
			const claim =
				newcomers && this.free > 0
					? undefined
					: await claimOrder(this.db, newcomers ? this.served : undefined).catch((cause: unknown) => this.note(cause));
			if (!claim) {
				await wait(this.look, undefined, { signal }).catch(() => undefined);
				continue;
			}
			// The one for newcomers hears of it, too.
			if (!newcomers && --this.free === 0) this.wake();
			this.served.push(claim.owner);
			await this.make(claim).catch((cause: unknown) => this.note(cause));
			this.served.splice(this.served.indexOf(claim.owner), 1);
			if (!newcomers) this.free++;
		}
	}

	private note(cause: unknown): undefined {
		if (!this.closing.signal.aborted) log.warn({ err: cause }, 'orders');
	}

	private async make(claim: Claim): Promise<void> {
		if (claim.attempts > MOST_ATTEMPTS)
			return settleOrder(this.db, claim, {
				state: 'failed',
				message: `It was begun ${MOST_ATTEMPTS} times, and whoever made it ended each time; order fewer faces, or less of them.`
			});
		const child = this.idle.pop() ?? this.start();
		this.busy.add(child);
		const { end, broken } = await this.watch(child, claim);
		this.busy.delete(child);
		if (end === 'settled' && !this.closing.signal.aborted && (residentBytes(child.pid) ?? 0) < TIDY_BYTES)
			this.idle.push(child);
		else child.kill('SIGKILL');
		if (end === 'settled' || end === 'stopped') return;
		if (this.closing.signal.aborted) return putBack(this.db, claim, false);
		if (end === 'time' || end === 'memory')
			return settleOrder(this.db, claim, { state: 'failed', message: this.wordsOf(end) });
		this.note(broken ?? 'a process that made an order has ended');
		return putBack(this.db, claim, true);
	}

	private wordsOf(end: 'time' | 'memory'): string {
		const { time, memory } = this.limits;
		const limit =
			end === 'time'
				? `took more than ${time < MINUTE_MS ? `${time / 1000} seconds` : `${+(time / MINUTE_MS).toFixed(1)} minutes`}`
				: `needed more than ${Math.round(memory / MB)} MB of memory`;
		return `This file ${limit}, which is the limit here. Right would be fewer cells, or only some of the faces.`;
	}

	private start(): ChildProcess {
		const child = fork(join(process.cwd(), 'dist', 'orderProcess.mjs'), {
			env: { ...process.env, DATABASE_URL: this.url },
			execArgv: [`--max-old-space-size=${Math.round(this.limits.memory / MB)}`],
			serialization: 'advanced',
			stdio: ['ignore', 'ignore', 'inherit', 'ipc']
		});
		try {
			setPriority(child.pid!, NICE);
		} catch {
			// It has ended already, which is heard of below.
		}
		child.on('error', (cause) => this.note(cause));
		child.once('exit', () => {
			const at = this.idle.indexOf(child);
			if (at >= 0) this.idle.splice(at, 1);
		});
		return child;
	}

	/** Has a process make an order; answers how that ended. */
	private async watch(child: ChildProcess, claim: Claim): Promise<{ end: OrderEnd; broken: string | undefined }> {
		const { time, memory } = this.limits;
		const begun = performance.now();
		let progress = 0;
		let broken: string | undefined;
		let settle: (end: 'settled' | 'broken') => void;
		const ended = new Promise<'settled' | 'broken'>((resolve) => (settle = resolve));
		const hear = (news: OrderNews) => {
			if ('progress' in news) progress = news.progress;
			else if ('settled' in news) settle('settled');
			else {
				({ broken } = news);
				settle('broken');
			}
		};
		const gone = () => settle('broken');
		child.on('message', hear).once('exit', gone).once('error', gone);
		const over = () => {
			if (this.closing.signal.aborted) return 'broken';
			if (performance.now() - begun > time) return 'time';
			return (residentBytes(child.pid) ?? 0) > memory ? 'memory' : undefined;
		};
		// While the database is away nobody else hears of the order, either.
		const keep = () => keepClaim(this.db, claim, progress).catch((cause: unknown) => (this.note(cause), true));
		child.send({ ...claim, memory } satisfies OrderTask, () => undefined);
		try {
			return { end: await watchOrder({ ended, over, keep }), broken };
		} finally {
			child.off('message', hear).off('exit', gone).off('error', gone);
		}
	}
}

const PAGE_BYTES = 4096;

/** What a process holds in memory, where the system tells (Linux: proc(5), statm). */
function residentBytes(pid: number | undefined): number | undefined {
	try {
		return Number(readFileSync(`/proc/${pid}/statm`, 'utf8').split(' ')[1]) * PAGE_BYTES;
	} catch {
		return undefined;
	}
}

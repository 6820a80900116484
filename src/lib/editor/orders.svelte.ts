import { messageOf } from '../../core/errors.ts';

/** An order for a file, as the server has it. */
export interface Order {
	readonly id: string;
	readonly format: string;
	readonly state: 'waiting' | 'running' | 'done' | 'failed' | 'cancelled';
	/** 0 to 1. */
	readonly progress: number;
	readonly message: string | null;
	readonly revision: number;
	readonly options: OrderOptions;
	readonly fileName: string | null;
	/** Bytes of the finished file. */
	readonly size: number | null;
	/** Mark of the issue that it is of. */
	readonly issue: string | null;
	readonly orderedAt: string;
}
export type OrderOptions = Readonly<Record<string, unknown>>;

export const isUnderWay = ({ state }: Pick<Order, 'state'>): boolean => state === 'waiting' || state === 'running';
export const addressOf = ({ id }: Pick<Order, 'id'>): string => `/api/handover/${id}/file`;

/** Which file an order is for, whatever else is chosen for it. */
export function fileKey(format: string, { table, sheet, sheets }: OrderOptions): string {
	return JSON.stringify([format, table ?? null, sheet ?? null, sheets ?? null]);
}

const POLL_MS = 400;
/** After a question that failed the next one waits longer each time, up to this. */
const MOST_WAIT_MS = 10_000;

/** The orders of a project, also those of earlier visits and of others; followed while one is under way. */
export class OrderBook {
	list = $state.raw<readonly Order[]>([]);
	/** Why the last question to the server failed; nothing once one is answered. */
	trouble = $state<string>();
	private readonly project: string;
	private following: Promise<void> | undefined;
	private closed = false;
	private readonly take: (address: string) => void;

	constructor(project: string, take: (address: string) => void = (address) => window.location.assign(address)) {
		this.project = project;
		this.take = take;
	}

	/** The newest order of a file that was not stopped. */
	newest(format: string, options: OrderOptions): Order | undefined {
		const key = fileKey(format, options);
		return this.list.find((o) => o.state !== 'cancelled' && fileKey(o.format, o.options) === key);
	}

	/** Orders a file of the project as it is saved, or of an issue, and takes it once it is there. Answers what went wrong at once. */
	async order(format: string, options: OrderOptions, issue?: string): Promise<string | undefined> {
		try {
			const { id } = await ask<{ id: string }>(`/api/projects/${this.project}/handover`, {
				method: 'POST',
				body: JSON.stringify({ format, options, issue })
			});
			await this.refresh();
			await this.settled(id);
			return undefined;
		} catch (cause) {
			return messageOf(cause);
		}
	}

	async cancel(id: string): Promise<void> {
		await fetch(`/api/handover/${id}`, { method: 'DELETE' });
		await this.refresh();
	}

	/** Asks for all orders, and follows those that are under way. */
	async refresh(): Promise<void> {
		this.list = await ask<Order[]>(`/api/projects/${this.project}/handover`);
		this.trouble = undefined;
		if (this.list.some(isUnderWay)) void this.follow();
	}

	close(): void {
		this.closed = true;
	}

	private async settled(id: string): Promise<void> {
		for (;;) {
			const order = this.list.find((o) => o.id === id);
			if (!order || this.closed) return;
			if (!isUnderWay(order)) {
				if (order.state === 'done') this.take(addressOf(order));
				return;
			}
			await this.follow();
		}
	}

	private follow(): Promise<void> {
		return (this.following ??= this.poll().finally(() => (this.following = undefined)));
	}

	/** One failed question is not the end: the next one may be answered. */
	private async poll(): Promise<void> {
		for (let wait = POLL_MS; this.list.some(isUnderWay) && !this.closed;) {
			await new Promise((resolve) => setTimeout(resolve, wait));
			try {
				this.list = await ask<Order[]>(`/api/projects/${this.project}/handover`);
				this.trouble = undefined;
				wait = POLL_MS;
			} catch (cause) {
				this.trouble = messageOf(cause);
				wait = Math.min(wait * 2, MOST_WAIT_MS);
			}
		}
	}
}

async function ask<T>(address: string, init?: RequestInit): Promise<T> {
	const response = await fetch(address, { headers: { 'content-type': 'application/json' }, ...init });
	const body = (await response.json()) as T & { message?: string };
	if (!response.ok) throw new Error(body.message ?? response.statusText);
	return body;
}

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

/** The orders of a project, also those of earlier visits and of others, as the server tells of them. */
export class OrderBook {
	list = $state.raw<readonly Order[]>([]);
	/** Why nothing is heard of orders that are under way; nothing while something is. */
	trouble = $state<string>();
	private readonly project: string;
	/** Orders of this page, taken once they are there. */
	private mine: readonly string[] = [];
	private readonly take: (address: string) => void;
	/** How often. */
	private heard = 0;

	constructor(project: string, take: (address: string) => void = download) {
		this.project = project;
		this.take = take;
	}

	/** The newest order of a file that was not stopped. */
	newest(format: string, options: OrderOptions): Order | undefined {
		const key = fileKey(format, options);
		return this.list.find((o) => o.state !== 'cancelled' && fileKey(o.format, o.options) === key);
	}

	/** Orders a file of the project as it is saved, or of an issue; it is taken once it is there. Answers what went wrong at once. */
	async order(format: string, options: OrderOptions, issue?: string): Promise<string | undefined> {
		try {
			const { id } = await ask<{ id: string }>(this.address, {
				method: 'POST',
				body: JSON.stringify({ format, options, issue })
			});
			this.mine = [...this.mine, id];
			await this.refresh();
			return undefined;
		} catch (cause) {
			return messageOf(cause);
		}
	}

	/** Stops an order that is under way. */
	async cancel(id: string): Promise<void> {
		await this.without(`/api/handover/${id}`);
	}

	/** Throws an order that is settled away, with its file. */
	async remove(id: string): Promise<void> {
		await this.without(`/api/handover/${id}/file`);
	}

	/** Asks for all orders. What has been heard meanwhile is newer than the answer, and every change is told. */
	async refresh(): Promise<void> {
		const heard = this.heard;
		const orders = await ask<Order[]>(this.address);
		if (this.heard === heard) this.hear(orders);
	}

	/** All orders as they stand now. */
	hear(orders: readonly Order[]): void {
		this.heard++;
		this.list = orders;
		this.trouble = undefined;
		const settled = orders.filter((o) => this.mine.includes(o.id) && !isUnderWay(o));
		this.mine = this.mine.filter((id) => settled.every((o) => o.id !== id));
		for (const order of settled) if (order.state === 'done') this.take(addressOf(order));
	}

	/** The server is not heard any more. */
	lost(): void {
		this.trouble = 'The server cannot be reached.';
	}

	private get address(): string {
		return `/api/projects/${this.project}/handover`;
	}

	private async without(address: string): Promise<void> {
		try {
			await ask(address, { method: 'DELETE' });
			await this.refresh();
		} catch (cause) {
			this.trouble = messageOf(cause);
		}
	}
}

/** Several at once: each by a link of its own, since of places that the window is sent to only the last is gone to. */
function download(address: string): void {
	const link = document.createElement('a');
	link.href = address;
	link.download = '';
	link.click();
}

async function ask<T>(address: string, init?: RequestInit): Promise<T> {
	const response = await fetch(address, { headers: { 'content-type': 'application/json' }, ...init });
	const body = (response.status === 204 ? {} : await response.json()) as T & { message?: string };
	if (!response.ok) throw new Error(body.message ?? response.statusText);
	return body;
}

import { messageOf } from '../../core/errors.ts';

/** How an order for a file stands. */
export type OrderState =
	| { readonly kind: 'none' }
	| { readonly kind: 'working'; readonly progress: number }
	| { readonly kind: 'done'; readonly address: string; readonly revision: number }
	| { readonly kind: 'failed'; readonly message: string };

const POLL_MS = 300;

interface Status {
	readonly state: 'waiting' | 'running' | 'done' | 'failed' | 'cancelled';
	readonly progress: number;
	readonly message: string | null;
	readonly revision: number;
}

/** One file of the handover: ordered from the server, followed, taken or stopped. */
export class FileOrder {
	state = $state.raw<OrderState>({ kind: 'none' });
	private id: string | undefined;

	/** Orders the file of a project as it is saved, or of an issue; resolves when it is there, failed or stopped. */
	async order(project: string, format: string, options: object, issue?: string): Promise<void> {
		try {
			this.state = { kind: 'working', progress: 0 };
			const { id } = await ask<{ id: string }>(`/api/projects/${project}/handover`, {
				method: 'POST',
				body: JSON.stringify({ format, options, issue })
			});
			this.id = id;
			await this.follow(id);
		} catch (cause) {
			this.state = { kind: 'failed', message: messageOf(cause) };
		}
	}

	async cancel(): Promise<void> {
		const id = this.id;
		this.id = undefined;
		this.state = { kind: 'none' };
		if (id) await fetch(`/api/handover/${id}`, { method: 'DELETE' });
	}

	private async follow(id: string): Promise<void> {
		while (this.id === id) {
			const status = await ask<Status>(`/api/handover/${id}`);
			if (this.id !== id) return;
			if (status.state === 'done')
				this.state = { kind: 'done', address: `/api/handover/${id}/file`, revision: status.revision };
			else if (status.state === 'failed')
				this.state = { kind: 'failed', message: status.message ?? 'The file could not be made.' };
			else if (status.state === 'cancelled') this.state = { kind: 'none' };
			else this.state = { kind: 'working', progress: status.progress };
			if (this.state.kind !== 'working') return;
			await new Promise((resolve) => setTimeout(resolve, POLL_MS));
		}
	}
}

async function ask<T>(address: string, init?: RequestInit): Promise<T> {
	const response = await fetch(address, { headers: { 'content-type': 'application/json' }, ...init });
	const body = (await response.json()) as T & { message?: string };
	if (!response.ok) throw new Error(body.message ?? response.statusText);
	return body;
}

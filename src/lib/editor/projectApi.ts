import { checkDocument } from '../../core/project/read.ts';
import type { Project } from '../../core/project/schema.ts';
import type { Edit, LoggedEdit, SendAnswer } from './editSync.ts';
import type { Order } from './orders.svelte.ts';

/** Bodies up to this size are sent on when the page is closed. Source: Fetch, 64 KiB for all of them together. */
const KEEP_ALIVE_BYTES = 30_000;

interface Answer {
	readonly edits?: readonly LoggedEdit[];
	readonly code?: string;
	readonly message?: string;
}

/** The project as the server has it now. Throws an Error in the user's words. */
export async function fetchProject(id: string): Promise<{ document: Project; revision: number }> {
	const body = await ask<{ document: unknown; revision: number }>(`/api/projects/${id}`);
	return { document: checkDocument(body.document), revision: body.revision };
}

/** The edits after a revision. Throws an Error in the user's words. */
export const fetchEdits = (id: string, since: number): Promise<LoggedEdit[]> =>
	ask<LoggedEdit[]>(`/api/projects/${id}/edits?since=${since}`);

async function ask<T>(address: string): Promise<T> {
	const response = await fetch(address);
	const body = (await response.json()) as T & { message?: string };
	if (!response.ok) throw new Error(body.message ?? response.statusText);
	return body;
}

/** Sends one edit that was made on a revision; it goes on its way even when the page is closed. */
export async function sendEdit(id: string, base: number, edit: Edit): Promise<SendAnswer> {
	const body = JSON.stringify({ ...edit, base });
	let response: Response;
	try {
		response = await fetch(`/api/projects/${id}`, {
			method: 'PATCH',
			headers: { 'content-type': 'application/json' },
			body,
			keepalive: body.length < KEEP_ALIVE_BYTES
		});
	} catch {
		return { kind: 'away', message: 'The server cannot be reached.' };
	}
	const answer = (await response.json().catch(() => undefined)) as Answer | undefined;
	const message = answer?.message ?? `The server answered ${response.status}.`;
	if (response.ok && answer) return { kind: 'saved', edits: answer.edits ?? [] };
	if (response.status >= 500 || !answer) return { kind: 'away', message };
	if (answer.code === 'clash') return { kind: 'clash', edits: answer.edits ?? [] };
	return answer.code === 'stale' ? { kind: 'unknown' } : { kind: 'refused', message };
}

/** What is told of a project. */
export interface Listener {
	/** An edit as it was saved, by whomever. */
	readonly edit: (edit: LoggedEdit) => void;
	/** All orders, when one of them stands differently. */
	readonly orders: (orders: readonly Order[]) => void;
	/** The line is there (again). */
	readonly open: () => void;
	/** The line is broken; it is tried again. */
	readonly lost: () => void;
}

/** A line that the server refuses is tried again after so long, and each time later, ms. */
const [RETRY_MS, MOST_RETRY_MS] = [1000, 10_000];

/**
 * Hears of a project as it changes; answers how to stop. Only a page that is seen listens, since browsers have few
 * connections to one server; one that is seen again is told what came meanwhile.
 */
export function listen(id: string, revision: () => number, { edit, orders, open, lost }: Listener): () => void {
	let source: EventSource | undefined;
	let again: ReturnType<typeof setTimeout> | undefined;
	let retry = RETRY_MS;
	const start = () => {
		if (document.visibilityState !== 'visible' || source) return;
		const line = (source = new EventSource(`/api/projects/${id}/events?since=${revision()}`));
		line.onmessage = ({ data }) => edit(JSON.parse(data as string) as LoggedEdit);
		line.addEventListener('orders', ({ data }) => orders(JSON.parse(data as string) as Order[]));
		line.onopen = () => {
			retry = RETRY_MS;
			open();
		};
		line.onerror = () => {
			lost();
			// A broken line is taken up by the browser, one that was answered by an error is not.
			if (line.readyState !== EventSource.CLOSED) return;
			stop();
			again = setTimeout(start, retry);
			retry = Math.min(retry * 2, MOST_RETRY_MS);
		};
	};
	const stop = () => {
		clearTimeout(again);
		source?.close();
		source = undefined;
	};
	const turn = () => (document.visibilityState === 'visible' ? start() : stop());
	document.addEventListener('visibilitychange', turn);
	start();
	return () => {
		document.removeEventListener('visibilitychange', turn);
		stop();
	};
}

/** A state that the project has had, as a line of a list. */
export interface RevisionLine {
	readonly revision: number;
	readonly label: string | null;
	readonly actor: string | null;
	/** ISO 8601. */
	readonly at: string | null;
	readonly name: string | null;
}

/** Revisions, the newest first. Throws an Error in the user's words. */
export function fetchRevisions(
	id: string,
	{ to, limit, named }: { to: number | undefined; limit: number; named: boolean }
): Promise<RevisionLine[]> {
	const asked = new URLSearchParams({ limit: String(limit) });
	if (to !== undefined) asked.set('to', String(to));
	if (named) asked.set('named', 'yes');
	return ask(`/api/projects/${id}/revisions?${asked}`);
}

/** The project as it was. Throws an Error in the user's words. */
export async function fetchRevision(id: string, revision: number): Promise<Project> {
	const { document } = await ask<{ document: unknown }>(`/api/projects/${id}/revisions/${revision}`);
	return checkDocument(document);
}

/** Gives a revision a name; an empty one takes it away. Throws an Error in the user's words. */
export async function nameRevision(id: string, revision: number, name: string): Promise<void> {
	await send('PUT', `/api/projects/${id}/revisions/${revision}`, { name });
}

/** A state that was given out. */
export interface IssueLine {
	readonly id: string;
	readonly revision: number;
	readonly name: string;
	readonly mark: string;
	readonly author: string;
	readonly note: string;
	/** ISO 8601. */
	readonly at: string;
}

/** Issues, the newest first. Throws an Error in the user's words. */
export const fetchIssues = (id: string): Promise<IssueLine[]> => ask(`/api/projects/${id}/issues`);

/** Issues a revision. Throws an Error in the user's words. */
export async function sendIssue(id: string, issue: Omit<IssueLine, 'id' | 'at'>): Promise<IssueLine> {
	return (await (await send('POST', `/api/projects/${id}/issues`, issue)).json()) as IssueLine;
}

/** Takes an issue back. Throws an Error in the user's words. */
export const removeIssue = async (id: string, issue: string): Promise<void> =>
	void (await send('DELETE', `/api/projects/${id}/issues/${issue}`));

async function send(method: string, address: string, body?: unknown): Promise<Response> {
	const json = body === undefined ? {} : { body: JSON.stringify(body) };
	const response = await fetch(address, { method, headers: { 'content-type': 'application/json' }, ...json });
	if (!response.ok) throw new Error(((await response.json()) as { message?: string }).message ?? response.statusText);
	return response;
}

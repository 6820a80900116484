import { checkDocument } from '../../core/project/read.ts';
import type { Project } from '../../core/project/schema.ts';
import type { Edit, EditStore, RemoteEdit, SaveAnswer } from './saveQueue.ts';

/** The project as the server has it now. Throws an Error in the user's words. */
export async function fetchProject(id: string): Promise<{ document: Project; revision: number }> {
	const response = await fetch(`/api/projects/${id}`);
	const body = (await response.json()) as { document: unknown; revision: number; message?: string };
	if (!response.ok) throw new Error(body.message ?? response.statusText);
	return { document: checkDocument(body.document), revision: body.revision };
}

/** Sends one edit, based on a revision (RFC 9110, If-Match). */
export async function sendEdit(id: string, base: number, edit: Edit): Promise<SaveAnswer> {
	let response: Response;
	try {
		response = await fetch(`/api/projects/${id}`, {
			method: 'PATCH',
			headers: { 'content-type': 'application/json', 'if-match': `"${base}"` },
			body: JSON.stringify(edit)
		});
	} catch {
		return { kind: 'away', message: 'The server cannot be reached.' };
	}
	const body = (await response.json().catch(() => ({}))) as {
		revision?: number;
		message?: string;
		edits?: RemoteEdit[];
	};
	const message = body.message ?? `The server answered ${response.status}.`;
	if (response.ok) return { kind: 'saved', revision: body.revision! };
	if (response.status === 412) return { kind: 'stale', revision: body.revision!, edits: body.edits ?? [] };
	return { kind: response.status >= 500 ? 'away' : 'refused', message };
}

/** Unsaved edits in the browser's own store, one entry a tab and project. */
export function browserStore(id: string): EditStore {
	const key = `unsaved:${id}`;
	return {
		load: () => {
			const text = sessionStorage.getItem(key);
			return text ? (JSON.parse(text) as ReturnType<EditStore['load']>) : undefined;
		},
		save: (waiting) => {
			if (waiting) sessionStorage.setItem(key, JSON.stringify(waiting));
			else sessionStorage.removeItem(key);
		}
	};
}

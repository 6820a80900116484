import { openDB, type DBSchema, type IDBPDatabase } from 'idb';
import type { Waiting } from './editSync.ts';
import type { HistoryState } from './history.ts';

/** What a tab keeps of a project. */
export interface Kept {
	readonly tab: string;
	readonly project: string;
	/** Nothing where all is saved. */
	readonly waiting?: Waiting | undefined;
}

export interface KeptHistory extends HistoryState {
	readonly tab: string;
	readonly project: string;
	/** The revision up to which the edits of others have been heard. */
	readonly revision: number;
	/** Ids of the edits that the tab has made itself, the newest last; nothing in what an earlier version has kept. */
	readonly own?: readonly string[];
}

interface Schema extends DBSchema {
	/** By project and tab. */
	waiting: { key: [string, string]; value: Kept };
	history: { key: [string, string]; value: KeptHistory };
}

let opened: Promise<IDBPDatabase<Schema>> | undefined;

/** The browser's own database, which all tabs share. Rejects where the browser forbids it. */
const database = () =>
	(opened ??= openDB<Schema>('zygaster', 1, {
		upgrade(db) {
			db.createObjectStore('waiting', { keyPath: ['project', 'tab'] });
			db.createObjectStore('history', { keyPath: ['project', 'tab'] });
		}
	}).catch((cause: unknown) => {
		opened = undefined;
		throw cause;
	}));

const rangeOf = (project: string) => IDBKeyRange.bound([project, ''], [project, '\uffff']);

export const keepWaiting = async (kept: Kept): Promise<void> => {
	const db = await database();
	if (kept.waiting) await db.put('waiting', kept);
	else await db.delete('waiting', [kept.project, kept.tab]);
};

/** What tabs have kept of a project, this one's among them. */
export const keptOf = async (project: string): Promise<Kept[]> =>
	(await database()).getAll('waiting', rangeOf(project));

export const keepHistory = async (kept: KeptHistory): Promise<void> =>
	void (await (await database()).put('history', kept));

export const historyOf = async (project: string, tab: string): Promise<KeptHistory | undefined> =>
	(await database()).get('history', [project, tab]);

/** Forgets what a tab that is gone has kept. */
export async function forget({ project, tab }: Kept): Promise<void> {
	const db = await database();
	await db.delete('waiting', [project, tab]);
	await db.delete('history', [project, tab]);
}

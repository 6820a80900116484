import type { IssueTitle } from '../../../core/formats/writerInput.ts';
import type { ColumnType, Generated, Insertable, Selectable } from 'kysely';

/** `jsonb`: read as plain data, written as JSON text. */
type Json<T> = ColumnType<T, string, string>;
type Created = ColumnType<Date, never, never>;

export interface ProjectTable {
	id: Generated<string>;
	/** That of its document, for lists. */
	name: string;
	/** Counted up by one with each accepted edit. */
	revision: Generated<number>;
	created_at: Created;
	updated_at: ColumnType<Date, never, Date>;
	/** Who made it, for quotas; nothing of those from before that was kept. */
	owner: string | null;
	/** Of the document that it began with and of its edits, as text. */
	bytes: ColumnType<string, number | undefined, number>;
	/** Set while the project waits to be brought back. */
	deleted_at: ColumnType<Date | null, never, Date | null>;
}

/** Append-only log of accepted edits. */
export interface EditTable {
	project_id: string;
	/** The revision that the edit led to. */
	revision: number;
	/** Given by whoever made it: the same edit sent twice is taken once. */
	id: Generated<string>;
	/** Who made it, as far as that is known. */
	actor: string | null;
	label: string;
	patch: Json<unknown>;
	created_at: Created;
}

/** A whole document, put down now and then; the newest one and the edits since are the project. */
export interface ProjectStateTable {
	project_id: string;
	revision: number;
	/** Of the document's form. */
	version: number;
	document: Json<unknown>;
}

/** A revision that somebody wants to find again. */
export interface RevisionNameTable {
	project_id: string;
	revision: number;
	name: string;
}

export type HandoverState = 'waiting' | 'running' | 'done' | 'failed' | 'cancelled';

/** A file made for others, from the asking to the bytes. */
export interface HandoverTable {
	id: Generated<string>;
	project_id: string;
	revision: number;
	format: string;
	state: Generated<HandoverState>;
	/** 0 to 1. */
	progress: Generated<number>;
	message: string | null;
	file_name: string | null;
	media_type: string | null;
	/** The project as it was ordered; gone once the order is settled. */
	document: ColumnType<unknown, string | null, string | null>;
	options: Json<unknown>;
	/** The issue that it is of; nothing for one of the project as it stood. */
	issue: Json<IssueTitle> | null;
	/** Bytes of the finished file. */
	size: string | null;
	/** Who ordered it; nothing of orders from before that was kept. */
	owner: string | null;
	/** Of the one attempt at it that counts, while it is being made; whoever makes it is heard of until then. */
	claim: string | null;
	lease_until: Date | null;
	/** How often it was begun. */
	attempts: Generated<number>;
	created_at: Created;
}

/** A piece of a finished file, in order from 0. */
export interface HandoverChunkTable {
	handover_id: string;
	number: number;
	bytes: Buffer;
}

/** Bytes by the hash of them, before compression. */
export interface ContentTable {
	name: string;
	size: ColumnType<string, string, string>;
	/** Who brought it first, for quotas. */
	owner: string | null;
	created_at: Created;
}

/** A piece of a content, compressed, in order from 0. */
export interface ContentChunkTable {
	name: string;
	number: number;
	bytes: Buffer;
}

/** That a project needs a content now, or did at one of its revisions. */
export interface ContentUseTable {
	project_id: string;
	name: string;
}

/** A kit that a user keeps for other projects. */
export interface KitTable {
	id: Generated<string>;
	owner: string;
	name: string;
	/** A kit file: the kit with everything that it needs. */
	file: Json<unknown>;
	updated_at: ColumnType<Date, never, Date>;
}

/** A state that was given out. */
export interface IssueTable {
	id: Generated<string>;
	project_id: string;
	revision: number;
	name: string;
	/** A, B, C, ... */
	mark: string;
	author: string;
	note: string;
	created_at: Created;
}

/** What a program shows instead of a person's cookie. */
export interface TokenTable {
	id: Generated<string>;
	owner: string;
	name: string;
	/** SHA-256 of the token, in hexadecimal digits. */
	hash: string;
	created_at: Created;
	used_at: ColumnType<Date | null, never, Date>;
}

export interface Tables {
	token: TokenTable;
	issue: IssueTable;
	kit: KitTable;
	project: ProjectTable;
	edit: EditTable;
	project_state: ProjectStateTable;
	revision_name: RevisionNameTable;
	content: ContentTable;
	content_chunk: ContentChunkTable;
	content_use: ContentUseTable;
	handover: HandoverTable;
	handover_chunk: HandoverChunkTable;
}

export type HandoverRow = Selectable<HandoverTable>;
export type NewHandover = Insertable<HandoverTable>;

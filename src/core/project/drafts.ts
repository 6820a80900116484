import { Immer, original, isDraft } from 'immer';

/** Freezing would walk through all that a change does not touch; nobody changes a document but by a draft. */
const immer = new Immer({ autoFreeze: false });

/** A draft of a document, which may be changed; what stays is shared by the document that `finishDraft` makes of it. */
export const createDraft = <T extends object>(document: T): T => immer.createDraft(document) as T;
export const finishDraft = <T extends object>(draft: T): T => immer.finishDraft(draft as never) as T;

/** What a part of a draft was before any change, to be read quickly where it is long. Not for parts that have changed. */
export const beforeDraft = <T extends object>(part: T): T => (isDraft(part) ? (original(part as never) as T) : part);

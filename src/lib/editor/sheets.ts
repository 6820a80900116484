import type { Project } from '../../core/project/schema.ts';
import { sheetSchema, VIEW_WORDS, type Sheet, type SheetView } from '../../core/project/sheets.ts';
import { copyOfJson } from '../../core/project/jsonPatch.ts';
import { freeId, freeName } from './names.ts';

const names = (draft: Project) => draft.handover.sheets.map((s) => s.name);
const taken = (draft: Project) => draft.handover.sheets.map((s) => s.id);

/** What a new sheet of a kind shows; nothing where there is nothing for it yet. */
function firstView(draft: Project, kind: SheetView['kind']): object | undefined {
	if (kind !== 'schedule') return { kind };
	const table = draft.tables[0];
	return table && { kind, table: table.id };
}

/** Adds a sheet; answers its id. Throws where there is no schedule for one. */
export function addSheet(draft: Project, kind: SheetView['kind']): string {
	const view = firstView(draft, kind);
	if (!view) throw new Error('There is no schedule of the project’s own; make one in Schedule first.');
	const id = freeId('sheet', taken(draft));
	draft.handover.sheets.push(sheetSchema.parse({ id, name: freeName(VIEW_WORDS[kind], names(draft), ' '), view }));
	return id;
}

/** Adds a copy behind a sheet; answers its id. */
export function copySheet(draft: Project, id: string): string {
	const { sheets } = draft.handover;
	const at = sheets.findIndex((s) => s.id === id);
	const copy: Sheet = { ...copyOfJson(sheets[at]!), id: freeId('sheet', taken(draft)) };
	copy.name = freeName(`${copy.name}, copy`, names(draft), ' ');
	sheets.splice(at + 1, 0, copy);
	return copy.id;
}

/** The sheet of an id in a draft. */
export const sheetIn = (draft: Project, id: string): Sheet => draft.handover.sheets.find((s) => s.id === id)!;

import type { Project } from '../../core/project/schema.ts';
import type { ReadyTable } from '../../core/schedule/own/ready.ts';
import type { Rate } from '../../core/schedule/cost/schema.ts';
import type { OwnColumn, OwnTable } from '../../core/schedule/own/schema.ts';
import { copyOfJson } from '../../core/project/jsonPatch.ts';
import { freeId } from './names.ts';

const taken = (draft: Project) => draft.tables.map((t) => t.id);
const named = (draft: Project, name: string): string => {
	const names = new Set(draft.tables.map((t) => t.name));
	if (!names.has(name)) return name;
	let n = 2;
	while (names.has(`${name} ${n}`)) n++;
	return `${name} ${n}`;
};

/** Adds a schedule that begins as a ready one; answers its id. */
export function addTable(draft: Project, ready: ReadyTable): string {
	const id = freeId('table', taken(draft));
	draft.tables.push({ ...copyOfJson(ready), id, name: named(draft, ready.name) });
	return id;
}

/** Adds a copy behind a schedule; answers its id. Notes of columns with one id are shared. */
export function copyTable(draft: Project, id: string): string {
	const at = draft.tables.findIndex((t) => t.id === id);
	const copy = copyOfJson(draft.tables[at]!);
	copy.id = freeId('table', taken(draft));
	copy.name = named(draft, `${copy.name}, copy`);
	draft.tables.splice(at + 1, 0, copy);
	return copy.id;
}

export function removeTable(draft: Project, id: string): void {
	draft.tables = draft.tables.filter((t) => t.id !== id);
	draft.handover.files = draft.handover.files.filter((f) => f.table !== id);
	const left = new Set(draft.tables.flatMap((t) => t.columns.flatMap((c) => (c.kind === 'note' ? [c.id] : []))));
	draft.notes = draft.notes.filter((n) => left.has(n.column));
}

/** A list in the order of its ids; what they do not name comes last. */
export function inOrder<Item>(list: readonly Item[], ids: readonly string[], idOf: (item: Item) => string): Item[] {
	const places = new Map(ids.map((id, k) => [id, k]));
	const place = (item: Item) => places.get(idOf(item)) ?? ids.length;
	return [...list].sort((a, b) => place(a) - place(b));
}

/** The schedule of an id in a draft. */
export const tableIn = (draft: Project, id: string): OwnTable => draft.tables.find((t) => t.id === id)!;

/** Columns that a schedule is sorted by at most. */
const MOST_SORTED = 8;

/** Sorts by a column first: rising, then falling, then not; what was sorted by before comes next. */
export function sortBy(table: OwnTable, show: string): void {
	const [first] = table.sort;
	const others = table.sort.filter((s) => s.by !== show).slice(0, MOST_SORTED - 1);
	const next = first?.by !== show ? { descending: false } : first.descending ? undefined : { descending: true };
	table.sort = [...(next ? [{ by: show, ...next }] : []), ...others];
}

/** A column that people write into. */
export const newNoteColumn = (draft: Project): OwnColumn => ({
	kind: 'note',
	id: freeId(
		'note',
		draft.tables.flatMap((t) => t.columns.flatMap((c) => (c.kind === 'note' ? [c.id] : [])))
	),
	label: 'Note'
});

/** Writes a note beside a row, or takes it away. */
export function setNote(draft: Project, column: string, row: string, text: string): void {
	const at = draft.notes.findIndex((n) => n.column === column && n.row === row);
	if (!text) {
		if (at >= 0) draft.notes.splice(at, 1);
	} else if (at >= 0) draft.notes[at]!.text = text;
	else draft.notes.push({ column, row, text });
}

/** A price for everything, to be narrowed. */
export function addRate(draft: Project): void {
	const { rates } = draft.costs;
	const id = freeId(
		'rate',
		rates.map((r) => r.id)
	);
	rates.push({ id, heading: rates.at(-1)?.heading ?? 'Material', per: 'm2', price: 0, waste: 0 });
}

/** Sets what a rate holds for; nothing stands for all. */
export function narrowRate(rate: Rate, by: 'role' | 'material' | 'kit' | 'type', value: string): void {
	if (value) rate[by] = value;
	else Reflect.deleteProperty(rate, by);
}

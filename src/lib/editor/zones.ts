import { beforeDraft } from '../../core/project/drafts.ts';
import type { Project, Zone } from '../../core/project/schema.ts';
import { freeId, freeName } from './names.ts';

type Run = Zone['parts'][number]['runs'][number];

/** A field of a face by its row and column, counted from 0. */
export interface Field {
	readonly row: number;
	readonly column: number;
}

/** Told apart by people who see colours differently (Okabe and Ito); a zone also bears its name. */
const COLOURS = ['#0072B2', '#E69F00', '#009E73', '#CC79A7', '#56B4E9', '#D55E00', '#999933'];

export function addZone(draft: Project): string {
	const id = freeId(
		'zone',
		draft.zones.map((z) => z.id)
	);
	const name = freeName(
		'Zone',
		draft.zones.map((z) => z.name),
		' '
	);
	draft.zones.push({ id, name, colour: COLOURS[draft.zones.length % COLOURS.length]!, parts: [] });
	return id;
}

export function removeZone(draft: Project, id: string): void {
	draft.zones = draft.zones.filter((z) => z.id !== id);
}

const numberOf = ({ row, column }: Field) => row * 2 ** 21 + column;

/** Numbers of the fields that a zone has on a face; `fieldNumber` makes them. */
export function zoneFields(zone: Zone, face: string): Set<number> {
	const found = new Set<number>();
	for (const [row, from, to] of zone.parts.find((p) => p.face === face)?.runs ?? [])
		for (let column = from; column <= to; column++) found.add(numberOf({ row, column }));
	return found;
}

export { numberOf as fieldNumber };

/** Adds fields of a face to a zone, or takes them away. Rows that are not touched keep their runs: O(runs x rows + fields log fields). */
export function paintZone(draft: Project, id: string, face: string, fields: readonly Field[], erase: boolean): void {
	const zone = draft.zones.find((z) => z.id === id)!;
	const p = zone.parts.findIndex((part) => part.face === face);
	const before = p < 0 ? [] : beforeDraft(zone.parts[p]!.runs);
	const rows = byRow(fields);
	const painted = [...rows].flatMap(([row, columns]) => {
		const own = new Set<number>();
		for (const [, from, to] of before.slice(...rowOf(before, row))) for (let c = from; c <= to; c++) own.add(c);
		for (const column of columns)
			if (erase) own.delete(column);
			else own.add(column);
		return runsOf(row, own);
	});
	const runs = [...before.filter(([row]) => !rows.has(row)), ...painted].sort((a, b) => a[0] - b[0] || a[1] - b[1]);
	// Frozen, so that nobody looks for drafts within.
	Object.freeze(runs);
	if (p < 0 && runs.length) zone.parts.push({ face, runs });
	else if (p >= 0 && runs.length) zone.parts[p]!.runs = runs;
	else if (p >= 0) zone.parts.splice(p, 1);
}

function byRow(fields: readonly Field[]): Map<number, number[]> {
	const rows = new Map<number, number[]>();
	for (const { row, column } of fields) rows.set(row, [...(rows.get(row) ?? []), column]);
	return rows;
}

/** From where to where the runs of a row stand, or would stand; runs are in order of their rows. */
function rowOf(runs: readonly Readonly<Run>[], row: number): [number, number] {
	const from = runs.findIndex((r) => r[0] >= row);
	if (from < 0) return [runs.length, runs.length];
	let to = from;
	while (runs[to]?.[0] === row) to++;
	return [from, to];
}

/** Columns of a row as runs, in order. */
function runsOf(row: number, columns: ReadonlySet<number>): Run[] {
	const runs: Run[] = [];
	for (const column of [...columns].sort((a, b) => a - b)) {
		const last = runs.at(-1);
		if (last?.[2] === column - 1) last[2] = column;
		else runs.push([row, column, column]);
	}
	return runs;
}

/** Takes faces that are no more out of all zones. */
export function dropZoneFaces(draft: Project, gone: (face: string) => boolean): void {
	for (const zone of draft.zones) zone.parts = zone.parts.filter((p) => !gone(p.face));
}

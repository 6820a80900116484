import type { Project, Zone } from '../../core/project/schema.ts';
import { freeName } from './names.ts';

/** A field of a face by its row and column, counted from 0. */
export interface Field {
	readonly row: number;
	readonly column: number;
}

/** Told apart by people who see colours differently (Okabe and Ito); a zone also bears its name. */
const COLOURS = ['#0072B2', '#E69F00', '#009E73', '#CC79A7', '#56B4E9', '#D55E00', '#999933'];

export function addZone(draft: Project): string {
	const id = freeName(
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

/** Adds fields of a face to a zone, or takes them away. */
export function paintZone(draft: Project, id: string, face: string, fields: readonly Field[], erase: boolean): void {
	const zone = draft.zones.find((z) => z.id === id)!;
	const all = zoneFields(zone, face);
	for (const field of fields)
		if (erase) all.delete(numberOf(field));
		else all.add(numberOf(field));
	const others = zone.parts.filter((p) => p.face !== face);
	zone.parts = all.size ? [...others, { face, runs: runsOf(all) }] : others;
}

/** Fields as runs along rows, in order. */
function runsOf(fields: ReadonlySet<number>): [number, number, number][] {
	const runs: [number, number, number][] = [];
	for (const field of [...fields].sort((a, b) => a - b)) {
		const [row, column] = [Math.floor(field / 2 ** 21), field % 2 ** 21];
		const last = runs.at(-1);
		if (last?.[0] === row && last[2] === column - 1) last[2] = column;
		else runs.push([row, column, column]);
	}
	return runs;
}

/** Takes faces that are no more out of all zones. */
export function dropZoneFaces(draft: Project, gone: (face: string) => boolean): void {
	for (const zone of draft.zones) zone.parts = zone.parts.filter((p) => !gone(p.face));
}

import type { PartGeometry } from '../kit/result.ts';
import type { HostKind } from '../kit/hosts.ts';
import type { BaySize } from '../kit/baySize.ts';
import type { Kit } from '../kit/schema.ts';
import { standsOnCells, type PlacedPart } from '../placement/place.ts';
import { kitPaths, type FaceWithPaths, type Paths } from '../placement/paths.ts';
import {
	atOfBay,
	HOST_TABLES,
	NO_ROW,
	markOf,
	type FaceSchedule,
	type FaceTable,
	type HostTableName,
	type WordColumn
} from './faceTable.ts';
import { spokesOf } from '../placement/spokes.ts';
import { edgeMark } from '../tiling/marks.ts';
import { SAME_RATIO } from '../tolerances.ts';
import { outermost, type RulePlacement } from './kitsOf.ts';

/** A part of a kit on the hosts of one placement: what is alike for all of its pieces. */
export interface PlacedPartOf {
	readonly placement: RulePlacement;
	readonly part: PlacedPart;
	/** The kit that the rule names; the placement's own may stand within it. */
	readonly kit: Kit;
	readonly table: HostTableName;
	/** By row of the placement: the row of its host in that table; NO_ROW for a host without one. */
	readonly hostRow: Int32Array;
}

/** One row for every piece of a face. What they look like stays where it is and is only named. */
export interface PartTable extends Omit<FaceTable, 'role' | 'piece' | 'at'> {
	readonly parts: readonly PlacedPartOf[];
	/** By row, into `parts`. */
	readonly part: Uint16Array;
	/** By row: the row of its placement. */
	readonly placed: Uint32Array;
	/** By row: which piece of the part’s geometry it is: of a pattern its piece on that host, of others the number among all. */
	readonly element: Uint32Array;
	/** By row: table of its host (see `HOST_TABLES`) and row there. */
	readonly hostTable: Uint8Array;
}

const TABLE_OF: Readonly<Record<HostKind, HostTableName>> = {
	cell: 'panels',
	box: 'panels',
	edge: 'edges',
	node: 'nodes',
	path: 'paths',
	bay: 'bays'
};

/** Kinds of parts whose length is that of a line; of others it is that of their outline. */
export const LINEAR: ReadonlySet<string> = new Set(['bar', 'blades', 'joined']);

/** Kinds of parts that are cut from sheets, whose area is that of one side. */
export const ONE_SIDED: ReadonlySet<string> = new Set(['sheet', 'plate', 'ribbon', 'screen']);

/** A face whose parts are listed. */
export interface FaceWithParts extends FaceWithPaths {
	readonly placements: readonly RulePlacement[];
	readonly schedule: FaceSchedule;
}

/** The parts of a face, each with where its hosts stand in the schedule. O(hosts). */
export function placedParts(face: FaceWithParts): PlacedPartOf[] {
	const { placements, schedule } = face;
	return outermost(placements).flatMap(({ placement, kit }) => {
		if (placement.parts.length === 0) return [];
		const table = standsOnCells(placement) ? 'panels' : TABLE_OF[placement.hostKind];
		const { rowOf } = schedule.tables[table];
		const hostRow =
			kit.host.kind === 'path'
				? rowsOfPaths(kitPaths(face, kit.host), placement, schedule)
				: kit.host.kind === 'bay'
					? rowsOfBays(kit.host, placement, schedule)
					: Int32Array.from(placement.hosts, (host) => rowOf[host]!);
		return placement.parts.map((part) => ({ placement, part, kit, table, hostRow }));
	});
}

/** Paths are numbered by each kit as it takes them; their rows are found by their lines. */
function rowsOfPaths(
	{ way, line, piece }: Paths,
	{ hosts }: RulePlacement,
	{ tables: { paths } }: FaceSchedule
): Int32Array {
	const rows = new Map<string, number>();
	for (let r = 0; r < paths.count; r++) rows.set(`${paths.role[r]} ${paths.columns.row![r]} ${paths.piece[r]}`, r);
	return Int32Array.from(hosts, (p) => rows.get(`${way[p]} ${line[p]} ${piece[p]}`) ?? NO_ROW);
}

/** Bays are told by their size and first cell. */
function rowsOfBays(size: BaySize, { hosts }: RulePlacement, { tables: { bays } }: FaceSchedule): Int32Array {
	const rows = new Map<number, number>();
	for (let r = 0; r < bays.count; r++) if (bays.at[r] === atOfBay(size)) rows.set(bays.host[r]!, r);
	return Int32Array.from(hosts, (cell) => rows.get(cell) ?? NO_ROW);
}

/** Which edges node pieces hold, in words: of an arm its own, of others all that meet there, in order; the first is that of parts that stand on no node. */
function edgesAtNodes({ nodes, cells, schedule: { mark, template } }: FaceWithParts, parts: readonly PlacedPartOf[]) {
	const words = [''];
	if (!parts.some((p) => p.table === 'nodes')) return { words, wordOf: () => 0 };
	const { cornerStart, corners } = spokesOf({ nodes, cells });
	const key = (a: number, b: number) => Math.min(a, b) * cornerStart.length + Math.max(a, b);
	const edges = new Map<number, number>();
	for (let e = 0; e < cells.edgeCount; e++) edges.set(key(cells.edgeNodes[e * 2]!, cells.edgeNodes[e * 2 + 1]!), e);
	const source = { ...cells, mark, template };
	const markOfSpoke = (node: number, spoke: number) =>
		edgeMark(source, edges.get(key(node, corners[cornerStart[node]! + spoke]!))!);
	const known = new Map<string, number>();
	return {
		words,
		/** `spoke` is one of the node's edges, counted from 1, or 0 for all. */
		wordOf(node: number, spoke: number): number {
			const name = `${node} ${spoke}`;
			const there = known.get(name);
			if (there !== undefined) return there;
			const valence = cornerStart[node + 1]! - cornerStart[node]! - 1;
			const all = spoke > 0 ? [spoke] : Array.from({ length: valence }, (_, k) => k + 1);
			const word = words.push(all.map((k) => markOfSpoke(node, k)).join(' ')) - 1;
			known.set(name, word);
			return word;
		}
	};
}

/** A table of such parts of a face, in the order of its rules, steps and hosts. O(pieces). */
function partTable(face: FaceWithParts, parts: readonly PlacedPartOf[]): PartTable {
	const edges = edgesAtNodes(face, parts);
	let count = 0;
	for (const { part } of parts) for (const n of part.pieces) count += n;
	const table = {
		count,
		parts,
		part: new Uint16Array(count),
		placed: new Uint32Array(count),
		element: new Uint32Array(count),
		hostTable: new Uint8Array(count),
		host: new Uint32Array(count),
		rowOf: NO_ROWS,
		words: { ...wordsOf(parts, count), towards: { words: edges.words, index: new Uint32Array(count) } },
		columns: {
			piece: new Float64Array(count),
			length: new Float64Array(count),
			area: new Float64Array(count),
			volume: new Float64Array(count),
			weight: new Float64Array(count)
		}
	};
	let r = 0;
	parts.forEach(({ placement, part, hostRow, table: name }, p) => {
		const first = firstPieces(part.geometry, hostRow.length);
		/** Pieces so far on each host: one placement may have many rows on a host. */
		const soFar = new Map<number, number>();
		for (let h = 0; h < hostRow.length; h++) {
			const n = part.pieces[h]!;
			const towards = name === 'nodes' ? edges.wordOf(placement.hosts[h]!, placement.spokes?.[h] ?? 0) : 0;
			for (let k = 0; k < n; k++, r++) {
				table.words.towards.index[r] = towards;
				const number = (soFar.get(hostRow[h]!) ?? 0) + 1;
				soFar.set(hostRow[h]!, number);
				table.part[r] = p;
				table.placed[r] = h;
				table.element[r] = first ? first[h]! + k : k;
				table.hostTable[r] = HOST_TABLES.indexOf(name);
				table.host[r] = hostRow[h]!;
				table.columns.piece[r] = number;
				const [length, share] = part.each
					? [part.each.length[h * part.each.count + k]!, part.each.share[h * part.each.count + k]!]
					: [part.length[h]! / n, 1 / n];
				table.columns.length[r] = length;
				table.columns.area[r] = part.area[h]! * share;
				table.columns.volume[r] = part.volume[h]! * share;
				table.columns.weight[r] = part.volume[h]! * share * part.density;
			}
		}
		for (const column of [table.words.kit, table.words.part, table.words.role, table.words.material])
			column.index.fill(column.of[p]!, r - sumOf(part.pieces), r);
	});
	return table;
}

const NO_ROWS = new Int32Array();

/** Which piece of the geometry is the first on each row; patterns know theirs by the host. */
function firstPieces(geometry: PartGeometry, rows: number): Uint32Array | undefined {
	if (geometry.kind === 'pattern') return undefined;
	const first = new Uint32Array(rows);
	const note = (list: Uint32Array, from: number) => {
		for (let k = list.length - 1; k >= 0; k--) first[list[k]!] = from + k;
	};
	if (geometry.kind === 'fitted') {
		let from = 0;
		for (const { rows: list } of geometry.sets) {
			note(list, from);
			from += list.length;
		}
	} else note(geometry.rows, 0);
	return first;
}

type PartWords = Record<'kit' | 'part' | 'role' | 'material', WordColumn & { readonly of: readonly number[] }>;

function wordsOf(parts: readonly PlacedPartOf[], count: number): PartWords {
	const column = (of: (part: PlacedPartOf) => string, idOf = of) => {
		const ids = [...new Set(parts.map(idOf))];
		const words = ids.map((id) => of(parts.find((p) => idOf(p) === id)!));
		return { words, index: new Uint16Array(count), of: parts.map((p) => ids.indexOf(idOf(p))) };
	};
	return {
		kit: column(
			({ placement }) => placement.kit.name,
			({ placement }) => placement.kit.id
		),
		part: column(({ part }) => (part.label ? `${part.name} (${part.label})` : part.name)),
		role: column(({ part }) => part.role),
		material: column(({ part }) => part.material)
	};
}

function sumOf(values: Float64Array): number {
	let sum = 0;
	for (const value of values) sum += value;
	return sum;
}

/** Lists what is broken in a table of parts; empty when sound. O(pieces). */
export function validateParts(table: PartTable, schedule: FaceSchedule): string[] {
	const faults: string[] = [];
	const { count, parts, part, placed, element, hostTable, host, words, columns } = table;
	const sums = parts.map(() => ({ pieces: 0, length: 0, volume: 0 }));
	for (let r = 0; r < count; r++) {
		const { placement, part: of } = parts[part[r]!] ?? {};
		if (!placement || !of) {
			faults.push(`row ${r} names part ${part[r]} of ${parts.length}`);
			continue;
		}
		if (placed[r]! >= placement.hosts.length) faults.push(`row ${r} names row ${placed[r]} of its placement`);
		const { geometry } = of;
		const pieces = piecesOf(geometry, of.pieces[placed[r]!] ?? 0);
		if (element[r]! >= pieces) faults.push(`row ${r} names piece ${element[r]} of ${pieces}`);
		const rows = schedule.tables[HOST_TABLES[hostTable[r]!]!].count;
		if (host[r]! >= rows) faults.push(`row ${r} names host ${host[r]} of ${rows}`);
		for (const { words: list, index } of Object.values(words))
			if (list[index[r]!] === undefined) faults.push(`row ${r} names a word that is none`);
		const sum = sums[part[r]!]!;
		sum.pieces++;
		sum.length += columns.length![r]!;
		sum.volume += columns.volume![r]!;
	}
	sums.forEach((sum, p) => {
		const { part: of } = parts[p]!;
		const differs = (a: number, b: number) => !(Math.abs(a - b) <= SAME_RATIO * Math.max(Math.abs(a), Math.abs(b), 1));
		for (const [name, whole] of [
			['pieces', sumOf(of.pieces)],
			['length', sumOf(of.length)],
			['volume', sumOf(of.volume)]
		] as const)
			if (differs(sum[name], whole)) faults.push(`${name} of ${of.name} come to ${sum[name]} of ${whole}`);
	});
	return faults;
}

/** How many pieces a part's geometry has; of a pattern on one host. */
function piecesOf(geometry: PartGeometry, onHost: number): number {
	switch (geometry.kind) {
		case 'pattern':
			return onHost;
		case 'fitted':
			return geometry.sets.reduce((n, set) => n + set.rows.length, 0);
		default:
			return geometry.rows.length;
	}
}

/** The mark of what a part stands on. */
export function markOfPart(schedule: FaceSchedule, { hostTable, host }: PartTable, r: number): string {
	return markOf(schedule, HOST_TABLES[hostTable[r]!]!, host[r]!);
}

/**
 * By row of a face's table of all parts: the mark of the piece, that of what it stands on, the part, and a number where there are
 * several of that name there. No two pieces have the same. O(pieces).
 */
export function pieceMarks(face: FaceWithParts): string[] {
	const table = allPartsOf(face);
	const named = table.parts.map(({ part }) => part.name);
	const names = named.map((name) => named.indexOf(name));
	// A number for each name on each host.
	const nameOf = (r: number) =>
		(table.host[r]! * HOST_TABLES.length + table.hostTable[r]!) * names.length + names[table.part[r]!]!;
	const counts = new Map<number, number>();
	for (let r = 0; r < table.count; r++) counts.set(nameOf(r), (counts.get(nameOf(r)) ?? 0) + 1);
	const soFar = new Map<number, number>();
	return Array.from({ length: table.count }, (_, r) => {
		const name = nameOf(r);
		const number = (soFar.get(name) ?? 0) + 1;
		soFar.set(name, number);
		return `${markOfPart(face.schedule, table, r)}:${named[table.part[r]!]}${counts.get(name)! > 1 ? `.${number}` : ''}`;
	});
}

/** A table with its materials by their names instead of their ids. */
export function withMaterialNames<Table extends Pick<PartTable, 'words'>>(
	table: Table,
	materials: readonly { readonly id: string; readonly name: string }[]
): Table {
	const names = new Map(materials.map((m) => [m.id, m.name]));
	const { words, index } = table.words.material!;
	const named = { words: words.map((id) => names.get(id) ?? id), index };
	return { ...table, words: { ...table.words, material: named } };
}

interface PartTables {
	readonly scheduled: PartTable;
	readonly all: PartTable;
}
const known = new WeakMap<readonly RulePlacement[], PartTables>();

function tablesOf(face: FaceWithParts): PartTables {
	const there = known.get(face.placements);
	if (there) return there;
	const placed = placedParts(face);
	const counted = placed.filter(({ part }) => part.scheduled);
	const others = placed.filter(({ part }) => !part.scheduled);
	const scheduled = partTable(face, counted);
	const tables = { scheduled, all: others.length ? partTable(face, [...counted, ...others]) : scheduled };
	known.set(face.placements, tables);
	return tables;
}

/** The table of parts of a face that count in schedules and weights, made once. */
export const partsOf = (face: FaceWithParts): PartTable => tablesOf(face).scheduled;

/** All that is made on a face, as models have it: first the rows of `partsOf`, then those of parts that do not count. */
export const allPartsOf = (face: FaceWithParts): PartTable => tablesOf(face).all;

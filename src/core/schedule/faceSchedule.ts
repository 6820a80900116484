import { FRESH_ARRAYS, type ArraySource } from '../arrays.ts';
import type { BaySize } from '../kit/baySize.ts';
import { baysOf } from '../placement/bays.ts';
import { standsOnCells } from '../placement/place.ts';
import type { DrawnPaths } from '../placement/drawn/drawPaths.ts';
import { kitPaths } from '../placement/paths.ts';
import { EDGE_READINGS } from '../readings/lineReadings.ts';
import { readingsOf, type MeasuredFace } from '../readings/faceReadings.ts';
import { cellsAround, edgeOwner, nodeOwner, type Owner } from '../tiling/marks.ts';
import {
	atOfBay,
	NO_ROW,
	type FaceSchedule,
	type FaceTable,
	type HostTableName,
	type MarkedFace
} from './faceTable.ts';
import { kitsOf, outermost, type KitsOfHosts, type RulePlacement } from './kitsOf.ts';
import { columnNames } from './tables.ts';

/** A face as its schedule needs it. */
export interface ScheduledFace extends MeasuredFace, Omit<MarkedFace, 'roles'> {
	readonly placements: readonly RulePlacement[];
	readonly drawn?: DrawnPaths;
}

/** The hosts of a face that kits have made something on, with what stands there. O(cells + parts). */
export function scheduleFace(face: ScheduledFace, arrays: ArraySource = FRESH_ARRAYS): FaceSchedule {
	const { key, name, mark, template, cells, placements } = face;
	const of = (kind: 'edge' | 'node' | 'path' | 'bay') => placements.filter((p) => p.hostKind === kind);
	const tables: Record<HostTableName, FaceTable> = {
		panels: panelTable(face, placements.filter(standsOnCells), arrays),
		edges: edgeTable(face, of('edge')),
		nodes: nodeTable(face, of('node')),
		paths: pathTable(face, of('path')),
		bays: bayTable(face, of('bay'))
	};
	return { key, name, mark, template, roles: cells.roles ?? [], drawnMarks: face.drawn?.marks ?? [], tables };
}

type Columns = Record<string, Float64Array>;

/** A table with room for `count` rows; `rowOf` says which elements have which. */
function newTable(
	name: HostTableName,
	{ sets, words }: KitsOfHosts,
	rowOf: Int32Array,
	count: number,
	arrays: ArraySource = FRESH_ARRAYS
): FaceTable & { readonly columns: Columns } {
	const table = {
		count,
		rowOf,
		host: arrays.uint32(count),
		role: new Uint8Array(count),
		piece: new Uint16Array(count),
		at: new Uint16Array(count),
		words: { kit: { words, index: new Uint16Array(count) } },
		columns: Object.fromEntries(columnNames(name).map((c) => [c, arrays.float64(count).fill(0)]))
	};
	nameRows(rowOf, sets, table.host, table.words.kit.index);
	return table;
}

// What goes over all rows stands in functions of arrays alone, which engines compile once, whatever tables they are of.

function nameRows(rowOf: Int32Array, sets: Int32Array, host: Uint32Array, kit: Uint16Array): void {
	for (let element = 0; element < rowOf.length; element++) {
		const r = rowOf[element]!;
		if (r === NO_ROW) continue;
		host[r] = element;
		kit[r] = sets[element]!;
	}
}

/** Takes the values of the hosts of rows. */
function takeRows(host: Uint32Array, from: ArrayLike<number>, to: Float64Array | Uint8Array | Uint16Array): void {
	for (let r = 0; r < host.length; r++) to[r] = from[host[r]!]!;
}

/** Adds values of a placement's hosts, times a factor, to those of their rows. */
function addRows(hosts: Uint32Array, rowOf: Int32Array, values: Float64Array, factor: number, to: Float64Array): void {
	for (let h = 0; h < hosts.length; h++) {
		const r = rowOf[hosts[h]!]!;
		if (r !== NO_ROW) to[r]! += values[h]! * factor;
	}
}

/** Adds what the scheduled parts on each host come to; `length` of those that `counts`. */
function addParts(
	{ rowOf, columns }: Pick<FaceTable, 'rowOf'> & { readonly columns: Columns },
	placements: readonly RulePlacement[],
	lengths: string,
	counts: (role: string) => boolean = () => true
): void {
	const { weight, pieces: made } = columns;
	const along = columns[lengths];
	for (const { hosts, parts } of placements)
		for (const { scheduled, role, volume, density, length, pieces } of parts) {
			if (!scheduled) continue;
			if (made) addRows(hosts, rowOf, pieces, 1, made);
			addRows(hosts, rowOf, volume, density, weight!);
			if (along && counts(role)) addRows(hosts, rowOf, length, 1, along);
		}
}

function panelTable(face: ScheduledFace, placements: readonly RulePlacement[], arrays: ArraySource): FaceTable {
	const { cells, readings } = face;
	const kits = kitsOf(cells.count, placements);
	const rowOf = arrays.int32(cells.count).fill(NO_ROW);
	const count = numberRows(countedOrder(face), kits.sets, rowOf);
	const table = newTable('panels', kits, rowOf, count, arrays);
	const { columns: out, role, piece, host } = table;
	for (const name of ['row', 'column', 'width', 'height', 'area', 'warp', 'share'] as const)
		takeRows(host, readings.columns[name], out[name]!);
	if (cells.role) takeRows(host, cells.role, role);
	if (cells.trim) takeRows(host, cells.trim.piece, piece);
	addParts(table, placements, 'frameLength', (role) => role === 'frame');
	return table;
}

/** Numbers the cells that something stands on; answers how many there are. */
function numberRows(order: Uint32Array | undefined, sets: Int32Array, rowOf: Int32Array): number {
	let count = 0;
	for (let k = 0; k < rowOf.length; k++) {
		const c = order ? order[k]! : k;
		if (sets[c]! >= 0) rowOf[c] = count++;
	}
	return count;
}

/** Cells in the order in which they are counted; as they stand where left out. */
function countedOrder({ cells: { count, order, trim } }: ScheduledFace): Uint32Array | undefined {
	if (!order) return undefined;
	const all = new Uint32Array(count);
	for (let c = 0; c < count; c++) all[c] = c;
	return all.sort(
		(a, b) =>
			order.row[a]! - order.row[b]! ||
			order.column[a]! - order.column[b]! ||
			(trim?.piece[a] ?? 0) - (trim?.piece[b] ?? 0)
	);
}

/** A table of elements that are named by a side or a corner of a cell, in the order of their marks. */
function ownedTable(
	name: 'edges' | 'nodes',
	{ cells, readings }: ScheduledFace,
	kits: KitsOfHosts,
	ownerOf: (element: number) => Owner
): FaceTable & { readonly columns: Columns } {
	const { row, column } = readings.columns;
	const pieceOf = (cell: number) => cells.trim?.piece[cell] ?? 0;
	const owned = [...kits.sets.keys()]
		.filter((e) => kits.sets[e]! >= 0)
		.map((element) => ({ element, ...ownerOf(element) }))
		.sort(
			(a, b) =>
				row[a.cell]! - row[b.cell]! ||
				column[a.cell]! - column[b.cell]! ||
				pieceOf(a.cell) - pieceOf(b.cell) ||
				a.at - b.at
		);
	const rowOf = new Int32Array(kits.sets.length).fill(NO_ROW);
	owned.forEach(({ element }, r) => (rowOf[element] = r));
	const table = newTable(name, kits, rowOf, owned.length);
	owned.forEach(({ cell, at }, r) => {
		table.columns.row![r] = row[cell]!;
		table.columns.column![r] = column[cell]!;
		table.role[r] = cells.role?.[cell] ?? 0;
		table.piece[r] = pieceOf(cell);
		table.at[r] = at;
	});
	return table;
}

function edgeTable(face: ScheduledFace, placements: readonly RulePlacement[]): FaceTable {
	const { cells } = face;
	const kits = kitsOf(placements.length ? cells.edgeCount : 0, placements);
	const table = ownedTable('edges', face, kits, (e) => edgeOwner(cells, e));
	if (table.count === 0) return { ...table, words: { ...table.words, kind: { words: [], index: new Uint16Array() } } };
	const measured = readingsOf(face);
	for (const name of ['length', 'dihedral', 'twist', 'startAngle', 'endAngle'] as const) {
		const from = measured.column(`edge.${name}`);
		table.host.forEach((e, r) => (table.columns[name]![r] = from[e]!));
	}
	const kinds = measured.column('edge.kind');
	addParts(table, placements, 'partLength');
	return {
		...table,
		words: {
			...table.words,
			kind: { words: EDGE_READINGS.kind.kinds, index: Uint16Array.from(table.host, (e) => kinds[e]!) }
		}
	};
}

function nodeTable(face: ScheduledFace, placements: readonly RulePlacement[]): FaceTable {
	const { cells, nodes } = face;
	const kits = kitsOf(placements.length ? nodes.position.length / 3 : 0, placements);
	const around = placements.length
		? cellsAround(cells, new Set([...kits.sets.keys()].filter((n) => kits.sets[n]! >= 0)))
		: undefined;
	const table = ownedTable('nodes', face, kits, (n) => nodeOwner(cells, n, around!.get(n)!));
	if (table.count === 0) return table;
	const measured = readingsOf(face);
	for (const name of ['valence', 'elevation'] as const) {
		const from = measured.column(`node.${name}`);
		table.host.forEach((n, r) => (table.columns[name]![r] = from[n]!));
	}
	addParts(table, placements, '');
	return table;
}

/** Paths of kits that take the same lines are the same hosts. */
function pathTable(face: ScheduledFace, placements: readonly RulePlacement[]): FaceTable {
	interface Line {
		readonly way: number;
		readonly line: number;
		readonly piece: number;
		readonly points: number;
		readonly length: number;
	}
	const lines = new Map<string, number>();
	const found: Line[] = [];
	// Numbered anew, since each kit counts the paths that it takes.
	const renumbered = outermost(placements).map(({ placement, kit }) => {
		if (kit.host.kind !== 'path') throw new Error(`“${kit.name}” stands on no path`);
		const paths = kitPaths(face, kit.host);
		const length = paths.reading('length')!;
		const numberOf = Uint32Array.from(paths.line, (line, p) => {
			const way = paths.way[p]!;
			const key = `${way} ${line} ${paths.piece[p]}`;
			const known = lines.get(key);
			if (known !== undefined) return known;
			const points = paths.cornerStart[p + 1]! - paths.cornerStart[p]!;
			lines.set(key, found.length);
			return found.push({ way, line, piece: paths.piece[p]!, points, length: length[p]! }) - 1;
		});
		return { ...placement, hosts: placement.hosts.map((p) => numberOf[p]!) };
	});
	const kits = kitsOf(found.length, renumbered);
	const order = [...found.keys()]
		.filter((p) => kits.sets[p]! >= 0)
		.sort((a, b) => {
			const [p, q] = [found[a]!, found[b]!];
			return p.way - q.way || p.line - q.line || p.piece - q.piece;
		});
	const rowOf = new Int32Array(found.length).fill(NO_ROW);
	order.forEach((p, r) => (rowOf[p] = r));
	const table = newTable('paths', kits, rowOf, order.length);
	order.forEach((p, r) => {
		const { way, line, piece, points, length } = found[p]!;
		table.role[r] = way;
		table.piece[r] = piece;
		table.columns.row![r] = line;
		table.columns.points![r] = points;
		table.columns.length![r] = length;
	});
	addParts(table, renumbered, 'partLength');
	return table;
}

/** Bays of different sizes that begin at the same cell are different hosts. */
function bayTable(face: ScheduledFace, placements: readonly RulePlacement[]): FaceTable {
	const { cells } = face;
	const found: { readonly cell: number; readonly size: BaySize }[] = [];
	const numbers = new Map<string, number>();
	const renumbered = outermost(placements).map(({ placement, kit }) => {
		const { host } = kit;
		if (host.kind !== 'bay') throw new Error(`“${kit.name}” stands on no bay`);
		const hosts = placement.hosts.map((cell) => {
			const key = `${atOfBay(host)} ${cell}`;
			const known = numbers.get(key) ?? found.push({ cell, size: host }) - 1;
			numbers.set(key, known);
			return known;
		});
		return { ...placement, hosts };
	});
	const kits = kitsOf(found.length, renumbered);
	const { row, column } = face.readings.columns;
	const order = [...found.keys()]
		.filter((b) => kits.sets[b]! >= 0)
		.sort((a, b) => {
			const [p, q] = [found[a]!, found[b]!];
			return row[p.cell]! - row[q.cell]! || column[p.cell]! - column[q.cell]! || atOfBay(p.size) - atOfBay(q.size);
		});
	const rowOf = new Int32Array(found.length).fill(NO_ROW);
	order.forEach((b, r) => (rowOf[b] = r));
	const table = newTable('bays', kits, rowOf, order.length);
	order.forEach((b, r) => {
		const { cell, size } = found[b]!;
		table.host[r] = cell;
		table.role[r] = cells.role?.[cell] ?? 0;
		table.at[r] = atOfBay(size);
		const { reading } = baysOf(face, size);
		for (const name of ['row', 'column', 'width', 'height', 'area', 'warp'] as const)
			table.columns[name]![r] = reading(name)![cell]!;
	});
	addParts(table, renumbered, '');
	return table;
}

import { z } from 'zod';
import type { CellTable } from './cells.ts';
import { nodesThrough } from './edges.ts';

/** Marks are made of these, and of letters, digits, spaces, points and hyphens between them. */
const FIELDS = ['face', 'row', 'column', 'role'] as const;
type Field = (typeof FIELDS)[number];

/** A stretch of a mark: text, or a field with so many digits at least (or, of a role, so many letters at most). */
export type MarkPart = { readonly text: string } | { readonly field: Field; readonly size: number };

export const DEFAULT_MARK = '{face}-{row:2}-{column:2}';

/** How the marks of a face's cells are written, such as `{face}-{row:2}-{column:2}`. */
export const markSchema = z
	.string()
	.trim()
	.max(80)
	.default(DEFAULT_MARK)
	.superRefine((template, context) => {
		const fault = faultOf(template);
		if (fault) context.addIssue({ code: 'custom', message: fault });
	});

const PIECES = /\{([^{}]*)\}|([^{}]+)/g;
const cache = new Map<string, readonly MarkPart[]>();

/** A template in its parts; those that cannot be read are left out. */
export function markParts(template: string): readonly MarkPart[] {
	const known = cache.get(template);
	if (known) return known;
	const parts = [...template.matchAll(PIECES)].flatMap(([, inside, text]): MarkPart[] => {
		if (text !== undefined) return [{ text }];
		const found = /^(\w+)(?::(\d))?$/.exec(inside!.trim());
		const field = FIELDS.find((f) => f === found?.[1]);
		return field ? [{ field, size: Number(found![2] ?? 0) }] : [];
	});
	// Templates are few; a typed one leaves its beginnings behind.
	if (cache.size > 200) cache.clear();
	cache.set(template, parts);
	return parts;
}

/** What is wrong with a template, in words; nothing when marks will differ. */
function faultOf(template: string): string | undefined {
	const bare = template
		.replace(PIECES, (whole, inside?: string) => (inside === undefined ? '' : whole))
		.replace(/\{[^{}]*\}/g, '');
	if (bare.trim()) return `has a bracket without its other half; right would be such as ${DEFAULT_MARK}`;
	for (const [whole, inside] of template.matchAll(/\{([^{}]*)\}/g))
		if (!/^(face|row|column|role)(:\d)?$/.test(inside!.trim()))
			return `knows no ${whole}; right would be {face}, {row}, {column} or {role}, with digits behind a colon such as {row:2}`;
	if (/[^\w\s.{}:/-]/.test(template))
		return 'may hold letters, digits, spaces, points, hyphens and slashes beside its fields';
	const parts = markParts(template);
	const missing = (['face', 'row', 'column'] as const).filter((f) => !parts.some((p) => 'field' in p && p.field === f));
	if (missing.length)
		return `would give several cells the same mark; right would be to add ${missing.map((f) => `{${f}}`).join(' and ')}`;
	const touching = parts.findIndex((p, k) => k > 0 && endsInDigit(parts[k - 1]!) && startsWithDigit(p));
	if (touching > 0)
		return `would give several cells the same mark, since two numbers run together; right would be something between them, such as ${DEFAULT_MARK}`;
	return undefined;
}

const endsInDigit = (p: MarkPart) => ('text' in p ? /\d$/.test(p.text) : p.field !== 'role');
const startsWithDigit = (p: MarkPart) => ('text' in p ? /^\d/.test(p.text) : p.field === 'row' || p.field === 'column');

/** What a mark is written from: rows, columns and pieces count as the face's order has them. */
export interface MarkSource extends Pick<CellTable, 'row' | 'column' | 'order' | 'role' | 'roles'> {
	/** The face's own mark. */
	readonly mark: string;
	readonly template: string;
	readonly trim?: { readonly piece: Uint8Array };
}

/** The mark of a cell. */
export function cellMark({ mark, template, row, column, order, role, roles, trim }: MarkSource, cell: number): string {
	return printMark(
		template,
		mark,
		(order?.row ?? row)[cell]!,
		(order?.column ?? column)[cell]!,
		role ? roles![role[cell]!]! : '',
		trim?.piece[cell]
	);
}

/** A mark such as `C1-07-13`: row and column are counted from 0 here, from 1 in the mark; pieces of one cell have a letter behind. */
export function printMark(template: string, face: string, row: number, column: number, role = '', piece = 0): string {
	let mark = '';
	for (const part of markParts(template)) {
		if ('text' in part) mark += part.text;
		else if (part.field === 'face') mark += face;
		else if (part.field === 'role') mark += roleText(role, part.size);
		else mark += String((part.field === 'row' ? row : column) + 1).padStart(part.size, '0');
	}
	return mark + pieceLetter(piece);
}

/** A role within a mark: its first letters when a size is given. */
export const roleText = (role: string, size: number) => (size > 0 ? role.slice(0, size) : role);

/** The letter of a piece counted from 1: a to z, then aa, ab, ...; nothing for the only one. */
export function pieceLetter(piece: number): string {
	let letters = '';
	for (let left = piece; left > 0; left = Math.floor((left - 1) / 26))
		letters = String.fromCharCode(97 + ((left - 1) % 26)) + letters;
	return letters;
}

/** A side or a corner of a cell, counted from 1: what an edge or a node is named by. */
export interface Owner {
	readonly cell: number;
	readonly at: number;
}

/** What cells are ordered by. */
type Ordered = Pick<MarkSource, 'row' | 'column' | 'order' | 'trim'>;
type Outlined = Pick<CellTable, 'cornerStart' | 'corners' | 'round'>;

/** The side that names an edge: that of its first cell in order. */
export function edgeOwner(
	source: Ordered & Outlined & Pick<CellTable, 'edgeNodes' | 'edgeCells' | 'edgeBends'>,
	edge: number
): Owner {
	const [one, other] = [source.edgeCells[2 * edge]!, source.edgeCells[2 * edge + 1]!];
	const cell = other >= 0 && comesBefore(source, other, one) ? other : one;
	const through = nodesThrough(source.edgeBends, edge);
	// A curved edge is told by its first piece, since a straight one may run between the same ends.
	const [a, b] = [source.edgeNodes[2 * edge]!, through[0] ?? source.edgeNodes[2 * edge + 1]!];
	const from = source.cornerStart[cell]!;
	const n = source.cornerStart[cell + 1]! - from;
	let at = 0;
	for (let k = 0; k < n; k++) {
		if (source.round?.[from + k] !== 1) at++;
		const [p, q] = [source.corners[from + k]!, source.corners[from + ((k + 1) % n)]!];
		if ((p === a && q === b) || (p === b && q === a)) return { cell, at };
	}
	throw new Error(`edge ${edge} is no side of cell ${cell}`);
}

/** The corner that names a node: that of the first in order of the cells around it. */
export function nodeOwner(source: Ordered & Outlined, node: number, cells: readonly number[]): Owner {
	const cell = cells.reduce((a, b) => (comesBefore(source, b, a) ? b : a));
	let at = 0;
	for (let k = source.cornerStart[cell]!; ; k++) {
		if (source.round?.[k] !== 1) at++;
		if (source.corners[k] === node) return { cell, at };
	}
}

/** The mark of an edge, such as `C1-07-13/2`. */
export function edgeMark(source: MarkSource & Parameters<typeof edgeOwner>[0], edge: number): string {
	const { cell, at } = edgeOwner(source, edge);
	return cellMark(source, cell) + hostSuffix('edge', at);
}

/** The mark of a node, such as `C1-07-13.3`. */
export function nodeMark(
	source: MarkSource & Parameters<typeof nodeOwner>[0],
	node: number,
	cells: readonly number[]
): string {
	const { cell, at } = nodeOwner(source, node, cells);
	return cellMark(source, cell) + hostSuffix('node', at);
}

/** What the mark of a side or a corner has behind that of its cell. */
export const hostSuffix = (kind: 'edge' | 'node', at: number) => (kind === 'edge' ? '/' : '.') + String(at);

/** What the mark of a bay has behind that of its first cell. */
export const baySuffix = (across: number, up: number) => `:${across}x${up}`;

/** The mark of a path: its line of the setting-out, counted from 1, such as `C1-A07`, and a letter where the line is broken. */
export const pathMark = (face: string, along: 'across' | 'up', line: number, piece: number) =>
	`${face}-${along === 'across' ? 'A' : 'U'}${String(line).padStart(2, '0')}${pieceLetter(piece)}`;

/** Whether a cell is counted before another. */
function comesBefore({ row, column, order, trim }: Ordered, a: number, b: number): boolean {
	const [rows, columns] = [order?.row ?? row, order?.column ?? column];
	return (rows[a]! - rows[b]! || columns[a]! - columns[b]! || (trim?.piece[a] ?? 0) - (trim?.piece[b] ?? 0)) < 0;
}

/** The cells that have a corner at each of some nodes; points of curves are none. */
export function cellsAround(
	{ cornerStart, corners, round }: Pick<CellTable, 'cornerStart' | 'corners' | 'round'>,
	nodes: ReadonlySet<number>
): Map<number, number[]> {
	const found = new Map<number, number[]>();
	for (let c = 0; c + 1 < cornerStart.length; c++)
		for (let k = cornerStart[c]!; k < cornerStart[c + 1]!; k++) {
			const node = corners[k]!;
			if (!nodes.has(node) || round?.[k] === 1) continue;
			const there = found.get(node);
			if (!there) found.set(node, [c]);
			else if (there.at(-1) !== c) there.push(c);
		}
	return found;
}

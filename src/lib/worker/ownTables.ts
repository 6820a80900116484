import type { Model } from '../../core/project/pipeline.ts';
import { rowsOf } from '../../core/project/rowWorld.ts';
import type { HostKind } from '../../core/kit/hosts.ts';
import type { Project } from '../../core/project/schema.ts';
import type { RulePlacement } from '../../core/schedule/kitsOf.ts';
import { partsOf, placedParts } from '../../core/schedule/parts.ts';
import { writtenFigures, type WrittenFigures } from '../../core/schedule/own/figures.ts';
import type { Rows } from '../../core/schedule/own/rows.ts';
import { runTable, type MadeColumn, type RowGroup } from '../../core/schedule/own/runTable.ts';
import type { Summary } from '../../core/schedule/own/schema.ts';
import type { LengthUnit } from '../../core/units/quantity.ts';
import type { TableUnit } from '../../core/units/tableUnits.ts';

/** A column of an own table as the drawer shows it. */
export type OwnColumnView =
	| {
			readonly kind: 'words';
			readonly label: string;
			readonly words: readonly string[];
			readonly index: Uint32Array;
			readonly summary: Summary;
	  }
	| {
			readonly kind: 'figures';
			readonly label: string;
			/** As they are written: in the column's unit. */
			readonly values: Float64Array;
			readonly written: WrittenFigures;
			readonly summary: Summary;
			/** By row: 1 below the least, 2 above the greatest. */
			readonly beyond: Uint8Array;
	  }
	/** Texts by the rows that have any. */
	| { readonly kind: 'notes'; readonly label: string; readonly id: string; readonly texts: ReadonlyMap<number, string> }
	| { readonly kind: 'fault'; readonly label: string; readonly fault: string };

export interface OwnTableView {
	readonly id: string;
	readonly columns: readonly OwnColumnView[];
	readonly order: Uint32Array;
	readonly groups: readonly RowGroup[];
	readonly totals: readonly number[];
	readonly faults: readonly string[];
	/** First row of each face, and the number of all. */
	readonly starts: Uint32Array;
}

/** Units of tables for those of the project. */
export const TABLE_UNIT_OF: Readonly<Record<LengthUnit, TableUnit>> = { mm: 'mm', m: 'm', 'ft-in': 'ft' };

/** A table of the project's own; nothing where there is none of that id. O(rows log rows). */
export function viewOwnTable(project: Project, model: Model, id: string): OwnTableView | undefined {
	const table = project.tables.find((t) => t.id === id);
	if (!table) return undefined;
	const rows = rowsOf(project, model.faces, table.of);
	const made = runTable(rows, table, project.notes);
	const written = made.columns.map((column, c) =>
		column.kind === 'figures'
			? writtenFigures(column, table.columns[c]!, TABLE_UNIT_OF[project.units], project.costs.currency)
			: undefined
	);
	const scaled = (total: number, c: number) => {
		const column = made.columns[c]!;
		return column.kind === 'figures' && column.summary !== 'count' ? total / written[c]!.per : total;
	};
	return {
		id,
		columns: made.columns.map((column, c) => viewColumn(column, c)),
		order: made.order,
		groups: made.groups.map((g) => ({ ...g, totals: g.totals.map(scaled) })),
		totals: made.totals.map(scaled),
		faults: made.faults,
		starts: rows.starts.slice()
	};

	function viewColumn(column: MadeColumn, c: number): OwnColumnView {
		switch (column.kind) {
			case 'words': {
				const { label, summary, words } = column;
				return { kind: 'words', label, summary, words: words.words, index: words.index.slice() };
			}
			case 'figures': {
				const own = table!.columns[c]!;
				const { least = -Infinity, greatest = Infinity } = own.kind === 'value' ? own : {};
				return {
					kind: 'figures',
					label: column.label,
					summary: column.summary,
					written: written[c]!,
					values: column.values.map((v) => v / written[c]!.per),
					beyond: Uint8Array.from(column.values, (v) => (v < least ? 1 : v > greatest ? 2 : 0))
				};
			}
			case 'notes': {
				const texts = new Map<number, string>();
				if (project.notes.some((n) => n.column === column.id))
					for (const row of made.order) {
						const text = column.textOf(row);
						if (text) texts.set(row, text);
					}
				return { kind: 'notes', label: column.label, id: column.id, texts };
			}
			case 'fault':
				return column;
		}
	}
}

/** A kit on a host that a row of an own table is of. */
export interface RowPlacement {
	readonly face: number;
	readonly kind: HostKind;
	/** Cell, edge, node, path or bay of the face. */
	readonly host: number;
	readonly kit: string;
	readonly rule: string;
}

/** The kit whose parameter a row of an own table shows: its piece's, or the first on its host that has it. */
export function placementOfRow(
	project: Project,
	model: Model,
	id: string,
	row: number,
	parameter: string
): RowPlacement | undefined {
	const table = project.tables.find((t) => t.id === id);
	if (!table) return undefined;
	const { face, at } = rowsOf(project, model.faces, table.of).place(row);
	const has = ({ kit }: RulePlacement) => kit.parameters.some((p) => p.name === parameter);
	const found = (placement: RulePlacement, placed: number): RowPlacement => ({
		face,
		kind: placement.hostKind,
		host: placement.hosts[placed]!,
		kit: placement.kit.id,
		rule: placement.rule
	});
	if (table.of === 'parts') {
		const { parts, part, placed } = partsOf(model.faces[face]!);
		const { placement } = parts[part[at]!]!;
		return has(placement) ? found(placement, placed[at]!) : undefined;
	}
	for (const { placement, table: of, hostRow } of placedParts(model.faces[face]!)) {
		const placed = of === table.of && has(placement) ? hostRow.indexOf(at) : -1;
		if (placed >= 0) return found(placement, placed);
	}
	return undefined;
}

/** The rows of an own table that belong to cells of the model; nothing where there is no such table. */
export function rowsAtCells(project: Project, model: Model, id: string, cells: Parameters<Rows['at']>[0]): number[] {
	const table = project.tables.find((t) => t.id === id);
	return table ? rowsOf(project, model.faces, table.of).at(cells) : [];
}

/** What a row of an own table is known by. */
export function rowKey(project: Project, model: Model, id: string, row: number): string | undefined {
	const table = project.tables.find((t) => t.id === id);
	return table && rowsOf(project, model.faces, table.of).keyOf(row);
}

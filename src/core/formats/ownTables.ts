import type { Model } from '../project/pipeline.ts';
import { rowsOf } from '../project/rowWorld.ts';
import type { Project } from '../project/schema.ts';
import { SUMMARY_WORDS, writtenFigures } from '../schedule/own/figures.ts';
import { runTable, type MadeTable, type RowGroup } from '../schedule/own/runTable.ts';
import type { OwnTable, Summary } from '../schedule/own/schema.ts';
import type { TableUnit } from '../units/tableUnits.ts';

/** A column of a table as it is written: with digits after the point where it holds figures. */
export interface LaidColumn {
	readonly head: string;
	readonly decimals?: number;
	readonly summary: Summary;
}

/** A value as it is written: NaN for none. */
export type LaidValue = string | number;

/** A table of the project's own as files have it. */
export interface LaidTable {
	readonly name: string;
	readonly columns: readonly LaidColumn[];
	/** Rows, or one line a group of a folded table. */
	readonly rows: readonly (readonly LaidValue[])[];
	/** Groups over `rows`, where they are all there: how many columns before tell them apart. */
	readonly groups: readonly RowGroup[];
	readonly made: MadeTable;
}

/** Puts a table of the project's own together, in the units asked for. */
export function layTable(project: Project, model: Model, table: OwnTable, units: TableUnit): LaidTable {
	const rows = rowsOf(project, model.faces, table.of);
	const made = runTable(rows, table, project.notes);
	const { columns, groups, order } = made;
	const laid = columns.map((column, c) => {
		if (column.kind !== 'figures') {
			const summary = column.kind === 'words' ? column.summary : 'none';
			return { column: { head: column.label, summary }, per: 1 };
		}
		const { unit, per, decimals } = writtenFigures(column, table.columns[c]!, units, project.costs.currency);
		return { column: { head: column.label + unit, decimals, summary: column.summary }, per };
	});
	if (!table.folded || groups.length === 0) {
		const cells = columns.map((column, c) => {
			switch (column.kind) {
				case 'words':
					return (r: number) => column.words.words[column.words.index[r]!]!;
				case 'figures':
					return (r: number) => column.values[r]! / laid[c]!.per;
				case 'notes':
					return column.textOf;
				case 'fault':
					return () => '';
			}
		});
		return {
			name: table.name,
			columns: laid.map((l) => l.column),
			rows: Array.from(order, (r) => cells.map((cell) => cell(r))),
			groups,
			made
		};
	}
	const heads = table.groups.flatMap((name): LaidColumn[] => {
		const known = rows.columns[name];
		return rows.word(name) ? [{ head: known!.label, summary: 'none' }] : [];
	});
	const totalled = columns.flatMap((column, c) =>
		(column.kind === 'figures' || column.kind === 'words') && column.summary !== 'none' ? [c] : []
	);
	const inner = Math.max(...groups.map((g) => g.level));
	return {
		name: table.name,
		columns: [
			...heads,
			{ head: 'Rows', decimals: 0, summary: 'sum' },
			...totalled.map((c): LaidColumn => {
				const { head, summary, ...rest } = laid[c]!.column;
				const word = SUMMARY_WORDS[summary];
				const digits = summary === 'count' ? { decimals: 0 } : rest;
				return { head: word ? `${head}, ${word}` : head, summary: summary === 'sum' ? 'sum' : 'none', ...digits };
			})
		],
		rows: groups
			.filter((g) => g.level === inner)
			.map(({ words, from, to, totals }) => [
				...words,
				to - from,
				...totalled.map((c) => totals[c]! / (laid[c]!.column.summary === 'count' ? 1 : laid[c]!.per))
			]),
		groups: [],
		made
	};
}

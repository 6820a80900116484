import type { Model } from '../project/pipeline.ts';
import type { Project } from '../project/schema.ts';
import { HOST_TABLES, markOf, type HostTableName } from '../schedule/faceTable.ts';
import { tableOf, type ColumnDefinition } from '../schedule/tables.ts';
import { typesOf } from '../schedule/types/pieceTypes.ts';
import { LENGTHS, OTHERS, type TableUnit } from '../units/tableUnits.ts';
import type { OwnTable, Summary } from '../schedule/own/schema.ts';
import { quantityLines } from './csv/writeOwnTable.ts';
import { layTable } from './ownTables.ts';
import { eachPiece } from './pieceRows.ts';

/** A column of a sheet. Figures are totalled below where they can be added up. */
export interface SheetColumn {
	readonly head: string;
	readonly width: number;
	readonly decimals?: number;
	readonly total?: SheetTotal;
}

export type SheetTotal = 'SUM' | 'MAX' | 'MIN' | 'AVERAGE' | 'COUNTA';

/** One schedule, laid out for files that hold several. */
export interface Sheet {
	readonly name: string;
	readonly columns: readonly SheetColumn[];
	readonly rows: (string | number)[][];
}

const text = (head: string, width = 14): SheetColumn => ({ head, width });
const figure = (head: string, decimals: number, total?: SheetTotal): SheetColumn => ({
	head,
	width: 13,
	decimals,
	...(total ? { total } : {})
});

/** All schedules of a model that have rows, and those of the project's own, under names that no two have. O(rows). */
export function sheetsOf(project: Project, model: Model, units: TableUnit): Sheet[] {
	const sheets = [
		...HOST_TABLES.map((name) => hostSheet(model, name, units)).filter((s) => s.rows.length > 0),
		partSheet(project, model, units),
		typeSheet(project, model),
		materialSheet(project, model, units),
		quantitySheet(project, model, units)
	];
	for (const table of project.tables) {
		const taken = sheets.map((s) => s.name);
		sheets.push(ownSheet(project, model, table, units, taken));
	}
	return sheets;
}

/** Unit and digits of a column of figures, in the unit of lengths asked for. */
function measured({ quantity, decimals, label, total }: ColumnDefinition, units: TableUnit) {
	const { unit, per, digits } =
		quantity === 'length' || quantity === 'area' ? LENGTHS[units][quantity] : { digits: 0, ...OTHERS[quantity] };
	const kind = total === 'sum' ? 'SUM' : total === 'greatest' ? 'MAX' : undefined;
	return { column: figure(label + unit, decimals + digits, kind), per };
}

function hostSheet({ faces }: Model, name: HostTableName, units: TableUnit): Sheet {
	const { label, words, columns } = tableOf(name);
	const figures = Object.entries(columns).map(([key, definition]) => ({ key, ...measured(definition, units) }));
	const rows = faces.flatMap(({ schedule }) => {
		const table = schedule.tables[name];
		return Array.from({ length: table.count }, (_, r) => [
			markOf(schedule, name, r),
			schedule.name,
			...Object.keys(words).map((w) => table.words[w]!.words[table.words[w]!.index[r]!]!),
			...figures.map(({ key, per }) => table.columns[key]![r]! / per)
		]);
	});
	return {
		name: label,
		columns: [
			text('Mark', 16),
			text('Face', 26),
			...Object.values(words).map((w) => text(w.label, 22)),
			...figures.map((f) => f.column)
		],
		rows
	};
}

function partSheet(project: Project, model: Model, units: TableUnit): Sheet {
	const { length, area } = LENGTHS[units];
	const rows: Sheet['rows'] = [];
	eachPiece(project, model, (w, { columns }, r) =>
		rows.push([
			w.mark,
			w.hostKind,
			w.hostMark,
			w.face,
			w.rule,
			w.kit,
			w.part,
			w.role,
			w.material,
			w.type,
			columns.length![r]! / length.per,
			columns.area![r]! / area.per,
			columns.volume![r]! / 1e9,
			columns.weight![r]!,
			w.towards
		])
	);
	return {
		name: 'Parts',
		columns: [
			text('Mark', 24),
			text('Host kind', 9),
			text('Host mark', 16),
			text('Face', 26),
			text('Rule', 22),
			text('Kit', 22),
			text('Part'),
			text('Role', 11),
			text('Material', 22),
			text('Type', 9),
			figure(`Length${length.unit}`, 1 + length.digits, 'SUM'),
			figure(`Area${area.unit}`, 4 + area.digits, 'SUM'),
			figure('Volume m3', 6, 'SUM'),
			figure('Weight kg', 2, 'SUM'),
			text('Towards', 30)
		],
		rows
	};
}

const TOTALS: Readonly<Partial<Record<Summary, SheetTotal>>> = {
	sum: 'SUM',
	greatest: 'MAX',
	least: 'MIN',
	mean: 'AVERAGE',
	count: 'COUNTA'
};
/** What sheets may be called (practice): so many letters, none of these, and none twice whatever their case. */
const LONGEST_NAME = 31;
function sheetName(name: string, taken: readonly string[]): string {
	const plain =
		name
			.replace(/[[\]:*?/\\]/g, ' ')
			.replace(/^'+|'+$/g, '')
			.trim() || 'Schedule';
	for (let n = 1; ; n++) {
		const end = n > 1 ? ` ${n}` : '';
		const found = [...plain].slice(0, LONGEST_NAME - end.length).join('') + end;
		if (!['Project', ...taken].some((t) => t.toLowerCase() === found.toLowerCase())) return found;
	}
}

/** A schedule of the project's own. */
function ownSheet(project: Project, model: Model, table: OwnTable, units: TableUnit, taken: readonly string[]): Sheet {
	const { columns, rows } = layTable(project, model, table, units);
	return {
		name: sheetName(table.name, taken),
		columns: columns.map(({ head, decimals, summary }, c) => {
			// What stands for the word “Total” has none of its own.
			const total = c > 0 ? TOTALS[summary] : undefined;
			return decimals === undefined
				? { ...text(head, 18), ...(total ? { total } : {}) }
				: figure(head, decimals, total);
		}),
		rows: rows.map((row) => [...row])
	};
}

function quantitySheet(project: Project, model: Model, units: TableUnit): Sheet {
	const { heads, decimals, rows } = quantityLines(project, model, units);
	return {
		name: 'Quantities',
		columns: heads.map((head, c) => (decimals[c] === undefined ? text(head, 18) : figure(head, decimals[c]))),
		rows
	};
}

function typeSheet(project: Project, { faces }: Model): Sheet {
	const materials = new Map(project.materials.map((m) => [m.id, m.name]));
	return {
		name: 'Types',
		columns: [
			text('Type', 9),
			text('Role', 11),
			text('Kit', 22),
			text('Part'),
			text('Material', 22),
			figure('Pieces', 0, 'SUM'),
			figure('Greatest deviation mm', 2, 'MAX')
		],
		rows: typesOf(faces, project.types).types.map((t) => [
			t.mark,
			t.role,
			t.kit,
			t.part,
			materials.get(t.material) ?? t.material,
			t.count,
			t.deviation
		])
	};
}

function materialSheet(project: Project, model: Model, units: TableUnit): Sheet {
	const { length, area } = LENGTHS[units];
	const sums = new Map<string, [string, string, number, number, number, number, number]>();
	eachPiece(project, model, ({ material, role }, { columns }, r) => {
		const key = `${material}\n${role}`;
		const row = sums.get(key) ?? [material, role, 0, 0, 0, 0, 0];
		row[2]++;
		row[3] += columns.length![r]! / length.per;
		row[4] += columns.area![r]! / area.per;
		row[5] += columns.volume![r]! / 1e9;
		row[6] += columns.weight![r]!;
		sums.set(key, row);
	});
	return {
		name: 'Materials',
		columns: [
			text('Material', 22),
			text('Role', 11),
			figure('Pieces', 0, 'SUM'),
			figure(`Length${length.unit}`, 1 + length.digits, 'SUM'),
			figure(`Area${area.unit}`, 4 + area.digits, 'SUM'),
			figure('Volume m3', 6, 'SUM'),
			figure('Weight kg', 2, 'SUM')
		],
		rows: [...sums.values()].sort((a, b) => a[0].localeCompare(b[0], 'en') || a[1].localeCompare(b[1], 'en'))
	};
}

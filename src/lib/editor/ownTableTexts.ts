import { defused } from '../../core/formats/csv/defused.ts';
import { columnsOf } from '../../core/schedule/own/columns.ts';
import type { OwnTable } from '../../core/schedule/own/schema.ts';
import type { OwnColumnView, OwnTableView } from '../worker/ownTables.ts';
import { cellText, headText, totalText, type OwnLine } from './ownTableState.svelte.ts';
import type { PrintedTable } from './printTable.ts';

/** Between columns and beside them, px. */
const [GAP, PADDING] = [12, 28];
/** The column of groups, px. */
const LEAD = 180;

/** Figures stand at the right of their column. */
export const isRight = (column: OwnColumnView) => column.kind === 'figures';

/** A schedule of the project's own with the worker's answer to it, as the drawer shows both. */
export interface ShownTable {
	readonly table: OwnTable;
	readonly view: OwnTableView;
	/** What stands over the names of groups, where these have a column of their own: the first one has none for them. */
	readonly lead: string | undefined;
}

export function showTable(table: OwnTable, view: OwnTableView): ShownTable {
	const apart = view.groups.length > 0 && (table.folded || view.columns[0]?.kind !== 'words');
	const words = table.groups.map((name) => columnsOf(table.of)[name]?.label ?? name);
	return { table, view, lead: apart ? words.join(' › ') : undefined };
}

/** The style by which head, rows and totals are laid out alike, however long what stands in them is. */
export function gridStyle({ table, view, lead }: ShownTable): string {
	// Nothing of a heading or a total is cut off.
	const widths = view.columns.map((column, c) => {
		const total = totalText(column, view.totals[c]!);
		const least = Math.max(headText(column).length * 6.5 + 16, total.length * 7.4);
		return table.columns[c]?.width ?? Math.ceil(Math.max(isRight(column) ? 78 : 104, least));
	});
	const columns = view.columns.map((column, c) =>
		table.columns[c]?.width ? `${widths[c]}px` : `minmax(${widths[c]}px, ${isRight(column) ? 1 : 1.6}fr)`
	);
	const apart = lead !== undefined;
	const least = widths.reduce((sum, w) => sum + w + GAP, PADDING - GAP) + (apart ? LEAD + GAP : 0);
	const first = apart ? `minmax(${LEAD}px, 1.6fr) ` : '';
	return `grid-template-columns: ${first}${columns.join(' ')}; min-width: ${least}px`;
}

const headsOf = ({ view, lead }: ShownTable): string[] => [
	...(lead === undefined ? [] : [lead]),
	...view.columns.map(headText)
];

/** Texts of a line that begins with a word of its own, or has that instead of its first column. */
function beginning(word: string, texts: readonly string[], lead: string | undefined): string[] {
	return lead === undefined ? [word, ...texts.slice(1)] : [word, ...texts];
}

/** A line as texts, as it is shown. */
function textsOf({ view, lead }: ShownTable, line: OwnLine): string[] {
	if ('row' in line) return [...(lead === undefined ? [] : ['']), ...view.columns.map((c) => cellText(c, line.row))];
	const { words, level, totals } = view.groups[line.group]!;
	const texts = view.columns.map((c, k) => totalText(c, totals[k]!));
	return beginning(words[level] || '–', texts, lead);
}

const totalsOf = ({ view, lead }: ShownTable): string[] =>
	beginning(
		'Total',
		view.columns.map((c, k) => totalText(c, view.totals[k]!)),
		lead
	);

/** A figure as a spreadsheet reads it: no spaces between digits, and the minus that is on keyboards. */
const plainFigure = (text: string) => text.replace(/(\d)\s(?=\d)/gu, '$1').replace('−', '-');

/** Words in a cell of a spreadsheet. */
const plainWords = (text: string) => defused(text.replace(/[\t\r\n]+/g, ' '));

/** Lines as spreadsheets take them from the clipboard: a tab between cells. */
export function copiedText(shown: ShownTable, lines: readonly OwnLine[]): string {
	const before = shown.lead === undefined ? 0 : 1;
	const rowOf = (line: OwnLine) =>
		textsOf(shown, line).map((text, c) => {
			const column = shown.view.columns[c - before];
			// Totals are figures whatever their column holds, but what the line begins with.
			const isFigure = column && ('row' in line ? isRight(column) : c > 0);
			return isFigure ? plainFigure(text) : plainWords(text);
		});
	const totals = totalsOf(shown).map((text, c) => (c > 0 ? plainFigure(text) : text));
	return [headsOf(shown).map(plainWords), ...lines.map(rowOf), totals].map((row) => row.join('\t')).join('\n');
}

/** The same on paper. */
export function printedTable(shown: ShownTable, lines: readonly OwnLine[], project: string): PrintedTable {
	const { view, lead } = shown;
	const right = [...(lead === undefined ? [] : [false]), ...view.columns.map(isRight)];
	return {
		project,
		title: shown.table.name,
		heads: headsOf(shown).map((text, c) => ({ text, right: right[c]! })),
		rows: [
			...lines.map((line) => ({
				kind: 'group' in line ? ('group' as const) : ('row' as const),
				cells: textsOf(shown, line)
			})),
			{ kind: 'total' as const, cells: totalsOf(shown) }
		]
	};
}

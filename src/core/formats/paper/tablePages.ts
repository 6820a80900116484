import type { Model } from '../../project/pipeline.ts';
import type { Project } from '../../project/schema.ts';
import type { OwnTable } from '../../schedule/own/schema.ts';
import { group } from '../../units/print.ts';
import type { TableUnit } from '../../units/tableUnits.ts';
import { layTable, type LaidValue } from '../ownTables.ts';
import { fitted, INK, noItems, SOFT, textWidth, type Area, type PageItems } from './page.ts';

/** mm: of letters, between lines, and between columns. */
const [LETTERS, LINE, BETWEEN] = [1.8, 4.2, 3];
/** Rows whose texts say how wide a column is. */
const SAMPLE = 200;
/** Pages of one schedule, at most. */
const MOST_PAGES = 200;

const UNIT: Readonly<Record<Project['units'], TableUnit>> = { mm: 'mm', m: 'm', 'ft-in': 'ft' };

/** A schedule of the project's own as pages of rows. */
export function tablePages(project: Project, model: Model, table: OwnTable, area: Area): PageItems[] {
	const { columns, rows } = layTable(project, model, table, UNIT[project.units]);
	const textOf = (value: LaidValue, decimals = 0) =>
		typeof value === 'string' ? value : Number.isNaN(value) ? '' : group(value, decimals);
	const natural = columns.map(({ head, decimals }, c) =>
		Math.max(
			textWidth(head, LETTERS),
			...rows.slice(0, SAMPLE).map((row) => textWidth(textOf(row[c]!, decimals), LETTERS))
		)
	);
	const all = natural.reduce((sum, w) => sum + w + BETWEEN, 0);
	const share = Math.min(1, area.width / all);
	const widths = natural.map((w) => (w + BETWEEN) * share);
	// Besides the heads, and the totals of the last page.
	const perPage = Math.max(1, Math.floor(area.height / LINE) - 3);
	const pages: PageItems[] = [];
	for (let from = 0; (from === 0 || from < rows.length) && pages.length < MOST_PAGES; from += perPage) {
		const items = noItems();
		pages.push(items);
		let x = area.x;
		columns.forEach(({ head, decimals, summary }, c) => {
			const isFigure = decimals !== undefined;
			const room = widths[c]! - BETWEEN;
			const write = (text: string, line: number, bold: boolean) =>
				text &&
				items.texts.push({
					x: isFigure ? x + room : x,
					y: area.y + area.height - (line + 1) * LINE + 1.2,
					height: LETTERS,
					text: fitted(text, LETTERS, room + 0.1),
					anchor: isFigure ? 'end' : 'start',
					bold,
					colour: INK
				});
			write(head, 0, true);
			const own = rows.slice(from, from + perPage);
			own.forEach((row, r) => write(textOf(row[c]!, decimals), r + 1, false));
			if (from + perPage >= rows.length && summary === 'sum')
				write(textOf(sumOf(rows.map((row) => row[c]!)), decimals), own.length + 1, true);
			x += widths[c]!;
		});
		const count = Math.min(perPage, rows.length - from);
		const lines = Array.from({ length: Math.max(0, count) + 1 }, (_, k) => area.y + area.height - (k + 1) * LINE);
		items.paths.push({ lines: [[area.x, lines[0]!, x, lines[0]!]], colour: INK, weight: 0.25 });
		items.paths.push({ lines: lines.slice(1).map((y) => [area.x, y, x, y]), colour: SOFT, weight: 0.09 });
	}
	if (rows.length === 0) pages[0]!.notes.push('No row passes the filters of this schedule.');
	if (pages.length * perPage < rows.length)
		pages.at(-1)!.notes.push(`${group(rows.length - pages.length * perPage, 0)} more rows are not on these pages.`);
	return pages;
}

/** Of figures, those that are none left out. */
const sumOf = (values: readonly LaidValue[]): number =>
	values.reduce<number>((sum, v) => (typeof v === 'number' && !Number.isNaN(v) ? sum + v : sum), 0);

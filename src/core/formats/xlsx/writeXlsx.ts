import type { Sink } from '../sink.ts';
import { sheetsOf, type Sheet, type SheetTotal } from '../sheets.ts';
import type { TableUnit } from '../../units/tableUnits.ts';
import { titleOf, type WriterInput } from '../writerInput.ts';
import { letters, Workbook, type CellValue, type Look } from './workbook.ts';

/**
 * The schedules of a model as a spreadsheet (ECMA-376): a cover, and a sheet for each table with its heading frozen, filters,
 * and totals as formulas. The same bytes each time. O(rows).
 */
export function writeXlsx({ project, model, issue }: WriterInput, sink: Sink, units: TableUnit): void {
	const sheets = sheetsOf(project, model, units);
	const book = new Workbook(sink);
	const cover: (readonly [readonly CellValue[], Look])[] = [
		[[project.name], 'title'],
		...(issue
			? ([
					[[`Issue ${titleOf(issue)}`], 'bold'],
					...(issue.author ? [[[`By ${issue.author}`], 'plain'] as const] : []),
					[[issue.date], 'plain']
				] as const)
			: []),
		[[], 'plain'],
		...sheets.map(({ name, rows }) => [[name, rows.length, rows.length === 1 ? 'row' : 'rows'], 'plain'] as const)
	];
	book.sheet('Project', [32, 10, 10], false, 0, (out) => cover.forEach(([cells, look]) => out.add(cells, () => look)));
	for (const sheet of sheets) writeSheet(book, sheet);
	book.end();
}

function writeSheet(book: Workbook, { name, columns, rows }: Sheet): void {
	const widths = columns.map((c) => c.width);
	book.sheet(name, widths, true, rows.length, (out) => {
		out.add(
			columns.map((c) => c.head),
			() => 'heading'
		);
		const looks = columns.map(({ decimals }): Look => (decimals === undefined ? 'plain' : `figure${decimals}`));
		for (const row of rows) out.add(row, (c) => looks[c]!);
		if (rows.length === 0 || !columns.some((c) => c.total)) return;
		out.add(
			columns.map(({ total }, c): CellValue => {
				if (!total) return c === 0 ? 'Total' : undefined;
				const formula = `${total}(${letters(c)}2:${letters(c)}${rows.length + 1})`;
				return {
					formula,
					value: totalOf(
						total,
						rows.map((row) => row[c]!)
					)
				};
			}),
			(c) => (columns[c]!.total ? `bold${columns[c]!.decimals ?? 0}` : 'bold')
		);
	});
}

/** What a total comes to, for readers that do not work formulas out: figures alone count, but for the number of cells. */
function totalOf(total: SheetTotal, values: readonly (string | number)[]): number {
	if (total === 'COUNTA') return values.filter((v) => v !== '' && !Number.isNaN(v)).length;
	const figures = values.filter((v): v is number => typeof v === 'number' && Number.isFinite(v));
	if (figures.length === 0) return 0;
	const sum = figures.reduce((a, b) => a + b, 0);
	switch (total) {
		case 'SUM':
			return sum;
		case 'AVERAGE':
			return sum / figures.length;
		case 'MAX':
			return figures.reduce((a, b) => Math.max(a, b));
		case 'MIN':
			return figures.reduce((a, b) => Math.min(a, b));
	}
}

import { parse } from 'csv-parse/sync';
import { expect } from 'chai';
import fc from 'fast-check';
import { READY_TABLES } from '../../../src/core/schedule/own/ready.ts';
import { ownTableSchema, type OwnTable } from '../../../src/core/schedule/own/schema.ts';
import { sortBy } from '../../../src/lib/editor/ownTables.ts';
import { cellText, type OwnLine } from '../../../src/lib/editor/ownTableState.svelte.ts';
import { copiedText, gridStyle, printedTable, showTable } from '../../../src/lib/editor/ownTableTexts.ts';
import { viewOwnTable, type OwnTableView } from '../../../src/lib/worker/ownTables.ts';
import { demoWith, run } from '../demo.ts';

const value = (show: string, more: object = {}) => ({ kind: 'value', show, ...more });

/** A schedule of panels on a canopy of 4 x 3 fields, with all of its lines. */
async function shownOf(given: object) {
	const project = demoWith(4, 3);
	const table = ownTableSchema.parse({ id: 't', name: 'Panes', of: 'panels', ...given });
	project.tables = [table];
	const view = viewOwnTable(project, await run(project), 't')!;
	const lines: OwnLine[] = view.groups.length
		? view.groups.flatMap((g, k) => [
				{ group: k },
				...(table.folded ? [] : Array.from(view.order.subarray(g.from, g.to), (row) => ({ row })))
			])
		: Array.from(view.order, (row) => ({ row }));
	return { shown: showTable(table, view), view, lines };
}

/** What a spreadsheet gets, by an independent reader: csv-parse. */
const cellsOf = (text: string) => parse(text, { delimiter: '\t', quote: false, relaxColumnCount: false }) as string[][];

describe('the texts of a schedule of one’s own', () => {
	it('copy as a table: heads with units, every row as it is shown, the totals', async () => {
		const { shown, view, lines } = await shownOf({
			columns: [value('mark'), value('area', { summary: 'sum' }), { kind: 'note', id: 'n', label: 'Note' }]
		});
		const [heads, ...rows] = cellsOf(copiedText(shown, lines));
		expect(heads).deep.equal(['Mark', 'Area m²', 'Note']);
		expect(rows.length).equal(12 + 1);
		rows.slice(0, 12).forEach((row, k) => {
			expect(row[0]).equal(cellText(view.columns[0]!, view.order[k]!));
			expect(Number(row[1])).closeTo((view.columns[1] as { values: Float64Array }).values[view.order[k]!]!, 0.0051);
		});
		const sum = rows.slice(0, 12).reduce((n, row) => n + Number(row[1]), 0);
		expect(rows[12]![0]).equal('Total');
		expect(Number(rows[12]![1])).closeTo(sum, 12 * 0.0051);
	});

	it('give the names of groups a column of their own where the first one has none for them', async () => {
		const columns = [value('area', { summary: 'sum' }), value('row')];
		const { shown, lines } = await shownOf({ columns, groups: ['kit', 'storey'], folded: true });
		const rows = cellsOf(copiedText(shown, lines));
		expect(rows[0]).deep.equal([shown.lead, 'Area m²', 'Row']);
		expect(shown.lead).equal('Kit › Storey');
		// One kit, which is on no level, and the whole: each time all twelve panes.
		expect(rows.slice(1).map((r) => r[0])).deep.equal(['Framed pane', '–', 'Total']);
		expect(new Set(rows.slice(1).map((r) => r[1])).size).equal(1);
		expect(gridStyle(shown).match(/minmax\(180px/g)?.length).equal(1);
		const words = await shownOf({ columns: [value('mark'), ...columns], groups: ['kit'] });
		expect(words.shown.lead).to.be.undefined;
		expect(cellsOf(copiedText(words.shown, words.lines))[1]![0]).equal('Framed pane');
	});

	it('print the same cells, figures at the right, groups and totals told apart', async () => {
		const { shown, lines } = await shownOf({
			columns: [value('mark'), value('area', { summary: 'sum' })],
			groups: ['kit']
		});
		const paper = printedTable(shown, lines, 'Terminal');
		expect(paper.heads).deep.equal([
			{ text: 'Mark', right: false },
			{ text: 'Area m²', right: true }
		]);
		expect(paper.rows.map((r) => r.kind)).deep.equal(['group', ...Array<string>(12).fill('row'), 'total']);
		const copied = cellsOf(copiedText(shown, lines)).slice(1);
		expect(paper.rows.map((r) => r.cells.map((c) => c.replace(/(\d) (?=\d)/g, '$1')))).deep.equal(copied);
	});

	it('stay one cell each, and no formula, whatever is written into them (property)', () => {
		const table = { columns: [], groups: [], of: 'panels', folded: false } as unknown as OwnTable;
		fc.assert(
			fc.property(
				fc.array(fc.string({ unit: 'grapheme' }), { minLength: 1, maxLength: 5 }),
				fc.double(),
				(words, figure) => {
					const view = {
						columns: [
							{ kind: 'words', label: 'Word', words, index: Uint32Array.from(words, (_, k) => k), summary: 'none' },
							{
								kind: 'figures',
								label: 'Figure',
								values: new Float64Array(words.length).fill(figure),
								written: { decimals: 2, unit: '', per: 1 },
								summary: 'none',
								beyond: new Uint8Array(words.length)
							}
						],
						groups: [],
						totals: [NaN, NaN]
					} as unknown as OwnTableView;
					const lines = words.map((_, row) => ({ row }));
					const rows = copiedText(showTable(table, view), lines)
						.split('\n')
						.map((row) => row.split('\t'));
					expect(rows.length).equal(words.length + 2);
					for (const row of rows) {
						expect(row.length).equal(2);
						expect(row[0]).not.match(/^[=+\-@]/);
						expect(row.join('')).not.match(/\r/);
					}
					// A figure below nothing is a number, not a word.
					if (figure < -0.01 && figure > -1e6) expect(Number(rows[1]![1])).closeTo(figure, 0.0051);
				}
			)
		);
	});
});

describe('sorting by a column', () => {
	it('goes from rising to falling to not at all, and keeps what was sorted by before behind it', () => {
		const table = {
			...structuredClone(READY_TABLES[0]!),
			id: 't',
			sort: [{ by: 'width', descending: true }]
		} as OwnTable;
		sortBy(table, 'area');
		expect(table.sort).deep.equal([
			{ by: 'area', descending: false },
			{ by: 'width', descending: true }
		]);
		sortBy(table, 'area');
		expect(table.sort[0]).deep.equal({ by: 'area', descending: true });
		sortBy(table, 'area');
		expect(table.sort).deep.equal([{ by: 'width', descending: true }]);
		for (const show of ['a', 'b', 'c', 'd', 'e', 'f', 'g', 'h', 'i']) sortBy(table, show);
		// No more than a document may have.
		expect(table.sort.length).equal(8);
		expect(() => ownTableSchema.parse(table)).not.to.throw();
	});
});

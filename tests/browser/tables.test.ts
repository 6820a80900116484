import { readFileSync } from 'node:fs';
import { expect } from 'chai';
import { parse } from 'csv-parse/sync';
import type { Page } from 'playwright-core';
import { createProject, eventually, freshPages, openProject, shows } from './browser.ts';
import { shippedDemo } from '../unit/demo.ts';

describe('the tables of the schedule', () => {
	const at = freshPages();
	let page: Page;
	let id: string;
	beforeEach(async () => {
		({ page } = at);
		id = await createProject((project) => Object.assign(project, shippedDemo()));
		await openProject(page, id, 'schedule');
	});

	const totals = () => page.getByTestId('schedule-totals');
	const tab = (name: string) => page.getByRole('tab', { name, exact: true }).click();
	const firstMark = () => page.locator('[data-row]').first().getByRole('gridcell').first().innerText();

	it('stand side by side, each with its own columns, sums and filters', async () => {
		await shows(totals(), /^3 242 rows/);
		await tab('Edges');
		await shows(totals(), /^4 816 rows · .* m · .* t$/);
		expect(await firstMark()).equal('C1-01-01/1');
		await page.getByRole('columnheader', { name: /Dihedral angle/ }).waitFor();
		await page.getByLabel('Filter by mark or kit or kind').fill('border');
		await shows(totals(), /^\d+ of 4 816 rows/);
		await tab('Nodes');
		await shows(totals(), /^734 rows/);
		await tab('Paths');
		await shows(totals(), /^44 rows/);
		await tab('Edges');
		await shows(totals(), /^\d+ of 4 816 rows/);
		await page.getByRole('button', { name: 'Clear', exact: true }).click();
		await shows(totals(), /^4 816 rows/);
	});

	it('list every piece, sorted by what is asked, and choose its cells in the model', async () => {
		await tab('Parts');
		await shows(totals(), /^20 381 rows/);
		await page.getByRole('button', { name: 'Weight kg' }).click();
		await page.getByRole('button', { name: 'Weight kg' }).click();
		await page
			.getByRole('columnheader', { name: /Weight/ })
			.and(page.locator('[aria-sort=descending]'))
			.waitFor();
		const weights = () =>
			page
				.locator('[data-row]')
				.evaluateAll((rows) =>
					rows.slice(0, 5).map((r) => Number(r.lastElementChild!.textContent!.replace(/[^\d.]/g, '')))
				);
		// Hundreds of kg each: the heaviest first.
		await eventually(async () => expect((await weights())[0]).greaterThan(100));
		const found = await weights();
		expect(found).deep.equal([...found].sort((a, b) => b - a));
		await page.getByLabel('Filter by mark or any word').fill('larch');
		await shows(totals(), /^[\d ]+ of 20 381 rows/);
		await page.locator('[data-row]').first().click();
		await page.getByTestId('cell-card').waitFor();
		await page.locator('[data-row]').first().and(page.locator('[aria-selected=true]')).waitFor();
	});

	it('sort the pieces into types, choose the cells of one, and count what another tolerance buys', async () => {
		await tab('Types');
		const sums = page.getByTestId('types-totals');
		await shows(sums, /^[\d ]+ types of 19 847 pieces/);
		await page.getByLabel('Role').selectOption('louver');
		await shows(sums, /^128 types of 1 493 pieces/);
		const grid = page.getByRole('grid', { name: 'Types of pieces' });
		await grid.getByRole('row').nth(1).click();
		await shows(grid.getByRole('row').nth(1), /^L-001/);
		await page.getByTestId('cell-card').waitFor();
		await grid.press('ArrowDown');
		await grid.getByRole('row').nth(2).and(page.locator('[aria-selected=true]')).waitFor();
		await page.getByRole('button', { name: 'What does a millimetre buy?' }).click();
		await page.getByLabel(/^Types by tolerance: 0.5 times [\d ]+, 1 times 8 444/).waitFor();
		// The same types stand beside the pieces.
		await tab('Parts');
		await page.getByLabel('Filter by mark or any word').fill('L-001');
		await shows(totals(), /^644 of 20 381 rows/);
	});

	it('follow an edit and leave as files', async () => {
		await tab('Paths');
		await page.locator('[data-row]').first().click();
		const card = page.getByTestId('cell-card');
		// A path that a plane has cut runs beside the nodes: the cells nearest to it are chosen.
		await shows(card, /^C1-/);
		await page.getByRole('navigation', { name: 'Places' }).getByRole('button', { name: 'Handover' }).click();
		await page.getByRole('button', { name: 'Path schedule', exact: true }).click();
		await page.getByLabel('Lengths in').selectOption('m');
		const arrived = page.waitForEvent('download');
		await page
			.getByRole('region', { name: 'Path schedule' })
			.getByRole('button', { name: 'Make and download' })
			.click();
		const file = await arrived;
		expect(file.suggestedFilename()).equal('sallow-reach-ferry-terminal-paths.csv');
		const rows = parse<Record<string, string>>(readFileSync((await file.path())!), { columns: true });
		expect(rows.length).equal(44);
		expect(rows[0]).include({ Mark: 'CR', Kit: 'Rib along a path' });
		expect(rows.find((r) => r.Mark === 'Q1-A01a')).include({
			Mark: 'Q1-A01a',
			Kit: 'Quay rail',
			'Length m': '12.9411'
		});
	});
});

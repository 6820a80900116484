import { expect } from 'chai';
import { parse } from 'csv-parse/sync';
import { readFileSync } from 'node:fs';
import type { Page } from 'playwright-core';
import { createProject, enter, eventually, freshPages, openProject, saved, savedProject, shows } from './browser.ts';
import { demoWith } from '../unit/demo.ts';

describe('schedules of one’s own, rates and quantities', function () {
	this.timeout(180_000);
	const at = freshPages();
	let page: Page;
	let id: string;
	beforeEach(async () => {
		({ page } = at);
		const project = demoWith(8, 6);
		Object.assign(project, { tables: [], costs: { currency: 'EUR', rates: [], sealant: 0 } });
		id = await createProject((draft) => Object.assign(draft, project));
		await openProject(page, id, 'schedule');
	});
	const list = () => page.getByRole('region', { name: 'Own schedules' });
	const table = () => page.getByTestId('own-table');
	const marks = () =>
		table()
			.getByRole('row')
			.evaluateAll((rows) => rows.slice(1, -1).map((r) => r.firstElementChild!.textContent!.trim()));

	it('start from a ready one, take filters, formulas, groups and orders, and undo', async () => {
		await shows(list(), 'None yet.');
		await page.getByLabel('Start a schedule').selectOption('Panels');
		await shows(page.getByTestId('own-count'), '48 rows');
		await list().getByRole('button', { name: 'Add a filter' }).click();
		await list().getByLabel('Filter 1', { exact: true }).fill('row == 2 or row == 5');
		await list().getByLabel('Filter 1', { exact: true }).press('Enter');
		await shows(page.getByTestId('own-count'), '16 rows');
		await table().getByRole('columnheader', { name: 'Mark' }).click();
		await table().getByRole('columnheader', { name: /^Mark/ }).click();
		await eventually(async () => expect((await marks())[0]).equal('C1-05-08'));
		await list().getByLabel('Add a column').selectOption('formula column');
		await list().getByLabel('Shows').fill('weight / area');
		await list().getByLabel('Shows').press('Enter');
		await table().getByRole('columnheader', { name: 'weight / area 1/m²' }).waitFor();
		await list().getByLabel('Shows').fill('width + area');
		await list().getByLabel('Shows').press('Enter');
		await table().getByText('fault').first().waitFor();
		await list().getByLabel('Group by').selectOption('kit');
		await shows(table(), 'Framed pane 16');
		await list().getByLabel('One line a group').check();
		await eventually(async () => expect(await marks()).deep.equal(['Framed pane 16']));
		await saved(page);
		expect((await savedProject(id)).tables[0]).deep.include({
			name: 'Panels',
			where: ['row == 2 or row == 5'],
			groups: ['kit'],
			folded: true,
			sort: [{ by: 'mark', descending: true }]
		});
		await page.keyboard.press('Control+z');
		await eventually(async () => expect((await marks()).length).equal(17));
		await list().getByRole('button', { name: 'Duplicate Panels' }).click();
		await shows(table(), 'Panels, copy');
		await list().getByRole('button', { name: 'Remove Panels, copy' }).click();
		await saved(page);
		expect((await savedProject(id)).tables.length).equal(1);
	});

	it('choose cells by their rows, and keep what is written beside them through a change of the division', async () => {
		await page.getByLabel('Start a schedule').selectOption('Panels');
		await shows(page.getByTestId('own-count'), '48 rows');
		await list().getByLabel('Add a column').selectOption('to write in: notes');
		const row = () => table().getByRole('row').filter({ hasText: 'C1-02-03' });
		await row().getByTitle('Write note').click();
		await table().getByLabel('Note').fill('ask the glazier');
		await table().getByLabel('Note').press('Enter');
		await shows(row(), 'ask the glazier');
		await row().getByText('C1-02-03').click();
		await page.getByText('Row, column').first().waitFor();
		await page.getByRole('navigation', { name: 'Places' }).getByRole('button', { name: 'Setting-out' }).click();
		const field = page.getByRole('spinbutton', { name: 'Divisions' }).nth(1);
		await field.fill('9');
		await field.press('Enter');
		await shows(page.getByTestId('own-count'), '72 rows');
		await shows(row(), 'ask the glazier');
	});

	it('price pieces by rates, add them up, and leave as files', async () => {
		await page.getByRole('tab', { name: 'Quantities' }).click();
		await shows(page.getByTestId('quantities-total'), /^144 pieces · .* · 0 EUR/);
		const rates = page.getByRole('region', { name: 'Rates' });
		await rates.getByRole('button', { name: 'Add a rate' }).click();
		await rates.getByLabel(/^Per/).selectOption('piece');
		await rates.getByLabel(/^Role/).selectOption('pane');
		await enter(page, 'Material: pane', '100');
		await shows(page.getByTestId('quantities-total'), /· 4 800 EUR/);
		await enter(page, 'Waste', '10 %');
		await shows(page.getByTestId('quantities-total'), /· 5 280 EUR/);
		await page.getByRole('tab', { name: 'Rate', exact: true }).click();
		await shows(page.getByTestId('quantities'), '52.8 piece');
		await page.getByRole('tab', { name: 'Joints' }).click();
		// 8 x 6 fields have 7 x 6 + 8 x 5 edges between two of them.
		await shows(page.getByTestId('quantities'), '82');
		await rates.getByLabel('Currency').fill('pounds');
		await rates.getByLabel('Currency').press('Enter');
		await shows(rates, 'three capital letters such as EUR');
		await saved(page);
		await page.getByRole('navigation', { name: 'Places' }).getByRole('button', { name: 'Handover' }).click();
		const file = page.getByRole('region', { name: 'Quantities and cost' });
		const [download] = await Promise.all([
			page.waitForEvent('download'),
			file.getByRole('button', { name: 'Make and download' }).click()
		]);
		const rows = parse<Record<string, string>>(readFileSync(await download.path()), { columns: true });
		expect(rows[0]).deep.include({ By: 'Total', Pieces: '144', 'Cost EUR': '5280.00' });
		const model = page.getByRole('region', { name: 'Building model' });
		const [ifc] = await Promise.all([
			page.waitForEvent('download'),
			model.getByRole('button', { name: 'Make and download' }).click()
		]);
		const text = readFileSync(await ifc.path(), 'utf8');
		expect(text.startsWith('ISO-10303-21;')).to.be.true;
		expect([...text.matchAll(/=IFCPLATE\(/g)].length).equal(48 * 2);
	});
});

import { expect } from 'chai';
import { parse } from 'csv-parse/sync';
import { readFileSync } from 'node:fs';
import type { Page } from 'playwright-core';
import { createProject, enter, eventually, freshPages, openProject, saved, savedProject, shows } from './browser.ts';
import { demoWith } from '../unit/demo.ts';

describe('schedules of one’s own, rates and quantities', () => {
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

	it('are copied as figures that a spreadsheet reads (csv-parse)', async () => {
		await page.context().grantPermissions(['clipboard-read', 'clipboard-write']);
		await page.getByLabel('Start a schedule').selectOption('Panels');
		await shows(page.getByTestId('own-count'), '48 rows');
		await table().getByRole('button', { name: 'Copy' }).click();
		await shows(table().getByRole('status'), '48 lines are on the clipboard.');
		const text = await page.evaluate(() => navigator.clipboard.readText());
		const rows = parse(text, { delimiter: '\t', columns: true }) as Record<string, string>[];
		expect(rows.length).equal(49);
		const areas = rows.map((row) => Number(row['Area m²']));
		// The total of more than a thousand has no space in it, and is the sum of what stands above it.
		expect(areas.at(-1)).greaterThan(1000);
		expect(areas.slice(0, -1).reduce((a, b) => a + b, 0)).closeTo(areas.at(-1)!, 0.5);
	});

	it('choose cells by their rows, and keep what is written beside them through a change of the division', async () => {
		await page.getByLabel('Start a schedule').selectOption('Panels');
		await shows(page.getByTestId('own-count'), '48 rows');
		await saved(page);
		await page.route('**/api/projects/*', async (route) => {
			await new Promise((resolve) => setTimeout(resolve, 1500));
			await route.continue();
		});
		await list().getByLabel('Add a column').selectOption('to write in: notes');
		const row = () => table().getByRole('row').filter({ hasText: 'C1-02-03' });
		await row().getByTitle('Write note').click();
		await table().getByLabel('Note').fill('ask the glazier');
		// What is being written stays when the column is saved meanwhile.
		await saved(page);
		expect(await table().getByLabel('Note').inputValue()).equal('ask the glazier');
		await page.unroute('**/api/projects/*');
		await table().getByLabel('Note').press('Enter');
		await shows(row(), 'ask the glazier');
		await row().getByText('C1-02-03').click();
		await page.getByText('Row, column').first().waitFor();
		// A cell that is chosen elsewhere is chosen here.
		await page.getByRole('tab', { name: 'Panels' }).click();
		await page.locator('[data-row]').filter({ hasText: 'C1-01-05' }).click();
		await page.getByRole('tab', { name: 'Own' }).click();
		await shows(table().locator('[aria-selected=true]'), 'C1-01-05');
		await page.getByRole('navigation', { name: 'Places' }).getByRole('button', { name: 'Setting-out' }).click();
		const field = page.getByRole('spinbutton', { name: 'Divisions' }).nth(1);
		await field.fill('9');
		await field.press('Enter');
		await shows(page.getByTestId('own-count'), '72 rows');
		await shows(row(), 'ask the glazier');
	});

	it('set values of kits from a row, which are undone like any edit, and put columns in order', async () => {
		await page.getByLabel('Start a schedule').selectOption('Panels');
		await shows(page.getByTestId('own-count'), '48 rows');
		await list().getByLabel('Add a column').selectOption('kit_frameWidth');
		const row = () => table().getByRole('row').filter({ hasText: 'C1-02-03' });
		const value = () => row().getByTitle('Set by hand for this one');
		const before = await value().innerText();
		await value().click();
		await table().getByRole('textbox').fill('9 m');
		await table().getByRole('textbox').press('Enter');
		await shows(page.getByTestId('own-table').getByRole('status'), /^Frame width is from .* to .*; 9 000 mm is not/);
		await value().click();
		await table().getByRole('textbox').fill('93');
		await table().getByRole('textbox').press('Enter');
		await eventually(async () => expect(await value().innerText()).equal('93.0'));
		await saved(page);
		const [override] = (await savedProject(id)).overrides;
		expect(override).deep.include({ values: { frameWidth: 93 }, hosts: [[1, 2, 2, 0, 0]] });
		await page.keyboard.press('Control+z');
		await eventually(async () => expect(await value().innerText()).equal(before));
		// The new column goes one place to the front.
		await list().getByLabel('Drag Kit: Frame width to another place').focus();
		for (const key of ['Space', 'ArrowUp', 'Space']) await page.keyboard.press(key);
		await eventually(async () => {
			const shown = (await savedProject(id)).tables[0]!.columns.map((c) => (c.kind === 'value' ? c.show : ''));
			expect(shown.at(-2)).equal('kit_frameWidth');
		});
	});

	it('know types by drawings, within limits of a role’s own, and keep their numbers', async () => {
		await page.getByRole('tab', { name: 'Types' }).click();
		const types = page.getByTestId('types');
		const sums = page.getByTestId('types-totals');
		await types
			.getByRole('img', { name: /^Drawing of / })
			.first()
			.waitFor();
		await types.getByLabel('Role').selectOption('pane');
		const count = async () => Number(/^\d+/.exec(await sums.innerText())![0]);
		const usual = await count();
		await types.getByLabel('Alike by').selectOption('own');
		await enter(page, 'Tolerance ±', '60');
		await eventually(async () => expect(await count()).lessThan(usual));
		await types.getByLabel('Mirror images are alike').check();
		await saved(page);
		expect((await savedProject(id)).types.rules).deep.equal([{ role: 'pane', tolerance: 60, mirrored: true }]);
		await types.getByRole('grid').getByRole('row').nth(1).click();
		await types.getByRole('figure', { name: 'Piece of G-001' }).waitFor();
		await types.getByRole('button', { name: 'Fix numbers' }).click();
		await shows(types, /Numbers of \d+ types are fixed/);
		await saved(page);
		const { fixed } = (await savedProject(id)).types;
		expect(Object.keys(fixed)).include('G-001');
		await types.getByRole('button', { name: 'Release' }).click();
		await types.getByLabel('Numbered').selectOption('order');
		await saved(page);
		expect((await savedProject(id)).types).deep.include({ numbered: 'order', fixed: {} });
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

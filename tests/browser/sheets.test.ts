import { expect } from 'chai';
import DxfParser from 'dxf-parser';
import { readFileSync } from 'node:fs';
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';
import type { Page } from 'playwright-core';
import { createProject, eventually, freshPages, openProject, saved, savedProject, shows } from './browser.ts';
import { demoWith } from '../unit/demo.ts';

describe('sheets', () => {
	const at = freshPages();
	let page: Page;
	let id: string;
	beforeEach(async () => {
		({ page } = at);
		const project = demoWith(8, 6);
		Object.assign(project, { tables: [], handover: { files: [], sheets: [] } });
		id = await createProject((draft) => Object.assign(draft, project));
		await openProject(page, id, 'handover');
	});
	const list = () => page.getByRole('region', { name: 'Sheets' });
	const pane = () => page.getByRole('region', { name: 'Sheet', exact: true });
	const title = () => page.getByTestId('sheet-title');

	it('are added, set, undone, and drawn as they are printed; the PDF has them (pdfjs-dist)', async () => {
		await shows(list(), 'None yet.');
		await page.getByLabel('Add a sheet').selectOption('developed');
		await shows(title(), 'Developed 1 · A3 across · 1 : ');
		await shows(pane(), 'C1-01-01');
		await list().getByLabel('Paper').selectOption('A4');
		await shows(title(), 'A4 across');
		await list().getByLabel('Long side across').uncheck();
		await shows(title(), 'A4 upright');
		await list().getByLabel('Marks where there is room').uncheck();
		await eventually(async () => expect(await pane().textContent()).not.contain('C1-01-01'));
		await page.keyboard.press('Control+z');
		await shows(pane(), 'C1-01-01');
		await list().getByLabel('Scale').selectOption('1');
		await shows(pane(), 'it is drawn at 1 : ');
		await list()
			.getByRole('button', { name: /Take 1 : \d+/ })
			.click();
		await eventually(async () => expect(await pane().textContent()).not.contain('it is drawn at'));
		await list().getByLabel('Colour').selectOption('kit');
		await shows(pane(), 'Framed pane');
		await list().getByLabel('Name').fill('Skin');
		await list().getByLabel('Name').press('Enter');
		await shows(title(), 'Skin · A4 upright');
		await page.getByLabel('Add a sheet').selectOption('elevation');
		await shows(page.getByTestId('sheet-number'), '2 of 2');
		await list().getByLabel('Straight on').selectOption({ index: 1 });
		await shows(pane(), 'Elevation facing');
		await page.keyboard.press('PageUp');
		await shows(title(), 'Skin');
		await saved(page);
		const { sheets } = (await savedProject(id)).handover;
		expect(sheets.map((s) => [s.name, s.view.kind, s.paper])).deep.equal([
			['Skin', 'developed', 'A4'],
			['Elevation 1', 'elevation', 'A3']
		]);
		const [download] = await Promise.all([
			page.waitForEvent('download'),
			page
				.getByRole('region', { name: 'Sheets', exact: true })
				.last()
				.getByRole('button', { name: 'Make and download' })
				.click()
		]);
		// The sheet alone, as a drawing of the building.
		const [alone] = await Promise.all([
			page.waitForEvent('download'),
			pane().getByRole('button', { name: 'DXF' }).click()
		]);
		expect(alone.suggestedFilename()).match(/-skin\.dxf$/);
		const layers = new DxfParser().parseSync(readFileSync(await alone.path(), 'utf8'))!.tables.layer.layers;
		expect(Object.keys(layers)).include('C1-grid');
		const document = await getDocument({ data: new Uint8Array(readFileSync(await download.path())), verbosity: 0 })
			.promise;
		expect(document.numPages).equal(2);
		const { items } = await (await document.getPage(1)).getTextContent();
		const words = items.flatMap((i) => ('str' in i ? [i.str] : []));
		expect(words).include.members(['C1-01-01', 'Skin', '1 of 2']);
		// What is shown has the very words of what is printed.
		const shown = await pane().locator('svg text').allTextContents();
		const plain = (texts: readonly string[]) => texts.join(' ').split(/\s+/).filter(Boolean).join(' ');
		expect(plain(shown)).equal(plain(words));
	});

	it('are duplicated, removed, closed, and say what is missing', async () => {
		await page.getByLabel('Add a sheet').selectOption('schedule');
		await shows(list(), 'There is no schedule of the project’s own');
		await page.getByLabel('Add a sheet').selectOption('plan');
		await list().getByLabel('Cut at a height').check();
		await list().getByLabel('Height', { exact: true }).fill('-5000');
		await list().getByLabel('Height', { exact: true }).press('Enter');
		await shows(pane(), 'There is nothing to be seen here');
		await list().getByRole('button', { name: 'Duplicate Plan 1' }).click();
		await shows(page.getByTestId('sheet-number'), '2 of 2');
		await page.keyboard.press('Escape');
		await pane().waitFor({ state: 'detached' });
		await list().getByRole('button', { name: 'Remove Plan 1', exact: true }).click();
		await saved(page);
		expect((await savedProject(id)).handover.sheets.length).equal(1);
	});
});

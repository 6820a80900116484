import { readFileSync } from 'node:fs';
import { expect } from 'chai';
import { parse } from 'csv-parse/sync';
import type { Page } from 'playwright-core';
import { createProject, freshPages, openProject, saved, savedProject, shows } from './browser.ts';
import { demoWith } from '../unit/demo.ts';

describe('the place of handover', () => {
	const at = freshPages();
	let page: Page;
	let id: string;
	beforeEach(async () => {
		({ page } = at);
		const project = demoWith(8, 6);
		Object.assign(project, { handover: { files: [], sheets: [] } });
		id = await createProject((draft) => Object.assign(draft, project));
		await openProject(page, id, 'handover');
	});
	const row = (name: string) => page.getByRole('region', { name, exact: true });
	const look = (name: string) => row(name).getByRole('button', { name, exact: true }).click();
	const options = () => page.getByRole('region', { name: 'Options' });
	const preview = () => page.getByTestId('file-preview');

	it('shows how a file begins, with what is chosen for it; that is saved, undone, and in the file', async () => {
		await look('Panel schedule');
		await shows(page.getByTestId('file-title'), 'Panel schedule');
		await shows(preview(), 'Width mm');
		await shows(preview(), 'C1-01-01');
		await options()
			.getByLabel(/^Lengths in/)
			.selectOption('m');
		await shows(preview(), 'Width m');
		await page.keyboard.press('Control+z');
		await shows(preview(), 'Width mm');
		await page.keyboard.press('Control+Shift+z');
		await shows(preview(), 'Width m');
		await saved(page);
		expect((await savedProject(id)).handover.options).deep.equal({ schedules: { units: 'm' } });
		const arrived = page.waitForEvent('download');
		await row('Panel schedule').getByRole('button', { name: 'Make and download' }).click();
		const rows = parse<Record<string, string>>(readFileSync(await (await arrived).path()), { columns: true });
		expect(rows[0]).have.property('Width m');
		expect(rows.length).equal(48);
		// Other kinds of files: a drawing, and the beginning of a text.
		await look('Developed view as DXF');
		await page.getByRole('img', { name: 'Developed view as DXF' }).waitFor();
		await look('Cut sheets as DXF');
		await options()
			.getByLabel(/^Pieces/)
			.selectOption('louver');
		await shows(page.getByRole('region', { name: 'File' }), 'There is no thin piece of the role “louver”');
		await look('Project');
		await shows(preview(), '"zygaster-project"');
		await page.keyboard.press('Escape');
		await page.getByTestId('file-title').waitFor({ state: 'detached' });
	});

	it('keeps orders: found again after a reload, taken again, with what went wrong', async () => {
		const arrived = page.waitForEvent('download');
		await row('Summary as JSON').getByRole('button', { name: 'Make and download' }).click();
		const summary = JSON.parse(readFileSync(await (await arrived).path(), 'utf8')) as { faces: { panels: number }[] };
		expect(summary.faces[0]!.panels).equal(48);
		await row('Path schedule').getByRole('button', { name: 'Make and download' }).click();
		await shows(row('Path schedule'), 'no kit makes such parts');
		await page.reload();
		await shows(row('Summary as JSON'), 'kB');
		await shows(row('Path schedule'), 'no kit makes such parts');
		await look('Summary as JSON');
		const orders = page.getByRole('region', { name: 'Orders' });
		await shows(orders, 'failed');
		const again = page.waitForEvent('download');
		await orders.getByRole('link').click();
		expect((await again).suggestedFilename()).equal('sallow-reach-ferry-terminal-summary.json');
		// Thrown away: from the list, and from the server.
		const address = await orders.getByRole('link').getAttribute('href');
		await orders.getByRole('button', { name: 'Throw Summary as JSON away' }).click();
		await orders.getByRole('link').waitFor({ state: 'detached' });
		expect((await page.request.get(new URL(address!, page.url()).href)).status()).equal(404);
		await orders.getByRole('button', { name: 'Throw Path schedule away' }).click();
		await shows(orders, 'None yet');
		await row('Summary as JSON').getByRole('button', { name: 'Make and download' }).waitFor();
	});

	it('hears of orders that others have made, without asking', async () => {
		const [, project] = /projects\/([0-9a-f-]+)/.exec(page.url())!;
		const address = new URL(`/api/projects/${project}/handover`, page.url()).href;
		expect((await page.request.post(address, { data: { format: 'csv' } })).status()).equal(202);
		await shows(row('Panel schedule'), 'kB');
	});

	it('gives building models classes, doors and a grid, and sets their name', async () => {
		await page.getByLabel('Name of the set').fill('Tender');
		await page.getByLabel('Name of the set').press('Enter');
		await look('Building model');
		await options().getByLabel('Grid lines and nodes').check();
		await options().getByLabel('Classes of a system').check();
		await options().getByLabel('Add a code').selectOption('pane');
		await options().getByRole('textbox', { name: 'Code of pane' }).fill('G.1');
		await options().getByRole('textbox', { name: 'Code of pane' }).press('Enter');
		await options().getByRole('textbox', { name: 'Title of pane' }).fill('Glass');
		await options().getByRole('textbox', { name: 'Title of pane' }).press('Enter');
		await saved(page);
		const arrived = page.waitForEvent('download');
		await row('Building model').getByRole('button', { name: 'Make and download' }).click();
		const text = readFileSync(await (await arrived).path(), 'utf8');
		expect(text).match(/=IFCCLASSIFICATIONREFERENCE\(\$,'G\.1','Glass',/);
		expect([...text.matchAll(/=IFCANNOTATION\(/g)].length).equal(2);
		await row('Building model').getByRole('checkbox').check();
		await saved(page);
		const together = page.waitForEvent('download');
		await page.getByRole('button', { name: 'Make the set “Tender” of 1 file' }).click();
		expect((await together).suggestedFilename()).equal('sallow-reach-ferry-terminal-tender.zip');
	});
});

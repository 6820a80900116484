import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { writeJson } from '../../src/core/formats/json/writeJson.ts';
import { readProject } from '../../src/core/project/read.ts';
import { demoProject } from '../unit/demo.ts';
import { base, createProject, openPage, savedProject, shows, startBrowser, stopBrowser } from './browser.ts';

describe('the projects page', () => {
	let page: Page;
	let errors: string[];
	before(startBrowser);
	after(stopBrowser);
	beforeEach(async () => ({ page, errors } = await openPage()));
	afterEach(async () => {
		expect(errors).deep.equal([]);
		await page.context().close();
	});
	const row = (name: string) =>
		page.getByRole('listitem').filter({ has: page.getByRole('link', { name, exact: true }) });

	it('creates a project and opens it with a roof that is ready', async () => {
		await page.goto(base);
		await page.getByLabel('Name of the new project').fill('Tern House');
		await page.getByRole('button', { name: 'New project' }).click();
		await shows(page.getByRole('heading', { level: 1 }), 'Tern House');
		await shows(page.getByTestId('schedule-totals'), '144 rows');
	});

	it('asks for a name beside the field', async () => {
		await page.goto(base);
		await page.getByRole('button', { name: 'New project' }).click();
		await shows(page.getByRole('alert'), 'A project needs a name.');
	});

	it('renames, duplicates, deletes and brings back', async () => {
		await createProject((p) => (p.name = 'Plover Row'));
		await page.goto(base);
		await page.getByRole('button', { name: 'Rename Plover Row' }).click();
		await page.getByLabel('New name').fill('Plover Square');
		await page.getByRole('button', { name: 'Rename', exact: true }).click();
		await row('Plover Square').waitFor();
		await page.getByRole('button', { name: 'Duplicate Plover Square' }).first().click();
		await row('Plover Square copy').waitFor();
		await page.getByRole('button', { name: 'Delete Plover Square', exact: true }).click();
		await row('Plover Square').waitFor({ state: 'detached' });
		await page.getByRole('button', { name: 'Undo' }).click();
		await row('Plover Square').waitFor();
	});

	it('brings in a project file unchanged', async () => {
		const file = join(mkdtempSync(join(tmpdir(), 'zygaster-')), 'mine.json');
		writeFileSync(file, writeJson({ ...demoProject(), name: 'Brought in' }));
		await page.goto(base);
		await page.getByLabel('Bring in a file').setInputFiles(file);
		await page.waitForURL('**/projects/*');
		const id = /projects\/([^?]+)/.exec(page.url())![1]!;
		expect(await savedProject(id)).deep.equal(readProject(readFileSync(file, 'utf8')));
	});

	it('refuses a broken file in words and keeps the list', async () => {
		const file = join(mkdtempSync(join(tmpdir(), 'zygaster-')), 'broken.json');
		writeFileSync(file, writeJson(demoProject()).replace('"span": 37500', '"span": "wide"'));
		await page.goto(base);
		await page.getByLabel('Bring in a file').setInputFiles(file);
		await shows(page.getByRole('alert'), 'broken.json was not brought in');
		await shows(page.getByRole('alert'), 'Canopy, section 2, span');
	});

	it('has a page for addresses that lead nowhere', async () => {
		const response = await page.goto(`${base}/projects/5a110000-0000-4000-8000-00000000dead`);
		expect(response!.status()).equal(404);
		await shows(page.getByRole('heading', { level: 1 }), 'There is no project at this address');
		await page.getByRole('link', { name: 'All projects' }).click();
		await page.getByRole('button', { name: 'New project' }).waitFor();
	});
});

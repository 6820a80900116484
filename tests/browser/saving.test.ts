import { expect } from 'chai';
import type { BrowserContext, Page } from 'playwright-core';
import {
	createProject,
	enter,
	openPage,
	openProject,
	saved,
	savedProject,
	shows,
	startBrowser,
	stopBrowser
} from './browser.ts';
import { vaultOf } from '../unit/demo.ts';

describe('saving', function () {
	this.timeout(60_000);
	let context: BrowserContext;
	let id: string;
	before(startBrowser);
	after(stopBrowser);
	beforeEach(async () => {
		context = await (await startBrowser()).newContext({ viewport: { width: 1280, height: 800 } });
		id = await createProject();
	});
	afterEach(() => context.close());

	/** Two tabs of one project; the first has saved a longer canopy, the second has typed another span. */
	async function twoTabs(): Promise<[Page, Page]> {
		const { page: first } = await openPage(context);
		const { page: second } = await openPage(context);
		await openProject(first, id);
		await openProject(second, id);
		await enter(first, 'Length', '90 m');
		await saved(first);
		await enter(second, 'Span', '25 m');
		await shows(second.getByRole('alert'), 'Changed in another window.');
		await shows(second.getByRole('alert'), 'Change length');
		return [first, second];
	}

	it('keeps the work of two tabs: mine is done again on top of theirs', async () => {
		const [, second] = await twoTabs();
		await second.getByRole('button', { name: 'Redo mine on top of theirs' }).click();
		await saved(second);
		const shape = vaultOf(await savedProject(id));
		expect([shape.length, shape.sections[0]!.span]).deep.equal([90_000, 25_000]);
		expect(await second.getByRole('spinbutton', { name: 'Length', exact: true }).inputValue()).equal('90 000');
	});

	it('or theirs is taken and mine dropped', async () => {
		const [, second] = await twoTabs();
		await second.getByRole('button', { name: 'Take theirs, drop mine' }).click();
		await second.getByRole('alert').waitFor({ state: 'detached' });
		const shape = vaultOf(await savedProject(id));
		expect([shape.length, shape.sections[0]!.span]).deep.equal([90_000, 31_000]);
		expect(await second.getByRole('spinbutton', { name: 'Span', exact: true }).inputValue()).equal('31 000');
	});

	it('says which edits no longer fit', async () => {
		const { page: first } = await openPage(context);
		const { page: second } = await openPage(context);
		await openProject(first, id);
		await openProject(second, id);
		await first.getByRole('button', { name: 'Remove this mass' }).click();
		await saved(first);
		await enter(second, 'Span', '25 m');
		await second.getByRole('button', { name: 'Redo mine on top of theirs' }).click();
		await shows(second.getByRole('status'), 'no longer fit and were left out: Change span');
	});

	it('keeps edits while the server is away, through a reload, and saves them when it is back', async () => {
		const { page } = await openPage(context);
		await openProject(page, id);
		const path = `**/api/projects/${id}`;
		await page.route(path, (route) => (route.request().method() === 'PATCH' ? route.abort() : route.continue()));
		await enter(page, 'Length', '88 m');
		await shows(page.getByRole('alert'), 'Not saved yet.');
		await enter(page, 'Span', '26 m');
		await shows(page.getByRole('alert'), '2 edits');
		await page.reload();
		await shows(page.getByRole('status'), '2 edits were not saved before');
		expect(await page.getByRole('spinbutton', { name: 'Length', exact: true }).inputValue()).equal('88 000');
		await page.unroute(path);
		// It may have tried again by itself just before.
		await Promise.any([page.getByRole('button', { name: 'Try now' }).click(), saved(page)]);
		await saved(page);
		const shape = vaultOf(await savedProject(id));
		expect([shape.length, shape.sections[0]!.span]).deep.equal([88_000, 26_000]);
	});
});

import { expect } from 'chai';
import type { BrowserContext, Page, Route } from 'playwright-core';
import {
	createProject,
	enter,
	eventually,
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
	let context: BrowserContext;
	let id: string;
	/** Dialogs of the browser that came up. */
	const asked: string[] = [];
	before(startBrowser);
	after(stopBrowser);
	beforeEach(async () => {
		context = await (await startBrowser()).newContext({ viewport: { width: 1280, height: 800 } });
		id = await createProject();
	});
	afterEach(() => context.close());

	/** A tab with the project open, which agrees to be left. */
	async function tab(): Promise<Page> {
		const { page } = await openPage(context);
		page.on('dialog', (dialog) => {
			asked.push(dialog.type());
			void dialog.accept();
		});
		await openProject(page, id);
		return page;
	}
	const field = (page: Page, label: string) => page.getByRole('spinbutton', { name: label, exact: true });
	const has = (page: Page, label: string, text: string) =>
		eventually(async () => expect(await field(page, label).inputValue()).equal(text));
	const shape = async () => vaultOf(await savedProject(id));
	const path = () => `**/api/projects/${id}`;
	/** What is sent from a tab does not arrive; what others save does not come. */
	const cut = async (page: Page, how: (route: Route) => Promise<void> = (route) => route.abort()) => {
		await page.route(path(), (route) => (route.request().method() === 'PATCH' ? how(route) : route.continue()));
	};
	const mend = (page: Page) => page.unroute(path());
	/** It may have tried again by itself just before. */
	const tryNow = async (page: Page) => {
		await Promise.any([page.getByRole('button', { name: 'Try now' }).click(), saved(page)]);
		await saved(page);
	};

	it('shows in one tab what is saved in another, and keeps the edits of both', async () => {
		const [first, second] = [await tab(), await tab()];
		await enter(first, 'Length', '90 m');
		await has(second, 'Length', '90 000');
		await enter(second, 'Span', '25 m');
		await saved(second);
		await has(first, 'Span', '25 000');
		expect([(await shape()).length, (await shape()).sections[0]!.span]).deep.equal([90_000, 25_000]);
	});

	/** Two tabs that have both typed another length; that of the first is saved. */
	async function clash(): Promise<Page> {
		const [first, second] = [await tab(), await tab()];
		await cut(second);
		await enter(second, 'Length', '80 m');
		await shows(second.getByRole('alert'), 'Not saved yet.');
		await enter(first, 'Length', '90 m');
		await saved(first);
		await mend(second);
		const alert = second.getByRole('alert');
		await shows(alert, 'Changed elsewhere too.');
		await shows(alert, 'Canopy › shape › length');
		await shows(alert.locator('tr').last(), /80 000.*90 000/);
		return second;
	}

	it('asks where both have changed one value, shows both sides, and puts mine on top', async () => {
		const page = await clash();
		await page.getByRole('button', { name: 'Put mine on top' }).click();
		await saved(page);
		expect((await shape()).length).equal(80_000);
		await has(page, 'Length', '80 000');
	});

	it('or takes theirs, and says what was left out', async () => {
		const page = await clash();
		await page.getByRole('button', { name: 'Take theirs' }).click();
		await shows(page.getByRole('status'), 'Left out: Change length');
		await has(page, 'Length', '90 000');
		expect((await shape()).length).equal(90_000);
	});

	it('says so where what an edit is about has been removed', async () => {
		const [first, second] = [await tab(), await tab()];
		await cut(second);
		await enter(second, 'Span', '25 m');
		await shows(second.getByRole('alert'), 'Not saved yet.');
		await first.getByRole('button', { name: 'Remove this mass' }).click();
		await saved(first);
		await shows(second.getByRole('alert'), 'Changed elsewhere too.');
		await shows(second.getByRole('alert'), 'removed');
		await mend(second);
		await second.getByRole('button', { name: 'Put mine on top' }).click();
		await shows(second.getByRole('status'), 'No longer possible, and left out: Change span');
	});

	it('keeps edits while the server is away, through a reload, and saves them when it is back', async () => {
		const page = await tab();
		await cut(page);
		await enter(page, 'Length', '88 m');
		await shows(page.getByRole('alert'), 'Not saved yet.');
		await enter(page, 'Span', '26 m');
		await shows(page.getByRole('alert'), '2 edits are kept in this browser');
		await page.reload();
		await shows(page.getByRole('status'), '2 edits were not saved before');
		await has(page, 'Length', '88 000');
		await mend(page);
		await tryNow(page);
		expect([(await shape()).length, (await shape()).sections[0]!.span]).deep.equal([88_000, 26_000]);
	});

	it('asks before a tab is closed while something waits, and a new tab takes up what a closed one has left', async () => {
		const page = await tab();
		await cut(page);
		await enter(page, 'Length', '88 m');
		await shows(page.getByRole('alert'), 'kept in this browser');
		asked.length = 0;
		// Browsers ask only where somebody has touched the page.
		await page.locator('body').click({ position: { x: 5, y: 400 } });
		await page.close({ runBeforeUnload: true });
		await eventually(async () => expect([...asked, page.isClosed()]).deep.equal(['beforeunload', true]));
		const next = await tab();
		await shows(next.getByRole('status'), 'One edit was not saved before, in a tab that was closed');
		await saved(next);
		expect((await shape()).length).equal(88_000);
		await next.reload();
		await saved(next);
		expect(await next.getByRole('status').filter({ hasText: 'not saved before' }).count()).equal(0);
	});

	it('saves an edit once whose answer was lost', async () => {
		// Neither the answer comes, nor what would tell of the edit otherwise.
		await context.route('**/events?*', (route) => route.abort());
		const page = await tab();
		await cut(page, async (route) => {
			await route.fetch();
			await route.abort();
		});
		await page.getByRole('button', { name: 'Add a level' }).click();
		await shows(page.getByRole('alert'), 'Not saved yet.');
		expect((await savedProject(id)).levels.length).equal(1);
		await page.reload();
		await mend(page);
		await tryNow(page);
		expect((await savedProject(id)).levels.length).equal(1);
	});

	it('puts aside an edit that the server refuses, and goes on with the others', async () => {
		const page = await tab();
		let refused = false;
		await cut(page, async (route) => {
			if (refused) return route.continue();
			refused = true;
			await route.fulfill({ status: 413, json: { code: 'too-large', message: 'It is larger than 1 MB.' } });
		});
		await enter(page, 'Length', '88 m');
		await shows(page.getByRole('alert'), '“Change length” was not saved and is left out. It is larger than 1 MB.');
		await has(page, 'Length', '72 000');
		await enter(page, 'Span', '26 m');
		await eventually(async () => expect((await shape()).sections[0]!.span).equal(26_000));
		await page.getByRole('button', { name: 'Try it again' }).click();
		await saved(page);
		expect((await shape()).length).equal(88_000);
	});

	it('still knows after a reload what can be undone', async () => {
		const page = await tab();
		await enter(page, 'Length', '88 m');
		await saved(page);
		await page.reload();
		await page.getByRole('button', { name: 'Undo', exact: true }).click();
		await has(page, 'Length', '72 000');
		await saved(page);
		expect((await shape()).length).equal(72_000);
	});

	it('knows its own edits after a reload, also one that was saved after the history was kept', async () => {
		const page = await tab();
		let go!: () => void;
		const held = new Promise<void>((resolve) => (go = resolve));
		await cut(page, async (route) => {
			await held;
			await route.continue();
		});
		await enter(page, 'Length', '88 m');
		await page.waitForTimeout(500);
		// From now on the browser comes no more to keeping the history.
		await page.evaluate(() => {
			const { put } = IDBObjectStore.prototype;
			IDBObjectStore.prototype.put = function (this: IDBObjectStore, ...given: Parameters<typeof put>) {
				if (this.name === 'history') throw new DOMException('no time', 'AbortError');
				return put.apply(this, given);
			};
		});
		go();
		await saved(page);
		await page.reload();
		await page.getByRole('button', { name: 'Undo', exact: true }).click();
		await has(page, 'Length', '72 000');
	});

	it('shows what it was, compares it with now, names it and brings it back', async () => {
		const page = await tab();
		await enter(page, 'Length', '88 m');
		await saved(page);
		await page.getByRole('button', { name: 'Remove this mass' }).click();
		await saved(page);
		await page.getByRole('button', { name: 'Revisions' }).click();
		const pane = page.getByRole('complementary', { name: 'Revisions' });
		await shows(pane.getByRole('listitem'), 'Remove Canopy');
		await pane.getByRole('button', { name: /^2 Change length/ }).click();
		const one = pane.getByRole('region', { name: 'Revision 2' });
		await shows(one.getByRole('row'), /masses.*“Canopy”/);
		await one.getByRole('textbox', { name: 'Name' }).fill('before the workshop');
		await one.getByRole('textbox', { name: 'Name' }).press('Enter');
		await shows(pane.getByRole('listitem'), 'before the workshop');
		await one.getByRole('button', { name: 'Look at it' }).click();
		await shows(page.getByRole('status'), /Revision 2 is shown.*1 152 more/);
		// Looking changes nothing, and cannot.
		await page.keyboard.press('Control+z');
		await shows(page.getByRole('status'), 'An earlier revision is shown, which cannot be changed.');
		await one.getByRole('button', { name: 'Back to now' }).click();
		expect((await savedProject(id)).masses.length).equal(0);
		await one.getByRole('button', { name: 'Bring it back' }).click();
		await saved(page);
		expect((await shape()).length).equal(88_000);
		await shows(pane.getByRole('listitem'), 'Back to revision 2');
		await pane.getByRole('checkbox', { name: 'Only with a name' }).check();
		await eventually(async () => expect(await pane.getByRole('listitem').count()).equal(1));
		await page.keyboard.press('Control+z');
		await saved(page);
		expect((await savedProject(id)).masses.length).equal(0);
	});

	it('tells how much is new from elsewhere, until it is looked at', async () => {
		const [first, second] = [await tab(), await tab()];
		await enter(first, 'Length', '90 m');
		await saved(first);
		const button = second.getByRole('button', { name: 'Revisions, 1 new from elsewhere' });
		await button.click();
		await shows(second.getByRole('complementary', { name: 'Revisions' }).getByRole('listitem'), 'Change length');
		await second.getByRole('button', { name: 'Revisions', exact: true }).waitFor();
	});

	it('saves where the browser keeps nothing, and says what that means while something waits', async () => {
		await context.addInitScript(
			`Object.defineProperty(window, 'indexedDB', { get() { throw new DOMException('Storage is forbidden here.', 'SecurityError'); } });`
		);
		const page = await tab();
		await enter(page, 'Length', '88 m');
		await saved(page);
		await cut(page);
		await enter(page, 'Length', '89 m');
		await shows(page.getByRole('alert'), 'Keep this page open until all is saved.');
		await mend(page);
		await tryNow(page);
		expect((await shape()).length).equal(89_000);
	});
});

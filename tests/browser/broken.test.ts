import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { createProject, enter, freshPages, openProject, saved, savedProject, shows } from './browser.ts';

describe('when something breaks', () => {
	const at = freshPages();
	let page: Page;
	let id: string;
	beforeEach(async () => {
		({ page } = at);
		id = await createProject();
	});

	const modelWorker = () => page.workers().find((w) => w.url().includes('model.worker'))!;
	const undo = () => page.getByRole('button', { name: 'Undo it' });
	/** What brings about an error that nobody catches: at once, or while an edit is computed, which is held up so long. */
	const FAIL = "setTimeout(() => { throw new RangeError('Array buffer allocation failed'); })";
	const BREAKS = {
		now: FAIL,
		'over an edit': `
			let broken = false;
			const now = performance.now.bind(performance);
			addEventListener('message', ({ data }) => {
				if (broken || data?.path?.[0] !== 'run') return;
				broken = true;
				${FAIL};
				// The run asks for the time first; it is held up until the error has been heard of.
				let first = true;
				performance.now = () => {
					if (first) for (const until = now() + 400; now() < until; );
					first = false;
					return now();
				};
			}, { capture: true });`
	} as const;
	const breakIt = (when: keyof typeof BREAKS) => modelWorker().evaluate(`{ ${BREAKS[when]} }`);

	it('starts a worker that died anew, without a word where nothing was asked of it', async () => {
		await openProject(page, id, 'schedule');
		const before = modelWorker();
		await breakIt('now');
		await page.waitForEvent('worker');
		expect(modelWorker()).not.equal(before);
		await page.getByRole('button', { name: 'Area m²' }).click();
		await page.getByRole('columnheader', { name: /Area/ }).and(page.locator('[aria-sort=ascending]')).waitFor();
		await shows(page.getByTestId('schedule-totals'), '1 152 rows');
		// Lists that are dragged keep an empty one, in which they tell screen readers what moves.
		expect((await page.getByRole('alert').allInnerTexts()).filter(Boolean)).deep.equal([]);
	});

	it('names the edit over which a worker died, and takes it back', async () => {
		await openProject(page, id);
		await breakIt('over an edit');
		await enter(page, 'Length', '80 m');
		const alert = page.getByRole('alert').filter({ has: undo() });
		await shows(alert, /cannot be computed[\s\S]*Array buffer allocation failed/);
		await shows(alert, /“.*length.*”/i);
		await shows(page.getByTestId('schedule-totals'), '1 152 rows');
		await undo().click();
		await alert.waitFor({ state: 'detached' });
		await saved(page);
		await enter(page, 'Length', '90 m');
		await page.waitForFunction(
			() => !document.querySelector('[data-testid=schedule-totals]')!.className.includes('italic')
		);
		await page.getByText('2 625.51 m²').waitFor({ state: 'detached' });
	});

	it('says which part did not arrive, and goes on with the others', async () => {
		// That of the place of handover, known by a word on one of its buttons.
		let away = true;
		await page.route('**/immutable/chunks/*.js', async (route) => {
			const response = await route.fetch();
			const meant = (await response.text()).includes('Add a sheet');
			await (away && meant ? route.abort() : route.fulfill({ response }));
		});
		await openProject(page, id);
		const place = (name: string) => page.getByRole('navigation').getByRole('button', { name });
		await place('Handover').click();
		await shows(page.getByRole('alert'), /did not arrive\. Nothing is lost/);
		await place('Mass').click();
		await enter(page, 'Length', '80 m');
		await saved(page);
		expect((await savedProject(id)).masses[0]!.shape).property('length', 80_000);
		// Shown again, or loaded again, it is asked for again.
		const sheets = page.getByRole('combobox', { name: 'Add a sheet' });
		await place('Handover').click();
		await page.getByRole('alert').getByRole('button', { name: 'load the page again' }).click();
		await page.getByRole('alert').waitFor({ state: 'detached' });
		await place('Handover').click();
		await shows(page.getByRole('alert'), /did not arrive/);
		away = false;
		await place('Mass').click();
		await place('Handover').click();
		await sheets.waitFor();
	});

	it('says that the graphics card has dropped the picture, and draws it when it is back', async () => {
		await openProject(page, id, 'schedule');
		const canvas = page.locator('canvas[aria-label^="Model."]');
		const drawn = () => canvas.getAttribute('data-drawn').then(Number);
		const context = (what: 'loseContext' | 'restoreContext') =>
			canvas.evaluate((element, call) => {
				const gl = (element as HTMLCanvasElement).getContext('webgl2')!;
				// Once it is lost it gives no extension any more.
				const kept = globalThis as { losing?: WEBGL_lose_context };
				kept.losing ??= gl.getExtension('WEBGL_lose_context')!;
				kept.losing[call]();
			}, what);
		await context('loseContext');
		const alert = page.getByRole('alert').filter({ hasText: 'dropped the picture' });
		await alert.waitFor();
		const before = await drawn();
		await context('restoreContext');
		await alert.waitFor({ state: 'detached' });
		await page.waitForFunction(
			(n) => Number(document.querySelector<HTMLElement>('canvas[aria-label^="Model."]')!.dataset.drawn) > n,
			before
		);
	});
});

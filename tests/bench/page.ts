// What a page of the demo brings and how soon it shows something: part of `npm run bench`; wants a build and Chromium.
import type { Browser, Page } from 'playwright-core';
import { startBrowser, stopBrowser } from '../browser/browser.ts';
import { pageSize } from '../browser/pageSize.ts';
import { ownServer, type OwnServer } from '../http/ownServer.ts';
import { demoWith, shippedDemo } from '../unit/demo.ts';

const EDITS = 5;
const median = (values: readonly number[]) => [...values].sort((a, b) => a - b)[values.length >> 1]!;

/** Notes the first picture of the model, and the longest task since it was asked, ms. */
const WATCH = `
	// The loader of these programs names functions by it.
	globalThis.__name = (f) => f;
	globalThis.watched = { first: 0, lines: 0, longest: 0 };
	new PerformanceObserver((list) => {
		for (const { duration } of list.getEntries()) watched.longest = Math.max(watched.longest, duration);
	}).observe({ type: 'longtask', buffered: true });
	// An empty picture draws nothing by corners.
	const { drawElements } = WebGL2RenderingContext.prototype;
	WebGL2RenderingContext.prototype.drawElements = function (...given) {
		watched.first ||= performance.now();
		return drawElements.apply(this, given);
	};
	const { drawArrays } = WebGL2RenderingContext.prototype;
	WebGL2RenderingContext.prototype.drawArrays = function (mode, ...given) {
		if (mode === WebGL2RenderingContext.LINES) watched.lines ||= performance.now();
		return drawArrays.call(this, mode, ...given);
	};`;

interface Watched {
	readonly first: number;
	/** When faces were drawn with the lines of their division. */
	readonly lines: number;
	longest: number;
}
const watched = (page: Page) => page.evaluate(() => (globalThis as unknown as { watched: Watched }).watched);

/** Milliseconds from an accepted figure until the masses are drawn as it makes them, and until the figures of the model are there. */
function editTakes(page: Page, length: number): Promise<{ picture: number; figures: number }> {
	return page.evaluate(async (value) => {
		const field = [...document.querySelectorAll<HTMLInputElement>('input[role=spinbutton]')].find(
			(f) => f.labels?.[0]?.textContent?.trim() === 'Length' || f.ariaLabel === 'Length'
		)!;
		const figuresOf = () => document.querySelector('[data-testid=run-figures]')!;
		let behind = false;
		// The text may be the same again: as many cells in as many milliseconds.
		const reckoned = () => {
			const [was, is] = [behind, figuresOf().classList.contains('italic')];
			behind ||= is;
			return figuresOf().textContent !== before || (was && !is);
		};
		const drawn = () => Number(document.querySelector<HTMLElement>('canvas[aria-label^="Model."]')!.dataset.drawn);
		const before = figuresOf().textContent;
		field.focus();
		field.value = String(value);
		field.dispatchEvent(new Event('input', { bubbles: true }));
		const seen = drawn();
		const begun = performance.now();
		field.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true }));
		const until = async (holds: () => boolean) => {
			while (!holds()) await new Promise((resolve) => requestAnimationFrame(resolve));
			return performance.now() - begun;
		};
		const [picture, figures] = await Promise.all([until(() => drawn() !== seen), until(reckoned)]);
		return { picture, figures };
	}, length);
}

/** Opens a project; answers its page with how long that took until the whole model was there, ms. */
async function opened(browser: Browser, own: OwnServer, id: string, place = ''): Promise<{ page: Page; time: number }> {
	const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
	await page.addInitScript(WATCH);
	const begun = performance.now();
	await page.goto(`${own.base}/projects/${id}${place}`);
	await page.getByTestId('schedule-totals').waitFor();
	return { page, time: performance.now() - begun };
}

/** Lengths one after the other; answers until when each was drawn and reckoned, and its longest task, ms. */
async function editsOf(page: Page, first: number): Promise<{ pictures: number[]; figures: number[]; tasks: number[] }> {
	const [pictures, figures, tasks]: [number[], number[], number[]] = [[], [], []];
	await page.waitForTimeout(2000);
	for (let k = 0; k < EDITS; k++) {
		await page.evaluate(() => ((globalThis as unknown as { watched: Watched }).watched.longest = 0));
		const took = await editTakes(page, first + 100 * k);
		pictures.push(took.picture);
		figures.push(took.figures);
		tasks.push((await watched(page)).longest);
		// The last picture has been drawn when the next edit comes.
		await page.waitForTimeout(500);
	}
	return { pictures, figures, tasks };
}

const told = ({ pictures, figures, tasks }: Awaited<ReturnType<typeof editsOf>>) =>
	`until its picture ${ms(pictures)}, until its figures ${ms(figures)}, its longest task ${ms(tasks)} (0 below 50)`;

const TURNED_MS = 4000;

/** Pictures a second while a model is turned by hand. */
async function turnedAt(page: Page): Promise<number> {
	const canvas = page.locator('canvas[aria-label^="Model."]');
	const { x, y, width, height } = (await canvas.boundingBox())!;
	const drawn = () => canvas.evaluate((c) => Number(c.dataset.drawn));
	const move = (k: number) => page.mouse.move(x + width / 2 + ((k * 7) % 300), y + height / 2 + (k % 5));
	await move(0);
	await page.mouse.down();
	await move(1);
	// What is drawn while it is turned has come by then.
	await page.waitForTimeout(3000);
	const [first, begun] = [await drawn(), performance.now()];
	for (let k = 2; performance.now() - begun < TURNED_MS; k++) await move(k);
	const pictures = (await drawn()) - first;
	const time = performance.now() - begun;
	await page.mouse.up();
	return (1000 * pictures) / time;
}

const ms = (values: readonly number[]) => `${median(values).toFixed(0)} ms`;

/** The demo's own page. */
async function benchDemo(browser: Browser, own: OwnServer, runs: number): Promise<void> {
	const id = await own.create(shippedDemo());
	const first: number[] = [];
	const lines: number[] = [];
	const model: number[] = [];
	const edits: Awaited<ReturnType<typeof editsOf>> = { pictures: [], figures: [], tasks: [] };
	let size = { bytes: 0, packed: 0 };
	let turned = 0;
	for (let run = 0; run < runs; run++) {
		const { page, time } = await opened(browser, own, id);
		model.push(time);
		const shown = await watched(page);
		first.push(shown.first);
		lines.push(shown.lines);
		size = await pageSize(page, shown.first);
		const made = await editsOf(page, 73_100);
		for (const of of ['pictures', 'figures', 'tasks'] as const) edits[of].push(...made[of]);
		turned = await turnedAt(page);
		await page.close();
	}
	console.log('\nThe demo in Chromium with software graphics, from a server on this machine');
	console.log(
		`before the first picture ${(size.bytes / 1e6).toFixed(2)} MB, ${(size.packed / 1e6).toFixed(2)} MB packed (gzip)\nfirst picture, of the bare faces ${ms(first)}, with their lines ${ms(lines)}, the whole model with all figures ${ms(model)}\nan edit of the canopy ${told(edits)}; turned at ${turned.toFixed(1)} pictures a second`
	);
}

/** Roofs of so many fields, across and up. */
const ROOFS = [
	[71, 141],
	[158, 316],
	[224, 447]
] as const;

export async function benchPage(runs: number): Promise<void> {
	const own = await ownServer();
	try {
		const browser = await startBrowser();
		await benchDemo(browser, own, runs);
		for (const [across, up] of ROOFS) {
			const project = demoWith(across, up);
			// Frames that leave some glass in the smallest of these cells.
			project.rules[0]!.values = { frameWidth: 20 };
			const id = await own.create(project);
			const { page } = await opened(browser, own, id);
			const edits = await editsOf(page, 73_100);
			const turned = await turnedAt(page);
			await page.close();
			const coloured = await opened(browser, own, id, '?place=tiling');
			await coloured.page.getByRole('tab', { name: 'Readings' }).click();
			await coloured.page.getByTestId('spread').waitFor();
			const inColours = await turnedAt(coloured.page);
			await coloured.page.close();
			console.log(
				`an edit of ${(across * up).toLocaleString('en')} framed panes ${told(edits)}; turned at ${turned.toFixed(1)} pictures a second, in the colours of a reading at ${inColours.toFixed(1)}`
			);
		}
	} finally {
		await stopBrowser();
		await own.end();
	}
}

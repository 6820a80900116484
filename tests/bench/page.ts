// What a page of the demo brings and how soon it shows something: part of `npm run bench`; wants a build and Chromium.
import { gzipSync } from 'node:zlib';
import type { Page } from 'playwright-core';
import { startBrowser, stopBrowser } from '../browser/browser.ts';
import { ownServer } from '../http/ownServer.ts';
import { shippedDemo } from '../unit/demo.ts';

const RUNS = 3;
const EDITS = 5;
const median = (values: readonly number[]) => [...values].sort((a, b) => a - b)[values.length >> 1]!;

/** Notes the first picture of the model, and the longest task since it was asked, ms. */
const WATCH = `
	// The loader of these programs names functions by it.
	globalThis.__name = (f) => f;
	globalThis.watched = { first: 0, longest: 0 };
	new PerformanceObserver((list) => {
		for (const { duration } of list.getEntries()) watched.longest = Math.max(watched.longest, duration);
	}).observe({ type: 'longtask', buffered: true });
	// An empty picture draws nothing by corners.
	const { drawElements } = WebGL2RenderingContext.prototype;
	WebGL2RenderingContext.prototype.drawElements = function (...given) {
		watched.first ||= performance.now();
		return drawElements.apply(this, given);
	};`;

interface Watched {
	readonly first: number;
	longest: number;
}
const watched = (page: Page) => page.evaluate(() => (globalThis as unknown as { watched: Watched }).watched);

/** Milliseconds from an accepted figure until the picture of its model is drawn. */
function editTakes(page: Page, length: number): Promise<number> {
	return page.evaluate(async (value) => {
		const field = [...document.querySelectorAll<HTMLInputElement>('input[role=spinbutton]')].find(
			(f) => f.labels?.[0]?.textContent?.trim() === 'Length' || f.ariaLabel === 'Length'
		)!;
		const text = () => document.querySelector('[data-testid=run-figures]')!.textContent;
		const drawn = () => Number(document.querySelector<HTMLElement>('canvas[aria-label^="Model."]')!.dataset.drawn);
		const before = text();
		field.focus();
		field.value = String(value);
		field.dispatchEvent(new Event('input', { bubbles: true }));
		const begun = performance.now();
		field.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true }));
		const frame = () => new Promise((resolve) => requestAnimationFrame(resolve));
		while (text() === before) await frame();
		const seen = drawn();
		while (drawn() === seen) await frame();
		return performance.now() - begun;
	}, length);
}

export async function benchPage(): Promise<void> {
	const own = await ownServer();
	try {
		const id = await own.create(shippedDemo());
		const browser = await startBrowser();
		const [first, model, edits, tasks]: [number[], number[], number[], number[]] = [[], [], [], []];
		let bytes = 0;
		let packed = 0;
		for (let run = 0; run < RUNS; run++) {
			const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
			const page = await context.newPage();
			await page.addInitScript(WATCH);
			const begun = performance.now();
			await page.goto(`${own.base}/projects/${id}`);
			await page.getByTestId('schedule-totals').waitFor();
			model.push(performance.now() - begun);
			const shown = (await watched(page)).first;
			first.push(shown);
			const urls = await page.evaluate(
				(until) =>
					performance
						.getEntriesByType('resource')
						.filter((r) => r.startTime < until)
						.map((r) => r.name),
				shown
			);
			[bytes, packed] = [0, 0];
			for (const url of new Set([page.url(), ...urls.filter((u) => !u.includes('/events'))])) {
				const body = new Uint8Array(await (await fetch(url)).arrayBuffer());
				bytes += body.length;
				packed += /\.(woff2|wasm)/.test(url) ? body.length : gzipSync(body).length;
			}
			await page.waitForTimeout(2000);
			for (let k = 0; k < EDITS; k++) {
				await page.evaluate(() => ((globalThis as unknown as { watched: Watched }).watched.longest = 0));
				edits.push(await editTakes(page, 73_100 + 100 * k));
				tasks.push((await watched(page)).longest);
			}
			await context.close();
		}
		console.log('\nThe demo in Chromium with software graphics, from a server on this machine');
		console.log(
			`before the first picture ${(bytes / 1e6).toFixed(2)} MB, ${(packed / 1e6).toFixed(2)} MB packed (gzip)\nfirst picture, of the bare faces ${median(first).toFixed(0)} ms, the whole model ${median(model).toFixed(0)} ms\nan edit of the canopy until its picture ${median(edits).toFixed(0)} ms, its longest task ${median(tasks).toFixed(0)} ms`
		);
	} finally {
		await stopBrowser();
		await own.end();
	}
}

// Takes the pictures of docs/screenshots from the demo: `npm run screenshots` while `npm run demo` runs.
// With names after `--`, only those; with OUT set, into another folder.
import { chromium, type Page } from 'playwright-core';

const BASE = process.env.ZYGASTER_URL ?? 'http://127.0.0.1:4173';
const OUT = process.env.OUT ?? 'docs/screenshots';
const DEMO = `${BASE}/projects/5a110000-0000-4000-8000-000000000001`;

const place = (name: string, then?: (page: Page) => Promise<void>) => async (page: Page) => {
	await page.goto(`${DEMO}?place=${name}`);
	await page.getByTestId('schedule-totals').waitFor();
	await then?.(page);
};

/** Clicks a panel in the middle of the model. */
const choosePanel = async (page: Page) => {
	await page.locator('canvas').first().click({ position: { x: 520, y: 300 } });
	await page.getByTestId('cell-card').waitFor();
};

const PICTURES: Record<string, (page: Page) => Promise<void>> = {
	projects: async (page) => void (await page.goto(BASE)),
	workspace: place('mass'),
	'setting-out': place('setting-out', choosePanel),
	kits: place('kits'),
	placement: place('placement'),
	schedule: place('schedule'),
	handover: place('handover')
};

const wanted = process.argv.slice(2);
const browser = await chromium.launch({
	executablePath: '/usr/bin/chromium',
	args: ['--no-sandbox', '--use-angle=swiftshader', '--enable-unsafe-swiftshader', '--disable-background-networking', '--disable-component-update', '--disable-sync']
});
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
for (const [name, take] of Object.entries(PICTURES)) {
	if (wanted.length && !wanted.includes(name)) continue;
	await take(page);
	await page.waitForTimeout(1500);
	await page.screenshot({ path: `${OUT}/${name}.png` });
	console.log(name);
}
await browser.close();

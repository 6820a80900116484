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

/** The bench with a kit on it. */
const bench = (kit: string, then: (page: Page) => Promise<void>) => async (page: Page) => {
	await page.goto(`${DEMO}?place=kits`);
	await page.getByRole('button', { name: new RegExp(`^${kit}`) }).click();
	await page.getByTestId('bench-state').filter({ hasText: 'Fits this host' }).waitFor();
	await page.waitForTimeout(800);
	await then(page);
};

const openFlat = async (page: Page) => {
	await page.getByRole('button', { name: 'Open the developed view' }).click();
	await page.getByTestId('flat-stretch').waitFor();
	await page.waitForTimeout(1000);
};

/** An invented waiting hall: walls under a wavy roof, as the OBJ text of another program would have it. */
function hall(): string {
	const n = 24;
	const roof = (i: number, j: number) => 5 + 1.5 * Math.sin((i / n) * 4) * Math.cos((j / n) * 3);
	const at = (i: number, j: number) => [(i / n) * 32, (j / n) * 20];
	const quads: number[][][] = [];
	const field = (corners: number[][]) => quads.push(corners);
	for (let j = 0; j < n; j++)
		for (let i = 0; i < n; i++)
			field(
				[
					[i, j],
					[i + 1, j],
					[i + 1, j + 1],
					[i, j + 1]
				].map(([a, b]) => [...at(a!, b!), roof(a!, b!)])
			);
	for (let k = 0; k < n; k++)
		for (const [a, b] of [
			[
				[k, 0],
				[k + 1, 0]
			],
			[
				[n, k],
				[n, k + 1]
			],
			[
				[k + 1, n],
				[k, n]
			],
			[
				[0, k + 1],
				[0, k]
			]
		] as [number[], number[]][])
			field([
				[...at(a[0]!, a[1]!), 0],
				[...at(b[0]!, b[1]!), 0],
				[...at(b[0]!, b[1]!), roof(b[0]!, b[1]!)],
				[...at(a[0]!, a[1]!), roof(a[0]!, a[1]!)]
			]);
	const vertices = quads.flat().map((p) => `v ${p.map((x) => x!.toFixed(4)).join(' ')}`);
	return [
		'o Waiting hall',
		...vertices,
		...quads.map((_, q) => `f ${[1, 2, 3, 4].map((k) => q * 4 + k).join(' ')}`)
	].join('\n');
}

const drawLantern = async (page: Page) => {
	await page.getByRole('button', { name: /^Lantern skin/ }).click();
	await page.getByRole('button', { name: 'Draw', exact: true }).click();
	await page.waitForTimeout(1000);
	const canvas = page.getByTestId('curve-canvas');
	const [frame, text] = [(await canvas.boundingBox())!, (await canvas.getAttribute('data-points'))!];
	const [x, y] = text.split(' ')[2]!.split(',').map(Number);
	await page.mouse.click(frame.x + x!, frame.y + y!);
};

const bringIn = async (page: Page) => {
	await page.getByRole('button', { name: 'Add a mass' }).click();
	await page.getByRole('menuitem', { name: /^From a file/ }).click();
	await page
		.getByLabel('Model file', { exact: true })
		.setInputFiles({ name: 'waiting-hall.obj', mimeType: 'text/plain', buffer: Buffer.from(hall()) });
	await page.getByLabel('Unit', { exact: true }).selectOption({ label: 'Metres; the file does not say' });
	await page.getByRole('button', { name: 'Lay the faces over' }).click();
	await page.getByRole('button', { name: /^Bring in \d/ }).waitFor();
};

const PICTURES: Record<string, (page: Page) => Promise<void>> = {
	projects: async (page) => void (await page.goto(BASE)),
	workspace: place('placement'),
	mass: place('mass', (page) => page.getByRole('button', { name: /^Water side/ }).click()),
	drawing: place('mass', drawLantern),
	import: place('mass', bringIn),
	'setting-out': place('setting-out', async (page) => {
		await openFlat(page);
		const box = (await page.getByTestId('flat-canvas').boundingBox())!;
		await page.mouse.click(box.x + box.width * 0.42, box.y + box.height * 0.72);
		await page.getByTestId('cell-card').waitFor();
	}),
	openings: place('setting-out', async (page) => {
		await page.getByRole('button', { name: /^Water side/ }).click();
		await openFlat(page);
		await page.getByRole('button', { name: 'Under', exact: true }).click();
		await page.getByRole('button', { name: /^Entrance/ }).click();
		await page.getByLabel('Chosen opening').scrollIntoViewIfNeeded();
	}),
	zones: place('tiling', async (page) => {
		await page.getByRole('button', { name: /^Lantern skin/ }).click();
		await page.keyboard.press('d');
		await page.getByTestId('flat-stretch').waitFor();
		await page.getByRole('button', { name: /^Lamp room/ }).click();
	}),
	tilings: place('tiling', async (page) => {
		await page.getByRole('button', { name: /^Lantern skin/ }).click();
		await page.getByTestId('tiling-choice').click();
		await page.getByRole('button', { name: 'Hexagons', exact: true }).waitFor();
	}),
	'own-tiling': place('tiling', async (page) => {
		await page.getByRole('button', { name: /^Street side/ }).click();
		await page.getByRole('button', { name: 'Edit unit' }).click();
		await page.getByTestId('unit-state').waitFor();
		const canvas = page.getByTestId('unit-canvas');
		await page.waitForTimeout(500);
		const [left, top, scale] = (await canvas.getAttribute('data-frame'))!.split(' ').map(Number) as [
			number,
			number,
			number
		];
		const box = (await canvas.boundingBox())!;
		await page.mouse.click(box.x + left + 1.5 * scale, box.y + top - 1.5 * scale);
	}),
	readings: place('tiling', async (page) => {
		await page.keyboard.press('d');
		await page.getByTestId('flat-stretch').waitFor();
		await page.getByRole('tab', { name: 'Readings' }).click();
		await page.getByTestId('readings').getByRole('combobox').first().selectOption('cell.greatestEdge');
		await page.getByTestId('legend').waitFor();
		await page.getByTestId('worst').getByRole('button').first().click();
	}),
	kits: bench('Louver bank', async (page) => {
		await page.locator('[data-step=louvers] button[aria-expanded]').click();
	}),
	starters: bench('Lantern shingle', async (page) => {
		await page.getByRole('button', { name: 'Add kit' }).click();
		await page.getByRole('button', { name: 'Hollowed block' }).waitFor();
		await page.waitForTimeout(2500);
	}),
	placement: place('placement', async (page) => {
		await page.getByRole('button', { name: 'Rules', exact: true }).click();
		await page.getByRole('button', { name: /^all others → Framed pane/ }).click();
		await page.waitForTimeout(1500);
	}),
	fields: place('placement', async (page) => {
		await page.getByRole('button', { name: /^Water’s edge/ }).click();
		await page.getByRole('group', { name: /^Curve from what occurs/ }).scrollIntoViewIfNeeded();
		await page.waitForTimeout(1500);
	}),
	schedule: place('schedule', async (page) => {
		await page.getByRole('tab', { name: 'Own', exact: true }).click();
		await page.getByTestId('own-table').getByRole('combobox').selectOption({ label: 'Materials and cost' });
		await page.getByTestId('own-table').getByText('Larch').first().waitFor();
	}),
	types: place('schedule', async (page) => {
		await page.getByRole('tab', { name: 'Types' }).click();
		await page.getByRole('grid', { name: 'Types of pieces' }).getByRole('row').nth(2).click();
		await page.getByRole('button', { name: 'What does a millimetre buy?' }).click();
		await page.getByLabel(/^Types by tolerance/).waitFor();
	}),
	handover: place('handover', async (page) => {
		await page.getByRole('button', { name: 'Water side, developed A1' }).click();
		await page.getByTestId('sheet-title').filter({ hasText: '1 : ' }).waitFor();
		// The list of files, each with how large it is likely to be.
		await page.getByRole('region', { name: 'Grid in space as DXF' }).scrollIntoViewIfNeeded();
		await page.waitForTimeout(800);
	}),
	revisions: place('mass', async (page) => {
		// Two edits, the first of which has a name.
		const rise = page.getByRole('spinbutton', { name: 'Rise' });
		for (const text of ['4500', '5200']) {
			await rise.fill(text);
			await rise.press('Enter');
			await page.getByTestId('save-state').getByText('Saved', { exact: true }).waitFor();
		}
		await page.getByRole('button', { name: 'Revisions' }).click();
		const pane = page.getByRole('complementary', { name: 'Revisions' });
		await pane
			.getByRole('button', { name: /Change rise/ })
			.nth(1)
			.click();
		await pane.getByRole('textbox', { name: 'Name' }).fill('before the workshop');
		await pane.getByRole('textbox', { name: 'Name' }).press('Enter');
		await pane.getByRole('button', { name: 'Look at it' }).click();
	})
};

const wanted = process.argv.slice(2);
const browser = await chromium.launch({
	executablePath: '/usr/bin/chromium',
	args: [
		'--no-sandbox',
		'--use-angle=swiftshader',
		'--enable-unsafe-swiftshader',
		'--disable-background-networking',
		'--disable-component-update',
		'--disable-sync'
	]
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

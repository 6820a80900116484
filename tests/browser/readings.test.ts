import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { fullDemo, keepRules, setCount } from '../unit/demo.ts';
import { interpolateViridis } from 'd3-scale-chromatic';
import { createProject, enter, eventually, openPage, openProject, settles, shows } from './browser.ts';

/** A colour such as `rgb(68, 1, 84)` or `#440154` as the numbers of its bytes. */
const bytes = (colour: string) =>
	colour.startsWith('#')
		? [1, 3, 5].map((k) => parseInt(colour.slice(k, k + 2), 16)).join()
		: colour.replace(/[^\d,]/g, '');

describe('readings', () => {
	let page: Page;
	let errors: string[];
	let id: string;

	before(async () => {
		id = await createProject((p) => {
			Object.assign(p, fullDemo());
			p.masses = [p.masses[0]!, p.masses[2]!];
			keepRules(p, (face) => ['canopy/skin', 'lantern/skin'].includes(face));
			p.zones = [];
			setCount(p, 0, 'across', 12);
			setCount(p, 0, 'up', 24);
		});
	});
	beforeEach(async () => {
		({ page, errors } = await openPage());
		await openProject(page, id, 'tiling');
		await page.getByRole('tab', { name: 'Readings' }).click();
		await panel().getByRole('combobox').first().waitFor();
	});
	afterEach(async () => {
		expect(errors).deep.equal([]);
		await page.close();
	});

	const panel = () => page.getByTestId('readings');
	const spread = () => page.getByTestId('spread');
	const figure = async (name: string) => (await spread().locator(`[data-figure=${name}]`).textContent())!;
	const chooseReading = (name: string) => panel().getByRole('combobox').first().selectOption(name);
	const counts = async () => (await page.getByTestId('histogram').getAttribute('data-counts'))!.split(' ').map(Number);
	/** Colours of the picture in space. */
	async function colours(): Promise<Set<string>> {
		const shot = await page.locator('canvas[aria-label^="Model."]').screenshot();
		const found = await page.evaluate(async (data) => {
			const image = new Image();
			image.src = `data:image/png;base64,${data}`;
			await image.decode();
			const canvas = document.createElement('canvas');
			[canvas.width, canvas.height] = [image.width, image.height];
			const ctx = canvas.getContext('2d')!;
			ctx.drawImage(image, 0, 0);
			const { data: pixels } = ctx.getImageData(0, 0, image.width, image.height);
			const seen: Record<string, number> = {};
			for (let k = 0; k < pixels.length; k += 4) {
				const key = [...pixels.slice(k, k + 3)].join();
				seen[key] = (seen[key] ?? 0) + 1;
			}
			return Object.keys(seen).filter((key) => seen[key]! > 40);
		}, shot.toString('base64'));
		return new Set(found);
	}

	it('colour the model and the developed view, with a legend that is clipped and stepped', async () => {
		const legend = page.getByTestId('legend');
		await chooseReading('cell.tilt');
		await shows(legend, 'Tilt');
		await shows(legend, /\d+(\.\d)?°/);
		// Of viridis (van der Walt and Smith, 2015; package d3-scale-chromatic), exactly.
		const viridis = Array.from({ length: 256 }, (_, k) => bytes(interpolateViridis(k / 255)));
		await eventually(async () => {
			const seen = await colours();
			expect(viridis.filter((colour) => seen.has(colour)).length).greaterThan(5);
		});
		await enter(page, 'Steps', '4');
		await page.locator('canvas[aria-label^="Model."]').press('d');
		await page.getByTestId('flat-stretch').waitFor();
		await eventually(async () =>
			expect(
				[...(await colours())].filter((c) => ['68,1,84', '49,104,142', '53,183,121', '253,231,37'].includes(c)).length
			).greaterThan(2)
		);
		expect(await counts()).length(4);
		await enter(page, 'To', '12');
		await shows(legend, '≥ 12.0°');
		await enter(page, 'From', '30');
		await shows(page.getByRole('alert'), 'must be below the upper limit');
		await page.getByRole('button', { name: 'Whole range' }).click();
		await legend.getByRole('button', { name: 'Stop colouring' }).click();
		await legend.waitFor({ state: 'detached' });
	});

	it('keep the colours of many cells in fewer triangles while these are turned, and show all at rest', async () => {
		const many = await createProject((p) => {
			setCount(p, 0, 'across', 130);
			setCount(p, 0, 'up', 260);
			p.rules = [];
		});
		await openProject(page, many, 'tiling');
		await page.getByRole('tab', { name: 'Readings' }).click();
		const canvas = page.locator('canvas[aria-label^="Model."]');
		const detail = () => canvas.getAttribute('data-detail');
		await page.getByTestId('legend').waitFor();
		await settles(canvas, 'data-drawn');
		expect(await detail()).not.include('coarse');
		const { x, y } = (await canvas.boundingBox())!;
		await page.mouse.move(x + 200, y + 200);
		await page.mouse.down();
		let way = 0;
		await eventually(async () => {
			await page.mouse.move(x + 200 + (way += 3), y + 200);
			expect(await detail()).equal('coarse');
		});
		expect((await colours()).size).greaterThan(10);
		await page.mouse.up();
		await eventually(async () => expect(await detail()).not.include('coarse'));
		expect((await colours()).size).greaterThan(10);
	});

	it('leave the picture as it was until the next one is whole, which is drawn once an edit', async () => {
		const canvas = page.locator('canvas[aria-label^="Model."]');
		const drawn = () => canvas.getAttribute('data-drawn');
		const cells = () => page.getByTestId('run-figures').textContent();
		/** Takes the last edit back, or makes it again; answers how often it was drawn. */
		const again = async (keys: string) => {
			await settles(canvas, 'data-drawn');
			const [before, known] = [Number(await drawn()), await cells()];
			await page.keyboard.press(keys);
			await eventually(async () => {
				expect(await cells()).not.equal(known);
				expect(Number(await drawn())).greaterThan(before);
			});
			await settles(canvas, 'data-drawn');
			return Number(await drawn()) - before;
		};
		const first = await cells();
		await page.getByTestId('tiling-choice').click();
		await page.getByRole('button', { name: 'Four about the centre' }).click();
		await eventually(async () => expect(await cells()).not.equal(first));
		expect(await again('Control+z')).equal(1);
		await chooseReading('cell.tilt');
		await page.getByTestId('legend').waitFor();
		expect(await again('Control+y')).equal(1);
		await page.getByRole('button', { name: 'Mass', exact: true }).click();
		expect(await again('Control+z')).equal(1);
	});

	it('select by the bars of the histogram and from the list of the worst', async () => {
		await chooseReading('cell.area');
		await shows(spread(), 'm²');
		const bars = await counts();
		expect(bars.reduce((a, b) => a + b, 0)).equal(Number((await figure('count')).replace(/\D/g, '')));
		// The keyboard goes to the last bar, whose cells are the largest.
		await page.getByTestId('histogram').press('ArrowLeft');
		await page.getByTestId('histogram').press('Enter');
		await shows(page.getByTestId('cell-card'), /C1-/);
		const last = bars.at(-1)!;
		if (last > 1) await shows(page.getByTestId('cell-card'), `and ${last - 1} more chosen`);
		const worst = page.getByTestId('worst').getByRole('button').first();
		expect((await worst.textContent())!).contains(await figure('greatest'));
		await worst.click();
		await shows(page.getByTestId('cell-card'), (await worst.locator('span').first().textContent())!);
		// Edges and nodes choose the cells at them.
		await chooseReading('edge.length');
		await page.getByTestId('worst').getByRole('button', { name: /\/\d/ }).first().click();
		await shows(page.getByTestId('cell-card'), /C1-/);
		await chooseReading('node.valence');
		await page.getByTestId('worst').getByRole('button', { name: /\.\d/ }).first().waitFor();
	});

	it('compare with a reference that was kept', async () => {
		await chooseReading('cell.area');
		await shows(spread(), 'm²');
		const before = await figure('count');
		await page.getByRole('button', { name: 'Keep as reference' }).click();
		await shows(spread(), 'Reference');
		await page.getByTestId('tiling-choice').click();
		await page.getByRole('button', { name: 'Four about the centre' }).click();
		await page.waitForFunction((was) => document.querySelector('[data-figure=count]')?.textContent !== was, before);
		await shows(spread().getByRole('row').filter({ hasText: 'Cells' }), before);
		await shows(spread().getByRole('row').filter({ hasText: 'Cells' }), '+');
		await shows(spread().getByRole('row').filter({ hasText: 'Mean' }), '−');
		await page.getByRole('button', { name: 'Forget it' }).click();
		await spread().getByText('Reference').waitFor({ state: 'detached' });
	});

	it('tell kinds apart in words, over one face or all', async () => {
		await chooseReading('cell.border');
		await shows(page.getByTestId('legend'), 'inside');
		await shows(spread(), 'at a border');
		const one = Number((await figure('count')).replace(/\D/g, ''));
		await panel().getByLabel('Faces').selectOption('all shown');
		await page.waitForFunction(
			(n) => Number(document.querySelector('[data-figure=count]')?.textContent?.replace(/\D/g, '')) === n,
			one + 348
		);
		await shows(page.getByTestId('legend'), 'all faces shown');
	});
});

import { expect } from 'chai';
import type { Page } from 'playwright-core';
import type { Project } from '../../src/core/project/schema.ts';
import { fullDemo, setCount } from '../unit/demo.ts';
import { createProject, enter, openPage, openProject, saved, savedProject, settles, shows } from './browser.ts';

/** Fewer cells, so that the picture is quick without a graphics card. */
function coarse(project: Project): void {
	setCount(project, 0, 'across', 12);
	setCount(project, 0, 'up', 24);
}

describe('setting-out, openings and the developed view', () => {
	// Many pictures, each drawn without a graphics card.
	let page: Page;
	let errors: string[];

	beforeEach(async () => ({ page, errors } = await openPage()));
	afterEach(async () => {
		expect(errors).deep.equal([]);
		await page.close();
	});

	const canvas = () => page.getByTestId('flat-canvas');
	const cardText = () => page.getByTestId('cell-card');
	const face = async (id: string, mass = 0): Promise<Project['masses'][number]['faces'][number]> =>
		(await savedProject(id)).masses[mass]!.faces[0]!;

	/** Opens the developed view and waits until it shows the face. */
	async function openFlat(): Promise<void> {
		await page.getByRole('button', { name: 'Open the developed view' }).click();
		await page.getByTestId('flat-stretch').waitFor();
		await settled();
	}

	/** Waits until the flat face does not move any more. */
	const settled = () => settles(canvas(), 'data-frame');

	/** Where a flat place, mm, is on the page. */
	async function at(x: number, y: number): Promise<[number, number]> {
		const [left, top, scale] = (await canvas().getAttribute('data-frame'))!.split(' ').map(Number) as [
			number,
			number,
			number
		];
		const box = (await canvas().boundingBox())!;
		return [box.x + (x - left) * scale, box.y + (top - y) * scale];
	}
	const click = async (x: number, y: number, options = {}) => page.mouse.click(...(await at(x, y)), options);
	async function drag(from: [number, number], to: [number, number]): Promise<void> {
		const [a, b] = [await at(...from), await at(...to)];
		await page.mouse.move(...a);
		await page.mouse.down();
		await page.mouse.move((a[0] + b[0]) / 2, (a[1] + b[1]) / 2);
		await page.mouse.move(...b);
		await page.mouse.up();
	}
	const tool = (name: string) =>
		page
			.getByRole('toolbar', { name: 'Tools of the developed view' })
			.getByRole('button', { name, exact: true })
			.click();
	const spacing = (direction: string, kind: string) =>
		page
			.getByRole('radiogroup', { name: `Spacing ${direction}` })
			.getByRole('radio', { name: kind, exact: true })
			.click();

	it('lays modules and lists, tells what is left over, and undoes', async () => {
		const id = await createProject(coarse);
		await openProject(page, id, 'setting-out');
		await spacing('up', 'Module');
		await enter(page, 'Module', '2000');
		await page.getByLabel('Remainder').selectOption('both');
		const figures = page.getByTestId('figures-up');
		await shows(figures, /\d+ rows · 2 000 mm · [\d ]+ mm at the start · [\d ]+ mm at the end/);
		await saved(page);
		expect((await face(id)).settingOut.up.spacing).deep.equal({ kind: 'module', module: 2000, remainder: 'both' });
		await spacing('across', 'List');
		const widths = page.getByLabel('Widths');
		await widths.fill('1200, 900, 4 x 1500, wide');
		await widths.press('Enter');
		await shows(page.getByRole('alert'), 'Width 4, “wide”');
		await widths.fill('1200, 900, 4 x 1500, 900');
		await widths.press('Enter');
		await shows(page.getByTestId('figures-across'), /8 columns · 900 mm to 1 500 mm/);
		await page.keyboard.press('Control+z');
		await page.keyboard.press('Control+z');
		await shows(page.getByTestId('figures-across'), '12 columns');
	});

	it('keeps the last division that fitted when one does not, and says what would be right', async () => {
		const id = await createProject(coarse);
		await openProject(page, id, 'setting-out');
		await shows(page.getByTestId('setting-out-figures'), '288 cells');
		await spacing('across', 'Module at most');
		await enter(page, 'At most', '1000');
		await shows(page.getByTestId('figures-across'), /4\d columns/);
		await spacing('across', 'Module');
		await enter(page, 'Module', '500 m');
		const warning = page.getByRole('status').filter({ hasText: 'longer than the face' });
		await shows(
			warning,
			/a module of 500 000 mm is longer than the face, which measures [\d ]+ mm\. Right would be at most [\d ]+ mm\. The last division that fitted is shown\./
		);
		await shows(page.getByTestId('figures-across'), /4\d columns/);
		await spacing('across', 'At levels');
		await shows(page.getByRole('status'), /The levels do not cut this face one after the other across/);
	});

	it('shows the chosen face flat, linked with model and schedule', async () => {
		const id = await createProject(coarse);
		await openProject(page, id, 'setting-out');
		await openFlat();
		await shows(page.getByTestId('flat-stretch'), /lengths off by −[\d.]+ % to \+[\d.]+ %/);
		await click(16_500, 30_300);
		await shows(cardText(), /C1-1\d-0\d/);
		const mark = (await cardText().locator('strong').textContent())!;
		await shows(page.locator('[role=row][aria-selected=true]'), mark);
		// A box around cells, and a lasso around more of them.
		await drag([12_000, 20_000], [20_000, 26_000]);
		await shows(cardText(), /and \d+ more chosen/);
		await tool('Lasso');
		const around = await Promise.all([at(9000, 40_000), at(22_000, 40_000), at(22_000, 52_000), at(9000, 52_000)]);
		await page.mouse.move(...around[0]!);
		await page.mouse.down();
		for (const point of [...around.slice(1), around[0]!]) await page.mouse.move(...point, { steps: 4 });
		await page.mouse.up();
		await shows(cardText(), /C1-1\d-\d\d.*and 1\d more chosen/s);
		// A row chosen in the schedule is brought into the flat picture too.
		await page.keyboard.press('Escape');
		await page.locator('[role=row][data-row]').nth(2).click();
		await shows(cardText(), 'C1-');
	});

	it('draws an opening, drags it, copies it and cuts the cells exactly', async () => {
		const id = await createProject(coarse);
		await openProject(page, id, 'setting-out');
		await openFlat();
		await tool('Rectangle');
		await drag([13_000, 30_000], [20_000, 36_000]);
		await shows(page.getByTestId('setting-out-figures'), /\d+ whole, \d+ cut, \d+ lost/);
		await saved(page);
		const drawn = (await face(id)).openings[0]!;
		expect([drawn.outline.kind, drawn.place.kind]).deep.equal(['rectangle', 'face']);
		// Dragged by somewhere within.
		await drag([16_500, 33_000], [16_500, 43_000]);
		await saved(page);
		const moved = (await face(id)).openings[0]!;
		const upOf = (o: typeof drawn) => (o.place.kind === 'face' ? o.place.up : NaN);
		expect(upOf(moved) - upOf(drawn)).closeTo(10_000, 400);
		await enter(page, 'Frame', '150');
		const row = page.getByRole('button', { name: /^Opening 1/ });
		await row.hover();
		await page.getByRole('button', { name: 'Copy Opening 1' }).click();
		await page.getByRole('button', { name: /^Opening 2/ }).waitFor();
		await saved(page);
		expect((await face(id)).openings.map((o) => [o.name, o.frame])).deep.equal([
			['Opening 1', 150],
			['Opening 2', 150]
		]);
		await page.getByRole('button', { name: 'Remove Opening 2' }).click();
		await page.getByRole('button', { name: /^Opening 2/ }).waitFor({ state: 'detached' });
		await shows(page.getByLabel('Chosen opening').or(page.getByText('Cut cells')), /./);
	});

	it('draws a polygon point by point and refuses one that crosses itself', async () => {
		const id = await createProject(coarse);
		await openProject(page, id, 'setting-out');
		await openFlat();
		await tool('Polygon');
		for (const [x, y] of [
			[10_000, 20_000],
			[20_000, 30_000],
			[20_000, 20_000],
			[10_000, 30_000]
		] as const)
			await click(x, y);
		await page.keyboard.press('Enter');
		await shows(page.getByRole('alert'), 'crosses itself, side 1 and side 3');
		expect((await face(id)).openings).deep.equal([]);
		for (const [x, y] of [
			[10_000, 20_000],
			[20_000, 20_000],
			[20_000, 30_000],
			[10_000, 30_000]
		] as const)
			await click(x, y);
		await page.keyboard.press('Enter');
		await page.getByRole('button', { name: /^Opening 1/ }).waitFor();
		await saved(page);
		expect((await face(id)).openings[0]!.outline.kind).equal('polygon');
		const points = page.getByLabel('Points');
		await points.fill('0, 0\n4000');
		await points.blur();
		await shows(page.getByRole('alert'), 'Line 2, “4000”, is no point');
	});

	it('hangs doors on a level, lets them follow it, and merges slivers', async () => {
		const id = await createProject((p) => Object.assign(p, fullDemo()));
		await openProject(page, id, 'setting-out');
		await page.getByRole('button', { name: /^Water side/ }).click();
		await openFlat();
		await page.getByLabel('Add an opening').selectOption('door');
		await page.getByRole('button', { name: /^Door 1/ }).waitFor();
		await enter(page, 'Across', '8000');
		await enter(page, 'Above it', '0');
		await saved(page);
		const door = (await face(id, 1)).openings.at(-1)!;
		expect([door.name, door.place]).deep.equal(['Door 1', { kind: 'level', across: 8000, level: 'quay', above: 0 }]);
		await enter(page, 'Least width', '900');
		await page.getByLabel('Slivers').selectOption('merge');
		await shows(page.getByLabel('Cut cells'), /\d+ joined a neighbour/);
		await enter(page, 'Above it', '90 m');
		await shows(page.getByRole('status').filter({ hasText: 'Door 1' }), 'is off the face, which runs from');
	});

	it('paints a zone, and selects its cells', async () => {
		const id = await createProject(coarse);
		await openProject(page, id, 'setting-out');
		await openFlat();
		await page.getByRole('button', { name: 'Tiling' }).click();
		await page.getByRole('button', { name: 'Add a zone' }).click();
		await drag([10_000, 30_000], [24_000, 30_000]);
		await saved(page);
		const [zone] = (await savedProject(id)).zones;
		const [row, from, to] = zone!.parts[0]!.runs[0]!;
		expect(zone!.parts[0]!.runs).length(1);
		expect(to - from).greaterThan(3);
		await page.getByRole('button', { name: 'Select its cells' }).click();
		await shows(cardText(), `and ${to - from} more chosen`);
		await shows(cardText(), `C1-${row + 1}-`);
		await tool('Erase');
		await drag([10_000, 30_000], [14_000, 30_000]);
		await saved(page);
		expect((await savedProject(id)).zones[0]!.parts[0]!.runs[0]![1]).greaterThan(from);
	});

	it('shows nodes, numbers, corners and the boxes between two layers', async () => {
		const id = await createProject(coarse);
		await openProject(page, id, 'setting-out');
		await page.getByText('Whole grid: turn, fair, layer').click();
		await enter(page, 'Second layer', '600');
		await page.getByRole('button', { name: 'Show', exact: true }).click();
		for (const name of ['Nodes', 'Corner order', 'Row and column numbers', 'Normals', 'Boxes'])
			await page.getByRole('checkbox', { name, exact: true }).check();
		await shows(page.getByTestId('overlay-labels').locator('.overlay-row'), '24');
		await shows(page.getByTestId('overlay-labels').locator('.overlay-column'), '12');
		await page.keyboard.press('Escape');
		await page.locator('[role=row][data-row]').first().click();
		await page.waitForFunction(() => document.querySelectorAll('.overlay-corner').length === 4);
	});
});

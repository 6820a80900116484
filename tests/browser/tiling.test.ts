import { expect } from 'chai';
import type { Page } from 'playwright-core';
import type { Project } from '../../src/core/project/schema.ts';
import { fullDemo, setCount } from '../unit/demo.ts';
import { createProject, enter, openPage, openProject, saved, savedProject, settles, shows } from './browser.ts';

/** Few cells, so that the picture is quick without a graphics card. */
function coarse(project: Project): void {
	setCount(project, 0, 'across', 8);
	setCount(project, 0, 'up', 12);
}

describe('tilings, marks and order', () => {
	let page: Page;
	let errors: string[];

	beforeEach(async () => ({ page, errors } = await openPage()));
	afterEach(async () => {
		expect(errors).deep.equal([]);
		await page.close();
	});

	const figures = () => page.getByTestId('tiling-figures');
	const preview = () => page.getByTestId('marks-preview');
	const face = async (id: string, mass = 0): Promise<Project['masses'][number]['faces'][number]> =>
		(await savedProject(id)).masses[mass]!.faces[0]!;
	async function choose(name: string): Promise<void> {
		await page.getByTestId('tiling-choice').click();
		await page.getByRole('button', { name, exact: true }).click();
	}
	async function template(text: string): Promise<void> {
		const field = page.getByLabel('Template');
		await field.fill(text);
		await field.press('Enter');
	}

	it('chooses tilings by their pictures, changes their options, and undoes', async () => {
		const id = await createProject(coarse);
		await openProject(page, id, 'tiling');
		await shows(figures(), '96 cells on 8 × 12 fields');
		await choose('Triangles');
		await shows(figures(), '192 cells');
		await page.getByLabel('Diagonal').selectOption('the flatter surface');
		await choose('Diamonds');
		await shows(figures(), /cells on 8 × 12 fields/);
		await page.getByLabel('At borders').selectOption('leave them out');
		await saved(page);
		expect((await face(id)).tiling).deep.equal({ kind: 'diamonds', border: 'whole' });
		await choose('Running bond');
		await enter(page, 'Offset', '33 %');
		await saved(page);
		expect((await face(id)).tiling).deep.equal({ kind: 'running-bond', offset: 0.33, border: 'cut' });
		await enter(page, 'Offset', '200 %');
		await shows(page.getByRole('alert'), 'must be at most 95 %');
		await choose('Voronoi');
		await enter(page, 'Cell size', '6 m');
		await enter(page, 'Seed', '7');
		await page.getByLabel('Sizes').selectOption('smaller near a point');
		await page.getByRole('button', { name: 'Click the point on the developed view' }).click();
		await page.getByTestId('flat-stretch').waitFor();
		const box = (await page.getByTestId('flat-canvas').boundingBox())!;
		await settles(page.getByTestId('flat-canvas'), 'data-frame');
		await page.mouse.click(box.x + box.width / 2, box.y + box.height / 2);
		await saved(page);
		await page.waitForFunction(() =>
			(document.querySelector('[data-testid=tiling-figures]')?.textContent ?? '').includes('cells')
		);
		const { tiling } = await face(id);
		expect(tiling).deep.include({ kind: 'voronoi', size: 6000, seed: 7 });
		expect(tiling.kind === 'voronoi' && tiling.grading.kind === 'point' && tiling.grading.x).greaterThan(5000);
		for (let k = 0; k < 5; k++) await page.keyboard.press('Control+z');
		await shows(page.getByTestId('tiling-choice'), 'Running bond');
	});

	it('offers counts that a tiling fits around a seam', async () => {
		const id = await createProject((p) => {
			Object.assign(p, fullDemo());
			const lantern = p.masses[2]!.faces[0]!;
			lantern.settingOut.across.multiple = 1;
			setCount(p, 2, 'across', 23);
		});
		await openProject(page, id, 'tiling');
		const warning = page.getByRole('status').filter({
			hasText:
				'an even number of divisions lets the tiling meet itself at the seam, and there are 23. Right would be 24.'
		});
		await warning.waitFor();
		await warning.getByRole('button', { name: 'Fit the counts' }).click();
		await warning.waitFor({ state: 'detached' });
		await page.getByRole('button', { name: /^Lantern skin/ }).click();
		await shows(figures(), '348 cells on 24 × 28 fields');
		await saved(page);
		expect((await face(id, 2)).settingOut.across.multiple).equal(2);
	});

	it('writes marks by a template, counts rows, and orders by height and angle', async () => {
		const id = await createProject((p) => {
			coarse(p);
			p.masses[0]!.faces[0]!.tiling = { kind: 'octagons', corner: 0.3, border: 'cut' };
		});
		await openProject(page, id, 'tiling');
		await shows(preview(), 'C1-01-01');
		await template('{role:3}/{face}.{row:3}.{column:3}');
		await shows(preview(), /oct\/C1\.001\.001|squ\/C1\.001\.001/);
		await shows(page.getByRole('row'), /C1\.001\.001/);
		await template('{face}-{row}');
		await shows(page.getByRole('alert'), 'would give several cells the same mark; right would be to add {column}');
		await template('{face}-{row:2}-{column:2}');
		const rows = page.getByTestId('row-table');
		await shows(rows, /Rows \(\d+\)/);
		await page.getByText(/^Order: rows of the tiling/).click();
		await page.getByLabel('Rows', { exact: true }).selectOption('by height');
		await enter(page, 'Tolerance', '1500');
		await page.getByLabel('Columns').selectOption('by angle around');
		await enter(page, 'From bearing', '90');
		await page.getByLabel('Sense').selectOption('anticlockwise');
		await page.getByLabel('Back and forth').check();
		await saved(page);
		expect((await face(id)).order).deep.include({
			rows: 'height',
			tolerance: 1500,
			columns: 'angle',
			clockwise: false,
			backAndForth: true
		});
		await shows(rows, /Rows \([2-9]\)/);
		await page.getByRole('button', { name: '1', exact: true }).click();
		await shows(page.getByTestId('cell-card'), /C1-01-\d\d/);
		await page.getByRole('button', { name: 'Show', exact: true }).click();
		await page.getByRole('checkbox', { name: 'Edge and node marks' }).check();
		await page.waitForFunction(
			() =>
				document.querySelectorAll('.overlay-edge').length > 3 && document.querySelectorAll('.overlay-node').length > 3
		);
		expect(await page.locator('.overlay-edge').first().textContent()).match(/^C1-\d\d-\d\d\/\d+$/);
	});

	it('makes a tiling of its own: copies, draws, sees gaps and overlaps, saves and brings in', async () => {
		const id = await createProject(coarse);
		await openProject(page, id, 'tiling');
		await page.getByRole('button', { name: 'Own tiling from this' }).click();
		const pane = page.getByRole('region', { name: 'Unit of the tiling' });
		const state = page.getByTestId('unit-state');
		await shows(state, 'Covers the plane once');
		const at = async (x: number, y: number) => {
			const canvas = page.getByTestId('unit-canvas');
			const [left, top, scale] = (await canvas.getAttribute('data-frame'))!.split(' ').map(Number) as [
				number,
				number,
				number
			];
			const box = (await canvas.boundingBox())!;
			return [box.x + left + x * scale, box.y + top - y * scale] as const;
		};
		await pane.getByRole('textbox', { name: 'Name' }).fill('Slats');
		await pane.getByRole('textbox', { name: 'Name' }).press('Enter');
		await enter(page, 'Across', '2');
		await shows(state, 'leave 50 % of the unit open');
		// The new cell covers the right field.
		await page.getByRole('button', { name: 'Draw a cell' }).click();
		for (const [x, y] of [
			[1, 0],
			[2, 0],
			[2, 1],
			[1, 1],
			[1, 0]
		] as const)
			await page.mouse.click(...(await at(x, y)));
		await shows(state, 'Covers the plane once');
		await pane.getByRole('textbox', { name: 'Role of 2' }).fill('slot');
		await pane.getByRole('textbox', { name: 'Role of 2' }).press('Enter');
		await shows(figures(), '48 panel, 48 slot');
		// The seam between the two moves, and both follow.
		const [from, to] = [await at(1, 1), await at(1.5, 1)];
		await page.mouse.move(...from);
		await page.mouse.down();
		await page.mouse.move((from[0] + to[0]) / 2, from[1]);
		await page.mouse.move(...to);
		await page.mouse.up();
		await saved(page);
		expect((await savedProject(id)).tilings[0]!.unit.cells.map((c) => c.corners)).deep.equal([
			// Both ends of the seam are one corner of the repeat.
			[
				[0, 0],
				[1.5, 0],
				[1.5, 1],
				[0, 1]
			],
			[
				[1.5, 0],
				[2, 0],
				[2, 1],
				[1.5, 1]
			]
		]);
		const corners = pane.getByLabel('Corners');
		await corners.fill('1/2, 0\n2, 0\n2, 1\n3/2, 1');
		await corners.blur();
		await shows(state, 'Cell 1 (panel) and cell 2 (slot) lie over each other');
		await shows(
			page.getByRole('status').filter({ hasText: 'cannot be repeated' }),
			'The last division that fitted is shown.'
		);
		await page.keyboard.press('Control+z');
		await shows(state, 'Covers the plane once');
		const [file] = await Promise.all([
			page.waitForEvent('download'),
			page.getByRole('button', { name: 'Save', exact: true }).click()
		]);
		expect(file.suggestedFilename()).equal('slats.tiling.json');
		await page.getByLabel('Tiling file').setInputFiles({
			name: 'x.json',
			mimeType: 'application/json',
			buffer: Buffer.from(
				'{"format":"zygaster-tiling","version":1,"name":"X","unit":{"width":0,"height":1,"cells":[]}}'
			)
		});
		await shows(pane.getByRole('alert'), 'unit › width: must be at least 1');
		await page.getByLabel('Tiling file').setInputFiles((await file.path())!);
		// Its name is taken, so that it gets another.
		await shows(pane.getByRole('heading'), 'Slats 1');
		await saved(page);
		const tilings = (await savedProject(id)).tilings;
		expect(tilings.map((t) => t.unit)).deep.equal([tilings[0]!.unit, tilings[0]!.unit]);
		expect((await face(id)).tiling).deep.equal({ kind: 'own', tiling: tilings[1]!.id, border: 'cut' });
		await page.getByRole('button', { name: 'Remove the tiling' }).click();
		await pane.waitFor({ state: 'detached' });
		await saved(page);
		expect((await face(id)).tiling).deep.equal({ kind: 'rectangular' });
		expect((await savedProject(id)).tilings).length(1);
	});
});

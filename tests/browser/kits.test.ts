import { expect } from 'chai';
import type { Page } from 'playwright-core';
import type { Project } from '../../src/core/project/schema.ts';
import { setCount, shippedDemo } from '../unit/demo.ts';
import {
	createProject,
	enter,
	freshPages,
	openPage,
	openProject,
	saved,
	savedProject,
	settles,
	shows
} from './browser.ts';

/** The canopy alone with few cells, and the kits of the demo. */
function coarse(project: Project): void {
	setCount(project, 0, 'across', 6);
	setCount(project, 0, 'up', 8);
	project.rules = project.rules.filter((r) => r.kit === 'framed-pane');
	project.kits = shippedDemo().kits;
}

describe('the bench', () => {
	let page: Page;
	let errors: string[];

	beforeEach(async () => ({ page, errors } = await openPage()));
	afterEach(async () => {
		expect(errors).deep.equal([]);
		await page.close();
	});

	const state = () => page.getByTestId('bench-state');
	const step = (name: string) => page.locator(`[data-step="${name}"]`);
	const openStep = (name: string) => step(name).locator('button[aria-expanded]').click();
	const kit = async (id: string, name: string) => (await savedProject(id)).kits.find((k) => k.name === name)!;
	async function formula(label: string, text: string, pause = 0): Promise<void> {
		const field = page.getByTestId('step-form').getByLabel(label, { exact: true });
		await field.fill(text);
		await page.waitForTimeout(pause);
		await field.press('Enter');
	}
	async function addStep(label: string): Promise<void> {
		await page.getByRole('button', { name: 'Add step' }).click();
		await page.getByRole('menuitem', { name: label, exact: true }).click();
	}
	const names = () =>
		page.locator('[data-step]').evaluateAll((rows) => rows.map((r) => (r as HTMLElement).dataset.step));

	it('makes a kit from nothing, tries it on odd hosts, and places it on the model', async () => {
		const id = await createProject(coarse);
		await openProject(page, id, 'kits');
		await page.getByRole('button', { name: 'Add kit' }).click();
		await page.getByLabel('Kits to add').getByRole('button', { name: 'cell', exact: true }).click();
		await page.getByLabel('Name', { exact: true }).first().fill('Shadow tile');
		await page.getByLabel('Name', { exact: true }).first().press('Enter');
		await shows(state(), 'Fits this host');
		// A parameter, an inset by it, a tip over the middle and a sheet to it.
		await page.getByLabel('Add parameter').selectOption('length');
		await page.getByLabel('Label', { exact: true }).fill('Shadow');
		await page.getByLabel('Label', { exact: true }).press('Enter');
		await openStep('outline');
		await addStep('Inset');
		await formula('Distance', 'length / 2');
		await addStep('Middle');
		await addStep('Lift');
		await addStep('Sheet');
		await page.getByLabel('Outline', { exact: true }).selectOption('inset');
		await page.getByLabel('Shape').selectOption('centre');
		await page.getByLabel('Point', { exact: true }).selectOption('lift');
		await shows(state(), /Fits this host .* ms and .* kB a host/);
		// 1400 wide with a tip 100 high: four triangles.
		await shows(page.getByRole('table'), `sheet1${(2 * 1.4 * Math.hypot(0.7, 0.1)).toFixed(2)} m²`);
		await page.getByLabel('Trial host', { exact: true }).selectOption('triangle');
		await shows(state(), 'Fits this host');
		await saved(page);
		const made = await kit(id, 'Shadow tile');
		expect(made.steps.map((s) => s.name)).deep.equal(['outline', 'inset', 'middle', 'lift', 'sheet']);
		expect(made.steps[1]).deep.include({ of: 'outline', distance: 'length / 2' });

		await page.getByRole('button', { name: 'Placement' }).click();
		await page.getByRole('button', { name: 'Add a rule to Panels' }).click();
		await page.getByRole('menuitem', { name: 'Shadow tile' }).click();
		await page.getByRole('button', { name: 'Take this condition away' }).click();
		await page.getByRole('button', { name: 'Remove rule 2 of Panels' }).click();
		await saved(page);
		await shows(page.getByTestId('schedule-totals'), '48 rows');
		await shows(page.locator('main, body'), 'Shadow tile');
		expect((await savedProject(id)).rules.map((r) => r.kit)).deep.equal([made.id]);
	});

	it('tells faults beside the step, and undoes', async () => {
		const id = await createProject(coarse);
		await openProject(page, id, 'kits');
		await page.getByRole('button', { name: /^Framed pane/ }).click();
		await openStep('inner');
		await formula('Distance', 'frameWidht');
		await shows(step('inner').getByRole('alert'), /there is no “frameWidht”.*known here: frameWidth/);
		await formula('Distance', 'tilt');
		await shows(step('inner').getByRole('alert'), '“tilt” is an angle; wanted is a length');
		await formula('Distance', 'frameWidth + area / width');
		await shows(step('inner'), 'nothing is left inside');
		// By then names and functions are on offer, and the word that stands there is one of them.
		await formula('Distance', '60 mm + frameWidth', 500);
		await page.locator('.cm-tooltip-autocomplete').waitFor({ state: 'detached' });
		await shows(state(), 'Fits this host');
		await saved(page);
		expect((await kit(id, 'Framed pane')).steps[1]).deep.include({ distance: '60 mm + frameWidth' });
		await formula('Distance', '120 mm', 500);
		await shows(state(), 'Fits this host');
		await saved(page);
		expect((await kit(id, 'Framed pane')).steps[1]).deep.include({ distance: 120 });
		for (let k = 0; k < 5; k++) await page.getByRole('button', { name: /^Undo/ }).click();
		await shows(step('inner'), 'outline · frameWidth');
		await saved(page);
		expect((await kit(id, 'Framed pane')).steps[1]).deep.include({ distance: 'frameWidth' });
	});

	it('renames, duplicates, switches off, reorders and removes steps', async () => {
		const id = await createProject(coarse);
		await openProject(page, id, 'kits');
		await page.getByRole('button', { name: /^Framed pane/ }).click();
		await openStep('inner');
		await page.getByTestId('step-form').getByLabel('Name', { exact: true }).fill('rim');
		await page.getByTestId('step-form').getByLabel('Name', { exact: true }).press('Enter');
		await shows(step('sunk'), 'rim · recess');
		await step('rim').getByRole('button', { name: 'Duplicate rim' }).click();
		await step('rim2').waitFor();
		await step('rim2').getByRole('button', { name: 'Remove rim2' }).click();
		await step('rim2').waitFor({ state: 'detached' });
		await step('pane').locator('button[aria-expanded]').focus();
		await page.keyboard.press('Alt+ArrowUp');
		await page.waitForFunction(
			() => [...document.querySelectorAll<HTMLElement>('[data-step]')].map((e) => e.dataset.step).indexOf('pane') === 4
		);
		expect(await names()).deep.equal(['outline', 'rim', 'sunk', 'frame', 'pane', 'reveal']);
		await step('reveal').getByRole('button', { name: 'Switch reveal off' }).click();
		await page.getByRole('table').getByText('reveal').waitFor({ state: 'detached' });
		// By the grip: the last step in front of the first.
		const grip = step('reveal').getByLabel('Drag reveal to another place');
		const [from, to] = [(await grip.boundingBox())!, (await step('outline').boundingBox())!];
		await page.mouse.move(from.x + 6, from.y + 6);
		await page.mouse.down();
		for (let k = 1; k <= 12; k++) await page.mouse.move(from.x + 6, from.y + ((to.y - 4 - from.y) * k) / 12);
		await page.waitForFunction(() => document.querySelector('[data-step]')?.getAttribute('data-step') === 'reveal');
		await page.mouse.up();
		await page.getByTitle('Undo: Reorder steps').waitFor();
		await saved(page);
		expect((await kit(id, 'Framed pane')).steps.map((s) => [s.name, s.off ?? false])).deep.equal([
			['reveal', true],
			['outline', false],
			['rim', false],
			['sunk', false],
			['frame', false],
			['pane', false]
		]);
	});

	it('drags a corner, picks a line in the picture, and takes a cell of the model', async () => {
		const id = await createProject(coarse);
		await openProject(page, id, 'kits');
		await page.getByRole('button', { name: /^Framed pane/ }).click();
		await page.getByRole('table').getByText('reveal').waitFor();
		await settles(page.locator('[data-corner="3"]'), 'style');
		const area = () => page.getByRole('table').locator('tr').filter({ hasText: 'pane' }).textContent();
		const before = await area();
		const canvas = (await page.getByTestId('bench-canvas').boundingBox())!;
		const number = async (n: number) => (await page.locator(`[data-corner="${n}"]`).boundingBox())!;
		const at = await number(3);
		// The number stands 8 to the right of its corner and 20 above.
		const [x, y] = [at.x - 8, at.y + 20];
		await page.mouse.move(x, y);
		await page.mouse.down();
		await page.mouse.move(x - 40, y + 30, { steps: 5 });
		await page.mouse.up();
		await page.waitForFunction(
			(old) =>
				[...document.querySelectorAll('table tr')].some(
					(r) => r.textContent?.startsWith('pane') && r.textContent !== old
				),
			before
		);
		expect(canvas.width).greaterThan(300);
		// The inset is to start from the line that is clicked: the outline, along the lower side.
		await openStep('sunk');
		await step('sunk').getByRole('button', { name: 'Pick of in the picture' }).click();
		await shows(page.getByRole('status'), /Click a point or a line for sunk/);
		const [one, two] = [await number(1), await number(2)];
		await page.mouse.click((one.x + two.x) / 2 - 8, (one.y + two.y) / 2 + 20);
		await shows(step('sunk'), 'outline · recess');
		await page.getByRole('button', { name: 'From the model' }).click();
		await page
			.getByLabel('Trial host', { exact: true })
			.locator('option', { hasText: 'C1-' })
			.waitFor({ state: 'attached' });
		await saved(page);
		expect((await kit(id, 'Framed pane')).steps.find((s) => s.name === 'sunk')).deep.include({ of: 'outline' });
	});

	it('tries the limits and shows what fails', async () => {
		const id = await createProject(coarse);
		await openProject(page, id, 'kits');
		await page.getByRole('button', { name: /^Framed pane/ }).click();
		await page.getByRole('button', { name: 'Try the limits' }).click();
		const limits = page.getByRole('region', { name: 'Limits' });
		await shows(limits, /350 runs, .* ms a host/);
		await limits
			.getByRole('button', { name: /inner.*Frame width 2.000 mm/ })
			.first()
			.click();
		await shows(page.getByRole('status'), /Tried with Frame width 2.000 mm/);
		await shows(state(), 'inner: nothing is left inside');
		await page.getByRole('button', { name: 'Back to the defaults' }).click();
		await page.getByLabel('Trial host', { exact: true }).selectOption('square');
		await shows(state(), 'Fits this host');
	});

	it('keeps kits in the library, saves and brings them in as files, and takes starters', async () => {
		const id = await createProject(coarse);
		await openProject(page, id, 'kits');
		await page.getByRole('button', { name: /^Quay rail/ }).click();
		await shows(state(), 'Fits this host');
		await page.getByRole('button', { name: 'Keep' }).click();
		await shows(page.getByRole('status'), '“Quay rail” is in your library.');
		const [download] = await Promise.all([
			page.waitForEvent('download'),
			page.getByRole('button', { name: 'Save', exact: true }).click()
		]);
		expect(download.suggestedFilename()).equal('quay-rail.kit.json');
		const file = await download.path();

		const other = await createProject((p) => (p.kits = p.kits.filter((k) => k.id === 'framed-pane')));
		await openProject(page, other, 'kits');
		await page.getByRole('button', { name: 'Add kit' }).click();
		await page.getByRole('button', { name: 'Quay rail', exact: true }).click();
		await shows(state(), 'Fits this host');
		await page.getByLabel('Kit file').setInputFiles(file);
		await page.getByRole('button', { name: 'Add kit' }).click();
		await page.getByRole('button', { name: 'Hollowed block' }).click();
		await shows(state(), 'Fits this host');
		await page
			.getByLabel('Kit file')
			.setInputFiles({ name: 'odd.json', mimeType: 'application/json', buffer: Buffer.from('{"format":"x"}') });
		await shows(page.getByRole('alert'), '“odd.json”: This is no kit: format');
		await saved(page);
		const project = await savedProject(other);
		expect(project.kits.map((k) => k.id)).deep.equal(['framed-pane', 'quay-rail', 'hollowed-block']);
		expect(project.materials.map((m) => m.id)).include.members(['timber', 'stainless', 'ceramic']);
	});

	it('fits a mesh from a file into a box', async () => {
		const id = await createProject(coarse);
		await openProject(page, id, 'kits');
		const box = 'v 0 0 0\nv 2 0 0\nv 2 2 0\nv 0 2 0\nv 1 1 3\nf 1 3 2\nf 1 4 3\nf 1 2 5\nf 2 3 5\nf 3 4 5\nf 4 1 5\n';
		await page
			.getByLabel('Mesh file')
			.setInputFiles({ name: 'spike.obj', mimeType: 'text/plain', buffer: Buffer.from(box) });
		await page.getByText('spike', { exact: true }).waitFor();
		await page.getByRole('button', { name: 'Add kit' }).click();
		await page.getByLabel('Kits to add').getByRole('button', { name: 'cell', exact: true }).click();
		await page.getByLabel('Corners from').fill('4');
		await page.getByLabel('Corners from').press('Enter');
		await page.getByLabel('Corners to').fill('4');
		await page.getByLabel('Corners to').press('Enter');
		await openStep('outline');
		await addStep('Lift');
		await addStep('Module');
		await page.getByLabel('Mesh', { exact: true }).selectOption({ label: 'spike' });
		await page.getByLabel('Lower line', { exact: true }).selectOption('outline');
		await page.getByLabel('Upper line', { exact: true }).selectOption('lift');
		await shows(state(), 'Fits this host');
		// A pyramid on 1.5 m x 1.5 m, 100 mm high: its area without rounding.
		await shows(page.getByRole('table'), `module1${(2.25 + 2 * 1.5 * Math.hypot(0.75, 0.1)).toFixed(2)} m²`);
		await saved(page);
	});
});

describe('several kits on a face', () => {
	it('are added, given values of every kind, and taken off', async () => {
		const { page, errors } = await openPage();
		// Fields of some 1.2 m, so that joints of thick bars have no room.
		const id = await createProject((project) => {
			coarse(project);
			setCount(project, 0, 'across', 26);
		});
		await openProject(page, id, 'placement');
		await page.getByRole('button', { name: 'Add a rule to Edges' }).click();
		await page.getByRole('menuitem', { name: 'T mullion' }).click();
		await enter(page, 'Depth', '200');
		await page.getByLabel('Material', { exact: true }).selectOption('timber');
		await saved(page);
		const rules = (await savedProject(id)).rules;
		expect(rules.map((r) => [r.kit, r.values])).deep.equal([
			['framed-pane', {}],
			['tee-mullion', { depth: 200, finish: 'timber' }]
		]);
		await page.getByRole('button', { name: 'Remove rule 1 of Edges' }).click();
		await saved(page);
		expect((await savedProject(id)).rules.length).equal(1);
		expect(errors).deep.equal([]);
		await page.close();
	});
});

describe('a frame that grows together', () => {
	const at = freshPages();

	it('is taken from the starters, placed on edges, and says which bars have no room', async () => {
		const { page } = at;
		// Fields of some 1.2 m, so that joints of thick bars have no room.
		const id = await createProject((project) => {
			coarse(project);
			setCount(project, 0, 'across', 26);
		});
		await openProject(page, id, 'placement');
		await page.getByRole('button', { name: 'Add a rule to Edges' }).click();
		await page.getByRole('menuitem', { name: 'Joined round frame' }).click();
		await page.getByRole('tab', { name: 'Edges', exact: true }).click();
		await shows(page.getByTestId('schedule-totals'), `${26 * 9 + 8 * 27} rows`);
		await enter(page, 'Radius', '500');
		await shows(page.getByRole('status'), /does not fit \d+ edges: step “frame”: the joints at its ends take more/);
		await enter(page, 'Radius', '40');
		await saved(page);
		const project = await savedProject(id);
		expect(project.rules.at(-1)).deep.include({ kit: 'joined-frame', values: { radius: 40 } });
	});
});

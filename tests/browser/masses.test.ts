import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { boxMesh } from '../unit/mesh/meshes.ts';
import { fullDemo } from '../unit/demo.ts';
import {
	createProject,
	enter,
	eventually,
	freshPages,
	openProject,
	saved,
	savedProject,
	settles,
	shows
} from './browser.ts';

const box = boxMesh(12, 8, 5);
const BOX_OBJ = [
	'o Ticket hall',
	...Array.from({ length: 8 }, (_, v) => `v ${[...box.positions.subarray(v * 3, v * 3 + 3)].join(' ')}`),
	...Array.from(
		{ length: 12 },
		(_, t) => `f ${[...box.triangles.subarray(t * 3, t * 3 + 3)].map((v) => v + 1).join(' ')}`
	)
].join('\n');

describe('masses', () => {
	const at = freshPages();
	let page: Page;
	let id: string;
	beforeEach(async () => {
		({ page } = at);
		id = await createProject();
	});

	const add = async (name: string) => {
		await page.getByRole('button', { name: 'Add a mass' }).click();
		await page.getByRole('menuitem', { name: new RegExp(`^${name}`) }).click();
	};
	const face = (name: RegExp) => page.getByRole('button', { name });
	const choose = (label: string, option: string) =>
		page.getByLabel(label, { exact: true }).selectOption({ label: option });
	const change = () => page.getByTestId('model-change');
	/** Pixels of the points drawn on the curve canvas, on the page. */
	const points = async () => {
		const canvas = page.getByTestId('curve-canvas');
		await page.waitForFunction(() => document.querySelector<HTMLElement>('[data-testid=curve-canvas]')?.dataset.points);
		const frame = (await canvas.boundingBox())!;
		const text = await canvas.getAttribute('data-points');
		return text!
			.split(' ')
			.map((p) => p.split(',').map(Number))
			.map(([x, y]) => [frame.x + x!, frame.y + y!] as const);
	};

	/** Clicks a point until its fields are there: the canvas may still be settling. */
	const clickPoint = async (number: number, first: string) => {
		const field = page.getByRole('spinbutton', { name: `${first} of ${number}` });
		for (let tries = 0; tries < 5 && !(await field.isVisible()); tries++) {
			await page.mouse.click(...(await points())[number - 1]!);
			await field.waitFor({ timeout: 2000 }).catch(() => undefined);
		}
	};

	it('adds a block whose walls and roof follow its footprint, storeys and roof', async () => {
		await openProject(page, id);
		await add('Block');
		await shows(page.getByRole('region', { name: 'Mass', exact: true }), 'Face, one of 5');
		await shows(face(/^Wall 1 /), /\d/);
		await enter(page, 'Storeys', '5');
		await shows(change(), 'changed size');
		await choose('Roof', 'Pitched');
		await shows(face(/^Roof 4 /), /\d/);
		await enter(page, 'Rounding', '2 m');
		await shows(page.getByRole('alert'), 'a pitched roof needs a footprint of straight walls');
		await page.getByRole('spinbutton', { name: 'Rounding' }).press('Escape');
		await saved(page);
		const { shape, faces } = (await savedProject(id)).masses[1]!;
		expect(shape).deep.include({
			rise: { kind: 'storeys', count: 5, each: 3600 },
			roof: { kind: 'pitched', height: 3000 }
		});
		expect(faces.length).equal(8);
	});

	it('closes a revolution, opens a dome’s crown, roofs a tower, and refuses what leads to no face', async () => {
		await openProject(page, id);
		await add('Revolution');
		await shows(page.getByRole('region', { name: 'Mass', exact: true }), ', closed');
		await enter(page, 'Sweep', '200°');
		await page.getByRole('region', { name: 'Mass', exact: true }).getByText(', closed').waitFor({ state: 'detached' });
		await add('Dome');
		await choose('Ring above: level', 'Closed crown');
		await enter(page, 'Cut below', '9 m');
		await shows(page.getByRole('alert'), 'the cut at 9000 mm misses the ball');
		await add('Tower');
		await choose('Roof', 'Flat');
		await shows(face(/^Roof \d/), /\d/);
		await add('Extrusion');
		await page.getByLabel('Lean east', { exact: true }).waitFor();
		await choose('Roof', 'Flat');
		await shows(page.getByRole('alert'), 'a flat roof needs a closed line in plan');
		await saved(page);
		const { masses } = await savedProject(id);
		expect(masses[2]!.shape).deep.include({ ring: null, bottom: 0 });
		expect(masses.slice(3).map((m) => [m.shape.kind, m.faces.at(-1)!.id])).deep.equal([
			['tower', 'roof'],
			['extrusion', 'skin']
		]);
	});

	it('hangs a height on a level, moves the level, and tells what changed', async () => {
		await openProject(page, id);
		await add('Extrusion');
		await page.getByRole('button', { name: 'Add a level' }).click();
		await enter(page, 'Level 1', '11 800');
		await choose('Top: level', 'Level 1, 11 800 mm');
		await saved(page);
		const [level] = (await savedProject(id)).levels;
		expect(level!.id).match(/^level-1-[0-9a-f]{4}$/);
		expect((await savedProject(id)).masses[1]!.shape).deep.include({ top: { level: level!.id, above: 0 } });
		await enter(page, 'Level 1', '14 m');
		await shows(change(), /changed size/);
		await saved(page);
		await page.keyboard.press('Control+z');
		await saved(page);
		expect((await savedProject(id)).levels).deep.equal([{ id: level!.id, name: 'Level 1', height: 11_800 }]);
		await page.getByRole('button', { name: 'Remove level Level 1' }).click();
		await saved(page);
		expect((await savedProject(id)).masses[1]!.shape).deep.include({ top: 11_800 });
	});

	it('draws a line point by point: drags, types, adds, removes, bends, mirrors', async () => {
		await openProject(page, id);
		await add('Extrusion');
		await page.getByRole('button', { name: 'Draw', exact: true }).click();
		const [, second] = await points();
		await page.mouse.move(...second!);
		await page.mouse.down();
		await page.mouse.move(second![0] + 10, second![1] - 40, { steps: 4 });
		await page.mouse.up();
		await saved(page);
		const drawn = async () => {
			const { shape } = (await savedProject(id)).masses[1]!;
			if (shape.kind !== 'extrusion' || shape.profile.kind !== 'drawn') throw new Error('no drawn line');
			return shape.profile;
		};
		expect((await drawn()).points[1]!.y).greaterThan(-1000);
		await enter(page, 'North of 2', '2.5 m');
		await page.getByRole('button', { name: 'Make it a corner' }).click();
		await saved(page);
		expect((await drawn()).points[1]).deep.include({ y: 2500, smooth: false });
		await shows(face(/^Side 2 /), /\d/);
		const [a, b] = await points();
		await page.mouse.dblclick((a![0] + b![0]) / 2, (a![1] + b![1]) / 2);
		await shows(page.getByRole('region', { name: /Drawing/ }), 'Remove');
		await saved(page);
		expect((await drawn()).points.length).equal(5);
		await page.getByTestId('curve-canvas').focus();
		await page.keyboard.press('ArrowUp');
		await page.keyboard.press('Delete');
		await saved(page);
		expect((await drawn()).points.length).equal(4);
		await page.getByRole('button', { name: 'Mirror' }).click();
		await page.getByLabel('Unit of the file').selectOption({ label: 'm' });
		await page.getByLabel('Line file').setInputFiles({
			name: 'bay.svg',
			mimeType: 'image/svg+xml',
			buffer: Buffer.from('<svg xmlns="http://www.w3.org/2000/svg"><path d="M0 0 L9 0 L12 4 L20 4"/></svg>')
		});
		await saved(page);
		await eventually(async () =>
			expect((await drawn()).points.map((p) => [p.x, p.y + 0])).deep.equal([
				[0, 0],
				[9000, 0],
				[12_000, -4000],
				[20_000, -4000]
			])
		);
		await page.getByRole('button', { name: 'Close the drawing' }).click();
	});

	it('refuses a line that crosses itself beside the drawing, and keeps the last good one', async () => {
		await openProject(page, id);
		await add('Block');
		await page.getByRole('button', { name: 'Draw', exact: true }).click();
		await clickPoint(2, 'East');
		await enter(page, 'East of 2', '-30 m');
		await shows(page.getByRole('alert'), 'the line crosses itself');
		await page.getByRole('spinbutton', { name: 'East of 2' }).press('Escape');
		expect((await savedProject(id)).masses[1]!.shape).deep.nested.include({ 'footprint.points[1].x': 24_000 });
	});

	it('brings what is added into the picture, and moves masses in their list', async () => {
		await openProject(page, id);
		await page.keyboard.press('3');
		const canvas = page.locator('canvas').first();
		await canvas.focus();
		for (let k = 0; k < 8; k++) await page.keyboard.press('+');
		await add('Block');
		await shows(page.getByRole('region', { name: 'Mass', exact: true }), 'Face, one of 5');
		await eventually(async () => {
			const { width, height } = (await canvas.boundingBox())!;
			const handles = (await canvas.getAttribute('data-handles'))!.split(' ').map((p) => p.split(',').map(Number));
			expect(handles.length).greaterThan(4);
			for (const [x, y] of handles) {
				expect(x).within(0, width);
				expect(y).within(0, height);
			}
		});
		const names = async () => {
			await saved(page);
			return (await savedProject(id)).masses.map((m) => m.name);
		};
		expect(await names()).deep.equal(['Canopy', 'Block']);
		await page.getByRole('button', { name: 'Earlier' }).click();
		expect(await names()).deep.equal(['Block', 'Canopy']);
		expect(await page.getByRole('button', { name: 'Earlier' }).isDisabled()).equal(true);
		const row = page.getByRole('button', { name: /^Block/ }).first();
		await row.focus();
		await page.keyboard.press('Alt+ArrowDown');
		expect(await names()).deep.equal(['Canopy', 'Block']);
		await page.keyboard.press('Alt+ArrowDown');
		await page.keyboard.press('Alt+ArrowUp');
		expect(await names()).deep.equal(['Block', 'Canopy']);
		await page.keyboard.press('Control+z');
		expect(await names()).deep.equal(['Canopy', 'Block']);
		await page.keyboard.press('Control+k');
		await page.getByPlaceholder('Search commands').fill('Block earlier');
		await page.keyboard.press('Enter');
		expect(await names()).deep.equal(['Block', 'Canopy']);
	});

	it('drags handles in the model', async () => {
		await openProject(page, id);
		await page.keyboard.press('3');
		await settles(page.locator('canvas'), 'data-handles');
		const canvas = (await page.locator('canvas').first().boundingBox())!;
		const [, x, y] = (await page.locator('canvas').first().getAttribute('data-handles'))!
			.split(' ')
			.map((p) => p.split(',').map(Number))
			.map(([px, py]) => [0, canvas.x + px!, canvas.y + py!])[1]!;
		await page.mouse.move(x!, y!);
		await shows(page.locator('p'), 'Crown of section 1');
		await page.mouse.down();
		await page.mouse.move(x!, y! - 60, { steps: 4 });
		await page.mouse.up();
		await saved(page);
		const { shape } = (await savedProject(id)).masses[0]!;
		expect(shape.kind === 'vault' && shape.sections[0]!.rise).greaterThan(3000);
		expect(shape.kind === 'vault' && shape.sections[0]!.span).equal(31_000);
		await page.keyboard.press('Control+z');
		await saved(page);
		expect((await savedProject(id)).masses[0]!.shape).deep.nested.include({ 'sections[0].rise': 2600 });
	});

	it('hides faces, leaves them out, turns them inside out; moves, copies and arrays masses', async () => {
		id = await createProject((p) => Object.assign(p, fullDemo()));
		await openProject(page, id);
		await page.getByRole('button', { name: /^Lantern skin/ }).click();
		await page.getByRole('button', { name: 'Hide Lantern skin' }).click();
		await page.getByLabel('Inside out').check();
		await page.getByLabel('Part of the facade').uncheck();
		await shows(page.getByTestId('run-figures'), '3 010 cells');
		await shows(change(), '348 gone');
		await page.getByText('Position', { exact: true }).click();
		await enter(page, 'East', '-30 m');
		await page.getByLabel('Mirrored').check();
		await saved(page);
		const lantern = (await savedProject(id)).masses[2]!;
		expect([
			lantern.faces[0]!.hidden,
			lantern.faces[0]!.insideOut,
			lantern.faces[0]!.facade,
			lantern.frame.x,
			lantern.frame.mirrored
		]).deep.equal([true, true, false, -30_000, true]);
		await page.getByRole('button', { name: 'Copy', exact: true }).click();
		await page.getByText('Array around an axis').click();
		await page.getByRole('button', { name: 'Make 3 copies' }).click();
		await saved(page);
		expect((await savedProject(id)).masses.map((m) => m.name)).deep.equal([
			'Canopy',
			'Quay front',
			'Lantern',
			'Quay front, return',
			'Ticket screen',
			'Boarding shelter',
			'Pilot house',
			'Lantern 2',
			'Lantern 3',
			'Lantern 4',
			'Lantern 5'
		]);
	});

	it('brings in a file: unit, creases, corners, then faces like any others', async () => {
		await openProject(page, id);
		await add('From a file');
		const pane = page.getByRole('region', { name: 'Bring in a model file' });
		const file = page.getByLabel('Model file', { exact: true });
		await file.setInputFiles({ name: 'notes.txt', mimeType: 'text/plain', buffer: Buffer.from('hello') });
		await shows(pane.getByRole('alert'), 'is no model file that can be read');
		await file.setInputFiles({ name: 'hall.obj', mimeType: 'text/plain', buffer: Buffer.from(BOX_OBJ) });
		await shows(pane, 'choose m.');
		await page.getByLabel('Unit', { exact: true }).selectOption({ label: 'Metres; the file does not say' });
		await shows(pane, '6 faces');
		await enter(page, 'Sharper than', '95°');
		await shows(pane, '1 face');
		await enter(page, 'Sharper than', '40°');
		await shows(pane, '6 faces');
		await page.getByRole('button', { name: 'Lay the faces over' }).click();
		await shows(page.getByTestId('import-faces'), '96.00 m² · stretch 1.00');
		await page.getByRole('button', { name: 'Bring in 6 faces' }).click();
		await shows(page.getByRole('region', { name: 'Mass', exact: true }), 'hall.obj');
		await shows(page.getByTestId('run-figures'), /1 \d\d\d cells/);
		await saved(page);
		const mass = (await savedProject(id)).masses[1]!;
		expect([mass.name, mass.faces.length, mass.shape.kind]).deep.equal(['hall', 6, 'imported']);
		// A newer state of the file takes its place; the faces keep what they were told.
		await page.getByRole('button', { name: 'A newer file' }).click();
		await file.setInputFiles({
			name: 'hall-b.obj',
			mimeType: 'text/plain',
			buffer: Buffer.from(BOX_OBJ.replaceAll(' 12 ', ' 14 '))
		});
		await page.getByLabel('Unit', { exact: true }).selectOption({ label: 'Metres; the file does not say' });
		await page.getByRole('button', { name: 'Lay the faces over' }).click();
		await page.getByRole('button', { name: 'Replace hall' }).click();
		await shows(page.getByRole('region', { name: 'Mass', exact: true }), 'hall-b.obj');
		await shows(change(), 'changed size');
		await saved(page);
		expect((await savedProject(id)).masses[1]!.faces).deep.equal(mass.faces);
	});

	it('keeps reference geometry grey and undivided', async () => {
		await openProject(page, id);
		await add('From a file');
		await page
			.getByLabel('Model file', { exact: true })
			.setInputFiles({ name: 'neighbour.obj', mimeType: 'text/plain', buffer: Buffer.from(BOX_OBJ) });
		await page.getByLabel('Unit', { exact: true }).selectOption({ label: 'Metres; the file does not say' });
		await page.getByRole('button', { name: 'Only as reference' }).click();
		await page.getByRole('button', { name: 'Hide neighbour' }).click();
		await saved(page);
		const { references, masses } = await savedProject(id);
		expect([masses.length, references.map((r) => [r.name, r.hidden])]).deep.equal([1, [['neighbour', true]]]);
		await page.getByRole('button', { name: 'Remove neighbour' }).click();
		await saved(page);
		expect((await savedProject(id)).references).deep.equal([]);
	});
});

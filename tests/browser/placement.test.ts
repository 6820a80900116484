import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { createProject, enter, eventually, freshPages, openProject, saved, savedProject, shows } from './browser.ts';
import { openingSchema } from '../../src/core/tiling/openings/schema.ts';
import { setCount } from '../unit/demo.ts';

/** Cells of the canopy in these tests: 12 columns, 10 rows. */
const CELLS = 120;

/** A canopy of 12 columns and 10 rows, open at its placement; answers its id. */
async function smallCanopy(page: Page): Promise<string> {
	const id = await createProject((p) => {
		setCount(p, 0, 'across', 12);
		setCount(p, 0, 'up', 10);
	});
	await openProject(page, id, 'placement');
	return id;
}

describe('placement', () => {
	const at = freshPages();
	let id: string;
	beforeEach(async () => {
		id = await smallCanopy(at.page);
	});
	const rules = async () => (await savedProject(id)).rules;
	const panels = (page: Page) => page.getByRole('region', { name: 'Rules of Panels' });
	const addRule = async (page: Page, item: string) => {
		await page.getByRole('button', { name: 'Add a rule to Panels' }).click();
		await page.getByRole('menuitem', { name: item, exact: true }).click();
	};

	it('adds rules that read as sentences, each with its count, and lights up what they take', async () => {
		const { page } = at;
		await shows(panels(page), /120\s+cells,\s*all taken/);
		await addRule(page, 'Every third column open');
		await shows(panels(page), /every 3rd column from 3\s*→\s*left open/);
		await eventually(async () =>
			expect(await page.getByRole('button', { name: 'Choose what rule 1 of Panels takes' }).innerText()).equal('40')
		);
		await shows(page.getByTestId('schedule-totals'), /^80 rows/);
		await page.getByRole('button', { name: 'Choose what rule 1 of Panels takes' }).click();
		await shows(page.getByTestId('cell-card'), 'left open by a rule');
		await shows(page.getByTestId('cell-card'), 'and 39 more chosen');
		await page.getByRole('textbox', { name: 'Every n-th' }).fill('4');
		await page.getByRole('textbox', { name: 'Every n-th' }).press('Enter');
		await shows(page.getByTestId('schedule-totals'), /^90 rows/);
		await saved(page);
		expect((await rules()).map((r) => [r.kit, r.where])).deep.equal([
			[null, [{ kind: 'lines', of: 'column', from: 3, every: 4 }]],
			['framed-pane', []]
		]);
	});

	it('takes conditions of every kind, typed with units, and says what is wrong beside them', async () => {
		const { page } = at;
		await addRule(page, 'Flat pane');
		const kind = page.getByRole('combobox', { name: 'Kind of condition' });
		await kind.selectOption('reading');
		await page.getByRole('textbox', { name: 'To', exact: true }).fill('much');
		await page.getByRole('textbox', { name: 'To', exact: true }).press('Enter');
		await shows(panels(page).getByRole('alert'), 'much');
		await page.getByRole('textbox', { name: 'To', exact: true }).fill('12 m2');
		await page.getByRole('textbox', { name: 'To', exact: true }).press('Enter');
		await saved(page);
		expect((await rules())[0]!.where).deep.equal([{ kind: 'reading', reading: 'area', to: 12e6 }]);
		await kind.selectOption('formula');
		const formula = page.getByRole('textbox', { name: 'Condition' });
		await formula.fill('row <= 2 or column == 12');
		await formula.press('Enter');
		await shows(panels(page), 'row <= 2 or column == 12');
		await eventually(async () =>
			expect(await page.getByRole('button', { name: 'Choose what rule 1 of Panels takes' }).innerText()).equal('32')
		);
		await page.getByRole('checkbox', { name: 'not' }).check();
		await eventually(async () =>
			expect(await page.getByRole('button', { name: 'Choose what rule 1 of Panels takes' }).innerText()).equal('88')
		);
	});

	it('lets a value follow a field, whose curve and points are changed, and colours by it', async () => {
		const { page } = at;
		await page.getByRole('button', { name: 'Add a field' }).click();
		await page.getByRole('menuitem', { name: 'Distance to points or lines' }).click();
		await page.getByRole('group', { name: /^Curve from what occurs/ }).waitFor();
		expect(await page.getByRole('button', { name: 'Field', exact: true }).getAttribute('aria-pressed')).equal('true');
		await page.getByRole('button', { name: 'What frame width follows' }).click();
		await page.getByRole('menuitemradio', { name: 'by a field' }).click();
		await enter(page, 'Where it is least', '60');
		await enter(page, 'Where it is greatest', '160');
		await saved(page);
		const project = await savedProject(id);
		const [field] = project.fields;
		expect(project.rules[0]!.values).deep.equal({ frameWidth: { kind: 'field', field: field!.id, from: 60, to: 160 } });
		const point = page.getByRole('slider', { name: 'Point 2 of the curve' });
		await point.focus();
		await point.press('ArrowDown');
		await saved(page);
		expect((await savedProject(id)).fields[0]!.ease).deep.equal([
			[0, 0],
			[1, 0.95]
		]);
		// Its point is dragged in the model, and the field follows.
		const before = (field!.source as { to: { points: number[][] }[] }).to[0]!.points[0]!;
		const canvas = page.getByRole('region', { name: 'Model in space' }).locator('canvas');
		await eventually(async () => expect(await canvas.getAttribute('data-handles')).match(/\d/));
		const [x, y] = (await canvas.getAttribute('data-handles'))!.split(' ')[0]!.split(',').map(Number);
		const box = (await canvas.boundingBox())!;
		await page.mouse.move(box.x + x!, box.y + y!);
		await page.mouse.down();
		await page.mouse.move(box.x + x! + 40, box.y + y! + 10, { steps: 3 });
		await page.mouse.up();
		await saved(page);
		await eventually(async () => {
			const { source } = (await savedProject(id)).fields[0]!;
			expect((source as { to: { points: number[][] }[] }).to[0]!.points[0]).not.deep.equal(before);
		});
		await page.getByRole('button', { name: /^Remove Distance/ }).click();
		await shows(page.getByRole('alert'), 'follows it');
		await page.getByRole('button', { name: 'Remove it all the same' }).click();
		await saved(page);
		expect([(await savedProject(id)).fields, (await rules())[0]!.values]).deep.equal([[], {}]);
	});

	it('sets chosen cells by hand, lists it, lets it wait, and lifts it', async () => {
		const { page } = at;
		await page.getByRole('row').nth(1).click();
		await page.getByRole('combobox', { name: 'Kit by hand' }).selectOption('Flat pane');
		await shows(page.getByRole('row').nth(1), 'Flat pane');
		await shows(page.getByTestId('cell-card'), 'set by hand');
		await shows(page.getByRole('region', { name: 'By hand' }), /1\s*Flat pane/);
		await page.getByRole('row').nth(2).click();
		await page.getByRole('combobox', { name: 'Kit by hand' }).selectOption('left open');
		await shows(page.getByTestId('schedule-totals'), /^119 rows/);
		await saved(page);
		expect((await savedProject(id)).overrides.map((o) => [o.hosts, o.kit])).deep.equal([
			[[[0, 0, 0, 0, 0]], 'flat-pane'],
			[[[0, 1, 1, 0, 0]], null]
		]);
		await page.getByRole('button', { name: 'Lift all' }).click();
		await shows(page.getByTestId('schedule-totals'), new RegExp(`^${CELLS} rows`));
	});

	it('keeps the values that another kit has, too, and names those that it loses', async () => {
		const { page } = at;
		await enter(page, 'Frame width', '80');
		await enter(page, 'Pane thickness', '20');
		await page.getByLabel('Kit', { exact: true }).selectOption('Flat pane');
		await shows(page.getByRole('status'), 'Not known to Flat pane, so let go: Frame width.');
		await saved(page);
		expect((await rules())[0]!.values).deep.equal({ paneThickness: 20 });
	});

	it('moves rules by the keyboard, names what takes nothing, and colours by rule with a legend that chooses', async () => {
		const { page } = at;
		await addRule(page, 'Alternate');
		await page.getByRole('button', { name: 'Rules', exact: true }).click();
		const legend = page.getByTestId('legend');
		await shows(legend, /1 checker\s*60/);
		await legend.getByRole('button', { name: /2 all others/ }).click();
		await shows(page.getByTestId('cell-card'), 'and 59 more chosen');
		await panels(page)
			.getByRole('button', { name: /checker → Flat pane/ })
			.press('Alt+ArrowDown');
		await saved(page);
		expect((await rules()).map((r) => r.where.length)).deep.equal([0, 1]);
		await shows(
			page.getByRole('status'),
			'Rule 2 of Panels takes nothing here: earlier rules take all 60 on which it holds.'
		);
	});

	it('chooses ranges of rows and all that the filter shows, more cells by those chosen, and copies a look', async () => {
		const { page } = at;
		const card = page.getByTestId('cell-card');
		await page.getByRole('row').nth(1).click();
		await page
			.getByRole('row')
			.nth(4)
			.click({ modifiers: ['Shift'] });
		await shows(card, 'and 3 more chosen');
		await page.getByRole('grid').press('ControlOrMeta+a');
		await shows(card, `and ${CELLS - 1} more chosen`);
		await page.getByRole('row').nth(1).click();
		await page.getByRole('button', { name: 'Grow', exact: true }).click();
		await shows(card, 'and 2 more chosen');
		await page.getByRole('row').nth(1).click();
		await page.getByRole('combobox', { name: 'Value by hand' }).selectOption('Frame width');
		const field = page.getByRole('region', { name: 'By hand' }).getByRole('spinbutton', { name: 'Frame width' });
		await field.fill('150');
		await field.press('Enter');
		await page.getByRole('button', { name: 'Copy the look' }).click();
		await page
			.getByRole('group', { name: 'Choose more or others' })
			.getByRole('button', { name: 'Row', exact: true })
			.click();
		await page.getByRole('button', { name: 'Give the look' }).click();
		await saved(page);
		const { overrides } = await savedProject(id);
		expect(overrides.map((o) => [o.hosts, o.kit, o.values])).deep.equal([
			[[[0, 0, 0, 0, 0]], undefined, { frameWidth: 150 }],
			[[[0, 0, 11, 0, 0]], 'framed-pane', { frameWidth: 150 }]
		]);
	});

	it('trims a kit of the whole cell by an opening, and leaves out what is too small', async () => {
		const { page } = at;
		const hole = await createProject((p) => {
			setCount(p, 0, 'across', 12);
			setCount(p, 0, 'up', 10);
			p.masses[0]!.faces[0]!.openings.push(
				openingSchema.parse({
					id: 'hole',
					name: 'Hole',
					outline: { kind: 'circle', diameter: 9000 },
					place: { kind: 'face', across: 14_000, up: 30_000 }
				})
			);
		});
		await openProject(page, hole, 'placement');
		await page.getByLabel('Kit', { exact: true }).selectOption('Louver bank');
		await page.getByLabel('On cut cells').selectOption('the whole kit, trimmed');
		await shows(panels(page), /all others\s*→\s*Louver bank, trimmed/);
		await enter(page, 'Least piece', '900');
		await shows(page.getByRole('status'), /pieces of “Louver bank” on cut cells are smaller than 900 mm and left out/);
		await saved(page);
		expect((await savedProject(hole)).rules[0]!.trim).deep.equal({ least: 900 });
		await page.getByLabel('On cut cells').selectOption('the kit fits what is left');
		await saved(page);
		expect((await savedProject(hole)).rules[0]!.trim).equal(undefined);
	});

	it('chooses by what cells are, sets sides by hand, and makes a zone and a rule of what is chosen', async () => {
		const { page } = at;
		const hand = page.getByRole('region', { name: 'By hand' });
		await hand.getByText('Choose where').click();
		await hand.getByRole('button', { name: 'a reading, a zone' }).click();
		await shows(hand.getByRole('status'), 'No cell of this face is like that.');
		await hand.getByRole('combobox', { name: 'Kind of condition' }).selectOption('column');
		await shows(page.getByTestId('cell-card'), 'and 59 more chosen');
		await hand.getByRole('button', { name: 'Make a rule for them' }).click();
		await shows(panels(page), /in zone Zone 1\s*→\s*Framed pane/);
		await saved(page);
		const [zone] = (await savedProject(id)).zones;
		expect((await rules())[0]).deep.include({ faces: ['canopy/skin'], where: [{ kind: 'zone', zone: zone!.id }] });
		await page.getByRole('row').nth(1).click();
		await page
			.getByRole('row')
			.nth(2)
			.click({ modifiers: ['Shift'] });
		await hand.getByRole('combobox', { name: 'Set by hand' }).selectOption('Edges');
		await hand.getByRole('combobox', { name: 'Which of them' }).selectOption('sides between them');
		await shows(hand, '2 cells chosen, one edge meant');
		await hand.getByRole('combobox', { name: 'Kit by hand' }).selectOption('Rectangular mullion');
		await saved(page);
		expect((await savedProject(id)).overrides.map((o) => [o.set, o.kit, o.hosts.length])).deep.equal([
			['edges', 'mullion', 1]
		]);
		await shows(hand, /1\s*Rectangular mullion/);
		await hand.getByRole('button', { name: 'Lift from it' }).click();
		await saved(page);
		expect((await savedProject(id)).overrides).deep.equal([]);
	});

	it('draws the line of a field on the developed view, and drags its points there', async () => {
		const { page } = at;
		await page.getByRole('button', { name: 'Add a field' }).click();
		await page.getByRole('menuitem', { name: 'Distance to points or lines' }).click();
		const form = page.getByRole('region', { name: 'Fields' });
		await form.getByLabel('Points or line', { exact: true }).selectOption('curve');
		await form.getByRole('button', { name: 'draw on the face' }).click();
		await page.getByTestId('flat-stretch').waitFor();
		const canvas = page.getByTestId('flat-canvas');
		const box = (await canvas.boundingBox())!;
		const spot = (x: number, y: number) => [box.x + box.width * x, box.y + box.height * y] as const;
		for (const [x, y] of [
			[0.45, 0.4],
			[0.5, 0.5],
			[0.55, 0.6]
		] as const)
			await page.mouse.click(...spot(x, y), { delay: 20 });
		await canvas.press('Enter');
		const points = async () => {
			const { source } = (await savedProject(id)).fields[0]!;
			return source.kind === 'distance' ? source.to[0]!.points : [];
		};
		await eventually(async () => {
			await saved(page);
			expect((await points()).length).equal(3);
		});
		const before = await points();
		await page.mouse.move(...spot(0.5, 0.5));
		await page.mouse.down();
		await page.mouse.move(...spot(0.52, 0.5), { steps: 4 });
		await page.mouse.up();
		await eventually(async () => {
			await saved(page);
			const now = await points();
			expect([now[0], now[2]]).deep.equal([before[0], before[2]]);
			expect(now[1]).not.deep.equal(before[1]);
		});
	});

	it('chooses the cells within a rectangle that is dragged over the model with Shift held', async () => {
		const { page } = at;
		const canvas = page.getByRole('region', { name: 'Model in space' }).locator('canvas');
		const box = (await canvas.boundingBox())!;
		await page.keyboard.down('Shift');
		await page.mouse.move(box.x + 4, box.y + 60);
		await page.mouse.down();
		await page.mouse.move(box.x + box.width - 4, box.y + box.height - 4, { steps: 4 });
		await page.mouse.up();
		await page.keyboard.up('Shift');
		await shows(page.getByTestId('cell-card'), /and \d+ more chosen/);
		const many = Number(/and (\d+) more/.exec(await page.getByTestId('cell-card').innerText())![1]);
		expect(many).within(60, CELLS);
	});

	it('paints a field softly on the developed view, and wipes it', async () => {
		const { page } = at;
		await page.getByRole('button', { name: 'Add a field' }).click();
		await page.getByRole('menuitem', { name: 'Painted by hand' }).click();
		const form = page.getByRole('region', { name: 'Fields' });
		await enter(page, 'Brush', '9 m');
		await form.getByRole('button', { name: 'Paint', exact: true }).click();
		await page.getByTestId('flat-stretch').waitFor();
		const box = (await page.getByTestId('flat-canvas').boundingBox())!;
		const stroke = async () => {
			await page.mouse.move(box.x + box.width / 2 - 20, box.y + box.height / 2);
			await page.mouse.down();
			await page.mouse.move(box.x + box.width / 2 + 20, box.y + box.height / 2, { steps: 4 });
			await page.mouse.up();
			await saved(page);
		};
		const values = async () => {
			const { source } = (await savedProject(id)).fields[0]!;
			return source.kind === 'painted' ? source.parts.flatMap((p) => p.runs.map((r) => r[3])) : [];
		};
		await stroke();
		await eventually(async () => expect((await values()).length).above(2));
		expect(Math.max(...(await values()))).equal(0.6);
		expect(Math.min(...(await values()))).below(0.6);
		await form.getByRole('button', { name: 'Wipe', exact: true }).click();
		await stroke();
		await eventually(async () => expect(Math.max(...(await values()))).below(0.6));
	});

	it('makes a field of a picture, and refuses what is none', async () => {
		const { page } = at;
		const file = page.getByLabel('Picture for a field');
		await file.setInputFiles({ name: 'notes.png', mimeType: 'image/png', buffer: Buffer.from('no picture') });
		await shows(page.getByRole('alert'), '“notes.png” is no picture that this browser can read');
		// One red point (PNG, as any program writes it).
		const red = 'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mP8z8BQDwAEhQGAhKmMIQAAAABJRU5ErkJggg==';
		await file.setInputFiles({ name: 'light.png', mimeType: 'image/png', buffer: Buffer.from(red, 'base64') });
		await shows(page.getByText('light.png, 1 × 1 points'), 'light.png');
		await saved(page);
		const [field] = (await savedProject(id)).fields;
		expect([field!.id, field!.source.kind]).deep.equal(['light', 'picture']);
	});
});

describe('several faces', () => {
	const at = freshPages();
	it('are chosen together, say in what they differ, and are changed together', async () => {
		const { page } = at;
		const id = await createProject((p) => {
			setCount(p, 0, 'across', 6);
			setCount(p, 0, 'up', 5);
			const copy = structuredClone(p.masses[0]!);
			Object.assign(copy, { id: 'second', name: 'Second' });
			copy.faces[0]!.mark = 'S1';
			copy.frame.x = 60_000;
			p.masses.push(copy);
			setCount(p, 1, 'across', 8);
		});
		await openProject(page, id, 'setting-out');
		const faces = page.getByRole('region', { name: 'Masses and faces' });
		await faces
			.getByRole('button', { name: /^Roof skin/ })
			.first()
			.click();
		await faces
			.getByRole('button', { name: /^Roof skin/ })
			.last()
			.click({ modifiers: ['ControlOrMeta'] });
		await shows(page.getByRole('status'), /2 faces are chosen.*They differ in the division across/s);
		await page.getByRole('button', { name: 'Make all like Roof skin' }).click();
		await saved(page);
		const counts = async () =>
			(await savedProject(id)).masses.map((m) => (m.faces[0]!.settingOut.across.spacing as { count: number }).count);
		expect(await counts()).deep.equal([6, 6]);
		const divisions = page.getByRole('spinbutton', { name: 'Divisions' }).first();
		await divisions.fill('9');
		await divisions.press('Enter');
		await saved(page);
		expect(await counts()).deep.equal([9, 9]);
	});
});

describe('drawn paths', () => {
	const at = freshPages();
	let id: string;
	beforeEach(async () => {
		id = await smallCanopy(at.page);
	});
	const add = async (page: Page, kind: string) => {
		await page.getByRole('button', { name: 'Add a path' }).click();
		await page.getByRole('menuitem', { name: kind }).click();
	};
	const first = async () => (await savedProject(id)).paths[0]!;

	it('are picked node by node on the developed view, counted and measured, and bear a kit', async () => {
		const { page } = at;
		const panel = page.getByRole('region', { name: 'Paths on this face' });
		await add(page, 'Through picked nodes');
		await shows(page.getByRole('status'), 'it has fewer than two points');
		await panel.getByRole('button', { name: 'Pick nodes in either view' }).click();
		await page.getByTestId('flat-stretch').waitFor();
		const canvas = page.getByTestId('flat-canvas');
		const box = (await canvas.boundingBox())!;
		for (const [x, y] of [
			[0.45, 0.4],
			[0.5, 0.5],
			[0.55, 0.6]
		] as const)
			await page.mouse.click(box.x + box.width * x, box.y + box.height * y, { delay: 20 });
		await canvas.press('Enter');
		await shows(panel, /3 points, \d+\.\d m/);
		// In the model, too: clicks there go on with the path until Escape.
		await panel.getByRole('button', { name: 'Pick nodes in either view' }).click();
		const model = page.getByRole('region', { name: 'Model in space' }).locator('canvas');
		const seen = (await model.boundingBox())!;
		await page.mouse.click(seen.x + seen.width / 2, seen.y + seen.height / 2);
		await shows(panel, /4 points, \d+\.\d m/);
		await model.press('Escape');
		await page.mouse.click(seen.x + seen.width / 2 + 40, seen.y + seen.height / 2);
		await shows(panel, /4 points, \d+\.\d m/);
		await panel.getByRole('button', { name: 'Take point 4 out' }).click();
		await panel.getByRole('button', { name: 'Take point 2 out' }).click();
		await shows(panel, /2 points/);
		await panel.getByRole('combobox', { name: 'Kit on this path' }).selectOption('Rib along a path');
		await page.getByRole('tab', { name: 'Paths', exact: true }).click();
		await shows(page.getByRole('row').nth(1), 'Rib along a path');
		await saved(page);
		const { paths, rules } = await savedProject(id);
		expect([paths[0]!.source.kind, rules.at(-1)!.where]).deep.equal([
			'picked',
			[{ kind: 'path', paths: [paths[0]!.id] }]
		]);
		await panel.getByRole('button', { name: 'Remove Path' }).click();
		await saved(page);
		const after = await savedProject(id);
		expect([after.paths, after.rules.length]).deep.equal([[], rules.length - 1]);
	});

	it('are traced, copied and told where they end too early', async () => {
		const { page } = at;
		const panel = page.getByRole('region', { name: 'Paths on this face' });
		await add(page, 'By steps over the grid');
		await shows(panel, /11 points/);
		await enter(page, 'Steps across', '2');
		await shows(panel, /7 points/);
		await panel.getByLabel('until the border').uncheck();
		await shows(page.getByRole('status'), /ends after 6 steps, where no node is further on; 8 are asked/);
		await panel.getByLabel('until the border').check();
		await saved(page);
		expect((await first()).source).not.property('most');
		await panel.getByLabel('Copies').selectOption('along the grid');
		await enter(page, 'Every', '4');
		await shows(panel, /\d × 7 points/);
		await saved(page);
		expect(await first()).deep.include({ array: { kind: 'along', way: 'across', every: 4 } });
		await panel.getByLabel('as many as have room').uncheck();
		await enter(page, 'How many', '40');
		await shows(page.getByRole('status'), /\d of 40 copies have room on the grid/);
		await panel.getByLabel('as many as have room').check();
		await add(page, 'Cut by a plane');
		await shows(panel, /points, \d+\.\d m/);
		await add(page, 'Shortest way on the face');
		await panel.getByRole('button', { name: 'Click both ends in either view' }).click();
		await page.getByTestId('flat-stretch').waitFor();
		await shows(page.getByRole('region', { name: 'Developed view' }), 'Click 2 places on the face');
	});
});

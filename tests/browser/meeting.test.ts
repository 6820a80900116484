import { expect } from 'chai';
import { createProject, eventually, freshPages, openProject, saved, savedProject, shows } from './browser.ts';
import { plain } from '../unit/block.ts';

describe('faces that meet', () => {
	const at = freshPages();

	it('tells what stands twice at the corners of a block, places it once at a click, and undoes', async () => {
		const { page } = at;
		const id = await createProject((p) => Object.assign(p, plain([])));
		await openProject(page, id, 'placement');
		const twice = page.getByRole('status').filter({ hasText: 'is there twice' });
		await eventually(async () => expect(await twice.count()).equal(2));
		await shows(twice.filter({ hasText: 'Node disc' }), /on 3 nodes, since Block › Wall 1.*23 nodes of 3 other faces/);
		await twice.filter({ hasText: 'Node disc' }).getByRole('button', { name: 'Place it once' }).click();
		await eventually(async () => expect(await twice.count()).equal(1));
		await saved(page);
		const { rules } = await savedProject(id);
		const discs = rules.findIndex((r) => r.id === 'discs');
		expect([rules.length, rules[discs - 1]!.kit, rules[discs - 1]!.faces]).deep.equal([3, null, []]);
		expect(rules[discs - 1]!.where).deep.equal([{ kind: 'border', state: 'earlier', within: 0 }]);
		await shows(page.getByRole('region', { name: /^Rules of Nodes/ }), /beside an earlier face\s*→\s*left open/);
		await page.keyboard.press('Control+z');
		await eventually(async () => expect(await twice.count()).equal(2));
	});

	it('makes corner posts by a common intent, for all faces at once', async () => {
		const { page } = at;
		const id = await createProject((p) => Object.assign(p, plain([])));
		await openProject(page, id, 'placement');
		const edges = page.getByRole('region', { name: /^Rules of (Edges|Mullions)/ });
		await edges.getByRole('button', { name: /^Add a rule to / }).click();
		await page.getByRole('menuitem', { name: 'Corner posts', exact: true }).click();
		await shows(edges, /beside an earlier face\s*→\s*left open[\s\S]*beside another face\s*→\s*Rectangular mullion/);
		const twice = page.getByRole('status').filter({ hasText: 'Rectangular mullion' });
		await eventually(async () => expect(await twice.count()).equal(0));
		await saved(page);
		const rules = (await savedProject(id)).rules.filter((r) => r.kit !== 'node-disc');
		expect(rules.map((r) => [r.kit, r.faces.length, r.values])).deep.equal([
			[null, 5, {}],
			['mullion', 5, { width: 120 }],
			['mullion', 0, {}]
		]);
	});

	it('takes corner posts by a condition of their own', async () => {
		const { page } = at;
		const id = await createProject((p) => Object.assign(p, plain([{ kind: 'border', state: 'border', within: 0 }])));
		await openProject(page, id, 'placement');
		const edges = page.getByRole('region', { name: /^Rules of (Edges|Mullions)/ });
		await edges.getByText('at the border').click();
		await page.getByRole('combobox', { name: 'State' }).selectOption('beside another face');
		await shows(edges, 'beside another face');
		await saved(page);
		const mullions = (await savedProject(id)).rules.find((r) => r.id === 'mullions')!;
		expect(mullions.where).deep.equal([{ kind: 'border', state: 'face', within: 0 }]);
		// Of the first wall two uprights at either end, and the four edges below the roof.
		await eventually(async () =>
			expect(
				await page.getByRole('button', { name: /^Choose what rule 1 of (Edges|Mullions) takes/ }).innerText()
			).equal('8')
		);
	});

	it('takes corners by the angle between their faces', async () => {
		const { page } = at;
		const elevation = { kind: 'reading', reading: 'elevation', from: 0 } as const;
		const id = await createProject((p) => Object.assign(p, plain([elevation])));
		await openProject(page, id, 'placement');
		const edges = page.getByRole('region', { name: /^Rules of (Edges|Mullions)/ });
		await edges
			.getByText(/lowest point/i)
			.first()
			.click();
		await page.getByRole('combobox', { name: 'Reading' }).selectOption({ label: 'Angle to the face beside it' });
		const to = page.getByLabel('To', { exact: true });
		await to.fill('100°');
		await to.press('Enter');
		await page.getByLabel('From', { exact: true }).fill('80°');
		await page.getByLabel('From', { exact: true }).press('Enter');
		await shows(edges, /angle to the face beside it/i);
		await saved(page);
		const { where } = (await savedProject(id)).rules.find((r) => r.id === 'mullions')!;
		expect(where).deep.equal([
			{ kind: 'reading', reading: 'faceAngle', from: (80 * Math.PI) / 180, to: (100 * Math.PI) / 180 }
		]);
		// Of the first wall two uprights at either end, and the four edges below the roof.
		await eventually(async () =>
			expect(
				await page.getByRole('button', { name: /^Choose what rule 1 of (Edges|Mullions) takes/ }).innerText()
			).equal('8')
		);
	});
});

import { readFileSync } from 'node:fs';
import { expect } from 'chai';
import { parse } from 'csv-parse/sync';
import { unzipSync } from 'fflate';
import { createProject, freshPages, openProject, saved, savedProject, shows } from './browser.ts';
import { demoWith } from '../unit/demo.ts';

describe('issues of the schedules', () => {
	const at = freshPages();

	it('are kept with their revision, and what has changed since is told, coloured and saved', async () => {
		const { page } = at;
		const id = await createProject((project) => Object.assign(project, demoWith(8, 6), { handover: { files: [] } }));
		await openProject(page, id, 'schedule');
		const panel = page.getByRole('region', { name: 'Issues' });
		const go = (place: string) =>
			page.getByRole('navigation', { name: 'Places' }).getByRole('button', { name: place }).click();
		const divisionsUp = async (text: string) => {
			const field = page.getByRole('spinbutton', { name: 'Divisions' }).nth(1);
			await field.fill(text);
			await field.press('Enter');
		};
		await shows(panel, 'Nothing has been given out yet.');
		expect(await panel.getByLabel('Revision').inputValue()).equal('A');
		await panel.getByLabel('For').fill('Tender');
		await panel.getByLabel('Author').fill('Quay team');
		await panel.getByRole('button', { name: 'Issue what is saved' }).click();
		await shows(panel, /Tender/);
		await shows(panel, /Quay team/);
		expect(await panel.getByLabel('Revision').inputValue()).equal('B');
		// The same mark again is refused beside its cause.
		await panel.getByLabel('Revision').fill('A');
		await panel.getByLabel('For').fill('Again');
		await panel.getByRole('button', { name: 'Issue what is saved' }).click();
		await shows(panel.getByRole('alert'), 'Revision “A” has been issued already');

		// Two more rows of fields: 16 panes, each a frame, a reveal and a pane.
		await go('Setting-out');
		await divisionsUp('8');
		await saved(page);
		await go('Schedule');
		await panel.getByRole('button', { name: 'Compare', exact: true }).click();
		const changes = page.getByTestId('changes');
		await shows(page.getByTestId('changes-known'), /^144 of 144 pieces of A Tender are known by the same place now/);
		await shows(changes.getByRole('button', { name: /^Added/ }), /48/);
		await shows(page.getByTestId('legend'), /Added/);
		await changes.getByRole('button', { name: /^Added/ }).click();
		await changes.getByRole('row').nth(1).click();
		// The cell of the piece is chosen in the views: its card stands in the model.
		await page.getByText('Row, column').first().waitFor();
		const waiting = page.waitForEvent('download');
		await changes.getByRole('button', { name: 'Save as CSV' }).click();
		const file = await waiting;
		expect(file.suggestedFilename()).equal('changes A Tender to now.csv');
		const rows = parse<Record<string, string>>(readFileSync(await file.path()), { columns: true });
		expect(rows).lengthOf(48);
		expect(rows.every((r) => r.Change === 'added')).equal(true);
		// What was issued leaves as it was, alone or in a set.
		await go('Handover');
		await page.getByLabel('Files of').selectOption('A Tender');
		const issued = page.waitForEvent('download');
		await page
			.getByRole('region', { name: 'Panel schedule' })
			.getByRole('button', { name: 'Make and download' })
			.click();
		const panels = await issued;
		expect(panels.suggestedFilename()).equal('sallow-reach-ferry-terminal-a.csv');
		expect(parse(readFileSync(await panels.path()), { columns: true })).lengthOf(48);
		for (const name of ['Panel schedule', 'Building model'])
			await page.getByRole('checkbox', { name: `${name} in the set` }).check();
		await saved(page);
		const together = page.waitForEvent('download');
		await page.getByRole('button', { name: 'Make the set of 2 files' }).click();
		const archive = await together;
		expect(archive.suggestedFilename()).equal('sallow-reach-ferry-terminal-a-set.zip');
		const files = unzipSync(readFileSync(await archive.path()));
		expect(Object.keys(files)).deep.equal(['panels.csv', 'model.ifc', 'list.csv']);
		expect(Buffer.from(files['list.csv']!).toString()).contains('Issue,A Tender');
		expect((await savedProject(id)).handover.files).deep.equal([{ format: 'csv' }, { format: 'ifc' }]);
		// Another edit makes what is told old.
		await go('Setting-out');
		await divisionsUp('7');
		await shows(changes, 'Compare anew: it has changed since');
	});
});

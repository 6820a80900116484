import { expect } from 'chai';
import fc from 'fast-check';
import type { Kysely } from 'kysely';
import { ZygasterError } from '../../src/core/errors.ts';
import { diffProjects } from '../../src/core/project/patch.ts';
import { migrateToLatest } from '../../src/lib/server/database/migrate.ts';
import type { Tables } from '../../src/lib/server/database/tables.ts';
import {
	createProject,
	deleteProject,
	duplicateProject,
	editsSince,
	listProjects,
	loadProject,
	renameProject,
	restoreProject,
	saveEdit,
	StaleError
} from '../../src/lib/server/projects.ts';
import { demoProject, vaultOf } from '../unit/demo.ts';
import { freshDatabase } from '../database.ts';

describe('projects in the database', () => {
	let database: Awaited<ReturnType<typeof freshDatabase>>;
	let db: Kysely<Tables>;
	before(async () => {
		database = await freshDatabase();
		db = database.db;
		await migrateToLatest(db);
	});
	after(() => database.drop());

	const lengthen = (by: number) => {
		const after = demoProject();
		vaultOf(after).length += by;
		return { label: `Longer by ${by}`, patch: diffProjects(demoProject(), after) };
	};
	const codeOf = (work: Promise<unknown>) =>
		work.then(
			() => 'nothing',
			(e: unknown) => (e instanceof ZygasterError ? e.code : String(e))
		);

	it('migrates once, also when several processes start together', async () => {
		await Promise.all([migrateToLatest(db), migrateToLatest(db), migrateToLatest(db)]);
		expect(await listProjects(db)).deep.equal([]);
	});

	it('gives a document back as it was, keys in order', async () => {
		const id = await createProject(db, demoProject());
		const stored = await loadProject(db, id);
		expect(JSON.stringify(stored.document)).equal(JSON.stringify(demoProject()));
		expect(stored.revision).equal(1);
	});

	it('keeps every digit of a number', async () => {
		const project = demoProject();
		await fc.assert(
			fc.asyncProperty(fc.double({ min: -1e8, max: 1e8, noNaN: true }), async (rise) => {
				vaultOf(project).sections[0]!.rise = rise;
				const id = await createProject(db, project);
				expect(vaultOf((await loadProject(db, id)).document).sections[0]!.rise).equal(rise === 0 ? 0 : rise);
			}),
			{ numRuns: 50 }
		);
	});

	it('counts revisions and logs each edit', async () => {
		const id = await createProject(db, demoProject());
		const { label, patch } = lengthen(500);
		const saved = await saveEdit(db, id, 1, { label, patch });
		expect([saved.revision, vaultOf(saved.document).length]).deep.equal([2, 72_500]);
		await renameProject(db, id, 'Second name');
		expect(await editsSince(db, id, 1)).deep.equal([
			{ revision: 2, label, patch },
			{
				revision: 3,
				label: 'Rename project',
				patch: [{ op: 'replace', path: '/name', value: 'Second name' }]
			}
		]);
	});

	it('refuses an edit on an old revision, tells what changed and loses nothing', async () => {
		const id = await createProject(db, demoProject());
		await saveEdit(db, id, 1, lengthen(100));
		const error = await saveEdit(db, id, 1, lengthen(900)).catch((e: unknown) => e);
		expect(error).instanceOf(StaleError);
		expect((error as StaleError).revision).equal(2);
		expect((error as StaleError).edits.map((e) => e.label)).deep.equal(['Longer by 100']);
		expect(vaultOf((await loadProject(db, id)).document).length).equal(72_100);
	});

	it('lets exactly one of many simultaneous edits win', async () => {
		const id = await createProject(db, demoProject());
		const outcomes = await Promise.all([1, 2, 3, 4, 5, 6].map((k) => codeOf(saveEdit(db, id, 1, lengthen(k * 100)))));
		expect(outcomes.sort()).deep.equal(['nothing', 'stale', 'stale', 'stale', 'stale', 'stale']);
		expect((await editsSince(db, id, 0)).length).equal(1);
	});

	it('refuses an edit that would break the project, and keeps the log clean', async () => {
		const id = await createProject(db, demoProject());
		const bad = [{ op: 'replace' as const, path: '/masses/0/shape/length', value: 0 }];
		expect(await codeOf(saveEdit(db, id, 1, { label: 'Bad', patch: bad }))).equal('project');
		const lost = [{ op: 'remove' as const, path: '/masses/7' }];
		expect(await codeOf(saveEdit(db, id, 1, { label: 'Lost', patch: lost }))).equal('conflict');
		expect((await loadProject(db, id)).revision).equal(1);
		expect(await editsSince(db, id, 0)).deep.equal([]);
	});

	it('duplicates, deletes and restores', async () => {
		const id = await createProject(db, demoProject());
		const copy = await duplicateProject(db, id);
		expect((await loadProject(db, copy)).document.name).equal('Sallow Reach ferry terminal copy');
		await deleteProject(db, id);
		expect(await codeOf(loadProject(db, id))).equal('not-found');
		expect((await listProjects(db)).map((p) => p.id))
			.contains(copy)
			.and.not.contains(id);
		await restoreProject(db, id);
		expect((await loadProject(db, id)).document).deep.equal(demoProject());
	});

	it('answers an unknown address as not found, whatever it looks like', async () => {
		for (const id of ['5a110000-0000-4000-8000-00000000dead', 'x', "'; drop table project; --", ''])
			expect(await codeOf(loadProject(db, id))).equal('not-found');
	});

	it('seeds a project with a fixed id only once', async () => {
		const id = '5a110000-0000-4000-8000-0000000000aa';
		await createProject(db, demoProject(), id);
		await deleteProject(db, id);
		await createProject(db, demoProject(), id);
		expect(await codeOf(loadProject(db, id))).equal('not-found');
	});
});

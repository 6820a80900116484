import { randomUUID } from 'node:crypto';
import { expect } from 'chai';
import fc from 'fast-check';
import { sql, type Kysely } from 'kysely';
import { diffProjects } from '../../src/core/project/diff.ts';
import type { Patch } from '../../src/core/project/jsonPatch.ts';
import { VERSION } from '../../src/core/project/schema.ts';
import { PROGRAM } from '../../src/lib/server/actor.ts';
import { alone } from '../../src/lib/server/database/alone.ts';
import { migrateToLatest } from '../../src/lib/server/database/migrate.ts';
import * as initial from '../../src/lib/server/database/migrations/0001_initial.ts';
import * as kits from '../../src/lib/server/database/migrations/0002_kits.ts';
import * as handoverChunks from '../../src/lib/server/database/migrations/0003_handover_chunks.ts';
import * as states from '../../src/lib/server/database/migrations/0004_states_and_ids.ts';
import * as contents from '../../src/lib/server/database/migrations/0005_contents.ts';
import * as issues from '../../src/lib/server/database/migrations/0006_issues.ts';
import * as issuedFiles from '../../src/lib/server/database/migrations/0007_issued_files.ts';
import * as tokens from '../../src/lib/server/database/migrations/0008_tokens.ts';
import * as claims from '../../src/lib/server/database/migrations/0009_claims.ts';
import * as quotas from '../../src/lib/server/database/migrations/0010_quotas.ts';
import * as quickChunks from '../../src/lib/server/database/migrations/0011_quick_chunks.ts';
import type { Tables } from '../../src/lib/server/database/tables.ts';
import { documentAt } from '../../src/lib/server/documents.ts';
import { editsSince, saveEdit, StaleError, type NewEdit } from '../../src/lib/server/edits.ts';
import {
	createProject,
	DAYS_DELETED,
	deleteProject,
	duplicateProject,
	listDeleted,
	listProjects,
	loadProject,
	renameProject,
	restoreProject
} from '../../src/lib/server/projects.ts';
import { documentOf, listRevisions, nameRevision } from '../../src/lib/server/revisions.ts';
import { upkeep } from '../../src/lib/server/upkeep.ts';
import { demoProject, vaultOf } from '../unit/demo.ts';
import { codeOf, freshDatabase } from '../database.ts';

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
	const rename = (name: string) => ({
		label: 'Rename',
		patch: diffProjects(demoProject(), { ...demoProject(), name })
	});
	const addLevel = (level: string) => ({
		label: 'Add level',
		patch: diffProjects(demoProject(), { ...demoProject(), levels: [{ id: level, name: level, height: 0 }] })
	});

	it('migrates once, also when several processes start together on an empty database', async () => {
		const empty = await freshDatabase();
		const start = () => alone(empty.url, () => migrateToLatest(empty.db));
		await Promise.all([start(), start(), start(), start()]);
		expect(await listProjects(PROGRAM, empty.db)).deep.equal([]);
		await empty.drop();
		expect(await listProjects(PROGRAM, db)).deep.equal([]);
	});

	it('takes projects, edits and revisions over from the tables as they were', async () => {
		const older = await freshDatabase();
		for (const { up } of [initial, kits, handoverChunks]) await up(older.db as never);
		const id = randomUUID();
		const document = JSON.stringify({ ...demoProject(), version: 5 });
		await sql`insert into project (id, document, revision) values (${id}, ${document}, 3)`.execute(older.db);
		await sql`insert into edit (project_id, revision, label, patch)
			values (${id}, 2, 'One', '[]'), (${id}, 3, 'Two', '[]')`.execute(older.db);
		for (const { up } of [states, contents, issues, issuedFiles, tokens, claims, quotas, quickChunks])
			await up(older.db as never);
		expect((await listProjects(PROGRAM, older.db)).map((p) => [p.name, p.revision])).deep.equal([
			[demoProject().name, 3]
		]);
		expect((await loadProject(PROGRAM, older.db, id)).document).deep.equal(demoProject());
		const edits = await editsSince(PROGRAM, older.db, id, 1);
		expect(edits.map((e) => e.label)).deep.equal(['One', 'Two']);
		expect(new Set(edits.map((e) => e.id)).size).equal(2);
		const saved = await saveEdit(PROGRAM, older.db, id, { id: randomUUID(), base: 3, ...rename('Newer') });
		expect(saved.revision).equal(4);
		await older.drop();
	});

	it('gives a document back as it was, keys in order', async () => {
		const id = await createProject(PROGRAM, db, demoProject());
		const stored = await loadProject(PROGRAM, db, id);
		expect(JSON.stringify(stored.document)).equal(JSON.stringify(demoProject()));
		expect(stored.revision).equal(1);
	});

	it('keeps every digit of a number', async () => {
		const project = demoProject();
		await fc.assert(
			fc.asyncProperty(fc.double({ min: -1e8, max: 1e8, noNaN: true }), async (rise) => {
				vaultOf(project).sections[0]!.rise = rise;
				const id = await createProject(PROGRAM, db, project);
				expect(vaultOf((await loadProject(PROGRAM, db, id)).document).sections[0]!.rise).equal(rise === 0 ? 0 : rise);
			}),
			{ numRuns: 50 }
		);
	});

	/** Saves an edit on a revision, under an id of its own unless one is given. */
	const save = (id: string, base: number, edit: Pick<NewEdit, 'label' | 'patch'> & Partial<NewEdit>) =>
		saveEdit(PROGRAM, db, id, { id: randomUUID(), base, ...edit });
	const plain = (edits: readonly { revision: number; label: string; patch: Patch }[]) =>
		edits.map(({ revision, label, patch }) => ({ revision, label, patch }));

	it('counts revisions and logs each edit', async () => {
		const id = await createProject(PROGRAM, db, demoProject());
		const { label, patch } = lengthen(500);
		expect((await save(id, 1, { label, patch })).revision).equal(2);
		expect(vaultOf((await loadProject(PROGRAM, db, id)).document).length).equal(72_500);
		await renameProject(PROGRAM, db, id, 'Second name');
		expect((await listProjects(PROGRAM, db)).find((p) => p.id === id)!.name).equal('Second name');
		expect(plain(await editsSince(PROGRAM, db, id, 1))).deep.equal([
			{ revision: 2, label, patch },
			{ revision: 3, label: 'Rename project', patch: [{ op: 'replace', path: '/name', value: 'Second name' }] }
		]);
	});

	it('puts an edit on top of what came between, and answers with all of it', async () => {
		const id = await createProject(PROGRAM, db, demoProject());
		await save(id, 1, lengthen(100));
		const mine = await save(id, 1, rename('Mine'));
		expect(mine.edits.map((e) => [e.revision, e.label])).deep.equal([
			[2, 'Longer by 100'],
			[3, 'Rename']
		]);
		const { document } = await loadProject(PROGRAM, db, id);
		expect([document.name, vaultOf(document).length]).deep.equal(['Mine', 72_100]);
	});

	it('takes an edit that is sent twice once, and answers as the first time, whatever came since', async () => {
		const id = await createProject(PROGRAM, db, demoProject());
		const edit = { id: randomUUID(), ...addLevel('loft') };
		const first = await save(id, 1, edit);
		await save(id, 2, rename('Since'));
		expect(await save(id, 1, edit)).deep.equal(first);
		expect((await save(id, 3, edit)).revision).equal(2);
		const { document, revision } = await loadProject(PROGRAM, db, id);
		expect([revision, document.levels.filter((l) => l.id === 'loft').length]).deep.equal([3, 1]);
	});

	it('refuses an edit of what was changed meanwhile, tells both sides and loses nothing', async () => {
		const id = await createProject(PROGRAM, db, demoProject());
		await save(id, 1, lengthen(100));
		const error = (await save(id, 1, lengthen(900)).catch((e: unknown) => e)) as StaleError;
		expect(error).instanceOf(StaleError);
		expect([error.code, error.revision, error.edits.map((e) => e.label)]).deep.equal(['clash', 2, ['Longer by 100']]);
		expect(error.clashes).deep.equal([{ place: 'Canopy › shape › length', mine: '72 900', theirs: '72 100' }]);
		expect(vaultOf((await loadProject(PROGRAM, db, id)).document).length).equal(72_100);
	});

	it('refuses any edit on an old revision where that is asked for, and one from the future', async () => {
		const id = await createProject(PROGRAM, db, demoProject());
		await save(id, 1, lengthen(100));
		expect(await codeOf(save(id, 1, { ...rename('x'), strict: true }))).equal('stale');
		expect(await codeOf(save(id, 99, rename('x')))).equal('stale');
	});

	it('lets all of many simultaneous edits of different places stand', async () => {
		const id = await createProject(PROGRAM, db, demoProject());
		const ids = Array.from({ length: 20 }, (_, k) => `level-${k}`);
		const saved = await Promise.all(ids.map((level) => save(id, 1, addLevel(level))));
		expect(saved.map((s) => s.revision).sort((a, b) => a - b)).deep.equal(ids.map((_, k) => k + 2));
		const { document } = await loadProject(PROGRAM, db, id);
		expect(document.levels.map((l) => l.id).sort()).deep.equal([...ids].sort());
	});

	it('lets exactly one of many simultaneous edits of one place win', async () => {
		const id = await createProject(PROGRAM, db, demoProject());
		const outcomes = await Promise.all([1, 2, 3, 4, 5, 6].map((k) => codeOf(save(id, 1, lengthen(k * 100)))));
		expect(outcomes.sort()).deep.equal(['clash', 'clash', 'clash', 'clash', 'clash', 'nothing']);
		expect((await editsSince(PROGRAM, db, id, 0)).length).equal(1);
	});

	it('refuses an edit that would break the project or cannot be kept, and keeps the log clean', async () => {
		const id = await createProject(PROGRAM, db, demoProject());
		const bad = [{ op: 'replace' as const, path: '/masses/0/shape/length', value: 0 }];
		expect(await codeOf(save(id, 1, { label: 'Bad', patch: bad }))).equal('project');
		const lost = [{ op: 'remove' as const, path: '/masses/7' }];
		expect(await codeOf(save(id, 1, { label: 'Lost', patch: lost }))).equal('conflict');
		for (const name of ['a\0b', 'half \ud83d'])
			expect(
				await codeOf(save(id, 1, { label: 'Text', patch: [{ op: 'replace', path: '/name', value: name }] }))
			).equal('text');
		expect((await loadProject(PROGRAM, db, id)).revision).equal(1);
		expect(await editsSince(PROGRAM, db, id, 0)).deep.equal([]);
	});

	it('reaches every revision it has had, however many there are', async () => {
		const id = await createProject(PROGRAM, db, demoProject());
		for (let k = 1; k <= 45; k++)
			await save(id, k, { label: 'Rename', patch: [{ op: 'replace', path: '/name', value: `Name ${k}` }] });
		for (const revision of [1, 2, 19, 20, 21, 40, 46])
			expect((await documentAt(db, id, revision)).name).equal(
				revision === 1 ? demoProject().name : `Name ${revision - 1}`
			);
		expect(await codeOf(documentAt(db, id, 47))).equal('not-found');
		expect(await codeOf(documentAt(db, id, 0))).equal('not-found');
		const states = await db.selectFrom('project_state').select('revision').where('project_id', '=', id).execute();
		expect(states.map((s) => s.revision).sort((a, b) => a - b)).deep.equal([1, 20, 40]);
	});

	it('goes on with a project whose states are of an older version', async () => {
		const id = await createProject(PROGRAM, db, demoProject());
		const older = { ...demoProject(), version: 3 };
		await db
			.updateTable('project_state')
			.set({ document: JSON.stringify(older), version: 3 })
			.where('project_id', '=', id)
			.execute();
		await save(id, 1, rename('Newer'));
		const states = await db
			.selectFrom('project_state')
			.select(['revision', 'version'])
			.where('project_id', '=', id)
			.execute();
		expect(states).deep.equal([{ revision: 1, version: VERSION }]);
		expect((await loadProject(PROGRAM, db, id)).document.name).equal('Newer');
	});

	it('duplicates, deletes and restores', async () => {
		const id = await createProject(PROGRAM, db, demoProject());
		const copy = await duplicateProject(PROGRAM, db, id);
		expect((await loadProject(PROGRAM, db, copy)).document.name).equal('Sallow Reach ferry terminal copy');
		await deleteProject(PROGRAM, db, id);
		expect(await codeOf(loadProject(PROGRAM, db, id))).equal('not-found');
		expect((await listProjects(PROGRAM, db)).map((p) => p.id))
			.contains(copy)
			.and.not.contains(id);
		await restoreProject(PROGRAM, db, id);
		expect((await loadProject(PROGRAM, db, id)).document).deep.equal(demoProject());
	});

	it('lists what it has been, names it and gives it back', async () => {
		const id = await createProject(PROGRAM, db, demoProject());
		await save(id, 1, lengthen(500));
		await save(id, 2, rename('Third'));
		await nameRevision(PROGRAM, db, id, 2, ' before the workshop ');
		const all = await listRevisions(PROGRAM, db, id, { limit: 10 });
		expect(all.map((r) => [r.revision, r.label, r.name, r.actor])).deep.equal([
			[3, 'Rename', null, PROGRAM.id],
			[2, 'Longer by 500', 'before the workshop', PROGRAM.id],
			[1, null, null, null]
		]);
		expect((await listRevisions(PROGRAM, db, id, { limit: 1, to: 2 })).map((r) => r.revision)).deep.equal([2]);
		expect((await listRevisions(PROGRAM, db, id, { limit: 9, named: true })).map((r) => r.revision)).deep.equal([2]);
		expect(vaultOf(await documentOf(PROGRAM, db, id, 1)).length).equal(72_000);
		await nameRevision(PROGRAM, db, id, 2, '');
		expect(await listRevisions(PROGRAM, db, id, { limit: 9, named: true })).deep.equal([]);
		expect(await codeOf(documentOf(PROGRAM, db, id, 4))).equal('not-found');
		expect(await codeOf(nameRevision(PROGRAM, db, id, 4, 'x'))).equal('not-found');
		expect(await codeOf(nameRevision(PROGRAM, db, id, 1, 'a\0b'))).equal('request');
	});

	it('keeps deleted projects for their time, and no longer', async () => {
		const [early, late] = [
			await createProject(PROGRAM, db, demoProject()),
			await createProject(PROGRAM, db, demoProject())
		];
		await deleteProject(PROGRAM, db, early);
		await deleteProject(PROGRAM, db, late);
		await db
			.updateTable('project')
			.set({ deleted_at: new Date(Date.now() - (DAYS_DELETED + 1) * 24 * 3600 * 1000) })
			.where('id', '=', early)
			.execute();
		expect((await upkeep(db)).projects).equal(1);
		expect((await listDeleted(PROGRAM, db)).map((p) => p.id))
			.contains(late)
			.and.not.contains(early);
		expect(await codeOf(restoreProject(PROGRAM, db, early))).equal('not-found');
		await restoreProject(PROGRAM, db, late);
		expect((await loadProject(PROGRAM, db, late)).document).deep.equal(demoProject());
	});

	it('answers an unknown address as not found, whatever it looks like', async () => {
		for (const id of ['5a110000-0000-4000-8000-00000000dead', 'x', "'; drop table project; --", ''])
			expect(await codeOf(loadProject(PROGRAM, db, id))).equal('not-found');
	});

	it('seeds a project with a fixed id only once', async () => {
		const id = '5a110000-0000-4000-8000-0000000000aa';
		await createProject(PROGRAM, db, demoProject(), id);
		await deleteProject(PROGRAM, db, id);
		await createProject(PROGRAM, db, demoProject(), id);
		expect(await codeOf(loadProject(PROGRAM, db, id))).equal('not-found');
	});
});

import { randomBytes, randomUUID } from 'node:crypto';
import { Readable } from 'node:stream';
import { gunzipSync } from 'node:zlib';
import { expect } from 'chai';
import type { Kysely } from 'kysely';
import { contentNameOf, contentOf, dropContent } from '../../src/core/content.ts';
import { contentNames } from '../../src/core/project/contents.ts';
import { changeWithPatches } from '../../src/core/project/patch.ts';
import { PROGRAM } from '../../src/lib/server/actor.ts';
import { contentStream, isKept, putContent, readContents } from '../../src/lib/server/contents.ts';
import { migrateToLatest } from '../../src/lib/server/database/migrate.ts';
import type { Tables } from '../../src/lib/server/database/tables.ts';
import { saveEdit } from '../../src/lib/server/edits.ts';
import { createProject, deleteProject, loadProject } from '../../src/lib/server/projects.ts';
import { upkeep } from '../../src/lib/server/upkeep.ts';
import { asVersion5, projectOfMeshes } from '../unit/meshProject.ts';
import { codeOf, freshDatabase } from '../database.ts';

describe('contents in the database', () => {
	let database: Awaited<ReturnType<typeof freshDatabase>>;
	let db: Kysely<Tables>;
	before(async () => {
		database = await freshDatabase();
		db = database.db;
		await migrateToLatest(db);
	});
	after(() => database.drop());

	const put = (name: string, bytes: Uint8Array) => putContent(PROGRAM, db, name, Readable.from([bytes]));
	const old = (name: string) =>
		db
			.updateTable('content')
			.set({ created_at: new Date(Date.now() - 3 * 24 * 3600 * 1000) } as never)
			.where('name', '=', name)
			.execute();

	it('are kept compressed, in pieces of a megabyte at most, and come back as they were', async () => {
		const bytes = randomBytes(3_500_000);
		const name = contentNameOf(bytes);
		await put(name, bytes);
		const { size, gzip } = await contentStream(PROGRAM, db, name);
		expect(size).equal(bytes.length);
		const parts: Buffer[] = [];
		for await (const part of gzip) parts.push(part);
		expect(parts.length).equal(4);
		expect(parts.every((p) => p.length <= 2 ** 20)).to.be.true;
		expect(gunzipSync(Buffer.concat(parts)).equals(bytes)).to.be.true;
		expect(Buffer.from((await readContents(PROGRAM, db, [name])).get(name)!).equals(bytes)).to.be.true;
	});

	it('are refused where they are not what their name says, and nothing is left', async () => {
		const name = contentNameOf(Uint8Array.of(1, 2, 3));
		expect(await codeOf(put(name, Uint8Array.of(1, 2, 4)))).equal('content');
		expect(await isKept(PROGRAM, db, name)).to.be.false;
	});

	it('that two bring at once are kept once', async () => {
		const bytes = randomBytes(100_000);
		const name = contentNameOf(bytes);
		await Promise.all([put(name, bytes), put(name, bytes), put(name, bytes)]);
		const { n } = await db
			.selectFrom('content_chunk')
			.select((e) => e.fn.countAll<string>().as('n'))
			.where('name', '=', name)
			.executeTakeFirstOrThrow();
		expect(Number(n)).equal(1);
	});

	it('of a project come with it, and go when no project and no revision names them any more', async () => {
		const project = projectOfMeshes(4000);
		const names = contentNames(project);
		const id = await createProject(PROGRAM, db, project);
		for (const name of names) await old(name);
		// An edit that no longer names them leaves them to the revisions before.
		const { patch } = changeWithPatches(project, (p) => {
			p.modules = [];
			p.references = [];
		});
		await saveEdit(PROGRAM, db, id, { id: randomUUID(), base: 1, label: 'Remove', patch });
		await upkeep(db);
		for (const name of names) expect(await isKept(PROGRAM, db, name)).to.be.true;
		await deleteProject(PROGRAM, db, id);
		await db
			.updateTable('project')
			.set({ deleted_at: new Date(0) })
			.where('id', '=', id)
			.execute();
		expect((await upkeep(db)).contents).equal(names.length);
		for (const name of names) expect(await isKept(PROGRAM, db, name)).to.be.false;
	});

	it('that nobody has are refused in an edit, with words', async () => {
		const project = projectOfMeshes(4100);
		const id = await createProject(PROGRAM, db, project);
		const { patch } = changeWithPatches(project, (p) => (p.modules[0]!.positions = contentNameOf(randomBytes(9))));
		const edit = { id: randomUUID(), base: 1, label: 'Mesh', patch };
		expect(await codeOf(saveEdit(PROGRAM, db, id, edit))).equal('content');
		expect((await loadProject(PROGRAM, db, id)).revision).equal(1);
	});

	it('of a project of version 5 are taken out of it when it is opened, and when it is edited', async () => {
		for (const way of ['opened', 'edited'] as const) {
			const project = projectOfMeshes(way === 'opened' ? 4200 : 4300);
			const names = contentNames(project);
			const older = JSON.stringify(asVersion5(project));
			const bytes = names.map((name) => Buffer.from(contentOf(name)));
			const id = await createProject(PROGRAM, db, projectOfMeshes(4400));
			await db.updateTable('project_state').set({ document: older, version: 5 }).where('project_id', '=', id).execute();
			dropContent(names);
			if (way === 'opened') expect((await loadProject(PROGRAM, db, id)).document).deep.equal(project);
			else {
				const patch = [{ op: 'replace' as const, path: '/name', value: 'Newer' }];
				await saveEdit(PROGRAM, db, id, { id: randomUUID(), base: 1, label: 'Rename', patch });
			}
			dropContent(names);
			const kept = await readContents(PROGRAM, db, names);
			expect(names.map((name) => Buffer.from(kept.get(name)!))).deep.equal(bytes);
		}
	});
});

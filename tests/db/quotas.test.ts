import { randomBytes, randomUUID } from 'node:crypto';
import { Readable } from 'node:stream';
import { expect } from 'chai';
import { keepContent, dropContent } from '../../src/core/content.ts';
import { PROGRAM, type Actor } from '../../src/lib/server/actor.ts';
import { putContent } from '../../src/lib/server/contents.ts';
import { migrateToLatest } from '../../src/lib/server/database/migrate.ts';
import { saveEdit } from '../../src/lib/server/edits.ts';
import { HandoverDesk } from '../../src/lib/server/handover/desk.ts';
import { createProject, deleteProject, loadProject, restoreProject } from '../../src/lib/server/projects.ts';
import { demoProject } from '../unit/demo.ts';
import { codeOf, freshDatabase } from '../database.ts';

describe('what one may keep', () => {
	let database: Awaited<ReturnType<typeof freshDatabase>>;
	const somebody = (): Actor => ({ id: randomUUID() });
	before(async () => {
		database = await freshDatabase();
		await migrateToLatest(database.db);
	});
	after(() => database.drop());
	afterEach(() => {
		for (const name of ['QUOTA_PROJECTS', 'QUOTA_GB', 'QUOTA_EDITS_GB']) Reflect.deleteProperty(process.env, name);
	});

	it('is so many projects each; a deleted one makes room, and is not brought back over it', async () => {
		process.env.QUOTA_PROJECTS = '2';
		const [one, other] = [somebody(), somebody()];
		const first = await createProject(one, database.db, demoProject());
		await createProject(one, database.db, demoProject());
		expect(await codeOf(createProject(one, database.db, demoProject()))).equal('quota');
		await createProject(other, database.db, demoProject());
		for (let k = 0; k < 3; k++) await createProject(PROGRAM, database.db, demoProject());
		await deleteProject(one, database.db, first);
		const third = await createProject(one, database.db, demoProject());
		expect(await codeOf(restoreProject(one, database.db, first))).equal('quota');
		await deleteProject(one, database.db, third);
		await restoreProject(one, database.db, first);
	});

	it('is so many bytes of meshes, projects and files; nothing of what goes over stays', async () => {
		process.env.QUOTA_GB = '0.003';
		const one = somebody();
		const put = (bytes: Buffer) => {
			const name = keepContent(Uint8Array.from(bytes));
			dropContent([name]);
			return { name, done: putContent(one, database.db, name, Readable.from([bytes])) };
		};
		await put(randomBytes(2_000_000)).done;
		const large = put(randomBytes(2_000_000));
		expect(await codeOf(large.done)).equal('quota');
		const kept = database.db.selectFrom('content').select('name').where('name', '=', large.name);
		expect(await kept.execute()).deep.equal([]);
		await put(randomBytes(900_000)).done;
		const project = await createProject(one, database.db, demoProject());
		await put(randomBytes(99_000)).done.catch(() => undefined);
		process.env.QUOTA_GB = '0.0029';
		expect(await codeOf(createProject(one, database.db, demoProject()))).equal('quota');
		const desk = await HandoverDesk.open(database.db, database.url, null);
		expect(await codeOf(desk.order(one, project, 'csv'))).equal('quota');
		await desk.close();
	});

	it('is so many bytes of edits of a project', async () => {
		const one = somebody();
		const id = await createProject(one, database.db, demoProject());
		const rename = (base: number, name: string) =>
			saveEdit(one, database.db, id, {
				id: randomUUID(),
				base,
				label: 'Rename',
				patch: [{ op: 'replace', path: '/name', value: name }]
			});
		await rename(1, 'Kept');
		process.env.QUOTA_EDITS_GB = '0.000001';
		expect(await codeOf(rename(2, 'Too much'))).equal('quota');
		const { document, revision } = await loadProject(one, database.db, id);
		expect([document.name, revision]).deep.equal(['Kept', 2]);
	});
});

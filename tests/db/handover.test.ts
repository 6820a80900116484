import { randomUUID } from 'node:crypto';
import { setTimeout as wait } from 'node:timers/promises';
import { expect } from 'chai';
import { sql } from 'kysely';
import { migrateToLatest } from '../../src/lib/server/database/migrate.ts';
import { fileName, fileStem, HandoverDesk } from '../../src/lib/server/handover/desk.ts';
import { PROGRAM } from '../../src/lib/server/actor.ts';
import { addIssue } from '../../src/lib/server/issues.ts';
import { saveEdit } from '../../src/lib/server/edits.ts';
import { createProject } from '../../src/lib/server/projects.ts';
import { writeJson } from '../../src/core/formats/json/writeJson.ts';
import { demoProject, demoWith } from '../unit/demo.ts';
import { freshDatabase } from '../database.ts';

describe('the handover desk', function () {
	this.timeout(60_000);
	let database: Awaited<ReturnType<typeof freshDatabase>>;
	let desk: HandoverDesk;
	const unhandled: unknown[] = [];
	const note = (reason: unknown) => unhandled.push(reason);
	before(async () => {
		process.on('unhandledRejection', note);
		database = await freshDatabase();
		await migrateToLatest(database.db);
		desk = await HandoverDesk.open(database.db, database.url);
	});
	after(async () => {
		await desk.close();
		await database.drop();
		process.off('unhandledRejection', note);
		expect(unhandled).deep.equal([]);
	});

	async function settled(id: string) {
		for (let k = 0; k < 150; k++) {
			const status = await desk.status(PROGRAM, id);
			if (status.state !== 'waiting' && status.state !== 'running') return status;
			await wait(100);
		}
		throw new Error('the order did not settle');
	}

	async function bytesOf(id: string): Promise<Buffer> {
		const { size, chunks } = await desk.file(PROGRAM, id);
		const parts: Buffer[] = [];
		for await (const chunk of chunks) parts.push(chunk);
		const all = Buffer.concat(parts);
		expect(all.length).equal(size);
		return all;
	}

	it('makes the files in a thread and keeps them', async () => {
		const project = await createProject(PROGRAM, database.db, demoProject());
		const json = await desk.order(PROGRAM, project, 'json');
		const csv = await desk.order(PROGRAM, project, 'csv');
		expect((await settled(json)).state).equal('done');
		expect((await settled(csv)).state).equal('done');
		const file = await desk.file(PROGRAM, json);
		expect([file.name, file.media]).deep.equal(['sallow-reach-ferry-terminal.json', 'application/json']);
		expect((await bytesOf(json)).toString()).equal(writeJson(demoProject()));
		expect((await bytesOf(csv)).toString().split('\r\n').length).equal(1154);
	});

	it('makes files of an issue as it was, named and headed by it', async () => {
		const project = await createProject(PROGRAM, database.db, demoProject());
		const issue = await addIssue(PROGRAM, database.db, project, {
			name: 'Tender',
			mark: 'B',
			author: 'A. Author',
			note: ''
		});
		const patch = [{ op: 'replace' as const, path: '/name', value: 'Renamed since' }];
		await saveEdit(PROGRAM, database.db, project, { id: randomUUID(), base: 1, label: 'Rename', patch });
		const order = await desk.order(PROGRAM, project, 'ifc', {}, issue.id);
		expect(await settled(order)).deep.include({ state: 'done', revision: 1 });
		expect((await desk.file(PROGRAM, order)).name).equal('sallow-reach-ferry-terminal-b-model.ifc');
		const day = issue.at.toISOString().slice(0, 10);
		expect((await bytesOf(order)).toString().slice(0, 400)).contains(
			`FILE_NAME('Sallow Reach ferry terminal.ifc','${day}T00:00:00',('A. Author')`
		);
		const now = await desk.order(PROGRAM, project, 'json');
		expect(await settled(now)).deep.include({ revision: 2 });
		expect((await desk.file(PROGRAM, now)).name).equal('renamed-since.json');
		const wrong = await desk.order(PROGRAM, project, 'json', {}, randomUUID()).catch((e: Error) => e.message);
		expect(wrong).equal('There is no such issue.');
	});

	it('tells in words why a file could not be made', async () => {
		const bare = demoProject();
		bare.rules = [];
		const project = await createProject(PROGRAM, database.db, bare);
		const status = await settled(await desk.order(PROGRAM, project, 'glb'));
		expect(status.state).equal('failed');
		expect(status.message).contains('place a kit on a face first');
	});

	it('stops a cancelled order, which then has no file', async () => {
		const project = await createProject(PROGRAM, database.db, demoWith(600, 900));
		const id = await desk.order(PROGRAM, project, 'glb');
		while ((await desk.status(PROGRAM, id)).state === 'waiting') await wait(50);
		await desk.cancel(PROGRAM, id);
		expect((await settled(id)).state).equal('cancelled');
		await wait(1200);
		expect((await desk.status(PROGRAM, id)).state).equal('cancelled');
		expect(await desk.file(PROGRAM, id).catch((e: Error) => e.message)).contains('not ready');
		// The thread is free again.
		const small = await createProject(PROGRAM, database.db, demoWith(2, 2));
		expect((await settled(await desk.order(PROGRAM, small, 'glb'))).state).equal('done');
	});

	it('keeps jobs in the database, where another desk takes them', async () => {
		const leaving = await HandoverDesk.open(database.db, database.url);
		const project = await createProject(PROGRAM, database.db, demoWith(3, 3));
		const id = await leaving.order(PROGRAM, project, 'csv');
		await leaving.close();
		expect((await settled(id)).state).equal('done');
		const { rows } = await sql<{ name: string }>`select distinct name from pgboss.job`.execute(database.db);
		expect(rows.map((r) => r.name)).contains('handover');
	});

	it('makes the project that was ordered, whatever is edited meanwhile', async () => {
		const project = await createProject(PROGRAM, database.db, demoWith(40, 60));
		const id = await desk.order(PROGRAM, project, 'json');
		await saveEdit(PROGRAM, database.db, project, {
			id: randomUUID(),
			base: 1,
			label: 'Rename',
			patch: [{ op: 'replace', path: '/name', value: 'Another' }]
		});
		const status = await settled(id);
		expect([status.state, status.revision]).deep.equal(['done', 1]);
		expect(JSON.parse((await bytesOf(id)).toString()).name).equal(demoWith(1, 1).name);
		const later = await desk.order(PROGRAM, project, 'json');
		expect((await settled(later)).revision).equal(2);
		expect(JSON.parse((await bytesOf(later)).toString()).name).equal('Another');
	});

	it('keeps a large file in pieces, and gives it back whole', async () => {
		const project = await createProject(PROGRAM, database.db, demoWith(120, 200));
		const id = await desk.order(PROGRAM, project, 'glb');
		expect((await settled(id)).state).equal('done');
		const { rows } = await sql<{ n: number; most: number }>`
			select count(*)::int as n, max(octet_length(bytes))::int as most from handover_chunk where handover_id = ${id}
		`.execute(database.db);
		expect(rows[0]!.n).greaterThan(3);
		expect(rows[0]!.most).most(1 << 20);
		expect((await bytesOf(id)).subarray(0, 4).toString()).equal('glTF');
	});

	it('takes settings, and refuses those that are none', async () => {
		const project = await createProject(PROGRAM, database.db, demoWith(3, 3));
		const id = await desk.order(PROGRAM, project, 'csv', { units: 'ft' });
		expect((await settled(id)).state).equal('done');
		expect((await bytesOf(id)).toString()).contains('Width ft');
		const words = await desk.order(PROGRAM, project, 'csv', { units: 'ell' }).catch((e: Error) => e.message);
		expect(words).match(/options of panel schedule are not right at units/);
	});
});

describe('file names', () => {
	it('are plain on every system', () => {
		expect(fileStem('Façade Ö/1: “Nord”')).equal('facade-o1-nord');
		expect(fileStem('../../etc/passwd')).equal('etcpasswd');
		expect(fileStem('日本')).equal('project');
		const table = demoProject().tables[0]!;
		const own = fileName({ ...demoProject(), tables: [table] }, 'tables', { table: table.id }, undefined);
		expect(own).equal(`sallow-reach-ferry-terminal-${fileStem(table.name)}.csv`);
	});
});

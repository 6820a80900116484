import { randomUUID } from 'node:crypto';
import { setTimeout as wait } from 'node:timers/promises';
import { expect } from 'chai';
import { sql } from 'kysely';
import { migrateToLatest } from '../../src/lib/server/database/migrate.ts';
import { HandoverDesk } from '../../src/lib/server/handover/desk.ts';
import { fileName, fileStem } from '../../src/lib/server/handover/fileName.ts';
import { PROGRAM, type Actor } from '../../src/lib/server/actor.ts';
import { claimOrder, keepChunk, keepClaim, MOST_ATTEMPTS, settleOrder } from '../../src/lib/server/handover/claims.ts';
import { Workshop, workshopLimits, type WorkshopLimits } from '../../src/lib/server/handover/workshop.ts';
import { addIssue } from '../../src/lib/server/issues.ts';
import { saveEdit } from '../../src/lib/server/edits.ts';
import { createProject } from '../../src/lib/server/projects.ts';
import { writeJson } from '../../src/core/formats/json/writeJson.ts';
import { writeFormat } from '../../src/core/formats/writers.ts';
import { demoProject, demoWith, run } from '../unit/demo.ts';
import { freshDatabase } from '../database.ts';

describe('the handover desk', () => {
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

	it('makes the files in a process and keeps them', async () => {
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

	it('makes of an edited project what a process that knows nothing of it makes', async () => {
		const id = await createProject(PROGRAM, database.db, demoProject());
		const make = async (project: string) => {
			const order = await desk.order(PROGRAM, project, 'glb');
			expect((await settled(order)).state).equal('done');
			return bytesOf(order);
		};
		await make(id);
		const path = '/masses/0/shape/length';
		await saveEdit(PROGRAM, database.db, id, {
			id: randomUUID(),
			base: 1,
			label: 'Longer',
			patch: [{ op: 'replace', path, value: 81_000 }]
		});
		const edited = demoProject();
		Object.assign(edited.masses[0]!.shape, { length: 81_000 });
		const fresh: Uint8Array[] = [];
		const model = await run(edited);
		await writeFormat('glb', { project: edited, model }, {}, (bytes) => void fresh.push(bytes.slice()));
		expect(Buffer.compare(await make(id), Buffer.concat(fresh))).equal(0);
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

	it('makes a file of what there is, and tells what it has not', async () => {
		// Frames that leave nothing of the narrow cells inside.
		const project = await createProject(PROGRAM, database.db, demoWith(200, 200));
		const status = await settled(await desk.order(PROGRAM, project, 'csv'));
		expect(status.state).equal('done');
		expect(status.message).match(/^C1: “Framed pane” does not fit [\d ]+ cells: .*right would be/);
		const whole = await createProject(PROGRAM, database.db, demoWith(3, 3));
		expect((await settled(await desk.order(PROGRAM, whole, 'csv'))).message).equal(null);
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
		// The lane is free again.
		const small = await createProject(PROGRAM, database.db, demoWith(2, 2));
		expect((await settled(await desk.order(PROGRAM, small, 'glb'))).state).equal('done');
	});

	it('keeps orders in the database, where another workshop takes them', async () => {
		const leaving = await HandoverDesk.open(database.db, database.url, null);
		const project = await createProject(PROGRAM, database.db, demoWith(3, 3));
		const id = await leaving.order(PROGRAM, project, 'csv');
		await leaving.close();
		expect((await settled(id)).state).equal('done');
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

describe('a workshop', () => {
	let database: Awaited<ReturnType<typeof freshDatabase>>;
	let desk: HandoverDesk;
	const open: Workshop[] = [];
	before(async () => {
		database = await freshDatabase();
		await migrateToLatest(database.db);
		// Its own workshop is left out: each test has one with limits of its own.
		desk = await HandoverDesk.open(database.db, database.url, null);
	});
	afterEach(async () => {
		await Promise.all(open.splice(0).map((w) => w.close()));
		await database.db.deleteFrom('handover').execute();
	});
	after(async () => {
		await desk.close();
		await database.drop();
	});
	const workshop = (limits: Partial<WorkshopLimits> = {}, look?: number) => {
		const made = new Workshop(database.db, database.url, { lanes: 1, time: 60_000, memory: 4e9, ...limits }, look);
		open.push(made);
		return made;
	};
	const stateOf = async (id: string) =>
		database.db
			.selectFrom('handover')
			.select(['state', 'message', 'attempts', 'claim', 'progress'])
			.where('id', '=', id)
			.executeTakeFirstOrThrow();
	async function until(id: string, ...states: string[]) {
		for (let k = 0; k < 300; k++) {
			const row = await stateOf(id);
			if (states.includes(row.state)) return row;
			await wait(100);
		}
		throw new Error(`the order is still ${(await stateOf(id)).state}`);
	}
	const ordered = async (across: number, up: number, actor: Actor = PROGRAM) =>
		desk.order(actor, await createProject(actor, database.db, demoWith(across, up)), 'glb');

	it('hears of orders that others have taken, and does not only look for them', async () => {
		const before = await ordered(2, 2);
		workshop({}, 3_600_000);
		expect((await until(before, 'done', 'failed')).state).equal('done');
		for (let k = 0; k < 3; k++) expect((await until(await ordered(2, 2), 'done', 'failed')).state).equal('done');
	});

	it('makes no more at once for one than there are lanes, also between two orders', async () => {
		const ids = await Promise.all(Array.from({ length: 8 }, () => ordered(12, 12)));
		const made = workshop();
		let most = 0;
		const watching = setInterval(() => (most = Math.max(most, made.underWay)), 1);
		for (const id of ids) expect((await until(id, 'done', 'failed')).state).equal('done');
		clearInterval(watching);
		expect(most).equal(1);
	});

	it('ends an order past its time or its memory, in words', async () => {
		const slow = workshop({ time: 300 });
		const late = await until(await ordered(500, 500), 'failed', 'done');
		expect(late.message).match(/^This file took more than 0.3 seconds, which is the limit here/);
		await slow.close();
		// Little more than an empty process holds: the cells alone are as much again.
		workshop({ memory: 1.6e8 });
		const large = await until(await ordered(500, 500), 'failed', 'done');
		expect(large.state).equal('failed');
		expect(large.message).match(/memory|cells/);
	});

	it('puts back what is under way when it closes, uncounted, for another to make', async () => {
		const first = workshop();
		const id = await ordered(130, 170);
		await until(id, 'running');
		await first.close();
		const left = await stateOf(id);
		expect([left.state, left.claim, left.attempts, left.progress]).deep.equal(['waiting', null, 0, 0]);
		workshop();
		const { state, message } = await until(id, 'done', 'failed');
		expect([state, message]).deep.equal(['done', null]);
	});

	it('takes up within seconds what another has left without a word; nothing of that one counts any more', async () => {
		const id = await ordered(3, 3);
		// As one that was killed leaves it: claimed, and not heard of again.
		const lost = (await claimOrder(database.db))!;
		expect(await claimOrder(database.db)).equal(undefined);
		const begun = performance.now();
		workshop();
		const { state, attempts } = await until(id, 'done', 'failed');
		expect([state, attempts]).deep.equal(['done', 2]);
		expect(performance.now() - begun).below(10_000);
		expect(await keepClaim(database.db, lost, 0.5)).equal(false);
		await keepChunk(database.db, lost, 99, new Uint8Array(3));
		await settleOrder(database.db, lost, { state: 'failed', message: 'late' });
		expect((await stateOf(id)).state).equal('done');
		const { n } = await database.db
			.selectFrom('handover_chunk')
			.select((e) => e.fn.countAll<string>().as('n'))
			.where('handover_id', '=', id)
			.where('number', '=', 99)
			.executeTakeFirstOrThrow();
		expect(Number(n)).equal(0);
	});

	it('gives up an order whose makers have ended again and again', async () => {
		const id = await ordered(3, 3);
		await database.db.updateTable('handover').set({ attempts: MOST_ATTEMPTS }).execute();
		workshop();
		expect((await until(id, 'failed', 'done')).message).contains(`begun ${MOST_ATTEMPTS} times`);
	});

	it('is fair: whoever has the fewest under way comes next, and a newcomer need not wait behind many', async () => {
		const [many, one] = [randomUUID(), randomUUID()].map((id) => ({ id }));
		const first = [await ordered(3, 3, many), await ordered(3, 3, many), await ordered(3, 3, many)];
		const other = await ordered(2, 2, one);
		const taken = [];
		for (let k = 0; k < 4; k++) taken.push((await claimOrder(database.db))!.id);
		expect(taken).deep.equal([first[0], other, first[1], first[2]]);
		await database.db.updateTable('handover').set({ state: 'waiting', claim: null, lease_until: null }).execute();
		expect((await claimOrder(database.db, []))!.id).equal(first[0]);
		// All others of the same owner are no newcomers.
		// Whom a workshop serves already is none, whatever stands in the database by then.
		expect(await claimOrder(database.db, [one!.id])).equal(undefined);
		expect((await claimOrder(database.db, []))!.id).equal(other);
		expect(await claimOrder(database.db, [])).equal(undefined);
	});

	it('reads its limits, and refuses such as are none', () => {
		expect(workshopLimits({ ORDER_LANES: '0' })).equal(undefined);
		expect(workshopLimits({ ORDER_LANES: '3', ORDER_MINUTES: '2', ORDER_MEMORY_MB: '512' })).deep.equal({
			lanes: 3,
			time: 120_000,
			memory: 512 * 2 ** 20
		});
		expect(() => workshopLimits({ ORDER_LANES: 'many' })).throw('must be numbers');
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

import { Readable } from 'node:stream';
import { setTimeout as wait } from 'node:timers/promises';
import pg from 'pg';
import type { Project } from '../../src/core/project/schema.ts';
import { vaults } from '../bench/spine.ts';
import { demoWith } from '../unit/demo.ts';
import type { OwnServer } from '../http/ownServer.ts';
import { ms, tell } from './tell.ts';

const MB = 2 ** 20;
const COOKIE = (person: number) => `zygaster_owner=00000000-0000-4000-8000-${String(person).padStart(12, '0')}`;

async function order(own: OwnServer, id: string, format: string, person: number): Promise<string> {
	const answer = await fetch(`${own.base}/api/projects/${id}/handover`, {
		method: 'POST',
		headers: { 'content-type': 'application/json', cookie: COOKIE(person) },
		body: JSON.stringify({ format })
	});
	return ((await answer.json()) as { id: string }).id;
}

interface State {
	readonly state: string;
	readonly message: string | null;
	readonly progress: number;
}
const stateOf = async (own: OwnServer, id: string) =>
	(await (await fetch(`${own.base}/api/handover/${id}`)).json()) as State;

async function settled(own: OwnServer, id: string): Promise<State> {
	for (;;) {
		const state = await stateOf(own, id);
		if (state.state !== 'waiting' && state.state !== 'running') return state;
		await wait(50);
	}
}

/** A file larger than the longest text of the language, taken again and again. */
async function largeFile(own: OwnServer): Promise<void> {
	const id = await own.create(demoWith(3, 3));
	const made = await order(own, id, 'csv', 1);
	await settled(own, made);
	const size = 400 * MB;
	const client = new pg.Client({ connectionString: own.database });
	await client.connect();
	await client.query('delete from handover_chunk where handover_id = $1', [made]);
	await client.query(
		`insert into handover_chunk (handover_id, number, bytes)
		select $1, n, decode(repeat('ab', ${MB}), 'hex') from generate_series(0, 399) n`,
		[made]
	);
	await client.query('update handover set size = $2 where id = $1', [made, size]);
	await client.end();
	const before = own.resident();
	let most = before;
	for (let k = 0; k < 3; k++) {
		const answer = await fetch(`${own.base}/api/handover/${made}/file`);
		let bytes = 0;
		for await (const part of Readable.fromWeb(answer.body as never)) {
			bytes += (part as Uint8Array).length;
			if (bytes % (64 * MB) < 70_000) most = Math.max(most, own.resident());
		}
		if (bytes !== size) throw new Error(`${bytes} bytes came`);
	}
	tell(
		'a file of 400 MB, taken three times',
		`server ${own.isUp() ? 'up' : 'dead'}, memory ${(before / MB).toFixed(0)} then ${(most / MB).toFixed(0)} MB at most`
	);
}

/** A heavy order of one does not keep the small one of another waiting. */
async function fairness(own: OwnServer): Promise<void> {
	const heavy = await own.create(vaults(1, 300, 500));
	const small = await own.create(demoWith(6, 6));
	const ids = await Promise.all(Array.from({ length: 4 }, () => order(own, heavy, 'ifc', 2)));
	await wait(500);
	const begun = performance.now();
	const { state } = await settled(own, await order(own, small, 'csv', 3));
	const took = performance.now() - begun;
	for (const id of ids) await fetch(`${own.base}/api/handover/${id}`, { method: 'DELETE' });
	tell('a small order behind four of 150,000 cells', `${state} after ${ms(took)}`);
}

/** The process that makes an order is ended. */
async function killedMaker(own: OwnServer): Promise<void> {
	const id = await own.create(vaults(1, 200, 300));
	const made = await order(own, id, 'csv', 4);
	while ((await stateOf(own, made)).state !== 'running') await wait(20);
	await wait(300);
	const begun = performance.now();
	if (!own.killMakers()) throw new Error('nobody made the order');
	const again = async () => {
		const client = new pg.Client({ connectionString: own.database });
		await client.connect();
		const { rows } = await client.query('select attempts from handover where id = $1', [made]);
		await client.end();
		return (rows[0] as { attempts: number }).attempts > 1;
	};
	while (!(await again())) await wait(50);
	const took = performance.now() - begun;
	const { state } = await settled(own, made);
	tell('an order whose process is killed', `taken up after ${ms(took)}, ${state}`);
}

/** More than the machine has: ends in words. */
async function tooLarge(own: OwnServer): Promise<void> {
	const project: Project = vaults(1, 700, 715);
	const id = await own.create(project);
	let most = 0;
	const made = await order(own, id, 'glb', 5);
	const watch = setInterval(() => (most = Math.max(most, own.residentOfMakers())), 100);
	const begun = performance.now();
	const { state, message } = await settled(own, made);
	clearInterval(watch);
	tell(
		'an order of 500,000 cells as GLB',
		`${state} after ${((performance.now() - begun) / 1000).toFixed(0)} s, ${(most / MB).toFixed(0)} MB at most${message ? `: ${message.slice(0, 120)}` : ''}`
	);
}

/** Orders: that they end nobody, wait for nobody, and end in words. */
export async function attackOrders(own: OwnServer): Promise<void> {
	await largeFile(own);
	await fairness(own);
	await killedMaker(own);
	await tooLarge(own);
}

// Saves while files are made, and many orders against one: part of `npm run bench`; wants a build (`npm run build`).
import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { setTimeout as wait } from 'node:timers/promises';
import { serverEnvironment } from '../../scripts/lib/serve.mjs';
import { demoWith } from '../unit/demo.ts';
import { addLevel, ownServer, type OwnServer } from '../http/ownServer.ts';
import { listenTo } from '../http/projectEvents.ts';

const now = () => performance.now();
const quantile = (values: readonly number[], q: number) =>
	[...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(values.length * q))] ?? NaN;
const median = (values: readonly number[]) => quantile(values, 0.5);
const ORDERS = 10;
const SAVES = 100;
/** Orders that each process has made before those that count: by then the engine has compiled all of it. */
const WARMING = 8;

async function order(own: OwnServer, id: string): Promise<string> {
	const answer = await fetch(`${own.base}/api/projects/${id}/handover`, {
		method: 'POST',
		// All of one person, whom the lane for newcomers is not for.
		headers: { 'content-type': 'application/json', cookie: 'zygaster_owner=00000000-0000-4000-8000-0000000000be' },
		body: JSON.stringify({ format: 'ifc' })
	});
	return ((await answer.json()) as { id: string }).id;
}

/** Times of saves, one after the other, until somebody says that it is enough. */
async function saves(own: OwnServer, enough: () => boolean): Promise<number[]> {
	const project = demoWith(6, 4);
	const id = await own.create(project);
	const times: number[] = [];
	for (let n = 0; !enough() && n < 400; n++) {
		const begun = now();
		const answer = await own.save(id, addLevel(`level-${n}`, project));
		if (answer.status !== 200) throw new Error(await answer.text());
		times.push(now() - begun);
		await wait(20);
	}
	return times;
}

/** How long so many orders at once take, until the page has been told that all are there. */
async function takes(own: OwnServer, id: string, count: number): Promise<number> {
	const stream = await listenTo(own.base, id);
	await stream.orders();
	const begun = now();
	const orders = await Promise.all(Array.from({ length: count }, () => order(own, id)));
	for (;;) {
		const list = await stream.orders();
		const states = orders.map((o) => list.find((l) => l.id === o)?.state);
		if (states.includes('failed')) throw new Error('an order failed');
		if (states.every((s) => s === 'done')) break;
	}
	const time = now() - begun;
	stream.stop();
	return time;
}

/** Ten orders at a server that makes none itself, with one worker of one lane beside it, and with two, in turn. */
async function benchWorkers(rounds: number): Promise<void> {
	const own = await ownServer({ ORDER_LANES: '0' });
	const workers = [1, 2].map(() =>
		spawn('node', ['dist/worker.mjs'], {
			env: { ...serverEnvironment(own.database), ORDER_LANES: '1' },
			stdio: 'ignore'
		})
	);
	try {
		const id = await own.create(demoWith(40, 50));
		await takes(own, id, 2 * WARMING);
		const [alone, both]: [number[], number[]] = [[], []];
		for (let round = 0; round < rounds; round++) {
			// A worker that is halted takes no orders.
			workers[1]!.kill('SIGSTOP');
			alone.push(await takes(own, id, ORDERS));
			workers[1]!.kill('SIGCONT');
			both.push(await takes(own, id, ORDERS));
		}
		const [one, two] = [median(alone), median(both)];
		console.log(
			`${ORDERS} orders with one worker ${one.toFixed(0)} ms, with two ${two.toFixed(0)} ms: ${(two / one).toFixed(2)} of it (medians of ${rounds}, in turn)`
		);
	} finally {
		for (const worker of workers) {
			worker.kill('SIGTERM');
			await once(worker, 'exit');
		}
		await own.end();
	}
}

/** Prints what a server answers in while it makes files. What is held against each other is measured in turn, since others are on the machine, too. */
export async function benchServer(rounds: number): Promise<void> {
	const own = await ownServer();
	try {
		const id = await own.create(demoWith(40, 50));
		const print = (what: string, times: readonly number[]) =>
			console.log(
				`${what.padEnd(44)} p50 ${quantile(times, 0.5).toFixed(0)} ms, p95 ${quantile(times, 0.95).toFixed(0)} ms (${times.length})`
			);
		console.log('\nA server of its own, orders of IFC of 2,000 framed panes');
		let count = 0;
		print('saves, nothing else', await saves(own, () => ++count > SAVES));
		// The first ones start processes, which are used again.
		await takes(own, id, 3 * WARMING);
		const [ones, tens]: [number[], number[]] = [[], []];
		for (let round = 0; round < rounds; round++) {
			ones.push(await takes(own, id, 1));
			tens.push(await takes(own, id, ORDERS));
		}
		const [one, ten] = [median(ones), median(tens)];
		console.log(
			`one order ${one.toFixed(0)} ms, ${ORDERS} at once ${ten.toFixed(0)} ms: ${(ten / one).toFixed(1)} times one (medians of ${rounds}, in turn)`
		);
		let done = false;
		const making = takes(own, id, ORDERS).then(() => (done = true));
		print(`saves, while ${ORDERS} orders are made`, await saves(own, () => done));
		await making;
	} finally {
		await own.end();
	}
	await benchWorkers(rounds);
}

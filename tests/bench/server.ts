// Saves while files are made, and many orders against one: part of `npm run bench`; wants a build (`npm run build`).
import { setTimeout as wait } from 'node:timers/promises';
import { demoWith } from '../unit/demo.ts';
import { addLevel, ownServer, type OwnServer } from '../http/ownServer.ts';

const now = () => performance.now();
const quantile = (values: readonly number[], q: number) =>
	[...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(values.length * q))] ?? NaN;
const ORDERS = 10;
const SAVES = 100;
/** As the page asks. */
const POLL_MS = 400;

async function order(own: OwnServer, id: string): Promise<string> {
	const answer = await fetch(`${own.base}/api/projects/${id}/handover`, {
		method: 'POST',
		headers: { 'content-type': 'application/json' },
		body: JSON.stringify({ format: 'ifc' })
	});
	return ((await answer.json()) as { id: string }).id;
}

async function settled(own: OwnServer, id: string): Promise<void> {
	for (;;) {
		const { state } = (await (await fetch(`${own.base}/api/handover/${id}`)).json()) as { state: string };
		if (state === 'done') return;
		if (state === 'failed') throw new Error('an order failed');
		await wait(POLL_MS);
	}
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

/** Prints what a server answers in while it makes files. */
export async function benchServer(): Promise<void> {
	const own = await ownServer();
	try {
		const id = await own.create(demoWith(40, 50));
		const told = (what: string, times: readonly number[]) =>
			console.log(
				`${what.padEnd(44)} p50 ${quantile(times, 0.5).toFixed(0)} ms, p95 ${quantile(times, 0.95).toFixed(0)} ms (${times.length})`
			);
		console.log('\nA server of its own, orders of IFC of 2,000 framed panes');
		let count = 0;
		told('saves, nothing else', await saves(own, () => ++count > SAVES));
		const all = async (count: number) => {
			const begun = now();
			await Promise.all(Array.from({ length: count }, async () => settled(own, await order(own, id))));
			return now() - begun;
		};
		// The first ones start processes, which are used again.
		await all(3);
		const one = Math.min(await all(1), await all(1));
		const ten = await all(ORDERS);
		console.log(
			`one order ${one.toFixed(0)} ms, ${ORDERS} at once ${ten.toFixed(0)} ms: ${(ten / one).toFixed(1)} times one`
		);
		let done = false;
		const making = all(ORDERS).then(() => (done = true));
		told(`saves, while ${ORDERS} orders are made`, await saves(own, () => done));
		await making;
	} finally {
		await own.end();
	}
}

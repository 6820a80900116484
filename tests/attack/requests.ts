import { request } from 'node:http';
import fc from 'fast-check';
import { hostileRequest, sendHostile } from '../http/hostile.ts';
import type { OwnServer } from '../http/ownServer.ts';
import { ms, tell } from './tell.ts';

const MB = 2 ** 20;
const HOSTILE = 10_000;
/** Lines that are open at once. */
const AT_ONCE = 8;
const SLOW = 200;

/** Requests that are wrong in every way, made by property from a seed of the day. */
async function hostile(own: OwnServer): Promise<void> {
	const seed = Math.floor(Date.now() / 86_400_000);
	const requests = fc.sample(hostileRequest, { numRuns: HOSTILE, seed });
	const times: number[] = [];
	const faults: string[] = [];
	const all = async () => {
		let next = 0;
		await Promise.all(
			Array.from({ length: AT_ONCE }, async () => {
				for (let r = requests[next++]; r; r = requests[next++]) {
					const { status, ms: took } = await sendHostile(own.base, r);
					times.push(took);
					if (status >= 500) faults.push(`${status}: ${JSON.stringify(r).slice(0, 200)}`);
				}
			})
		);
		return own.resident();
	};
	// The first time code is loaded and compiled; what the second time adds is kept.
	const before = await all();
	const after = await all();
	const slowest = times.reduce((a, b) => Math.max(a, b));
	tell(
		`${HOSTILE} hostile requests, twice (seed ${seed})`,
		`${own.isUp() ? 0 : 1} deaths, ${faults.length} with 5xx, slowest ${ms(slowest)}, memory ${(before / MB).toFixed(0)} MB after the first time, ${(after / MB).toFixed(0)} MB after the second`
	);
	for (const fault of faults.slice(0, 5)) console.log(fault);
	if (faults.length || !own.isUp()) process.exitCode = 1;
}

/** Many bodies that never come. */
async function slowBodies(own: OwnServer): Promise<void> {
	const { hostname, port } = new URL(own.base);
	const begun = performance.now();
	const answers = Array.from(
		{ length: SLOW },
		() =>
			new Promise<number | undefined>((resolve) => {
				const sent = request({
					hostname,
					port,
					path: '/api/projects',
					method: 'POST',
					headers: { 'content-type': 'application/json', 'content-length': '100000' }
				});
				sent.on('response', (r) => (r.resume(), resolve(r.statusCode)));
				sent.on('error', () => resolve(undefined));
				sent.write('{');
			})
	);
	const id = await own.create();
	const start = performance.now();
	await own.load(id);
	const meanwhile = performance.now() - start;
	const statuses = await Promise.all(answers);
	tell(
		`${SLOW} bodies that never come`,
		`${statuses.filter((s) => s === 408).length} dropped with 408 within ${ms(performance.now() - begun)}, a load meanwhile ${ms(meanwhile)}`
	);
}

export async function attackRequests(own: OwnServer): Promise<void> {
	await hostile(own);
	await slowBodies(own);
}

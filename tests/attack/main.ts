import { spawnSync } from 'node:child_process';
import { readdirSync } from 'node:fs';
import { ownServer } from '../http/ownServer.ts';
import { attackOrders } from './orders.ts';
import { attackRequests } from './requests.ts';
import { attackSpine } from './spine.ts';

/**
 * What a server must bear, on loopback and bounded in time: the tests over HTTP, then what is measured; parts by their names.
 * The results stand in docs/reliability.md and docs/security.md.
 */
const PARTS = { requests: attackRequests, orders: attackOrders, spine: attackSpine } as const;

const asked = process.argv.slice(2).filter((a) => a in PARTS || a === 'tests');
const wants = (part: string) => asked.length === 0 || asked.includes(part);
const own = await ownServer();
try {
	if (wants('tests')) {
		const files = readdirSync('tests/http').filter((f) => f.endsWith('.test.ts'));
		const { status } = spawnSync('npx', ['mocha', ...files.map((f) => `tests/http/${f}`)], {
			stdio: 'inherit',
			env: { ...process.env, ZYGASTER_URL: own.base }
		});
		if (status !== 0) process.exitCode = 1;
	}
	for (const [part, attack] of Object.entries(PARTS)) if (wants(part)) await attack(own);
} finally {
	await own.end();
}

import { spawn } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { chmodSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';
import { expect } from 'chai';
import { diffProjects } from '../../src/core/project/patch.ts';
import type { Project } from '../../src/core/project/schema.ts';
import { demoProject } from '../unit/demo.ts';
import { freePort, startCluster } from '../../scripts/lib/postgres.mjs';
import { answers, serverEnvironment } from '../../scripts/lib/serve.mjs';

/** A server of its own on a cluster of its own. */
async function ownServer() {
	const directory = mkdtempSync(join(tmpdir(), 'zygaster-away-'));
	chmodSync(directory, 0o755);
	const place = join(directory, 'postgres');
	const database = await freePort();
	let cluster = await startCluster(place, database);
	const port = String(await freePort());
	const base = `http://127.0.0.1:${port}`;
	const server = spawn('node', ['build'], {
		env: { ...serverEnvironment(cluster.url), PORT: port, ORIGIN: base },
		stdio: 'ignore'
	});
	const ended = new Promise((resolve) => server.once('exit', resolve));
	await answers(`${base}/health`, ended);
	const json = { 'content-type': 'application/json' };
	return {
		base,
		isUp: () => server.exitCode === null && server.signalCode === null,
		stopDatabase: () => cluster.stop(),
		killDatabase: () => cluster.kill(),
		startDatabase: async () => (cluster = await startCluster(place, database)),
		async create(): Promise<string> {
			const created = await fetch(`${base}/api/projects`, {
				method: 'POST',
				headers: json,
				body: JSON.stringify(demoProject())
			});
			return ((await created.json()) as { id: string }).id;
		},
		save: (id: string, edit: unknown) =>
			fetch(`${base}/api/projects/${id}`, { method: 'PATCH', headers: json, body: JSON.stringify(edit) }),
		document: async (id: string) =>
			((await (await fetch(`${base}/api/projects/${id}`)).json()) as { document: Project }).document,
		async end() {
			server.kill('SIGTERM');
			await ended;
			cluster.stop();
			rmSync(directory, { recursive: true, force: true });
		}
	};
}

const addLevel = (level: string) => {
	const after = demoProject();
	after.levels.push({ id: level, name: level, height: 0 });
	return { id: randomUUID(), base: 1, label: 'Add level', patch: diffProjects(demoProject(), after) };
};

describe('a database that goes away', function () {
	this.timeout(90_000);

	it('is told as such; nothing is lost, and saving goes on when it is back', async () => {
		const own = await ownServer();
		try {
			const id = await own.create();
			const edit = addLevel('loft');
			own.stopDatabase();
			const refused = await own.save(id, edit);
			expect(refused.status).equal(503);
			expect(await refused.json())
				.property('message')
				.contains('cannot be reached just now');
			expect((await fetch(`${own.base}/health`)).status).equal(503);
			await own.startDatabase();
			let saved = await own.save(id, edit);
			for (let k = 0; k < 20 && saved.status === 503; k++) {
				await wait(500);
				saved = await own.save(id, edit);
			}
			expect(saved.status).equal(200);
			expect((await own.document(id)).levels.map((l) => l.id)).deep.equal(['loft']);
		} finally {
			await own.end();
		}
	});

	it('while people save leaves the server up, loses nothing that was acknowledged, and doubles nothing', async () => {
		const own = await ownServer();
		try {
			const id = await own.create();
			const acknowledged: string[] = [];
			let saving = true;
			const writers = Array.from({ length: 8 }, async (_, w) => {
				for (let n = 0; saving; n++) {
					const edit = addLevel(`level-${w}-${n}`);
					for (;;) {
						const { status } = await own.save(id, edit);
						if (status === 200) break;
						expect(status).equal(503);
						await wait(100);
					}
					acknowledged.push(`level-${w}-${n}`);
				}
			});
			for (let kill = 0; kill < 3; kill++) {
				await wait(700);
				own.killDatabase();
				await wait(300);
				await own.startDatabase();
			}
			await wait(700);
			saving = false;
			await Promise.all(writers);
			expect(own.isUp()).to.be.true;
			const there = (await own.document(id)).levels.map((l) => l.id);
			expect(new Set(there).size).equal(there.length);
			expect(acknowledged.length).greaterThan(20);
			expect(there.sort()).deep.equal([...acknowledged].sort());
		} finally {
			await own.end();
		}
	});
});

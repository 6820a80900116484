import { spawn } from 'node:child_process';
import { chmodSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';
import { expect } from 'chai';
import { diffProjects } from '../../src/core/project/patch.ts';
import { demoProject } from '../unit/demo.ts';
import { freePort, startCluster } from '../../scripts/lib/postgres.mjs';
import { answers, serverEnvironment } from '../../scripts/lib/serve.mjs';

describe('a database that goes away', function () {
	this.timeout(90_000);

	it('is told as such; nothing is lost, and saving goes on when it is back', async () => {
		const directory = mkdtempSync(join(tmpdir(), 'zygaster-away-'));
		chmodSync(directory, 0o755);
		const database = await freePort();
		let cluster = await startCluster(join(directory, 'postgres'), database);
		const port = String(await freePort());
		const json = { 'content-type': 'application/json' };
		const base = `http://127.0.0.1:${port}`;
		const server = spawn('node', ['build'], {
			env: { ...serverEnvironment(cluster.url), PORT: port, ORIGIN: base },
			stdio: 'ignore'
		});
		const ended = new Promise((resolve) => server.once('exit', resolve));
		try {
			await answers(`${base}/health`, ended);
			const created = await fetch(`${base}/api/projects`, {
				method: 'POST',
				headers: json,
				body: JSON.stringify(demoProject())
			});
			const { id } = (await created.json()) as { id: string };
			const save = () =>
				fetch(`${base}/api/projects/${id}`, {
					method: 'PATCH',
					headers: { ...json, 'if-match': '"1"' },
					body: JSON.stringify({
						label: 'Rename',
						patch: diffProjects(demoProject(), { ...demoProject(), name: 'While away' })
					})
				});
			cluster.stop();
			const refused = await save();
			expect(refused.status).equal(503);
			expect(await refused.json())
				.property('message')
				.contains('cannot be reached just now');
			expect((await fetch(`${base}/health`)).status).equal(503);
			cluster = await startCluster(join(directory, 'postgres'), database);
			let saved = await save();
			for (let k = 0; k < 20 && saved.status === 503; k++) {
				await wait(500);
				saved = await save();
			}
			expect(saved.status).equal(200);
			const now = (await (await fetch(`${base}/api/projects/${id}`)).json()) as { document: { name: string } };
			expect(now.document.name).equal('While away');
		} finally {
			server.kill('SIGTERM');
			await ended;
			cluster.stop();
			rmSync(directory, { recursive: true, force: true });
		}
	});
});

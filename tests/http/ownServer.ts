import { spawn } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { chmodSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { diffProjects } from '../../src/core/project/diff.ts';
import type { Project } from '../../src/core/project/schema.ts';
import { demoProject } from '../unit/demo.ts';
import { freePort, startCluster } from '../../scripts/lib/postgres.mjs';
import { answers, serverEnvironment } from '../../scripts/lib/serve.mjs';

const JSON_TYPE = { 'content-type': 'application/json' };
/** The clock of the kernel’s process times. Source: proc(5), sysconf(_SC_CLK_TCK). */
const TICKS_A_SECOND = 100;

/** A server of its own on a cluster of its own, both on loopback, which may be ended and started at will; `more` is for its environment. */
export async function ownServer(more: Readonly<Record<string, string>> = {}) {
	const directory = mkdtempSync(join(tmpdir(), 'zygaster-own-'));
	chmodSync(directory, 0o755);
	const place = join(directory, 'postgres');
	const database = await freePort();
	let cluster = await startCluster(place, database);
	const port = String(await freePort());
	const base = `http://127.0.0.1:${port}`;
	let server: ReturnType<typeof spawn>;
	let ended: Promise<unknown>;
	let logged = '';
	/** Processes that it has started. Source: proc(5), children. */
	const makers = () =>
		readFileSync(`/proc/${server.pid}/task/${server.pid}/children`, 'utf8')
			.trim()
			.split(' ')
			.filter(Boolean)
			.map(Number);
	const start = async () => {
		server = spawn('node', ['build'], {
			env: { ...serverEnvironment(cluster.url), PORT: port, ORIGIN: base, RATE_PER_SECOND: '0', ...more },
			stdio: ['ignore', 'pipe', 'ignore']
		});
		server.stdout!.setEncoding('utf8').on('data', (text: string) => (logged += text));
		ended = new Promise((resolve) => server.once('exit', resolve));
		await answers(`${base}/health`, ended);
	};
	await start();
	return {
		base,
		database: cluster.url,
		/** What it has written to its log. */
		log: () => logged,
		isUp: () => server.exitCode === null && server.signalCode === null,
		start,
		async kill() {
			server.kill('SIGKILL');
			await ended;
		},
		/** Seconds of processor that the server has used. */
		processor(): number {
			const fields = readFileSync(`/proc/${server.pid}/stat`, 'utf8')
				.replace(/^.*\) /, '')
				.split(' ');
			return (Number(fields[11]) + Number(fields[12])) / TICKS_A_SECOND;
		},
		/** Bytes that it holds in memory. */
		resident: () => residentBytes(server.pid!),
		/** The same of the processes that make its orders, the largest of them. */
		residentOfMakers: () => Math.max(0, ...makers().map(residentBytes)),
		/** Ends all of those without warning; answers how many there were. */
		killMakers(): number {
			const all = makers();
			for (const pid of all) process.kill(pid, 'SIGKILL');
			return all.length;
		},
		stopDatabase: () => cluster.stop(),
		killDatabase: () => cluster.kill(),
		startDatabase: async () => (cluster = await startCluster(place, database)),
		async create(project: Project = demoProject(), contents?: Record<string, string>): Promise<string> {
			const body = JSON.stringify(contents ? { ...project, contents } : project);
			const send = () => fetch(`${base}/api/projects`, { method: 'POST', headers: JSON_TYPE, body });
			// A line that was used before may just have been closed by the server, while this process made the body.
			const created = await send().catch(send);
			return ((await created.json()) as { id: string }).id;
		},
		save: (id: string, edit: unknown) =>
			fetch(`${base}/api/projects/${id}`, { method: 'PATCH', headers: JSON_TYPE, body: JSON.stringify(edit) }),
		load: async (id: string) =>
			(await (await fetch(`${base}/api/projects/${id}`)).json()) as { document: Project; revision: number },
		async end() {
			server.kill('SIGTERM');
			await ended;
			cluster.stop();
			rmSync(directory, { recursive: true, force: true });
		}
	};
}

/** Source: proc(5), statm. */
function residentBytes(pid: number): number {
	try {
		return Number(readFileSync(`/proc/${pid}/statm`, 'utf8').split(' ')[1]) * 4096;
	} catch {
		return 0;
	}
}

export type OwnServer = Awaited<ReturnType<typeof ownServer>>;

/** An edit that adds a level of this name, made on the project as it was first. */
export function addLevel(level: string, from: Project = demoProject()) {
	const after = { ...from, levels: [...from.levels, { id: level, name: level, height: 0 }] };
	return { id: randomUUID(), base: 1, label: 'Add level', patch: diffProjects(from, after) };
}

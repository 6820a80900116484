import { setTimeout as wait } from 'node:timers/promises';
import { startCluster } from './postgres.mjs';
import { run, start } from './run.mjs';

const HOST = process.env.HOST ?? '127.0.0.1';
const PORT = process.env.PORT ?? '4173';
const START_SECONDS = 60;

/** Database, migrations, demo data, then the server, until Ctrl-C. */
export async function serve(kind) {
	const cluster = process.env.DATABASE_URL ? undefined : await startCluster('.data/postgres');
	const url = process.env.DATABASE_URL ?? cluster.url;
	const env = serverEnvironment(url);
	try {
		run('npx', ['tsx', 'scripts/seed.ts'], { env });
		if (kind === 'dev') run('node', ['scripts/bundle.mjs']);
		// In a process group of its own, so that Ctrl-C reaches it through us, in order.
		const [command, args] =
			kind === 'dev'
				? ['node', ['node_modules/vite/bin/vite.js', 'dev', '--host', HOST, '--port', PORT]]
				: ['node', ['build']];
		const server = start(command, args, { env, detached: true });
		const end = () => server.child.kill('SIGTERM');
		process.once('SIGINT', end);
		process.once('SIGTERM', end);
		const address = `http://${HOST}:${PORT}`;
		if (await answers(`${address}/health`, server.stopped))
			console.log(`\nZygaster is ready at ${address}\nCtrl-C stops it.`);
		const code = await server.stopped;
		process.exitCode = typeof code === 'number' ? code : 0;
	} finally {
		cluster?.stop();
	}
}

export function serverEnvironment(url) {
	return {
		...process.env,
		HOST,
		PORT,
		DATABASE_URL: url,
		// Projects with own tilings and kits grow beyond the usual half megabyte.
		BODY_SIZE_LIMIT: '64M',
		// A page that is open for long must not hold up a stop.
		SHUTDOWN_TIMEOUT: '2',
		...(process.env.ORIGIN ? {} : { ORIGIN: `http://${HOST}:${PORT}` })
	};
}

/** Waits for an address to answer; false when the server ended first. */
export async function answers(address, stopped) {
	let ended = false;
	void stopped.then(() => (ended = true));
	for (let tries = 0; tries < START_SECONDS * 5 && !ended; tries++) {
		const response = await fetch(address).catch(() => undefined);
		if (response?.ok) return true;
		await wait(200);
	}
	if (!ended) throw new Error(`${address} did not answer within ${START_SECONDS} s.`);
	return false;
}

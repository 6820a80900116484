import { setTimeout as wait } from 'node:timers/promises';
import { startCluster } from './postgres.mjs';
import { run, start } from './run.mjs';

const HOST = process.env.HOST ?? '127.0.0.1';
const PORT = process.env.PORT ?? '4173';
const START_SECONDS = 60;

/** A server that ends so often within a minute is not started again. */
const MOST_ENDS = 5;
const MINUTE_MS = 60_000;
/** So often is looked whether the database still runs. */
const WATCH_MS = 1000;

/** Database, migrations, demo data, then the server, until Ctrl-C. Whichever of the two ends by itself is started again. */
export async function serve(kind) {
	const cluster = process.env.DATABASE_URL ? undefined : await startCluster('.data/postgres');
	const url = process.env.DATABASE_URL ?? cluster.url;
	const env = serverEnvironment(url);
	const watch = cluster && setInterval(() => void revive(cluster), WATCH_MS);
	try {
		run('npx', ['tsx', 'scripts/seed.ts'], { env });
		if (kind === 'dev') run('node', ['scripts/bundle.mjs']);
		process.exitCode = await keepServing(kind, env);
	} finally {
		clearInterval(watch);
		cluster?.stop();
	}
}

/** Runs the server; one that ends by itself is started again. Answers the exit code. */
async function keepServing(kind, env) {
	const [command, args] =
		kind === 'dev'
			? ['node', ['node_modules/vite/bin/vite.js', 'dev', '--host', HOST, '--port', PORT]]
			: ['node', ['build']];
	const address = `http://${HOST}:${PORT}`;
	let server;
	let ending = false;
	const end = () => {
		ending = true;
		server.child.kill('SIGTERM');
	};
	process.once('SIGINT', end);
	process.once('SIGTERM', end);
	const ends = [];
	for (;;) {
		// In a process group of its own, so that Ctrl-C reaches it through us, in order.
		server = start(command, args, { env, detached: true });
		if (await answers(`${address}/health`, server.stopped).catch(() => false))
			console.log(`\nZygaster is ready at ${address}\nCtrl-C stops it.`);
		const code = await server.stopped;
		if (ending) return typeof code === 'number' ? code : 0;
		ends.push(Date.now());
		const often = ends.length >= MOST_ENDS && Date.now() - ends.at(-MOST_ENDS) < MINUTE_MS;
		console.error(
			`The server has ended by itself (${code ?? 'killed'})${often ? ' again and again.' : '; it is started again.'}`
		);
		if (often) return 1;
		await wait(WATCH_MS);
	}
}

/** Starts a database again that has ended by itself, where it was. */
async function revive(cluster) {
	if (cluster.isUp() || cluster.reviving) return;
	cluster.reviving = true;
	console.error('The database has ended by itself; it is started again.');
	try {
		await startCluster('.data/postgres', cluster.port);
	} catch (cause) {
		console.error(cause instanceof Error ? cause.message : cause);
	} finally {
		cluster.reviving = false;
	}
}

export function serverEnvironment(url) {
	return {
		...process.env,
		HOST,
		PORT,
		DATABASE_URL: url,
		// Meshes and project files with meshes in them are larger than the usual half megabyte.
		BODY_SIZE_LIMIT: '600M',
		// A page that is open for long must not hold up a stop.
		SHUTDOWN_TIMEOUT: '2',
		// Whoever looks at a terminal wants what goes wrong, and what the server keeps of who did what.
		LOG_LEVEL: process.env.LOG_LEVEL ?? 'warn',
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

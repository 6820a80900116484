import { existsSync, mkdtempSync, rmSync, chmodSync } from 'node:fs';
import { availableParallelism, tmpdir } from 'node:os';
import { join } from 'node:path';
import { ensureBuild } from './packages.mjs';
import { freePort, startThrowawayCluster } from './postgres.mjs';
import { capture, captureAsync, installDebian, run, start } from './run.mjs';
import { answers, serverEnvironment } from './serve.mjs';

const CHROMIUM = '/usr/bin/chromium';
/** Checks that are passed or failed as a whole, then the folders of tests. */
const CHECKS = [
	['lint', 'eslint .'],
	['types', 'tsc -p src/core && tsc -p . && svelte-check --threshold warning'],
	['format', 'prettier --check --log-level warn .'],
	['licences', 'tsx scripts/licences.ts']
];
const FOLDERS = ['unit', 'db', 'http', 'browser'];
/** Folders whose files share a database, a server or a browser, one after the other; those of the rest run beside each other. */
const ALONE = ['db', 'http', 'browser'];

/** Runs everything (or the folders named after `--`) and prints `N passed, N failed`. */
export async function test(names = process.argv.slice(3)) {
	const wanted = (name) => names.length === 0 || names.includes(name);
	let { passed, failed } = await check(CHECKS.filter(([name]) => wanted(name)));
	const folders = FOLDERS.filter(wanted);
	const begun = Date.now();
	const stage = await setStage(folders);
	console.log(`stage set  ${secondsSince(begun)}`);
	const faults = [];
	try {
		for (const folder of folders) {
			const result = runMocha(folder, stage.env);
			passed += result.passed;
			failed += result.failed;
			if (result.failed) faults.push(`${folder}: ${result.faults}`);
		}
	} finally {
		await stage.clear();
	}
	// Once more at the end, where whoever sees no more than the last lines finds them.
	for (const fault of faults) console.log(fault);
	console.log(`${passed} passed, ${failed} failed`);
	return failed === 0 ? 0 : 1;
}

/** Runs checks side by side, as many as there are cores. */
async function check(checks) {
	let [passed, failed] = [0, 0];
	if (checks.length) run('npx', ['svelte-kit', 'sync']);
	const waiting = [...checks];
	const lane = async () => {
		for (let next = waiting.shift(); next; next = waiting.shift()) {
			const [name, command] = next;
			const begun = Date.now();
			const { status, stdout, stderr } = await captureAsync('npm', ['exec', '-c', command]);
			console.log(`${status === 0 ? 'passed' : 'FAILED'}  ${name}  ${secondsSince(begun)}`);
			if (status === 0) passed++;
			else {
				failed++;
				console.log(stdout + stderr);
			}
		}
	};
	await Promise.all(Array.from({ length: availableParallelism() }, lane));
	return { passed, failed };
}

const secondsSince = (ms) => `${Math.round((Date.now() - ms) / 1000)} s`;

/** What the folders need: a database of their own, the built server, a browser. */
async function setStage(folders) {
	if (folders.includes('browser') && !existsSync(CHROMIUM))
		installDebian(['chromium'], 'Chromium, which the browser tests drive, is missing.');
	const needsServer = folders.some((f) => f === 'http' || f === 'browser');
	if (!needsServer && !folders.includes('db')) return { env: process.env, clear: () => undefined };
	const directory = mkdtempSync(join(tmpdir(), 'zygaster-test-'));
	// The desk's tests run the bundled writer of files; a whole build brings it along.
	if (!needsServer) run('node', ['scripts/bundle.mjs']);
	// The database's own user must be able to pass.
	chmodSync(directory, 0o755);
	const cluster = await startThrowawayCluster(join(directory, 'postgres'));
	let server;
	const env = { ...process.env, DATABASE_URL: cluster.url, DATABASE_ADMIN_URL: cluster.adminUrl };
	if (needsServer) {
		ensureBuild();
		const port = String(await freePort());
		env.ZYGASTER_URL = `http://127.0.0.1:${port}`;
		server = start('node', ['build'], {
			env: { ...serverEnvironment(cluster.url), PORT: port, ORIGIN: env.ZYGASTER_URL },
			stdio: ['ignore', 'ignore', 'inherit']
		});
		await answers(`${env.ZYGASTER_URL}/health`, server.stopped);
	}
	return {
		env,
		clear: async () => {
			server?.child.kill('SIGTERM');
			await server?.stopped;
			cluster.stop();
			rmSync(directory, { recursive: true, force: true });
		}
	};
}

/** Runs one folder of tests with its output shown; a run that breaks off counts as a failure. */
function runMocha(folder, env) {
	console.log(`\n${folder}`);
	const { status, stdout, stderr } = capture(
		'node',
		[
			'node_modules/mocha/bin/mocha.js',
			// All cores: by itself the runner leaves one free.
			...(ALONE.includes(folder) ? [] : ['--parallel', '--jobs', String(availableParallelism())]),
			`tests/${folder}/**/*.test.ts`
		],
		{ env: { ...env, FORCE_COLOR: '0' } }
	);
	process.stdout.write(stdout + stderr);
	const count = (word) => Number(new RegExp(`^ +(\\d+) ${word}`, 'm').exec(stdout)?.[1] ?? 0);
	const failed = count('failing');
	return {
		passed: count('passing'),
		failed: failed || (status === 0 ? 0 : 1),
		faults: failed ? stdout.slice(stdout.search(/^ +\d+ failing/m)) : `broke off (${status})\n${stderr.slice(-2000)}`
	};
}

import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { capture, run } from './run.mjs';

const INSTALLED = 'node_modules/.zygaster-installed';
const BUILT = 'build/.zygaster-built';
const SOURCES = [
	'src',
	'static',
	'package-lock.json',
	'svelte.config.js',
	'vite.config.ts',
	'scripts/bundle.mjs',
	'scripts/lib/bundle.mjs'
];

/** Installs the npm packages of the lock file, unless that has been done. */
export function ensurePackages() {
	const wanted = hashFiles(['package-lock.json']);
	if (stamp(INSTALLED) === wanted) return;
	console.log('Installing npm packages ...');
	run('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error']);
	writeStamp(INSTALLED, wanted);
}

/** Builds the application and the bundles, unless no source has changed since. */
export function ensureBuild() {
	const wanted = hashFiles(SOURCES);
	if (stamp(BUILT) === wanted && existsSync('dist/orderProcess.mjs') && existsSync('dist/readThread.mjs')) return;
	console.log('Building ...');
	// A build says much about its packages; it is shown only when it fails.
	const env = { ...process.env, PRECOMPRESS: 'off' };
	const { status, stdout, stderr } = capture('npm', ['run', '-s', 'build'], { env });
	if (status !== 0) throw new Error(`The build failed.\n${stdout}${stderr}`);
	writeStamp(BUILT, wanted);
}

const stamp = (file) => (existsSync(file) ? readFileSync(file, 'utf8') : '');

function writeStamp(file, text) {
	mkdirSync(dirname(file), { recursive: true });
	writeFileSync(file, text);
}

function hashFiles(paths) {
	const hash = createHash('sha256');
	const visit = (path) => {
		if (statSync(path).isDirectory())
			return readdirSync(path)
				.sort()
				.forEach((name) => visit(join(path, name)));
		hash.update(path).update('\0').update(readFileSync(path)).update('\0');
	};
	paths.forEach(visit);
	return hash.digest('hex');
}

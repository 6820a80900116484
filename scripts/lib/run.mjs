import { spawn, spawnSync } from 'node:child_process';

/** Runs a command to its end with its output shown; throws when it fails. */
export function run(command, args, options = {}) {
	const { status, error, signal } = spawnSync(command, args, { stdio: 'inherit', ...options });
	if (error) throw error;
	if (status !== 0) throw new Error(`${command} ${args.join(' ')} ended with ${status ?? signal}`);
}

/** Runs a command to its end and answers its exit code and output. */
export function capture(command, args, options = {}) {
	const result = spawnSync(command, args, { encoding: 'utf8', maxBuffer: 1 << 28, ...options });
	return {
		status: result.status ?? 1,
		stdout: result.stdout ?? '',
		stderr: result.stderr ?? String(result.error ?? '')
	};
}

/** The same while other things go on. */
export function captureAsync(command, args, options = {}) {
	return new Promise((resolve) => {
		const child = spawn(command, args, { stdio: ['ignore', 'pipe', 'pipe'], ...options });
		const texts = { stdout: '', stderr: '' };
		for (const name of ['stdout', 'stderr'])
			child[name].setEncoding('utf8').on('data', (text) => (texts[name] += text));
		child.once('error', (error) => resolve({ ...texts, status: 1, stderr: String(error) }));
		child.once('close', (code) => resolve({ ...texts, status: code ?? 1 }));
	});
}

/** Starts a long-running program; `stopped` settles when it ends. */
export function start(command, args, options = {}) {
	const child = spawn(command, args, { stdio: 'inherit', ...options });
	const stopped = new Promise((resolve) => {
		child.once('exit', resolve);
		child.once('error', resolve);
	});
	return { child, stopped };
}

export const isRoot = () => process.getuid?.() === 0;

/** Installs Debian packages as root; tells anybody else the exact command. */
export function installDebian(packages, why) {
	const command = `apt-get update && apt-get install -y --no-install-recommends ${packages.join(' ')}`;
	if (!isRoot()) throw new Error(`${why} Install it with:\n  sudo sh -c '${command}'`);
	console.log(`${why} Installing Debian's ${packages.join(', ')} ...`);
	run('sh', ['-c', command], {
		stdio: ['ignore', 'ignore', 'inherit'],
		env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' }
	});
}

// `npm run backup -- FILE`: the whole state in PostgreSQL's own format, and beside it what a restored state is held against.
// `npm run restore -- FILE`: brings it back into an empty database (or, with --replace, in the place of what is there).
import { spawn } from 'node:child_process';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import pg from 'pg';
import { findServer, startCluster } from './lib/postgres.mjs';
import { differencesOf, sumsOf } from './lib/sums.mjs';

const [what, file, ...options] = process.argv.slice(2);

try {
	if ((what !== 'backup' && what !== 'restore') || !file || options.some((o) => o !== '--replace'))
		throw new Error('Right would be: npm run backup -- FILE, or npm run restore -- FILE [--replace]');
	const cluster = process.env.DATABASE_URL ? undefined : await startCluster('.data/postgres');
	const url = process.env.DATABASE_URL ?? cluster.url;
	try {
		await (what === 'backup' ? backup(url) : restore(url, options.includes('--replace')));
	} finally {
		cluster?.stop();
	}
} catch (cause) {
	console.error(cause instanceof Error ? cause.message : cause);
	process.exitCode = 1;
}

/** One snapshot gives both the file and the sums, whatever is saved meanwhile. */
async function backup(url) {
	const client = await connect(url);
	try {
		await client.query('begin isolation level repeatable read read only');
		const { rows } = await client.query('select pg_export_snapshot() as snapshot');
		const sums = await sumsOf(client);
		await run('pg_dump', ['--format=custom', `--snapshot=${rows[0].snapshot}`, `--file=${file}`], url);
		writeFileSync(sumsFile(), `${JSON.stringify(sums, null, '\t')}\n`);
		console.log(
			`${file} holds ${sums.project?.rows ?? 0} projects with ${sums.edit?.rows ?? 0} edits; ${sumsFile()} is what a restored state is held against.`
		);
	} finally {
		await client.end();
	}
}

async function restore(url, replace) {
	if (!existsSync(file)) throw new Error(`There is no ${file}.`);
	const client = await connect(url);
	try {
		const there = (await sumsOf(client)).project?.rows ?? 0;
		if (there > 0 && !replace)
			throw new Error(
				`The database holds ${there} projects. Stop the server and add --replace to put the backup in their place.`
			);
		await run(
			'pg_restore',
			[
				'--clean',
				'--if-exists',
				'--single-transaction',
				'--no-owner',
				`--dbname=${new URL(url).pathname.slice(1)}`,
				file
			],
			url
		);
		if (!existsSync(sumsFile()))
			return console.log(`Brought back. ${sumsFile()} is not there, so that nothing was compared.`);
		const differences = differencesOf(JSON.parse(readFileSync(sumsFile(), 'utf8')), await sumsOf(client));
		if (differences.length)
			throw new Error(`What was brought back is not what was put away: ${differences.join('; ')}.`);
		console.log('Brought back, and every row is as it was.');
	} finally {
		await client.end();
	}
}

function sumsFile() {
	return `${file}.sums.json`;
}

async function connect(url) {
	const client = new pg.Client({ connectionString: url });
	await client.connect();
	return client;
}

function run(program, args, url) {
	const { hostname, port, username, password, pathname } = new URL(url);
	// Not among the arguments, which every user of the machine can read.
	const env = {
		...process.env,
		PGHOST: hostname,
		PGPORT: port || '5432',
		PGUSER: decodeURIComponent(username),
		PGPASSWORD: decodeURIComponent(password),
		PGDATABASE: decodeURIComponent(pathname.slice(1))
	};
	return new Promise((resolve, reject) => {
		const child = spawn(join(findServer(), program), args, { stdio: ['ignore', 'inherit', 'inherit'], env });
		child.once('error', reject);
		child.once('exit', (code) => (code === 0 ? resolve() : reject(new Error(`${program} ended with ${code}.`))));
	});
}

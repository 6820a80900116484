// Runs the command line from its sources: bundled once for each state of them, since that starts three seconds sooner.
import { existsSync, mkdirSync, readdirSync, renameSync, rmSync, statSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { pathToFileURL } from 'node:url';
import { bundle } from './lib/bundle.mjs';

const CACHE = 'node_modules/.cache/zygaster';
const sources = ['src/core', 'src/cli'].flatMap((folder) =>
	readdirSync(folder, { recursive: true, withFileTypes: true })
		.filter((f) => f.isFile())
		.map((f) => join(f.parentPath ?? f.path, f.name))
);
const newest = Math.max(...[...sources, 'package-lock.json'].map((file) => statSync(file).mtimeMs));
const place = join(CACHE, `${sources.length}-${newest}`);
const program = join(place, 'main.mjs');
if (!existsSync(program)) {
	// Written beside and moved in, so that two that start at once do not read half a file.
	const own = join(CACHE, String(process.pid));
	mkdirSync(CACHE, { recursive: true });
	for (const old of readdirSync(CACHE))
		if (/^\d+-\d+/.test(old)) rmSync(join(CACHE, old), { recursive: true, force: true });
	await bundle({ main: 'src/cli/main.ts' }, own);
	try {
		renameSync(own, place);
	} catch (cause) {
		// Another that started at once was there first.
		rmSync(own, { recursive: true });
		if (!existsSync(program)) throw cause;
	}
}
await import(pathToFileURL(resolve(program)).href);

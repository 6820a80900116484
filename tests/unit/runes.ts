import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { basename, join, resolve } from 'node:path';
import { pathToFileURL } from 'node:url';
import { build, transform } from 'esbuild';
import { compileModule } from 'svelte/compiler';

const OUT = 'node_modules/.cache/zygaster-tests';

/**
 * A module of the editor with runes in it, for tests without a browser: compiled as on a server, where state is plain
 * and what is derived is worked out when it is read.
 */
export async function loadState<Module>(path: string): Promise<Module> {
	const { outputFiles } = await build({
		entryPoints: [path],
		bundle: true,
		write: false,
		format: 'esm',
		platform: 'node',
		packages: 'external',
		plugins: [
			{
				name: 'runes',
				setup(bundler) {
					// All else is loaded as the tests load it, so that there is one of each class.
					bundler.onResolve({ filter: /^\..*\.ts$/ }, ({ path: file, resolveDir }) =>
						file.endsWith('.svelte.ts')
							? undefined
							: { path: pathToFileURL(resolve(resolveDir, file)).href, external: true }
					);
					bundler.onLoad({ filter: /\.svelte\.ts$/ }, async ({ path: file }) => {
						const { code } = await transform(readFileSync(file, 'utf8'), { loader: 'ts', target: 'es2022' });
						return { contents: compileModule(code, { generate: 'server', filename: file }).js.code, loader: 'js' };
					});
				}
			}
		]
	});
	mkdirSync(OUT, { recursive: true });
	const file = resolve(join(OUT, `${basename(path, '.ts')}.mjs`));
	writeFileSync(file, outputFiles[0]!.contents);
	return (await import(pathToFileURL(file).href)) as Module;
}

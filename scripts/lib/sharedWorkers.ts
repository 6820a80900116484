// Workers as parts of the page's own build: what they have in common with the page is then fetched once, not once for each.
import type { Plugin } from 'vite';

const WORKER = /new URL\('(\.[^']*\/([^'/]+\.worker)\.ts)', import\.meta\.url\)/g;
const PRELOAD_HELPER = '\0vite/preload-helper.js';
const PRELOAD = /function preload\(baseModule[^{]*\{/;
const FOLDER = 'workers/';

/** A plugin for builds; the development server makes workers by itself. */
export function sharedWorkers(): Plugin {
	return {
		name: 'shared-workers',
		apply: 'build',
		enforce: 'pre',
		outputOptions(output) {
			const others = output.chunkFileNames;
			if (typeof others !== 'string' || !others.includes('chunks/')) return null;
			// Workers keep their names, by which logs and tests know them.
			return {
				...output,
				chunkFileNames: ({ name }) =>
					name.startsWith(FOLDER) ? others.replace(/chunks\/.*/, '[name]-[hash].js') : others
			};
		},
		async transform(code, id, { ssr } = {}) {
			if (id === PRELOAD_HELPER) {
				if (!PRELOAD.test(code)) this.error('The bundler preloads in another way than is known here.');
				// What will be needed is told to a page by links; a worker has no document to put them into.
				return code.replace(PRELOAD, '$& if (typeof document === "undefined") return baseModule();');
			}
			const found = [...code.matchAll(WORKER)];
			if (found.length === 0) return null;
			// The server makes no workers of these.
			if (ssr) return code.replace(WORKER, "''");
			const urls = new Map<string, string>();
			for (const [, path, name] of found) {
				const worker = await this.resolve(path!, id);
				if (!worker) return this.error(`There is no ${path}, which ${id} makes a worker of.`);
				const file = this.emitFile({ type: 'chunk', id: worker.id, name: `${FOLDER}${name}` });
				urls.set(path!, `import.meta.ROLLUP_FILE_URL_${file}`);
			}
			return code.replace(WORKER, (_, path: string) => urls.get(path)!);
		}
	};
}

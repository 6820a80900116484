import { rmSync } from 'node:fs';
import { build } from 'esbuild';

/** Bundles programs for Node into a folder, each under its name; `packages` may stay outside. */
export function bundle(entryPoints, outdir, packages = 'bundle') {
	// Parts of earlier builds have other names.
	rmSync(outdir, { recursive: true, force: true });
	return build({
		entryPoints,
		outdir,
		outExtension: { '.js': '.mjs' },
		bundle: true,
		packages,
		// What is imported when it is needed stays apart: programs begin sooner.
		splitting: true,
		chunkNames: 'parts/[name]-[hash]',
		platform: 'node',
		target: 'node20',
		// It looks for its WASM beside itself.
		external: ['manifold-3d'],
		format: 'esm',
		// Packages in the bundle that still call require() get one.
		banner: {
			js: "import { createRequire as makeRequire } from 'node:module';\nconst require = makeRequire(import.meta.url);"
		},
		logLevel: 'warning'
	});
}

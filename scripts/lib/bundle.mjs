import { build } from 'esbuild';

/** Bundles programs for Node into a folder, each under its name. */
export const bundle = (entryPoints, outdir) =>
	build({
		entryPoints,
		outdir,
		outExtension: { '.js': '.mjs' },
		bundle: true,
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

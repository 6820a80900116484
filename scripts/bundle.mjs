// Bundles what runs outside SvelteKit's own build: the command line and the server's file writer.
import { build } from 'esbuild';

await build({
	entryPoints: { zygaster: 'src/cli/main.ts', writeFile: 'src/lib/server/handover/writeFile.ts' },
	outdir: 'dist',
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

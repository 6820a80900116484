import { sveltekit } from '@sveltejs/kit/vite';
import tailwindcss from '@tailwindcss/vite';
import { defineConfig } from 'vite';
import { sharedWorkers } from './scripts/lib/sharedWorkers.ts';

export default defineConfig({
	plugins: [sharedWorkers(), tailwindcss(), sveltekit()],
	ssr: { external: ['piscina', 'pg', 'pg-boss'] },
	build: { chunkSizeWarningLimit: 1500, reportCompressedSize: false }
});

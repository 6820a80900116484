import { sveltekit } from '@sveltejs/kit/vite';
import tailwindcss from '@tailwindcss/vite';
import { defineConfig } from 'vite';

export default defineConfig({
	plugins: [tailwindcss(), sveltekit()],
	worker: { format: 'es' },
	ssr: { external: ['piscina', 'pg', 'pg-boss'] },
	build: { chunkSizeWarningLimit: 1500, reportCompressedSize: false }
});

import adapter from '@sveltejs/adapter-node';
import { vitePreprocess } from '@sveltejs/vite-plugin-svelte';

/** @type {import('@sveltejs/kit').Config} */
export default {
	preprocess: vitePreprocess(),
	kit: {
		// Files that are not fetched over a network need not be packed, which takes minutes.
		adapter: adapter({ precompress: process.env.PRECOMPRESS !== 'off' }),
		alias: { $core: 'src/core' },
		// Whatever runs is checked.
		typescript: { config: (config) => void config.include.push('../scripts/**/*.ts') },
		csp: {
			mode: 'auto',
			directives: {
				'default-src': ['self'],
				'style-src': ['self', 'unsafe-inline'],
				'img-src': ['self', 'data:', 'blob:'],
				'worker-src': ['self', 'blob:'],
				'object-src': ['none'],
				'base-uri': ['self'],
				'form-action': ['self'],
				'frame-ancestors': ['none']
			}
		}
	}
};

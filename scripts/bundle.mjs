// Bundles what runs outside SvelteKit's own build: the command line and the server's threads.
import { bundle } from './lib/bundle.mjs';

await bundle(
	{
		zygaster: 'src/cli/main.ts',
		orderProcess: 'src/lib/server/handover/orderProcess.ts',
		worker: 'src/worker/main.ts',
		readThread: 'src/lib/server/readThread.ts'
	},
	'dist'
);

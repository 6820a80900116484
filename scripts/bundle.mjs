// Bundles what runs outside SvelteKit's own build: the command line and the server's file writer.
import { bundle } from './lib/bundle.mjs';

await bundle({ zygaster: 'src/cli/main.ts', writeFile: 'src/lib/server/handover/writeFile.ts' }, 'dist');

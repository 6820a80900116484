// The one way in: `demo`, `dev`, `test` and `attack`. Plain Node without packages, since it installs them.
import { ensurePackages, ensureBuild } from './lib/packages.mjs';

const [what] = process.argv.slice(2);
try {
	ensurePackages();
	if (what === 'demo' || what === 'dev') {
		if (what === 'demo') ensureBuild();
		const { serve } = await import('./lib/serve.mjs');
		await serve(what);
	} else if (what === 'test') {
		const { test } = await import('./lib/test.mjs');
		process.exitCode = await test();
	} else if (what === 'attack') {
		ensureBuild();
		const { run } = await import('./lib/run.mjs');
		run('npx', ['tsx', 'tests/attack/main.ts', ...process.argv.slice(3)]);
	} else throw new Error(`Unknown: ${what}; right would be demo, dev, test or attack.`);
} catch (cause) {
	console.error(cause instanceof Error ? cause.message : cause);
	process.exitCode = 1;
}

import { expect } from 'chai';
import { build } from 'esbuild';
import { demoText } from '../unit/demo.ts';
import { openPage, stopBrowser } from './browser.ts';
import { hashesOf, hashesOfFunctions } from './demoHashes.ts';

describe('the core in Chromium and in Node', () => {
	after(stopBrowser);

	it('gives the same bits: every array of the demo, and every elementary function', async () => {
		const { outputFiles } = await build({
			entryPoints: ['tests/browser/demoHashes.ts'],
			bundle: true,
			write: false,
			format: 'iife',
			globalName: 'hashes',
			platform: 'browser',
			logLevel: 'error'
		});
		const { page, errors } = await openPage();
		await page.addScriptTag({ content: outputFiles[0]!.text });
		type Hashes = { hashes: { hashesOf: typeof hashesOf; hashesOfFunctions: typeof hashesOfFunctions } };
		const there = await page.evaluate(
			async (text) => ({
				functions: (globalThis as unknown as Hashes).hashes.hashesOfFunctions(),
				arrays: await (globalThis as unknown as Hashes).hashes.hashesOf(text)
			}),
			demoText
		);
		const here = await hashesOf(demoText);
		expect(there.functions).deep.equal(hashesOfFunctions());
		expect(Object.keys(here).length).greaterThan(500);
		expect(Object.keys(there.arrays)).deep.equal(Object.keys(here));
		expect(Object.keys(here).filter((path) => here[path] !== there.arrays[path])).deep.equal([]);
		expect(errors).deep.equal([]);
		await page.close();
	});
});

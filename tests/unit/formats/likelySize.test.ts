import { expect } from 'chai';
import { likelySizes, refuseLargeFile } from '../../../src/core/formats/likelySize.ts';
import { optionsOf } from '../../../src/core/formats/fileOptions.ts';
import { FORMATS, type Format } from '../../../src/core/formats/format.ts';
import { writeFormat } from '../../../src/core/formats/writers.ts';
import { fontFiles } from '../../../src/node/fontFiles.ts';
import type { Project } from '../../../src/core/project/schema.ts';
import { demoWith, run, shippedDemo } from '../demo.ts';

/** Whose bytes hang on other things than the model, or which are small. */
const ASIDE: readonly Format[] = ['json', 'summary', 'quantities', 'paths', 'bays', 'set', 'step'];

async function check(project: Project, formats: readonly Format[]) {
	const model = await run(project);
	const sizeOf = likelySizes(model);
	for (const format of formats) {
		let bytes = 0;
		const options = optionsOf(project, format, format === 'tables' ? project.tables[0]!.id : undefined);
		try {
			await writeFormat(format, { project, model, fonts: fontFiles }, options, (c) => void (bytes += c.length));
		} catch {
			// A model without such parts.
			continue;
		}
		if (bytes < 150_000) continue;
		expect(sizeOf(format) / bytes, `${format} of ${bytes} bytes`).within(0.45, 2.2);
	}
}

describe('likely sizes of files', () => {
	it('are within about twice and half of what is written, for the demo and for a grid of panes', async () => {
		await check(shippedDemo(), ['csv', 'parts', 'ifc', 'glb', 'dxf']);
		await check(
			demoWith(30, 30),
			FORMATS.filter((f) => !ASIDE.includes(f))
		);
	});

	it('refuse a file before it is written, in words', async () => {
		const model = await run(demoWith(30, 30));
		refuseLargeFile(model, 'ifc', [], 100e6);
		expect(() => refuseLargeFile(model, 'ifc', [], 1e6)).throw(
			/^“Building model” would have about \d MB; at most 1 MB are made here\. Right would be/
		);
		// Of a set its files count, packed.
		refuseLargeFile(model, 'set', ['csv'], 1e6);
		expect(() => refuseLargeFile(model, 'set', ['ifc', 'glb'], 1e6)).throw(/^“Set” would have/);
	});
});

import { expect } from 'chai';
import { parse } from 'csv-parse/sync';
import { FORMATS, type Format } from '../../../src/core/formats/format.ts';
import { readOptions, WRITERS, writeFormat } from '../../../src/core/formats/writers.ts';
import { partsOf } from '../../../src/core/schedule/parts.ts';
import { demoWith, ranDemo, run } from '../demo.ts';
import { fileOf, tableRows } from '../schedules.ts';

const rowsOf = async (...args: Parameters<typeof fileOf>) =>
	parse<Record<string, string>>(Buffer.from(await fileOf(...args)), { columns: true, record_delimiter: '\r\n' });

describe('the writers of files', () => {
	it('write each what they say, piece after piece, the same bytes each time', async () => {
		const { project, model: one } = await ranDemo();
		const two = await run(project);
		// What goes through every piece has its test on a smaller model, with the meshes.
		for (const format of ['json', 'csv', 'edges', 'nodes', 'paths', 'bays', 'glb', 'dxf'] as const) {
			const chunks: Uint8Array<ArrayBuffer>[] = [];
			await writeFormat(format, { project, model: one }, {}, (chunk) => chunks.push(chunk));
			expect(chunks.length, format).greaterThan(0);
			const again = await fileOf(project, two, format);
			expect(Buffer.concat(chunks).equals(Buffer.from(again)), format).to.be.true;
		}
	});

	it('list edges, nodes, paths and bays as the schedule has them (read back by package csv-parse)', async () => {
		const { project, model } = await ranDemo();
		for (const [format, name] of [
			['edges', 'edges'],
			['nodes', 'nodes'],
			['paths', 'paths'],
			['bays', 'bays']
		] as const) {
			// Setting-out points are listed whether a kit stands on them or not.
			const rows = (await rowsOf(project, model, format)).filter((r) => r.Kit !== '');
			const table = tableRows(model, name);
			expect(rows.map((r) => r.Mark)).deep.equal(table.marks);
			expect(rows.map((r) => r.Kit)).deep.equal(table.kits);
			rows.forEach((row, r) => expect(Number(row['Weight kg'])).closeTo(table.columns.weight![r]!, 0.00501));
		}
	});

	it('list every piece with its material by name', async () => {
		const { project, model } = await ranDemo();
		const rows = await rowsOf(project, model, 'parts');
		expect(rows.length).equal(model.faces.reduce((n, f) => n + partsOf(f).count, 0));
		const names = new Set(project.materials.map((m) => m.name));
		expect(rows.every((r) => names.has(r.Material!))).to.be.true;
		expect(new Set(rows.map((r) => r.Mark)).size).equal(rows.length);
	});

	it('give lengths in the unit that is asked for', async () => {
		const project = demoWith(4, 4);
		const model = await run(project);
		const [mm, m, ft] = [
			await rowsOf(project, model, 'csv'),
			await rowsOf(project, model, 'csv', { units: 'm' }),
			await rowsOf(project, model, 'csv', { units: 'ft' })
		];
		mm.forEach((row, r) => {
			expect(Number(m[r]!['Width m']) * 1000).closeTo(Number(row['Width mm']), 0.1);
			expect(Number(ft[r]!['Width ft']) * 304.8).closeTo(Number(row['Width mm']), 0.1);
		});
	});

	it('refuse settings that they do not know, in words', () => {
		const words = (format: Format, options: unknown) => {
			try {
				readOptions(format, options);
				return '';
			} catch (cause) {
				return (cause as Error).message;
			}
		};
		expect(words('csv', { units: 'm' })).equal('');
		expect(words('csv', undefined)).equal('');
		expect(words('csv', { units: 'yards' })).match(/panel schedule are not right at units: .*mm/);
		expect(words('glb', { units: 'm' })).match(/model are not right/);
		expect(words('json', 7)).match(/project are not right/);
	});

	it('say what is missing, and have names that differ', async () => {
		const project = demoWith(3, 3);
		project.rules = [];
		const model = await run(project);
		const missing = FORMATS.filter((f) => WRITERS[f].missing({ project, model }));
		expect(missing).deep.equal([
			'edges',
			'paths',
			'bays',
			'parts',
			'corners',
			'cutlist',
			'quantities',
			'xlsx',
			'rows',
			'ifc',
			'glb',
			'obj',
			'stl',
			'ply',
			'3mf',
			'cuts',
			'cutsvg'
		]);
		const files = FORMATS.map((f) => `${WRITERS[f].name}.${WRITERS[f].extension}`);
		expect(new Set(files).size).equal(files.length);
	});
});

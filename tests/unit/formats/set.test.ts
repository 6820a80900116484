import { createHash } from 'node:crypto';
import { parse } from 'csv-parse/sync';
import { expect } from 'chai';
import { unzipSync } from 'fflate';
import { readOptions, writeFormat } from '../../../src/core/formats/writers.ts';
import { writeSet, type SetFile } from '../../../src/core/formats/zip/writeSet.ts';
import { ZygasterError } from '../../../src/core/errors.ts';
import { READY_TABLES } from '../../../src/core/schedule/own/ready.ts';
import { ownTableSchema } from '../../../src/core/schedule/own/schema.ts';
import { demoWith, run } from '../demo.ts';
import { fileOf } from '../schedules.ts';

const listOf = (files: Record<string, Uint8Array>) =>
	parse(Buffer.from(files['list.csv']!), { relax_column_count: true }) as string[][];
const setOf = async (files: readonly SetFile[]) => {
	const project = demoWith(2, 2);
	const chunks: Uint8Array[] = [];
	await writeSet(files, { project, model: await run(project) }, (chunk) => void chunks.push(chunk));
	return unzipSync(Buffer.concat(chunks));
};
const file = (name: string, write: SetFile['write'], missing?: string): SetFile => ({
	label: name,
	name,
	missing,
	write
});

describe('a set of files', () => {
	it('holds the files as they are by themselves, with sizes and sums (fflate, node:crypto)', async () => {
		const project = demoWith(4, 3);
		const [ready] = READY_TABLES;
		project.tables = [ownTableSchema.parse({ ...ready, id: 'mine', name: 'Mine, and “yours”' })];
		project.handover.files = [
			{ format: 'csv' },
			{ format: 'tables', table: 'mine' },
			{ format: 'ifc' },
			{ format: 'dxf' },
			{ format: 'paths' },
			{ format: 'unknown' }
		];
		const model = await run(project);
		const issue = { mark: 'B', name: 'Tender', author: 'A. Author', date: '2026-11-27' };
		const chunks: Uint8Array[] = [];
		await writeFormat('set', { project, model, issue }, { units: 'm' }, (chunk) => void chunks.push(chunk));
		const files = unzipSync(Buffer.concat(chunks));
		expect(Object.keys(files)).deep.equal([
			'panels.csv',
			'schedule-mine.csv',
			'model.ifc',
			'developed.dxf',
			'list.csv'
		]);
		expect(Buffer.from(files['panels.csv']!)).deep.equal(
			Buffer.from(await fileOf(project, model, 'csv', { units: 'm' }))
		);
		const rows = listOf(files);
		expect(rows.slice(0, 4).map((r) => r[1])).deep.equal([project.name, 'B Tender', 'A. Author', '2026-11-27']);
		const at = rows.findIndex((r) => r[0] === 'File');
		const listed = rows.slice(at + 1);
		expect(listed.map((r) => r[0])).deep.equal([
			'panels.csv',
			'schedule-mine.csv',
			'model.ifc',
			'developed.dxf',
			'paths.csv'
		]);
		for (const [name, , bytes, sum] of listed.slice(0, 4)) {
			const own = files[name!]!;
			expect(Number(bytes), name).equal(own.length);
			expect(sum, name).equal(createHash('sha256').update(own).digest('hex'));
		}
		expect(listed[1]![1]).equal('Mine, and “yours”');
		expect(listed[4]!.slice(2)).deep.equal([
			'',
			'',
			'There is nothing for the path schedule: no kit makes such parts.'
		]);
	});

	it('is the same bytes each time, whatever the clock says', async () => {
		const project = demoWith(3, 3);
		const model = await run(project);
		const files = ['csv', 'xlsx', '3mf'].map((format) => ({ format, options: {} }));
		const once = Buffer.from(await fileOf(project, model, 'set', { files }));
		await new Promise((resolve) => setTimeout(resolve, 2100));
		expect(Buffer.from(await fileOf(project, model, 'set', { files })).equals(once)).equal(true);
	});

	it('leaves out what fails and says why, also in the middle; without any file there is none', async () => {
		const text = new TextEncoder();
		const files = await setOf([
			file('good.txt', (sink) => sink(text.encode('good'))),
			file('bad.txt', () => {
				throw new ZygasterError('options', 'It was too long.');
			}),
			file('half.txt', (sink) => {
				sink(text.encode('half'));
				throw new ZygasterError('options', 'The rest is not there.');
			}),
			file('none.txt', () => undefined, 'There is nothing.'),
			file('empty.txt', () => undefined)
		]);
		expect(Object.keys(files)).deep.equal(['good.txt', 'half.txt', 'list.csv']);
		const reasons = listOf(files)
			.slice(-5)
			.map((r) => r[4]);
		expect(reasons).deep.equal([
			'',
			'It was too long.',
			'The rest is not there. What is in the archive breaks off.',
			'There is nothing.',
			'It came out empty.'
		]);
		const none = await setOf([file('none.txt', () => undefined, 'There is nothing.')]).catch((e: Error) => e.message);
		expect(none).equal('None of the files of the set could be made.\nThere is nothing.');
		// A fault of the program is no reason.
		const fault = await setOf([
			file('fault.txt', () => {
				throw new TypeError('fault');
			})
		]).catch((e: Error) => e);
		expect(fault).instanceOf(TypeError);
	});

	it('refuses formats that are none, options that are not theirs, and an empty choice, in words', async () => {
		const words = (options: unknown) => {
			try {
				return void readOptions('set', options);
			} catch (cause) {
				return (cause as Error).message;
			}
		};
		expect(words({ files: [{ format: 'csv', options: { units: 'm' } }] })).equal(undefined);
		expect(words({ files: [{ format: 'csv', options: { units: 'yards' } }] })).contains(
			'panel schedule are not right at units'
		);
		expect(words({ files: [{ format: 'set' }] })).contains('must be a format other than set');
		expect(words({ files: [{ format: 'toString' }] })).contains('must be a format');
		expect(words({ files: [] })).contains('must name a file');
		const project = demoWith(2, 2);
		const empty = await fileOf(
			{ ...project, handover: { name: '', files: [], options: {}, sheets: [] } },
			await run(project),
			'set'
		).catch((e: Error) => e.message);
		expect(empty).contains('No file is chosen for the set');
	});
});

import { expect } from 'chai';
import { parse } from 'csv-parse/sync';
import fc from 'fast-check';
import { ByteWriter } from '../../../src/core/formats/csv/byteWriter.ts';
import { writeCsv } from '../../../src/core/formats/csv/writeCsv.ts';
import { markOf } from '../../../src/core/schedule/panels.ts';
import { demoProject, run } from '../demo.ts';

const decode = (bytes: Uint8Array) => new TextDecoder('utf-8', { fatal: true }).decode(bytes);

describe('writing bytes', () => {
	it('prints numbers as exact decimal arithmetic rounds them', () => {
		fc.assert(
			fc.property(fc.integer({ min: -1e11, max: 1e11 }), fc.integer({ min: 0, max: 4 }), (n, decimals) => {
				const out = new ByteWriter();
				out.fixed(n / 10 ** decimals, decimals);
				const digits = String(Math.abs(n)).padStart(decimals + 1, '0');
				const split = digits.length - decimals;
				const text = decimals ? `${digits.slice(0, split)}.${digits.slice(split)}` : digits;
				expect(decode(out.finish())).equal(n < 0 ? `-${text}` : text);
			}),
			{ numRuns: 2000 }
		);
	});

	it('never prints a minus before a zero, nor anything for no number', () => {
		const out = new ByteWriter();
		for (const x of [-0, -0.004, NaN, 0.005]) out.fixed(x, 2);
		expect(decode(out.finish())).equal('0.000.000.01');
	});

	it('writes any text as UTF-8 and grows as it must', () => {
		fc.assert(
			fc.property(fc.array(fc.string({ unit: 'grapheme' }), { maxLength: 50 }), (texts) => {
				const out = new ByteWriter();
				texts.forEach((t) => out.text(t));
				expect(decode(out.finish())).equal(texts.join(''));
			})
		);
		const out = new ByteWriter();
		for (let k = 0; k < 30_000; k++) out.text('naïve 😀');
		expect(decode(out.finish())).equal('naïve 😀'.repeat(30_000));
	});
});

describe('the schedule as CSV (RFC 4180, read back by package csv-parse)', () => {
	it('holds every panel with its figures and units', async () => {
		const { schedule } = await run(demoProject());
		const rows = parse<Record<string, string>>(Buffer.from(writeCsv(schedule)), {
			columns: true,
			record_delimiter: '\r\n'
		});
		expect(rows.length).equal(schedule.count);
		rows.forEach((row, r) => {
			expect(row.Mark).equal(markOf(schedule, r));
			expect(Number(row['Width mm'])).closeTo(schedule.columns.width[r]!, 0.0501);
			expect(Number(row['Area m2'])).closeTo(schedule.columns.area[r]! / 1e6, 0.000051);
			expect(Number(row['Weight kg'])).closeTo(schedule.columns.weight[r]!, 0.00501);
		});
		expect(new Set(rows.map((r) => r.Mark)).size).equal(rows.length);
	});

	it('quotes names with commas, quotes and line ends', async () => {
		const project = demoProject();
		project.kits.find((k) => k.id === 'framed-pane')!.name = 'Pane, "deep"\nand façade';
		const { schedule } = await run(project);
		const [row] = parse<Record<string, string>>(Buffer.from(writeCsv(schedule)), {
			columns: true,
			record_delimiter: '\r\n'
		});
		expect(row!.Kit).equal('Pane, "deep"\nand façade');
	});
});
